import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { applyEdit } from '../edit/applyEdit.ts';
import type { Edit } from '../edit/edit.ts';
import { barsMovedIn } from '../difference/barsMoved.ts';
import type { Piece } from '../piece/piece.ts';
import { routeOf } from '../route/route.ts';
import { pieceOf } from '../test/pieceOf.ts';
import { movedSpans, performedMoved } from './movedSpans.ts';

const edited = (piece: Piece, ...edits: readonly Edit[]): Piece =>
  edits.reduce((before, edit) => {
    const result = applyEdit(before, edit);
    return result.ok ? result.value.piece : before;
  }, piece);
const notes = (count: number) => Array.from({ length: count }, (_, bar) => ({ note: `${bar}` }));
const [first, ...others] = notes(6);
const PLAIN = pieceOf({ meter: '4/4', ...first }, ...others);
const REPEATED = pieceOf(
  { meter: '4/4', note: '0' },
  { startsRepeat: true, note: '1' },
  { endsRepeat: 2, note: '2' },
  { note: '3' },
);

describe('spans of performed bars once the piece has changed', () => {
  const insert = (at: number): Edit => ({ kind: 'insertBars', at, count: 2 });
  const remove = (from: number, count: number): Edit => ({ kind: 'deleteBars', from, count });
  test.each<[string, Piece, Piece, [number, number], [number, number] | null]>([
    ['nothing', PLAIN, PLAIN, [2, 4], [2, 4]],
    ['bars before them', PLAIN, edited(PLAIN, insert(1)), [2, 4], [4, 6]],
    ['bars between them', PLAIN, edited(PLAIN, insert(3)), [2, 4], [2, 6]],
    ['bars after them', PLAIN, edited(PLAIN, insert(5)), [2, 4], [2, 4]],
    ['the first of them gone', PLAIN, edited(PLAIN, remove(1, 2)), [2, 4], [1, 2]],
    ['all of them gone', PLAIN, edited(PLAIN, remove(2, 2)), [2, 4], null],
    ['the second time, bars before them', REPEATED, edited(REPEATED, insert(1)), [3, 5], [5, 7]],
  ])('%s', (_, before, after, [from, to], now) => {
    const moved = movedSpans([{ from, to }], performedMoved(before, after));
    expect(moved).toEqual(now ? [{ from: now[0], to: now[1] }] : []);
  });
});

test('whatever is edited, a performed bar is the same time through the same bar, and bars shared are followed as those read anew', () => {
  const edit = fc.record({
    does: fc.constantFrom('insertBars', 'deleteBars', 'setNote'),
    at: fc.nat(20),
    count: fc.integer({ min: 1, max: 3 }),
  });
  const editOf = (
    { bars }: Piece,
    { does, at, count }: { does: string; at: number; count: number },
  ): Edit => {
    const from = at % bars.length;
    if (does === 'insertBars') return { kind: 'insertBars', at: from, count };
    if (does === 'setNote') return { kind: 'setNote', bar: from, note: `new ${count}` };
    return { kind: 'deleteBars', from, count: Math.min(count, bars.length - from) };
  };
  fc.assert(
    fc.property(fc.constantFrom(PLAIN, REPEATED), fc.array(edit, { maxLength: 4 }), (before, edits) => {
      const after = edits.reduce((piece, next) => edited(piece, editOf(piece, next)), before);
      const [was, is] = [routeOf(before), routeOf(after)];
      const bars = barsMovedIn(before, after);
      // The same bars without a single one in common.
      expect(barsMovedIn(before, structuredClone(after)).filter((bar) => bar !== null)).toHaveLength(
        bars.filter((bar) => bar !== null).length,
      );
      for (const [performed, now] of performedMoved(before, after).entries()) {
        if (now === null) continue;
        expect(is.barIndex[now]).toBe(bars[was.barIndex[performed] ?? -1]);
        expect(is.pass[now]).toBe(was.pass[performed]);
      }
    }),
    { numRuns: 200, seed: 5 },
  );
});
