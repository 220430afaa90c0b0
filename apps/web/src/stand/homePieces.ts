import type { NoteNames, SharedPiece } from '@anchorbeat/core';
import { browserTexts, Kept } from '../kept/kept.ts';

/** Pieces that a rehearsal let this phone take home, and for whom. */
export interface HomePieces {
  readonly ensembleName: string;
  readonly section: string;
  readonly noteNames: NoteNames;
  readonly pieces: readonly SharedPiece[];
}

export const keptHomePieces = new Kept<HomePieces | null>('anchorbeat.homePieces', (stored) =>
  isHomePieces(stored) ? stored : null,
);

const documentKey = (pieceId: string) => `anchorbeat.homePiece.${pieceId}`;

/** The piece's document as it was taken home; null where there is no room for it on this phone. */
export function homeDocumentMaybe({ pieceId, revision }: SharedPiece): unknown {
  try {
    const stored = JSON.parse(browserTexts.get(documentKey(pieceId)) ?? 'null') as {
      readonly revision: number;
      readonly document: unknown;
    } | null;
    return stored?.revision === revision ? stored.document : null;
  } catch {
    return null;
  }
}

/** Keeps a piece for home; of one that was taken before the newer state. */
export function keepHomePiece(
  stand: Omit<HomePieces, 'pieces'>,
  { pieceId, revision, title }: SharedPiece,
  document: unknown,
): void {
  const before = keptHomePieces.get();
  const isSame = before?.section === stand.section && before.ensembleName === stand.ensembleName;
  // What another section took home makes room.
  if (!isSame) for (const old of before?.pieces ?? []) browserTexts.set(documentKey(old.pieceId), '');
  browserTexts.set(documentKey(pieceId), JSON.stringify({ revision, document }));
  const others = isSame ? before.pieces.filter((piece) => piece.pieceId !== pieceId) : [];
  const { ensembleName, section, noteNames } = stand;
  keptHomePieces.set({ ensembleName, section, noteNames, pieces: [...others, { pieceId, revision, title }] });
}

function isHomePieces(stored: unknown): stored is HomePieces {
  if (typeof stored !== 'object' || stored === null) return false;
  const { ensembleName, section, pieces } = stored as Partial<Record<keyof HomePieces, unknown>>;
  return typeof ensembleName === 'string' && typeof section === 'string' && Array.isArray(pieces);
}
