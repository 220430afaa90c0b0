import { compilePiece, readPiece, type BarDocument } from '@anchorbeat/core';
import { expect, type Page } from '@playwright/test';
import { savedProof } from './pieces.ts';

/** The piece of the full entry, as a file would have it: 120 bars after a pickup, with 25 changes of meter. */
const LONG_PIECE: readonly BarDocument[] = (() => {
  const meters: ReadonlyArray<readonly [count: number, meter: string]> = [
    [16, '4/4'],
    [1, '3/4'],
    [7, '4/4'],
    [8, '7/8 as 2+2+3'],
    [1, '5/8 as 3+2'],
    [7, '7/8 as 2+2+3'],
    [4, '3/4'],
    [1, '2/4'],
    [8, '6/8'],
    [1, '9/8'],
    [3, '6/8'],
    [4, '4/4'],
    [1, '15/16 as 4+4+4+3'],
    [3, '4/4'],
    [6, '5/4 as 3+2'],
    [2, '5/4 as 2+3'],
    [8, '12/8'],
    [1, '2/4'],
    [7, '3/4'],
    [1, '3/4+3/8'],
    [7, '3/4'],
    [8, '4/4'],
    [1, '9/16 as 2+2+2+3'],
    [5, '4/4'],
    [1, '5/8 as 2+3'],
    [8, '4/4'],
  ];
  const bars = meters.flatMap(([count, meter]): BarDocument[] =>
    Array.from({ length: count }, (_, index) => (index === 0 ? { meter } : {})),
  );
  const [first, ...rest] = bars;
  const written: BarDocument[] = [
    { ...first, pickup: '1/4', tempo: [{ tempo: 'quarter = 104' }] },
    {},
    ...rest,
  ];
  const put = (number: number, more: BarDocument) => (written[number] = { ...written[number], ...more });
  put(9, { startsRepeat: true });
  put(15, { ending: '1', endsRepeat: 2 });
  put(16, { ending: '2' });
  put(25, { tempo: [{ equivalence: 'eighth = eighth' }] });
  put(46, { tempo: [{ tempo: 'dotted quarter = 69' }] });
  put(74, { tempo: [{ equivalence: 'dotted quarter = quarter' }] });
  put(100, { tempo: [{ tempo: 'quarter = 88' }] });
  put(116, { tempo: [{ tempo: 'quarter = 120' }] });
  return written;
})();

/** What is added bar by bar behind the first meter: so many bars of another one. */
export const LONG_PIECE_CHANGES = LONG_PIECE.flatMap(({ meter }, bar) =>
  meter && bar > 0 ? [{ bar, meter }] : [],
).map(({ bar, meter }, index, changes) => ({
  count: (changes[index + 1]?.bar ?? LONG_PIECE.length) - bar,
  meter,
}));

/** The piece that was entered is the very piece of the file, and lasts exactly what that lasts. */
export async function expectLongPiece(page: Page, id: string): Promise<void> {
  const typed = await savedProof(page.request, id);
  const file = readPiece({ format: 'anchorbeat-piece', version: 1, title: 'Long Quay', bars: LONG_PIECE });
  if (!file.ok) throw new Error(JSON.stringify(file.problems));
  const compiled = compilePiece(file.piece);
  expect(typed.piece.bars.length).toBe(121);
  expect(typed.compiled.timeline.route).toEqual(compiled.timeline.route);
  expect([...typed.compiled.timeline.barStartSeconds]).toEqual([...compiled.timeline.barStartSeconds]);
  expect([...typed.compiled.clicks.timeSeconds]).toEqual([...compiled.clicks.timeSeconds]);
  const questions = compiled.findings.filter(({ severity }) => severity !== 'hint').length;
  await expect(page.getByRole('button', { name: `${questions} to look at` })).toBeVisible();
}
