import { describe, expect, test } from '@jest/globals';
import { fraction } from '../fraction/fraction.ts';
import { writePiece } from '../piece/document.ts';
import { readPiece } from '../piece/readPiece.ts';
import { parseMeter } from '../meter/text.ts';
import { expectValue } from '../problem/problem.ts';
import { pieceOf } from '../test/pieceOf.ts';
import { randomPiece, seededRandom } from '../test/randomPiece.ts';
import { applyEdit } from './applyEdit.ts';
import type { Edit } from './edit.ts';
import { parsePickupEntry, parseTempoEntry } from './typed.ts';
import { formatEquivalence, formatStatedTempo } from '../tempo/text.ts';

const meter = (text: string) => expectValue(parseMeter(text));
const base = pieceOf(
  { meter: '4/4', tempo: [{ tempo: 'quarter = 96' }] },
  { rehearsalMark: 'A' },
  { meter: '3/4', tempo: [{ at: '1/2', tempo: 'quarter = 60' }] },
  {},
);

describe('every edit says what it did', () => {
  test.each<[Edit, string, string[]]>([
    [
      { kind: 'insertBars', at: 2, count: 2 },
      '2 bars of 4/4 added after bar 2',
      ['4/4', '', '', '', '3/4', ''],
    ],
    [
      { kind: 'insertBars', at: 0, count: 1, meter: meter('7/8') },
      '1 bar of 7/8 added at the start',
      ['7/8', '4/4', '', '3/4', ''],
    ],
    [
      { kind: 'deleteBars', from: 1, count: 2 },
      'bars 2 to 3 deleted, with the tempo marks in them',
      ['4/4', '3/4'],
    ],
    [
      { kind: 'repeatBars', from: 1, count: 2, times: 2 },
      'bars 2 to 3 written out 2 more times',
      ['4/4', '', '3/4', '4/4', '3/4', '4/4', '3/4', ''],
    ],
    [
      { kind: 'setMeter', from: 1, count: 1, meter: meter('7/8 as 2+2+3') },
      'bar 2 is now 7/8 as 2+2+3, was 4/4',
      ['4/4', '7/8 as 2+2+3', '3/4', ''],
    ],
  ])('%j', (edit, says, meters) => {
    const edited = expectValue(applyEdit(base, edit));
    expect(edited.says).toBe(says);
    expect(writePiece(edited.piece).bars.map((bar) => bar.meter ?? '')).toEqual(meters);
  });

  test.each<[Edit, string]>([
    [
      { kind: 'setTempoMark', bar: 1, mark: expectValue(parseTempoEntry('q. = 66 on 3', base.bars[1]!)) },
      'dotted quarter = 66 at bar 2',
    ],
    [{ kind: 'clearTempoMarks', from: 0, count: 1 }, 'Tempo marks taken out of bar 1'],
    [{ kind: 'setPickup', bar: 0, lengthWholes: fraction(1, 4) }, 'bar 1 is a pickup of one quarter'],
    [{ kind: 'setLabel', bar: 3, label: '12a' }, 'bar 4 is labelled 12a'],
    [{ kind: 'setLabel', bar: 3, label: null }, 'bar 4 has no number'],
    [{ kind: 'setRehearsalMark', bar: 1, mark: undefined }, 'Rehearsal mark A taken off bar 2'],
    [{ kind: 'setTitle', title: ' Skein ' }, 'Title is now Skein'],
  ])('%j', (edit, says) => {
    expect(expectValue(applyEdit(base, edit)).says).toBe(says);
  });
});

test.each<[Edit, string]>([
  [{ kind: 'deleteBars', from: 0, count: 4 }, 'at least one bar'],
  [{ kind: 'insertBars', at: 4, count: 10_000 }, 'at most 10,000'],
  [{ kind: 'setMeter', from: 2, count: 1, meter: meter('2/4') }, 'tempo mark or hold inside bar 3'],
  [{ kind: 'setPickup', bar: 0, lengthWholes: fraction(4, 4) }, 'shorter than its 4/4 bar'],
  [{ kind: 'setPickup', bar: 2, lengthWholes: fraction(1, 4) }, 'outside the pickup'],
  [{ kind: 'setTempoMark', bar: 2, mark: { atWholes: fraction(3, 4) } }, 'outside bar 3'],
  [{ kind: 'setTitle', title: '' }, 'a title'],
  [{ kind: 'clearTempoMarks', from: 1, count: 1 }, 'no tempo mark'],
])('%j is refused', (edit, reason) => {
  const result = applyEdit(base, edit);
  expect(result.ok || result.problem.message).toContain(reason);
});

test('any sequence of edits leaves a piece that reads back, and never touches the one before', () => {
  const random = seededRandom(99);
  let piece = randomPiece(1, 30);
  for (let step = 0; step < 300; step++) {
    const before = JSON.stringify(piece);
    const result = applyEdit(piece, randomEdit(random, piece.bars.length));
    expect(JSON.stringify(piece)).toBe(before);
    if (!result.ok) continue;
    piece = result.value.piece;
    expect(readPiece(JSON.parse(JSON.stringify(writePiece(piece))))).toEqual({ ok: true, piece });
  }
});

function randomEdit(random: () => number, bars: number): Edit {
  const below = (limit: number) => Math.floor(random() * limit);
  const from = below(bars);
  const span = { from, count: 1 + below(Math.min(3, bars - from)) };
  const atWholes = fraction(below(8), 8);
  const choices: Edit[] = [
    { kind: 'insertBars', at: below(bars + 1), count: 1 + below(2) },
    { kind: 'deleteBars', ...span },
    {
      kind: 'setMeter',
      ...span,
      meter: meter(['7/8', '3/4', '15/16 as 4+4+4+3', '3/4+3/8'][below(4)] ?? '4/4'),
    },
    {
      kind: 'setTempoMark',
      bar: from,
      mark: {
        atWholes,
        equivalence: {
          before: { base: 'eighth', dots: 0, tuplets: [] },
          after: { base: 'eighth', dots: 1, tuplets: [] },
        },
      },
    },
    { kind: 'setPickup', bar: from, lengthWholes: below(2) ? fraction(1, 8) : null },
    { kind: 'setLabel', bar: from, label: [null, '7b', undefined][below(3)] },
    { kind: 'repeatBars', ...span, times: 1 },
  ];
  return choices[below(choices.length)] as Edit;
}

describe('what a director types', () => {
  const bar = (text: string) => ({ meter: meter(text), tempoMarks: [] });

  test.each([
    ['132', '4/4', 'quarter = 132', undefined, '0'],
    ['66', '6/8', 'dotted quarter = 66', undefined, '0'],
    ['q=88 on 3', '4/4', 'quarter = 88', undefined, '1/2'],
    ['e = e', '9/8', undefined, 'eighth = eighth', '0'],
    ['e3 = s, q = 54', '4/4', 'quarter = 54', 'triplet eighth = sixteenth', '0'],
    ['88,5', '4/4', 'quarter = 88.5', undefined, '0'],
  ])('tempo "%s" in %s', (text, meterText, stated, equivalence, at) => {
    const mark = expectValue(parseTempoEntry(text, bar(meterText)));
    expect(mark.stated && formatStatedTempo(mark.stated)).toBe(stated);
    expect(mark.equivalence && formatEquivalence(mark.equivalence)).toBe(equivalence);
    expect(`${mark.atWholes.n}${mark.atWholes.d === 1 ? '' : `/${mark.atWholes.d}`}`).toBe(at);
  });

  test.each(['q = 88 on 9', '', 'allegro', 'e = ', '-3'])('tempo "%s" is refused', (text) => {
    expect(parseTempoEntry(text, bar('4/4')).ok).toBe(false);
  });

  test.each([
    ['e', fraction(1, 8)],
    ['dotted quarter', fraction(3, 8)],
    ['3/8', fraction(3, 8)],
    ['2', fraction(2, 4)],
  ])('pickup "%s"', (text, length) => {
    expect(parsePickupEntry(text, bar('4/4'))).toEqual({ ok: true, value: length });
  });
});
