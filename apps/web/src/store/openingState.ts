import { mergePiecesMaybe, readPiece, writePiece, type Piece } from '@anchorbeat/core';
import type { PieceResponse } from '@anchorbeat/contract';
import type { Draft, KeptDraft } from './draftStore.ts';
import type { Opened } from './pieceSlice.ts';

/** A revision of the piece as the server has it; null where it has none of that number or does not answer. */
export type FetchRevision = (revision: number) => Promise<Piece | null>;

/** A saved piece that does not read; it says why. */
class UnreadablePieceError extends Error {}

/**
 * How a piece is opened with work that this browser still holds for it. What of the draft has become a revision meanwhile is
 * found there; what somebody else did to other bars is put together with it; only where both changed the same is the draft
 * opened on its own old ground, so that its next save asks.
 */
export async function openingState(
  response: PieceResponse,
  draft: Draft | null,
  fetchRevision: FetchRevision,
): Promise<Opened> {
  const { id, ensembleId, revision } = response;
  const saved = pieceOf(response);
  if (!draft) return { id, ensembleId, revision, piece: saved };
  const rest = await withoutWhatArrived(draft, revision, fetchRevision);
  if (rest.edits.length === 0) return { id, ensembleId, revision, piece: saved };
  const mine = { id, ensembleId, unsavedEdits: rest.edits };
  if (rest.revision >= revision) return { ...mine, revision, piece: rest.piece };
  const base = await fetchRevision(rest.revision);
  const merged = base && mergePiecesMaybe(base, rest.piece, saved);
  return merged
    ? { ...mine, revision, piece: merged }
    : { ...mine, revision: rest.revision, piece: rest.piece };
}

/** An opened piece with what other windows left behind, and which of their drafts are all in it. */
interface Gathered {
  readonly state: Opened;
  readonly absorbedKeys: readonly string[];
}

/**
 * Puts what windows that are gone had not saved together with what is opened. Work of theirs that touches the same bars stays
 * where it is kept, for when this is saved.
 */
export async function gathered(
  state: Opened,
  newest: number,
  others: readonly KeptDraft[],
  fetchRevision: FetchRevision,
): Promise<Gathered> {
  const absorbedKeys: string[] = [];
  // A state on old ground asks first; nothing is put into the question.
  if (state.revision !== newest) return { state, absorbedKeys };
  for (const other of others) {
    const rest = await withoutWhatArrived(other, newest, fetchRevision);
    const base = rest.edits.length > 0 ? await fetchRevision(rest.revision) : null;
    const merged = base && mergePiecesMaybe(base, rest.piece, state.piece);
    if (rest.edits.length > 0 && !merged) continue;
    absorbedKeys.push(other.key);
    if (merged)
      state = { ...state, piece: merged, unsavedEdits: [...(state.unsavedEdits ?? []), ...rest.edits] };
  }
  return { state, absorbedKeys };
}

/** A draft less what the revision after its own shows to have been saved after all. */
async function withoutWhatArrived(
  draft: Draft,
  newest: number,
  fetchRevision: FetchRevision,
): Promise<Pick<Draft, 'revision' | 'edits' | 'piece'>> {
  const { revision, edits, piece, inFlight } = draft;
  if (revision >= newest) return draft;
  const next = await fetchRevision(revision + 1);
  if (!next) return draft;
  if (isSamePiece(next, piece)) return { revision: revision + 1, edits: [], piece };
  if (inFlight && isSamePiece(next, inFlight.piece))
    return { revision: revision + 1, edits: edits.slice(inFlight.editCount), piece };
  return draft;
}

/** Whether two pieces are kept as the same document. */
export function isSamePiece(a: Piece, b: Piece): boolean {
  return JSON.stringify(writePiece(a)) === JSON.stringify(writePiece(b));
}

/** The piece of a response. Throws an UnreadablePieceError where it does not read. */
export function pieceOf({ piece }: Pick<PieceResponse, 'piece'>): Piece {
  const reading = readPiece(piece);
  if (reading.ok) return reading.piece;
  const [problem] = reading.problems;
  throw new UnreadablePieceError(
    `The saved piece does not read: ${problem?.bar ? `bar ${problem.bar}: ` : ''}${problem?.message ?? ''}`,
  );
}
