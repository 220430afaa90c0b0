import {
  compileAfter,
  compilePiece,
  type Bar,
  type CompiledPiece,
  type NoteNames,
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

/** What goes to the worker: it says what it finds in the page's note names. */
export type SaidRequest = CompileRequest & { readonly noteNames: NoteNames };

export type CompileAnswer =
  | {
      readonly id: number;
      readonly kind: 'compiled';
      readonly compiled: CompiledPiece;
      /** How long it took in the worker, without the hand-over. */
      readonly compileMilliseconds: number;
    }
  /** The worker has not got what the change is based on: the whole piece is wanted. */
  | { readonly id: number; readonly kind: 'send whole' }
  | { readonly id: number; readonly kind: 'failed'; readonly reason: string };

/** The two ways to compile, which a test may exchange. */
export interface Compilers {
  readonly whole: (piece: Piece) => CompiledPiece;
  readonly after: (before: Proof, piece: Piece) => CompiledPiece;
}

const CORE: Compilers = { whole: (piece) => compilePiece(piece), after: compileAfter };

/**
 * Answers requests to compile, each with an answer, whatever happens: what cannot be worked out from the last piece is
 * worked out anew, and what cannot be worked out at all is told.
 */
export class CompileDesk {
  private last: Proof | null = null;

  constructor(
    private readonly compilers: Compilers = CORE,
    private readonly now: () => number = () => performance.now(),
  ) {}

  answer(request: CompileRequest): CompileAnswer {
    const { id } = request;
    const startedAt = this.now();
    const piece = this.pieceOfMaybe(request);
    if (!piece) return { id, kind: 'send whole' };
    try {
      const compiled = this.compiled(request, piece);
      this.last = { piece, compiled };
      return { id, kind: 'compiled', compiled, compileMilliseconds: this.now() - startedAt };
    } catch (error) {
      this.last = null;
      return { id, kind: 'failed', reason: error instanceof Error ? error.message : String(error) };
    }
  }

  private compiled({ kind }: CompileRequest, piece: Piece): CompiledPiece {
    const { last } = this;
    if (kind === 'changed' && last) {
      try {
        return this.compilers.after(last, piece);
      } catch {
        // The quick way has met something it was not made for: the long way knows nothing of the last piece.
      }
    }
    return this.compilers.whole(piece);
  }

  private pieceOfMaybe(request: CompileRequest): Piece | null {
    if (request.kind === 'whole') return request.piece;
    if (!this.last) return null;
    const { head, from, removed, added } = request;
    const { bars } = this.last.piece;
    return { ...head, bars: [...bars.slice(0, from), ...added, ...bars.slice(from + removed)] };
  }
}
