import { describe, expect, test } from '@jest/globals';
import { add, fraction, multiply } from '../fraction/fraction.ts';
import { compilePiece } from '../compile/compile.ts';
import { countOffFor } from '../countoff/countOff.ts';
import { pulseOf } from '../pulse/pulse.ts';
import { pieceOf } from '../test/pieceOf.ts';
import { randomPiece } from '../test/randomPiece.ts';
import { barStart, pieceSeconds, secondsAt } from '../timeline/query.ts';
import { clickKind } from './clickPlan.ts';
import { runMomentMaybe } from '../run/runMoment.ts';
import { allClicks } from '../run/clicksIn.ts';
import { runFrom } from '../run/planRun.ts';

const kinds = (piece: ReturnType<typeof pieceOf>) => {
  const { clicks } = compilePiece(piece);
  return Array.from(clicks.timeSeconds, (time, index) => `${+time.toFixed(4)} ${clickKind(clicks, index)}`);
};

describe('the click', () => {
  test('falls on downbeats, groups, beats and the subdivisions under them', () => {
    const piece = pieceOf({ meter: '(2+3)/8', tempo: [{ tempo: 'eighth = 120' }] });
    expect(kinds(piece)).toEqual([
      '0 downbeat',
      '0.5 subdivision',
      '1 group',
      '1.5 subdivision',
      '2 subdivision',
    ]);
  });

  test.each([3, 4, 5])(
    'is at the core’s own time of every beat and part, in order (random piece %i)',
    (seed) => {
      const piece = randomPiece(seed, 80);
      const { clicks, timeline } = compilePiece(piece);
      const expected = piece.bars.flatMap((bar, performed) =>
        pulseOf(bar).flatMap((beat) =>
          Array.from({ length: beat.parts }, (_, part) => {
            const within = multiply(beat.lengthWholes, fraction(part, beat.parts));
            return secondsAt(timeline, { performed, atWholes: add(beat.atWholes, within) });
          }),
        ),
      );
      expect(clicks.timeSeconds).toHaveLength(expected.length);
      expected.forEach((time, index) =>
        expect(Math.abs((clicks.timeSeconds[index] ?? NaN) - time)).toBeLessThan(1e-11),
      );
      expect(expected).toEqual([...expected].sort((a, b) => a - b));
    },
  );
});

describe('count-off in plain numerals', () => {
  const counted = (piece: ReturnType<typeof pieceOf>, performed: number) => {
    const { beats, lengthSeconds } = countOffFor(piece, compilePiece(piece).timeline, performed);
    return `${beats.map((beat) => `${beat.word}@${+beat.timeSeconds.toFixed(3)}`).join(' ')} | ${+lengthSeconds.toFixed(3)}`;
  };

  test.each([
    ['4/4', undefined, 'quarter = 120', '1@0 2@0.5 3@1 4@1.5 | 2'],
    ['6/8', undefined, 'dotted quarter = 60', '1@0 2@1 | 2'],
    ['7/8 as 2+2+3', undefined, 'eighth = 240', '1@0 2@0.5 3@1 | 1.75'],
    ['4/4', '1/4', 'quarter = 120', '1@0 2@0.5 3@1 4@1.5 1@2 2@2.5 3@3 | 3.5'],
    ['6/8', '1/8', 'dotted quarter = 60', '1@0 2@1 1@2 2@3 | 3.667'],
  ])('%s with pickup %s at %s: %s', (meter, pickup, tempo, expected) => {
    const piece = pieceOf({ meter, tempo: [{ tempo }], ...(pickup && { pickup }) }, { meter });
    expect(counted(piece, 0)).toBe(expected);
  });

  test('is at the tempo and in the meter in force at the entry', () => {
    const piece = pieceOf(
      { meter: '4/4', tempo: [{ tempo: 'quarter = 60' }] },
      { meter: '3/4', tempo: [{ equivalence: 'quarter = half' }] },
    );
    expect(counted(piece, 0)).toBe('1@0 2@1 3@2 4@3 | 4');
    expect(counted(piece, 1)).toBe('1@0 2@0.5 3@1 | 1.5');
  });
});

describe('a run', () => {
  const piece = randomPiece(21, 50);
  const compiled = compilePiece(piece);

  test.each([0, 1, 17, 49])('from performed bar %i: count-off, then every beat from there', (performed) => {
    const countOff = countOffFor(piece, compiled.timeline, performed);
    const plan = runFrom({ piece, compiled }, performed);
    const clicks = allClicks({ piece, compiled }, plan);
    const entry = barStart(compiled.timeline, performed);
    const beats = Array.from(compiled.clicks.timeSeconds).filter(
      (_, index) =>
        (compiled.clicks.performed[index] ?? 0) >= performed &&
        clickKind(compiled.clicks, index) !== 'subdivision',
    );
    expect(clicks.slice(0, countOff.beats.length).every((click) => click.kind.startsWith('countoff'))).toBe(
      true,
    );
    const sounded = clicks
      .slice(countOff.beats.length)
      .map((click) => click.timeSeconds - countOff.lengthSeconds + entry);
    expect(sounded).toHaveLength(beats.length);
    sounded.forEach((time, index) => expect(time).toBeCloseTo(beats[index] ?? NaN, 10));
    expect(plan.lengthSeconds).toBeCloseTo(
      countOff.lengthSeconds + pieceSeconds(compiled.timeline) - entry,
      10,
    );
  });

  test('knows at any moment which beat is heard', () => {
    const countOff = countOffFor(piece, compiled.timeline, 3);
    const plan = runFrom({ piece, compiled }, 3);
    allClicks({ piece, compiled }, plan).forEach((click, index) => {
      const moment = runMomentMaybe({ piece, compiled }, plan, click.timeSeconds + 1e-7);
      if (index < countOff.beats.length)
        expect(moment).toMatchObject({ phase: 'countOff', beatIndex: index });
      else expect(moment).toMatchObject({ phase: 'bar', share: expect.closeTo(0, 3) });
    });
    expect(runMomentMaybe({ piece, compiled }, plan, plan.lengthSeconds)).toBeNull();
  });
});
