import { describe, expect, test } from '@jest/globals';
import { countOffAdvice } from '../countoff/advice.ts';
import type { BarDocument } from '../document/document.ts';
import { toNumber } from '../fraction/fraction.ts';
import { rateAtBar, tempoMapOf } from '../tempo/tempoMap.ts';
import { pieceOf } from '../test/pieceOf.ts';
import { pulseAdviceAt } from './adviceAt.ts';
import { formatMeter } from '../meter/text.ts';
import { withLoneOddBarsGrouped } from './loneOddBars.ts';
import { pulseOf } from './pulse.ts';

type Bars = readonly BarDocument[];

function adviceFor(bars: Bars, barIndex: number) {
  const piece = pieceOf(...bars);
  const tempoMap = tempoMapOf(piece);
  const advice = pulseAdviceAt({ piece, tempoMap }, barIndex);
  const bar = piece.bars[barIndex]!;
  return { ...advice, countOff: countOffAdvice(bar, rateAtBar(tempoMap, barIndex), advice.best) };
}

/** The second of three bars of one meter at one tempo. */
const alone = (meter: string, tempo: string) => adviceFor([{ meter, tempo: [{ tempo }] }, {}, {}], 1);

describe('in how many to beat', () => {
  // What a conductor does, and why; rates of the beat in its note a minute.
  test.each<[meter: string, tempo: string, beats: number, bpm: number, why: string]>([
    // Simple meters keep their own beat in any usual tempo.
    ['4/4', 'quarter = 119', 4, 119, 'still in the range of a quarter beat'],
    ['2/4', 'quarter = 119', 2, 119, 'the same'],
    ['4/4', 'quarter = 50', 4, 50, 'slow, but held'],
    ['4/4', 'quarter = 160', 4, 160, 'fast, but shown'],
    ['3/4', 'quarter = 144', 3, 144, 'a quick three'],
    ['3/4', 'quarter = 60', 3, 60, 'a calm three'],
    ['2/2', 'half = 120', 2, 120, 'cut time is in two'],
    ['2/2', 'half = 56', 2, 56, 'the same, broad'],
    ['3/2', 'half = 72', 3, 72, 'half notes are its beat'],
    ['4/2', 'half = 80', 4, 80, 'the same'],
    ['3/8', 'eighth = 120', 3, 120, 'eighths that can be shown'],
    ['5/4', 'quarter = 100', 5, 100, 'quarters that can be shown need no groups'],
    ['5/8', 'eighth = 132', 5, 132, 'the same in eighths'],
    ['7/8', 'eighth = 144', 7, 144, 'the same'],
    ['6/4', 'quarter = 120', 6, 120, 'six quarters'],
    ['1/4', 'quarter = 90', 1, 90, 'there is but one'],
    // Too fast: the half bar, then the whole.
    ['4/4', 'quarter = 184', 2, 92, 'in two'],
    ['3/4', 'quarter = 184', 1, 61.333, 'a fast three goes in one'],
    ['2/4', 'quarter = 176', 1, 88, 'a fast two in one'],
    ['4/4', 'quarter = 336', 1, 84, 'faster still: the whole bar'],
    ['3/8', 'eighth = 200', 1, 66.667, 'three eighths in one'],
    ['2/2', 'half = 176', 1, 88, 'one'],
    // Too slow: divided.
    ['4/4', 'quarter = 42', 8, 84, 'quarters too slow to hold: eighths'],
    ['3/4', 'quarter = 40', 6, 80, 'the same'],
    ['2/2', 'half = 40', 4, 80, 'half notes too slow: quarters'],
    ['2/4', 'quarter = 36', 4, 72, 'divided'],
    // Compound: the dotted beat, its unit, or the bar; never across.
    ['6/8', 'dotted quarter = 66', 2, 66, 'never three quarters across six eighths'],
    ['6/8', 'dotted quarter = 120', 2, 120, 'two'],
    ['9/8', 'dotted quarter = 66', 3, 66, 'three dotted quarters'],
    ['12/8', 'dotted quarter = 66', 4, 66, 'four, not six'],
    ['6/8', 'dotted quarter = 38', 6, 114, 'too slow: in its eighths'],
    ['9/8', 'dotted quarter = 40', 9, 120, 'the same'],
    ['12/8', 'dotted quarter = 40', 12, 120, 'the same'],
    ['6/8', 'dotted quarter = 160', 1, 80, 'too fast: the whole bar'],
    ['12/8', 'dotted quarter = 152', 2, 76, 'the half bar is two whole beats'],
    ['9/8', 'dotted quarter = 168', 1, 56, 'the whole bar'],
    ['6/16', 'dotted eighth = 72', 2, 72, 'the same one size down'],
    // The printed beat weighs.
    ['4/4', 'half = 120', 2, 120, 'printed in half notes'],
    ['4/4', 'half = 72', 2, 72, 'the same'],
    ['6/8', 'eighth = 150', 6, 150, 'printed in eighths where the dotted quarter is slow'],
    ['6/8', 'eighth = 198', 2, 66, 'printed in eighths, but too fast for them'],
    ['4/4', 'eighth = 108', 8, 108, 'slow, and printed in eighths'],
    ['2/2', 'quarter = 126', 2, 63, 'cut time keeps its half notes'],
    ['3/4', 'dotted half = 60', 1, 60, 'printed in whole bars'],
    // Groups as written.
    ['7/8 as 2+2+3', 'eighth = 240', 3, 120, 'three uneven beats'],
    ['5/8 as 3+2', 'eighth = 220', 2, 110, 'two'],
    ['8/8 as 3+3+2', 'eighth = 240', 3, 80, 'most are dotted'],
    ['7/8 as 2+2+3', 'eighth = 84', 7, 84, 'too slow for the groups: in eighths'],
    ['10/8 as 3+2+2+3', 'eighth = 200', 4, 100, 'four'],
    ['15/16 as 4+4+4+3', 'quarter = 96', 4, 96, 'quarters with a short last one'],
  ])('%s at %s: in %i', (meter, tempo, beats, bpm, _why) => {
    const { best, reason } = alone(meter, tempo);
    expect([best.beats, Math.round(toNumber(best.bpm) * 1000) / 1000]).toEqual([beats, bpm]);
    expect(reason).toMatch(/^in \w+, .+ = \d+.*: .+/);
  });

  test.each<[meter: string, tempo: string, around: Bars, offers: string]>([
    ['5/8', 'eighth = 240', [], '2+3'],
    ['7/8', 'eighth = 240', [], '2+2+3'],
    ['7/8', 'eighth = 240', [{ meter: '7/8 as 3+2+2' }], '3+2+2'],
    ['5/4', 'quarter = 208', [], '2+3'],
    ['5/8', 'eighth = 260', [{ meter: '4/4' }, { meter: '5/8 as 3+2' }], '3+2'],
  ])(
    '%s at %s has no grouping and is too fast for its units: it is asked for',
    (meter, tempo, around, offers) => {
      const { asksGrouping, reason, best } = adviceFor([{ meter, tempo: [{ tempo }] }, {}, ...around], 0);
      expect(asksGrouping).toBe(true);
      expect(reason).toContain(`say how the bar is grouped, ${offers}`);
      expect(best.beats).toBe(offers.split('+').length);
    },
  );

  test.each<[around: string, odd: string, tempo: string, lengths: string | null]>([
    ['4/4', '15/16', 'quarter = 96', '1/4 1/4 1/4 3/16'],
    ['4/4', '17/16', 'quarter = 96', '1/4 1/4 1/4 5/16'],
    ['4/4', '7/8', 'quarter = 120', '1/4 1/4 3/8'],
    ['3/4', '5/8', 'quarter = 100', '1/4 3/8'],
    ['2/4', '5/8', 'quarter = 100', '1/4 3/8'],
    ['3/4', '11/16', 'quarter = 80', '1/4 1/4 3/16'],
    ['2/2', '7/4', 'half = 80', null],
    ['6/8', '5/8', 'dotted quarter = 80', '3/8 1/4'],
  ])('between bars of %s a lone %s is beaten like them', (around, odd, tempo, lengths) => {
    const { best } = adviceFor([{ meter: around, tempo: [{ tempo }] }, { meter: odd }, { meter: around }], 1);
    const shown = best.lengths.map(({ n, d }) => `${n}/${d}`).join(' ');
    if (lengths === null) expect(best.source).not.toBe('the neighbours');
    else expect(shown).toBe(lengths);
  });

  test('a group of several odd bars, a change of tempo, or groups of its own leave a bar to itself', () => {
    const tempo = [{ tempo: 'quarter = 96' }];
    const four = { meter: '4/4' };
    const cases: ReadonlyArray<readonly [Bars, number]> = [
      [[{ ...four, tempo }, { meter: '15/16' }, {}, four], 1],
      [[{ ...four, tempo }, { meter: '15/16', tempo: [{ tempo: 'quarter = 80' }] }, four], 1],
      [[{ ...four, tempo }, { meter: '15/16 as 5+5+5' }, four], 1],
    ];
    for (const [bars, index] of cases) expect(adviceFor(bars, index).best.source).not.toBe('the neighbours');
  });
});

test('a score that says no groups: lone odd bars get those of their neighbours, and nothing else changes', () => {
  const piece = pieceOf(
    { meter: '4/4', tempo: [{ tempo: 'quarter = 96' }] },
    { meter: '15/16' },
    { meter: '4/4' },
    { meter: '7/8 as 3+2+2' },
    { meter: '4/4' },
    { meter: '15/16', pulse: 'in 5' },
    { meter: '4/4' },
    { meter: '6/8' },
    { meter: '6/8' },
  );
  const { piece: grouped } = withLoneOddBarsGrouped(piece);
  expect(grouped.bars.map(({ meter }) => formatMeter(meter))).toEqual([
    '4/4',
    '15/16 as 4+4+4+3',
    '4/4',
    '7/8 as 3+2+2',
    '4/4',
    '15/16',
    '4/4',
    '6/8',
    '6/8',
  ]);
});

describe('how to count in', () => {
  test.each([
    ['4/4', 'quarter = 96', 'one bar (2.5 s)'],
    ['4/4', 'quarter = 132', 'one bar (1.8 s)'],
    ['2/4', 'quarter = 120', '2 bars, the first in half time (2.0 s): one bar lasts only 1.0 s'],
    ['4/4', 'quarter = 152', '2 bars, the first in half time (3.2 s): one bar lasts only 1.6 s'],
    ['3/4', 'quarter = 192', '2 bars (1.9 s): one bar is a single click'],
    ['3/4', 'quarter = 54', 'one bar, divided (3.3 s): at 54 a beat is too long to place without its parts'],
    [
      '6/8',
      'dotted quarter = 52',
      'one bar, divided (2.3 s): at 52 a beat is too long to place without its parts',
    ],
    ['4/4', 'quarter = 42', 'one bar (5.7 s)'],
  ])('%s at %s: %s', (meter, tempo, says) => {
    expect(alone(meter, tempo).countOff.says).toBe(says);
  });
});

test('a bar in six is stressed on one and four, in nine on one, four and seven, a divided one on its beats', () => {
  const stressed = (meter: string, pulse: string) =>
    pulseOf(pieceOf({ meter, pulse }).bars[0]!)
      .flatMap(({ stress }, index) => (stress === 'beat' ? [] : [index + 1]))
      .join(' ');
  expect(stressed('6/8', 'in 6')).toBe('1 4');
  expect(stressed('9/8', 'in 9')).toBe('1 4 7');
  expect(stressed('4/4', 'e e e e e e e e')).toBe('1 3 5 7');
  expect(stressed('7/8 as 2+2+3', 'in 7')).toBe('1 3 5');
});
