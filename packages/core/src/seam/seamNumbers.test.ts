import { describe, expect, test } from '@jest/globals';
import { proofOf } from '../compile/compile.ts';
import { toNumber } from '../fraction/fraction.ts';
import type { BarDocument } from '../document/document.ts';
import { pieceOf } from '../test/pieceOf.ts';
import { formatNoteValue } from '../value/text.ts';
import { difficultyOf, DIFFICULTY_WEIGHTS } from './difficulty.ts';
import { seamDetails, type SeamKind } from './details.ts';

/**
 * Twenty-five seams of every kind, each reckoned a second time below with plain numbers: a side is its bar and beat in
 * quarters, and quarters a minute.
 */
interface Side {
  readonly meter: string;
  readonly quarters: number;
  /** The commonest. */
  readonly beat: number;
  readonly bpm: number;
}

const side = (meter: string, quarters: number, beat: number, bpm: number): Side => ({
  meter,
  quarters,
  beat,
  bpm,
});

const SEAMS: ReadonlyArray<readonly [SeamKind, Side, Side]> = [
  ['odd bar', side('4/4', 4, 1, 96), side('15/16 as 4+4+4+3', 3.75, 1, 96)],
  ['odd bar', side('4/4', 4, 1, 120), side('7/8 as 2+2+3', 3.5, 1, 120)],
  ['odd bar', side('3/4', 3, 1, 132), side('5/8 as 2+3', 2.5, 1, 132)],
  ['odd bar', side('3/4', 3, 1, 90), side('2/4+3/8', 3.5, 1, 90)],
  ['odd bar', side('4/4', 4, 1, 88), side('9/8', 4.5, 1.5, 88)],
  ['odd bar', side('6/8', 3, 1.5, 100), side('7/8 as 3+2+2', 3.5, 1.5, 100)],
  ['odd bar', side('15/16 as 4+4+4+3', 3.75, 1, 104), side('4/4', 4, 1, 104)],
  ['same subdivision', side('4/4', 4, 1, 96), side('3/4', 3, 1, 96)],
  ['same subdivision', side('4/4', 4, 1, 60), side('5/8', 2.5, 0.5, 60)],
  ['same subdivision', side('4/4', 4, 1, 72), side('6/8', 3, 1.5, 72)],
  ['same subdivision', side('2/2', 4, 2, 144), side('2/4', 2, 1, 144)],
  ['same subdivision', side('9/8', 4.5, 1.5, 112), side('2/4', 2, 1, 112)],
  ['regrouped', side('7/8 as 2+2+3', 3.5, 1, 120), side('7/8 as 3+2+2', 3.5, 1, 120)],
  ['regrouped', side('8/8 as 3+3+2', 4, 1.5, 126), side('8/8 as 2+3+3', 4, 1.5, 126)],
  ['regrouped', side('3/4', 3, 1, 108), side('6/8', 3, 1.5, 108)],
  ['pulse kept', side('6/8', 3, 1.5, 108), side('4/4', 4, 1, 72)],
  ['pulse kept', side('4/4', 4, 1, 88), side('12/8', 6, 1.5, 132)],
  ['pulse kept', side('2/2', 4, 2, 160), side('3/4', 3, 1, 80)],
  ['carried over', side('4/4', 4, 1, 96), side('4/4', 4, 1, 64)],
  ['carried over', side('4/4', 4, 1, 72), side('4/4', 4, 1, 54)],
  ['carried over', side('3/4', 3, 1, 84), side('3/4', 3, 1, 42)],
  ['new tempo', side('4/4', 4, 1, 100), side('6/8', 3, 1.5, 120)],
  ['new tempo', side('4/4', 4, 1, 60), side('4/4', 4, 1, 75)],
  ['new tempo', side('4/4', 4, 1, 96), side('4/4', 4, 1, 101)],
  ['new tempo', side('3/4', 3, 1, 61), side('7/8 as 2+2+3', 3.5, 1, 97)],
];

const QUARTERS: Readonly<Record<string, number>> = {
  whole: 4,
  half: 2,
  quarter: 1,
  eighth: 1 / 2,
  sixteenth: 1 / 4,
  '32nd': 1 / 8,
};
const TUPLETS: Readonly<Record<string, number>> = { triplet: 2 / 3, quintuplet: 4 / 5, septuplet: 4 / 7 };

/** The length of a note by its name, in quarters. */
function quartersOf(name: string): number {
  return name
    .split(' ')
    .reduce(
      (length, word) => length * (QUARTERS[word] ?? TUPLETS[word] ?? (word === 'dotted' ? 1.5 : NaN)),
      1,
    );
}

const milliseconds = (quarters: number, { bpm }: Side) => (quarters * 60_000) / bpm;
const barOf = ({ meter, bpm }: Side): BarDocument => ({ meter, tempo: [{ tempo: `quarter = ${bpm}` }] });

describe.each(SEAMS)('%s', (kind, before, after) => {
  const proof = proofOf(pieceOf(barOf(before), barOf(after)));
  const seam = proof.compiled.seams[0]!;
  const details = seamDetails(proof, seam);
  const beats = [milliseconds(before.beat, before), milliseconds(after.beat, after)] as const;

  test(`${before.meter} at ${before.bpm} to ${after.meter} at ${after.bpm}`, () => {
    expect(details.kind).toBe(kind);
    expect(details.pulseAfter.milliseconds).toBeCloseTo(beats[1], 6);
    expect(toNumber(details.pulseAfter.bpm)).toBeCloseTo(60_000 / beats[1], 6);
    expect(details.beatRatio).toBeCloseTo(beats[1] / beats[0], 9);
  });

  test('what carries over lasts equally long on both sides, or the miss is told', () => {
    const carry = seam.carry ?? details.nearest;
    expect(seam.carry === null).toBe(kind === 'new tempo');
    if (!carry) return;
    const [was, is] = [quartersOf(formatNoteValue(carry.before)), quartersOf(formatNoteValue(carry.after))];
    const missRatio = milliseconds(is, after) / milliseconds(was, before) - 1;
    expect(milliseconds(was, before)).toBeLessThanOrEqual(1.25 * Math.max(...beats) + 1e-6);
    if (seam.carry) expect(Math.abs(missRatio)).toBeLessThan(0.01);
    else {
      expect(Math.abs(missRatio)).toBeLessThan(0.07);
      expect(details.nearest!.missMilliseconds).toBeCloseTo(
        details.nearest!.errorRatio * milliseconds(after.quarters, after),
        6,
      );
    }
  });

  test('traps come out in milliseconds', () => {
    const rounding = details.traps.find((trap) => trap.kind === 'rounding');
    const short = milliseconds(before.quarters, before) - milliseconds(after.quarters, after);
    const goesOn = before.bpm === after.bpm || Math.abs(beats[1] - beats[0]) < 1e-6;
    expect(rounding !== undefined).toBe(
      goesOn && Math.abs(short) > 1e-6 && Math.abs(short) < beats[0] - 1e-6,
    );
    if (rounding) expect(rounding.lateMilliseconds).toBeCloseTo(short, 6);
    const triplet = details.traps.find((trap) => trap.kind === 'triplet');
    expect(triplet !== undefined).toBe(after.meter === '15/16 as 4+4+4+3');
    if (triplet) expect(triplet.lateMilliseconds).toBeCloseTo(milliseconds(0.25, after), 6);
  });

  test('the difficulty is the sum of its parts', () => {
    const points = details.difficulty.map((share) => share.points);
    expect(points.reduce((a, b) => a + b, 0)).toBe(seam.difficulty.score);
    expect(points.every(Number.isInteger)).toBe(true);
    for (const { part, most } of details.difficulty) expect(most).toBe(DIFFICULTY_WEIGHTS[part]);
  });
});

test('which five seams come first is answered by the weights: changing one changes the order', () => {
  const sides = SEAMS.map(([, before, after]) => {
    const piece = pieceOf(barOf(before), barOf(after));
    const seam = proofOf(piece).compiled.seams[0]!;
    return { ...seam, before: piece.bars[0]!, after: piece.bars[1]!, turns: [], leavesOdd: false };
  });
  const firstFive = (weights: typeof DIFFICULTY_WEIGHTS) =>
    sides
      .map((side, index) => ({ index, score: difficultyOf(side, weights).score }))
      .sort((a, b) => b.score - a.score)
      .slice(0, 5)
      .map(({ index }) => SEAMS[index]![0]);
  expect(firstFive(DIFFICULTY_WEIGHTS)).toContain('new tempo');
  const unmoved = { ...DIFFICULTY_WEIGHTS, 'tempo jump': 0, carry: 0, subdivision: 0, speed: 0 };
  expect(firstFive(unmoved)).not.toContain('new tempo');
});
