import { expect, test } from '@jest/globals';
import { applyEdit, expectValue, readPiece, type Edit, type Piece } from '@anchorbeat/core';
import type { CompileRequest } from './compileAnswer.ts';
import { requestFor } from './requestFor.ts';

function pieceOf(...meters: string[]): Piece {
  const bars = meters.map((meter) => ({ meter }));
  const reading = readPiece({ format: 'anchorbeat-piece', version: 1, title: 'T', bars });
  if (!reading.ok) throw new Error('the test piece does not read');
  return reading.piece;
}

/** What the worker would have after a request, given what it had. */
function received(before: Piece, request: CompileRequest): Piece {
  if (request.kind === 'whole') return request.piece;
  const { head, from, removed, added } = request;
  return { ...head, bars: [...before.bars.slice(0, from), ...added, ...before.bars.slice(from + removed)] };
}

const piece = pieceOf('4/4', '4/4', '7/8', '4/4', '3/4', '4/4');
const meter = pieceOf('5/8').bars[0]!.meter;

test.each<[string, Edit, number]>([
  ['a meter', { kind: 'setMeter', from: 2, count: 1, meter }, 1],
  ['two meters', { kind: 'setMeter', from: 2, count: 2, meter }, 2],
  ['bars in the middle', { kind: 'insertBars', at: 3, count: 4 }, 4],
  ['bars at the end', { kind: 'insertBars', at: 6, count: 2 }, 2],
  ['bars gone', { kind: 'deleteBars', from: 1, count: 3 }, 0],
  ['a cycle of like bars', { kind: 'repeatBars', from: 0, count: 2, times: 3 }, 6],
  ['a title', { kind: 'setTitle', title: 'Other' }, 0],
])('after an edit only what it touched is sent: %s', (_name, edit, sentBars) => {
  const after = expectValue(applyEdit(piece, edit)).piece;
  const request = requestFor(1, piece, after);
  expect(received(piece, request)).toEqual(after);
  expect(request.kind === 'changed' && request.added).toHaveLength(sentBars);
  received(piece, request).bars.forEach((bar, index) => expect(bar).toBe(after.bars[index]));
});

test('another piece is sent whole', () => {
  const other = pieceOf('2/4');
  expect(requestFor(1, null, other)).toEqual({ id: 1, kind: 'whole', piece: other });
  expect(requestFor(2, piece, other)).toEqual({ id: 2, kind: 'whole', piece: other });
});
