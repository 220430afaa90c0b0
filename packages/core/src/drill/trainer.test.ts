import { describe, expect, test } from '@jest/globals';
import { compilePiece } from '../compile/compile.ts';
import { equal, fraction } from '../fraction/fraction.ts';
import { formatMeter, parseMeter } from '../meter/text.ts';
import { expectValue } from '../problem/problem.ts';
import type { BarDocument } from '../document/document.ts';
import { barLength } from '../piece/piece.ts';
import { formatRhythm } from '../rhythm/text.ts';
import { rhythmLength } from '../rhythm/rhythm.ts';
import { pieceSeconds } from '../timeline/query.ts';
import { parseNoteValue } from '../value/text.ts';
import { pieceOf } from '../test/pieceOf.ts';
import { landsAfterBars } from '../bench/grid.ts';
import { leadHands } from '../bench/leadHand.ts';
import { readsAs } from '../bench/readsAs.ts';
import { fullMeterOf, otherGroupings, trainerPiece, type TrainerExercise } from './trainer.ts';

const meter = (text: string) => expectValue(parseMeter(text));
const RATE = fraction(24);

const trained = (bars: BarDocument[], barIndex: number, exercise: TrainerExercise) =>
  trainerPiece({ piece: pieceOf(...bars), barIndex, rate: RATE }, exercise);
const oddOne: BarDocument[] = [{ meter: '4/4' }, { meter: '15/16 as 4+4+4+3' }, { meter: '4/4' }];

test.each<[string, BarDocument[], number, string]>([
  ['its neighbours’ where it stands alone', oddOne, 1, '4/4'],
  ['also a long one', [{ meter: '3/4' }, { meter: '2/4+3/8' }, { meter: '3/4' }], 1, '3/4'],
  ['else the next quarter up', [{ meter: '7/8' }, {}, {}], 1, '4/4'],
  ['a beat more where it comes out even', [{ meter: '5/4' }], 0, '6/4'],
])('the full bar is %s', (_name, bars, index, expected) => {
  expect(formatMeter(fullMeterOf(pieceOf(...bars), index))).toBe(expected);
});

test.each([
  ['7/8 as 2+2+3', '2+3+2 3+2+2'],
  ['5/8 as 2+3', '3+2'],
  ['15/16 as 4+4+4+3', '4+4+3+4 4+3+4+4 3+4+4+4'],
  ['10/8 as 3+3+2+2', '3+2+3+2 3+2+2+3 2+3+3+2 2+3+2+3 2+2+3+3 2+2+2+2+2'],
])('%s grouped otherwise', (text, expected) => {
  expect(
    otherGroupings(meter(text))
      .map((groups) => groups.join('+'))
      .join(' '),
  ).toBe(expected);
});

describe('exercises', () => {
  test('the odd bar against the full one: the missing sixteenth is heard as time', () => {
    const { piece, roles } = trained(oddOne, 1, { kind: 'against the full bar' });
    expect(roles).toEqual(['full', 'one sixteenth short']);
    expect(pieceSeconds(compilePiece(piece).timeline)).toBeCloseTo(((1 + 15 / 16) / 24) * 60, 12);
  });

  test('the trap fills the bar with a triplet, then the bar is right', () => {
    const { piece, roles } = trained(oddOne, 1, { kind: 'the trap' });
    expect(roles).toEqual(['full', 'the trap: a triplet', 'full', 'right: one sixteenth short']);
    expect(piece.bars.every((bar) => equal(rhythmLength(bar.rhythm ?? []), barLength(bar)))).toBe(true);
    expect(formatRhythm(piece.bars[1]!.rhythm!)).toMatch(/s e3 e3 e3$/);
  });

  test('without a last group of three it is filled up, and a long one is cut', () => {
    const short = trained([{ meter: '7/8 as 3+2+2' }], 0, { kind: 'the trap' });
    expect(short.roles[1]).toBe('the trap: filled to 4/4');
    expect(formatRhythm(short.piece.bars[1]!.rhythm!)).toBe('e e e e e e e re');
    const long = trained([{ meter: '4/4' }, { meter: '9/8 as 2+2+2+3' }, { meter: '4/4' }], 1, {
      kind: 'the trap',
    });
    expect(long.roles[1]).toBe('the trap: 1 left out');
  });

  test('an accent on every third eighth of 7/8 comes round after three bars', () => {
    const { piece, says, roles } = trained([{ meter: '7/8 as 2+2+3' }], 0, { kind: 'displaced', every: 3 });
    expect(says[0]).toBe('The accent lands on 1 again after 3 bars');
    expect(roles).toEqual(['first accent on 1', 'first accent on 3', 'first accent on 2']);
    expect(piece.bars.map((bar) => formatRhythm(bar.rhythm!))).toEqual([
      'e re re e re re e',
      're re e re re e re',
      're e re re e re re',
    ]);
  });

  test('a cycle tells when it lands on one of the full bar', () => {
    const cycle = [meter('7/8'), meter('3/4'), meter('5/8')];
    const { says, hands } = trained([{ meter: '7/8' }], 0, { kind: 'cycle', meters: cycle });
    expect(says[0]).toBe('Lands on 1 of 4/4 after 9 bars of it: 4 times through');
    // 7 + 6 + 5 eighths: an even number, through 3/4 as well.
    expect(hands).toEqual({ leads: ['right', 'left', 'left'], comesRoundAfter: 1 });
  });

  test('hands are told by the notes that are struck: a triplet is three, a rest none', () => {
    const { hands } = trained([{ meter: '15/16 as 4+4+4+3' }], 0, { kind: 'the trap' });
    expect(hands.leads).toEqual(['right', 'right', 'left', 'left']);
  });

  test('groupings of one length in turn', () => {
    const { roles, piece } = trained([{ meter: '7/8 as 2+2+3' }], 0, {
      kind: 'groupings',
      groups: [3, 2, 2],
    });
    expect(roles).toEqual(['2+2+3', '3+2+2']);
    expect(equal(barLength(piece.bars[0]!), barLength(piece.bars[1]!))).toBe(true);
  });
});

test('which hand leads', () => {
  expect(leadHands([7, 7, 7]).leads).toEqual(['right', 'left', 'right']);
  expect(leadHands([7, 7]).comesRoundAfter).toBe(1);
  expect(leadHands([7, 4]).comesRoundAfter).toBe(2);
});

test('landing on one agrees with counting small notes', () => {
  for (const [a, b] of [
    [7, 8],
    [15, 16],
    [9, 12],
    [5, 4],
    [12, 8],
  ] as const) {
    let bars = 1;
    while ((bars * b) % a !== 0) bars++;
    expect(landsAfterBars(fraction(a, 16), fraction(b, 16))).toBe(bars);
  }
});

describe('reads as', () => {
  const read = (bar: BarDocument, pulse: string) => {
    const written = pieceOf(bar).bars[0]!;
    return readsAs([{ bar: written, rate: RATE }], expectValue(parseNoteValue(pulse)));
  };
  test.each<[string, BarDocument, string, string, string]>([
    [
      'a dotted eighth under a dotted quarter is an eighth under a quarter',
      { meter: '6/8', rhythm: 'e. e. q.' },
      'quarter',
      '2/4',
      'e e q',
    ],
    ['eighths of 6/8 are triplets', { meter: '6/8', rhythm: 'e e e q.' }, 'quarter', '2/4', 'e3 e3 e3 q'],
    [
      'triplets are the eighths of a dotted beat',
      { meter: '2/4', rhythm: 'e3 e3 e3 q' },
      'dotted quarter',
      '6/8',
      'e e e q.',
    ],
    [
      'an uneven bar by its small notes',
      { meter: '7/8 as 2+2+3', rhythm: 'q q q.' },
      'quarter',
      '7/4',
      'h h h.',
    ],
    ['no rhythm: the small notes', { meter: '6/8' }, 'quarter', '2/4', 'e3 e3 e3 e3 e3 e3'],
  ])('%s', (_name, bar, pulse, plainMeter, rhythm) => {
    const { plain, written } = expectValue(read(bar, pulse));
    expect(formatMeter(plain.bars[0]!.meter)).toBe(plainMeter);
    expect(formatRhythm(plain.bars[0]!.rhythm!)).toBe(rhythm);
    const seconds = [written, plain].map((piece) => pieceSeconds(compilePiece(piece).timeline));
    expect(seconds[0]).toBeCloseTo(seconds[1]!, 12);
  });

  test('what cannot be written so is refused with the note', () => {
    const result = read({ meter: '4/4', rhythm: '[11:8 eighth] h. q' }, 'dotted quarter');
    expect(result.ok || result.problem.message).toContain('Note 1');
  });

  test('a span of bars, its tempo told once; bars of different beats are refused', () => {
    const bars = pieceOf({ meter: '6/8', rhythm: 'e. e. q.' }, { rhythm: 'q. e e e' }, { meter: '3/4' }).bars;
    const sounding = bars.map((bar) => ({ bar, rate: RATE }));
    const quarter = expectValue(parseNoteValue('quarter'));
    const { plain } = expectValue(readsAs(sounding.slice(0, 2), quarter));
    expect(plain.bars.map((bar) => [formatRhythm(bar.rhythm!), bar.tempoMarks.length])).toEqual([
      ['e e q', 1],
      ['q e3 e3 e3', 0],
    ]);
    const mixed = readsAs(sounding, quarter);
    expect(mixed.ok || mixed.problem.message).toContain('different beats');
  });
});
