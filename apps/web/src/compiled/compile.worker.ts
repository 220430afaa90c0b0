import {
  compileAfter,
  compilePiece,
  type Bar,
  type CompiledPiece,
  type Piece,
  type Proof,
} from '@anchorbeat/core';

/** A whole piece, or what differs from the piece sent before: the bars not named here are the very same. */
export type CompileRequest =
  | { readonly id: number; readonly kind: 'whole'; readonly piece: Piece }
  | {
      readonly id: number;
      readonly kind: 'changed';
      /** Everything of the piece but its bars. */
      readonly head: Omit<Piece, 'bars'>;
      readonly from: number;
      readonly removed: number;
      readonly added: readonly Bar[];
    };

export interface CompileAnswer {
  readonly id: number;
  readonly compiled: CompiledPiece;
  /** How long it took in the worker, without the hand-over. */
  readonly compileMilliseconds: number;
}

let last: Proof | null = null;

self.onmessage = ({ data }: MessageEvent<CompileRequest>) => {
  const startedAt = performance.now();
  const piece = pieceOf(data);
  const compiled = data.kind === 'changed' && last ? compileAfter(last, piece) : compilePiece(piece);
  last = { piece, compiled };
  const answer = { id: data.id, compiled, compileMilliseconds: performance.now() - startedAt };
  self.postMessage(answer satisfies CompileAnswer);
};

function pieceOf(request: CompileRequest): Piece {
  if (request.kind === 'whole') return request.piece;
  if (!last) throw new Error('a change was sent before any piece');
  const { head, from, removed, added } = request;
  const { bars } = last.piece;
  return { ...head, bars: [...bars.slice(0, from), ...added, ...bars.slice(from + removed)] };
}
