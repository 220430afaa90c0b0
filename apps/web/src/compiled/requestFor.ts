import type { Piece } from '@anchorbeat/core';
import type { CompileRequest } from './compileAnswer.ts';

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
