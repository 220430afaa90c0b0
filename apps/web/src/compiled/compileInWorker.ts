import type { CompiledPiece, Piece } from '@anchorbeat/core';
import type { CompileAnswer } from './compile.worker.ts';
import { requestFor } from './requestFor.ts';

let worker: Worker | null = null;
let lastId = 0;
let lastSent: Piece | null = null;
const waiting = new Map<number, (compiled: CompiledPiece) => void>();
const known = new WeakMap<Piece, Promise<CompiledPiece>>();

/** Compiles a piece off the page's thread; the same piece is compiled once, and after an edit only the edit is sent. */
export function compileInWorker(piece: Piece): Promise<CompiledPiece> {
  const already = known.get(piece);
  if (already) return already;
  const compiled = ask(piece);
  known.set(piece, compiled);
  return compiled;
}

function ask(piece: Piece): Promise<CompiledPiece> {
  worker ??= startWorker();
  const request = requestFor(++lastId, lastSent, piece);
  lastSent = piece;
  worker.postMessage(request);
  return new Promise((resolve) => waiting.set(request.id, resolve));
}

function startWorker(): Worker {
  const started = new Worker(new URL('./compile.worker.ts', import.meta.url), { type: 'module' });
  started.onmessage = ({ data }: MessageEvent<CompileAnswer>) => {
    waiting.get(data.id)?.(data.compiled);
    waiting.delete(data.id);
  };
  return started;
}
