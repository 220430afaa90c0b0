import type { CompiledPiece, Piece } from '@anchorbeat/core';
import type { CompileAnswer, CompileRequest } from './compile.worker.ts';

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

/** What has to be sent so that the worker has the piece, given the one it was sent before. */
export function requestFor(id: number, before: Piece | null, piece: Piece): CompileRequest {
  if (!before) return { id, kind: 'whole', piece };
  const [was, is] = [before.bars, piece.bars];
  const shorter = Math.min(was.length, is.length);
  let from = 0;
  while (from < shorter && was[from] === is[from]) from++;
  let kept = 0;
  while (kept < shorter - from && was[was.length - 1 - kept] === is[is.length - 1 - kept]) kept++;
  if (from + kept === 0) return { id, kind: 'whole', piece };
  const { bars: _bars, ...head } = piece;
  return {
    id,
    kind: 'changed',
    head,
    from,
    removed: was.length - from - kept,
    added: is.slice(from, is.length - kept),
  };
}

function startWorker(): Worker {
  const started = new Worker(new URL('./compile.worker.ts', import.meta.url), { type: 'module' });
  started.onmessage = ({ data }: MessageEvent<CompileAnswer>) => {
    waiting.get(data.id)?.(data.compiled);
    waiting.delete(data.id);
  };
  return started;
}
