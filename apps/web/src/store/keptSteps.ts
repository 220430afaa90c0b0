import { readPiece, writePiece, type Piece, type PieceDocument } from '@anchorbeat/core';
import type { OpenPiece, Step } from './pieceSlice.ts';

/** What can be undone and done again. */
export interface Steps {
  readonly past: readonly Step[];
  readonly future: readonly Step[];
}

export const NO_STEPS: Steps = { past: [], future: [] };

const KEY = 'anchorbeat.steps';
/** Browsers keep some five million characters for a window; other things want room too. */
const MOST_CHARACTERS = 2_000_000;

interface StoredSteps {
  readonly pieceId: string;
  /** The piece they lead from and to, as a text: steps of another state of it are of no use. */
  readonly present: string;
  readonly past: readonly StoredStep[];
  readonly future: readonly StoredStep[];
}

interface StoredStep {
  readonly piece: PieceDocument;
  readonly says: string;
}

const textOf = (piece: Piece) => JSON.stringify(writePiece(piece));

/** Keeps the steps of a window over its reload, the nearest first, as many as there is room for. */
export function keepSteps(open: OpenPiece | null, storage: Storage = sessionStorage): void {
  try {
    storage.removeItem(KEY);
    if (!open || (open.past.length === 0 && open.future.length === 0)) return;
    const present = textOf(open.present);
    let room = MOST_CHARACTERS - present.length;
    const nearest = (steps: readonly Step[]): StoredStep[] => {
      const kept: StoredStep[] = [];
      for (const { piece, says } of steps) {
        const step = { piece: writePiece(piece), says };
        room -= JSON.stringify(step).length;
        if (room < 0) break;
        kept.push(step);
      }
      return kept;
    };
    const past = nearest([...open.past].reverse()).reverse();
    const future = nearest(open.future);
    storage.setItem(KEY, JSON.stringify({ pieceId: open.id, present, past, future } satisfies StoredSteps));
  } catch {
    // Without room in the window's storage a reload begins without steps, as in a fresh window.
  }
}

/** The steps that were kept for just this state of a piece; none where it is another, or they do not read. */
export function keptSteps(pieceId: string, present: Piece, storage: Storage = sessionStorage): Steps {
  try {
    const stored = JSON.parse(storage.getItem(KEY) ?? 'null') as StoredSteps | null;
    if (!stored || stored.pieceId !== pieceId || stored.present !== textOf(present)) return NO_STEPS;
    return { past: stored.past.map(readStep), future: stored.future.map(readStep) };
  } catch {
    return NO_STEPS;
  }
}

/** @throws Error where the piece does not read. */
function readStep({ piece, says }: StoredStep): Step {
  const reading = readPiece(piece);
  if (!reading.ok) throw new Error('a kept step does not read');
  return { piece: reading.piece, says };
}
