import type { CompiledPiece, Piece } from '@anchorbeat/core';
import type { CompileAnswer, CompileRequest } from './compile.worker.ts';

let worker: Worker | null = null;
let lastId = 0;
const waiting = new Map<number, (compiled: CompiledPiece) => void>();
const known = new WeakMap<Piece, Promise<CompiledPiece>>();

/** Compiles a piece off the page's thread; the same piece is compiled once. */
export function compileInWorker(piece: Piece): Promise<CompiledPiece> {
  const already = known.get(piece);
  if (already) return already;
  const compiled = ask(piece);
  known.set(piece, compiled);
  return compiled;
}

function ask(piece: Piece): Promise<CompiledPiece> {
  worker ??= startWorker();
  const request: CompileRequest = { id: ++lastId, piece };
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
