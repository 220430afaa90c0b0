import { noteNames, type CompiledPiece, type Piece } from '@anchorbeat/core';
import type { CompileAnswer, CompileRequest, SaidRequest } from './compileAnswer.ts';
import { requestFor } from './requestFor.ts';

/** What a client needs of a worker. */
export interface CompileWorker {
  readonly postMessage: (request: SaidRequest) => void;
  onmessage: ((event: { readonly data: CompileAnswer }) => void) | null;
  onerror: ((event: { readonly message: string }) => void) | null;
}

/** A piece that could not be worked out; the piece itself is as it was. */
class CompileError extends Error {}

interface Waiting {
  readonly piece: Piece;
  readonly resolve: (compiled: CompiledPiece) => void;
  readonly reject: (error: CompileError) => void;
}

/** Compiles pieces off the page's thread. Every piece gets an answer, also when the worker fails or dies. */
export class CompileClient {
  private worker: CompileWorker | null = null;
  private lastId = 0;
  private lastSent: Piece | null = null;
  private readonly waiting = new Map<number, Waiting>();
  private known = new WeakMap<Piece, Promise<CompiledPiece>>();
  private saidIn = noteNames();

  constructor(private readonly startWorker: () => CompileWorker) {}

  /** The same piece is compiled once, and after an edit only the edit is sent. */
  compile(piece: Piece): Promise<CompiledPiece> {
    if (this.saidIn !== noteNames()) this.forget();
    const already = this.known.get(piece);
    if (already) return already;
    const compiled = new Promise<CompiledPiece>((resolve, reject) =>
      this.send({ piece, resolve, reject }, requestFor(++this.lastId, this.lastSent, piece)),
    );
    this.known.set(piece, compiled);
    compiled.catch(() => this.known.delete(piece));
    return compiled;
  }

  /** What is known was said in other note names. */
  private forget(): void {
    this.saidIn = noteNames();
    this.known = new WeakMap();
    this.lastSent = null;
  }

  private send(waiting: Waiting, request: CompileRequest): void {
    this.worker ??= this.started();
    this.lastSent = waiting.piece;
    this.waiting.set(request.id, waiting);
    this.worker.postMessage({ ...request, noteNames: this.saidIn });
  }

  private started(): CompileWorker {
    const worker = this.startWorker();
    worker.onmessage = ({ data }) => this.take(data);
    worker.onerror = ({ message }) => this.fail(message);
    return worker;
  }

  private take(answer: CompileAnswer): void {
    const waiting = this.waiting.get(answer.id);
    this.waiting.delete(answer.id);
    if (!waiting) return;
    switch (answer.kind) {
      case 'compiled':
        waiting.resolve(answer.compiled);
        return;
      case 'send whole':
        this.send(waiting, { id: ++this.lastId, kind: 'whole', piece: waiting.piece });
        return;
      case 'failed':
        this.lastSent = null;
        waiting.reject(new CompileError(answer.reason));
    }
  }

  /** The worker has gone down with all that waited for it; the next piece starts another. */
  private fail(message: string): void {
    const lost = [...this.waiting.values()];
    this.waiting.clear();
    this.worker = null;
    this.lastSent = null;
    for (const { reject } of lost) reject(new CompileError(message));
  }
}

const client = new CompileClient(
  () => new Worker(new URL('./compile.worker.ts', import.meta.url), { type: 'module' }) as CompileWorker,
);

/** Compiles a piece off the page's thread. Rejects with a CompileError where it cannot be worked out. */
export function compileInWorker(piece: Piece): Promise<CompiledPiece> {
  return client.compile(piece);
}
