import { describe, expect, test } from '@jest/globals';
import { pieceOf } from '../test/pieceOf.ts';
import { compilePiece } from '../compile/compile.ts';
import { barStart, momentAt, pieceSeconds, rateAt, secondsAt } from '../timeline/query.ts';
import { timelineOf } from '../timeline/timeline.ts';
import { fraction, toNumber } from '../fraction/fraction.ts';
import { formatRamp, parseRamp } from './text.ts';
import { RAMP_SHAPES, rampRate, rampSeconds, rampWholes, type RampCurve } from './ramp.ts';
import { tempoMapOf } from './tempoMap.ts';
import { expectValue } from '../problem/problem.ts';

const curve = (shape: RampCurve['shape'], start: number, end: number, length: number): RampCurve => ({
  shape,
  startRate: start,
  endRate: end,
  lengthWholes: length,
});

/** Simpson's rule over 1/r(x): slow, and knows nothing of closed forms. */
function integrated(ramp: RampCurve, x: number): number {
  const steps = 20_000;
  const h = x / steps;
  let total = 0;
  for (let step = 0; step <= steps; step++) {
    const weight = step === 0 || step === steps ? 1 : step % 2 ? 4 : 2;
    total += weight / rampRate(ramp, step * h);
  }
  return (total * h) / 3;
}

describe('ramps (timing.md, Ramps)', () => {
  test.each([
    ['even per beat', 7.298372, 4.045529],
    ['even per second', 7.2, 4.017857],
    ['even ratio', 7.39891, 4.073507],
  ] as const)(
    '%s: 12 quarters from 120 to 80, fifteen eighths from 192 to 256',
    (shape, quarters, eighths) => {
      expect(rampSeconds(curve(shape, 0.5, 80 / 240, 3), 3)).toBeCloseTo(quarters, 6);
      expect(rampSeconds(curve(shape, 192 / 480, 256 / 480, 15 / 8), 15 / 8)).toBeCloseTo(eighths, 6);
    },
  );

  test.each(RAMP_SHAPES)('%s agrees with the integral of its own rate, and turns back exactly', (shape) => {
    for (const [start, end] of [
      [0.5, 0.25],
      [0.2, 1.4],
      [0.5, 0.5 + 1e-12],
      [0.5, 0.5],
    ] as const) {
      const ramp = curve(shape, start, end, 5);
      for (const x of [0, 0.01, 1.7, 5]) {
        const seconds = rampSeconds(ramp, x);
        expect(seconds).toBeCloseTo(integrated(ramp, x), 9);
        expect(rampWholes(ramp, seconds)).toBeCloseTo(x, 11);
      }
    }
  });

  test.each([
    ['even per beat to quarter = 60', 'even per beat to quarter = 60'],
    ['to half as fast', 'even per beat to half as fast'],
    ['even ratio to 2/3 as fast', 'even ratio to 2/3 as fast'],
    ['even per second to a tempo', 'even per second to a tempo'],
    ['to tempo primo', 'even per beat to tempo primo'],
    ['even ratio', 'even ratio'],
  ])('"%s" is kept as "%s"', (text, kept) => {
    const ramp = expectValue(parseRamp(text));
    expect(formatRamp(ramp)).toBe(kept);
    expect(parseRamp(kept)).toEqual({ ok: true, value: ramp });
  });

  test.each(['faster', 'to nowhere', 'to 100 as fast', 'to q = 0'])('"%s" is refused', (text) => {
    expect(parseRamp(text).ok).toBe(false);
  });
});

describe('ramps in a piece', () => {
  const rateIn = (piece: ReturnType<typeof pieceOf>, performed: number, n = 0, d = 1) =>
    toNumber(rateAt(timelineOf(piece), { performed, atWholes: fraction(n, d) })) * 4;

  test('from a beat inside a bar to a mark inside another, and on at the tempo reached', () => {
    const piece = pieceOf(
      {
        meter: '4/4',
        tempo: [{ tempo: 'quarter = 120' }, { at: '1/2', term: 'rit.', ramp: 'to quarter = 80' }],
      },
      {},
      {},
      { tempo: [{ at: '1/2', endsRamp: true }] },
      {},
    );
    const timeline = timelineOf(piece);
    const start = secondsAt(timeline, { performed: 0, atWholes: fraction(1, 2) });
    expect(start).toBe(1);
    expect(secondsAt(timeline, { performed: 3, atWholes: fraction(1, 2) }) - start).toBeCloseTo(7.298372, 6);
    expect(rateIn(piece, 1, 1, 1)).toBeCloseTo(120 - 40 / 2, 6);
    expect(rateIn(piece, 4)).toBe(80);
  });

  test.each([
    ['a tempo after a rit.', [{ ramp: 'to half as fast' }], { returns: 'a tempo' }, 100],
    ['tempo primo after a new tempo', [{ tempo: 'quarter = 60' }], { returns: 'tempo primo' }, 100],
    ['a new tempo', [{ ramp: 'to half as fast' }], { tempo: 'quarter = 72' }, 72],
    [
      'an equivalence from where the ramp arrived',
      [{ ramp: 'to half as fast' }],
      { equivalence: 'eighth = quarter' },
      100,
    ],
    ['nothing where the ramp has no target', [{ ramp: 'even per beat' }], { endsRamp: true as const }, 100],
  ])('%s', (_name, marks, after, bpm) => {
    const piece = pieceOf(
      { meter: '4/4', tempo: [{ tempo: 'quarter = 100' }] },
      { tempo: marks },
      { tempo: [after] },
    );
    expect(rateIn(piece, 2)).toBeCloseTo(bpm, 9);
  });

  test('each pass performs the ramp again, and a jump into its middle goes on from there', () => {
    const piece = pieceOf(
      { meter: '4/4', tempo: [{ tempo: 'quarter = 120' }] },
      { tempo: [{ ramp: 'to quarter = 60' }] },
      { startsRepeat: true },
      { endsRepeat: 2 },
      { tempo: [{ endsRamp: true }] },
    );
    const { timeline } = compilePiece(piece);
    expect(Array.from(timeline.route.barIndex)).toEqual([0, 1, 2, 3, 2, 3, 4]);
    const lasts = (performed: number) => barStart(timeline, performed + 1) - barStart(timeline, performed);
    expect(lasts(4)).toBeCloseTo(lasts(2), 12);
    expect(lasts(5)).toBeCloseTo(lasts(3), 12);
    expect(lasts(1) + lasts(2) + lasts(3)).toBeCloseTo(
      rampSeconds(curve('even per beat', 0.5, 0.25, 3), 3),
      12,
    );
  });

  test('from seconds back to the score is exact to a nanosecond over an hour of ramps and holds', () => {
    const piece = pieceOf(
      ...Array.from({ length: 1600 }, (_, index) => ({
        meter: index % 3 ? '4/4' : '7/8',
        ...(index % 8 === 0 && {
          tempo: [{ tempo: 'quarter = 88' }, { at: '1/4', ramp: 'even ratio to quarter = 131' }],
        }),
        ...(index % 20 === 19 && { holds: [{ at: '1/4', length: '2 beats' }] }),
      })),
    );
    const timeline = timelineOf(piece);
    expect(pieceSeconds(timeline)).toBeGreaterThan(3500);
    for (let performed = 0; performed < 1600; performed += 7) {
      for (const eighths of [0, 1, 3, 5]) {
        const atWholes = fraction(eighths, 8);
        const seconds = secondsAt(timeline, { performed, atWholes });
        const back = momentAt(timeline, seconds);
        const rate = toNumber(rateAt(timeline, { performed, atWholes })) / 60;
        expect(back.performed).toBe(performed);
        expect(Math.abs(back.atWholes - eighths / 8) / rate).toBeLessThan(1e-9);
      }
    }
  });
});

describe('holds and breaths (timing.md, Holds)', () => {
  const lengthOf = (holds: object[], practice?: { n: number; d: number }) => {
    const piece = pieceOf({ meter: '4/4', tempo: [{ tempo: 'quarter = 60' }], holds: holds as never }, {});
    const timeline = timelineOf(piece, tempoMapOf(piece, practice));
    return [barStart(timeline, 1), pieceSeconds(timeline)].map((seconds) => +seconds.toFixed(9));
  };

  test.each([
    ['two beats on beat 2', [{ at: '1/4', length: '2 beats' }], [6, 10]],
    ['half a second', [{ at: '1/4', length: '0.5 seconds' }], [4.5, 8.5]],
    ['until cued is no time on paper', [{ at: '1/4', length: 'until cued' }], [4, 8]],
    ['on the last beat it delays the next bar', [{ at: '3/4', length: '1 beat' }], [5, 9]],
    [
      'a hold and a breath after it',
      [
        { at: '3/4', length: '1 beat' },
        { at: '3/4', kind: 'breath', length: '0.25 seconds' },
      ],
      [5.25, 9.25],
    ],
  ])('%s', (_name, holds, expected) => {
    expect(lengthOf(holds)).toEqual(expected);
  });

  test('at half tempo holds in beats double, holds in seconds do not', () => {
    expect(lengthOf([{ at: '1/4', length: '2 beats' }], fraction(1, 2))).toEqual([12, 20]);
    expect(lengthOf([{ at: '1/4', length: '3 seconds' }], fraction(1, 2))).toEqual([11, 19]);
  });

  test('what follows the held note comes after the wait; while it lasts the place stays', () => {
    const piece = pieceOf({
      meter: '4/4',
      tempo: [{ tempo: 'quarter = 60' }],
      holds: [{ at: '1/4', length: '2 beats', value: 'half' }],
    });
    const timeline = timelineOf(piece);
    const at = (n: number) => secondsAt(timeline, { performed: 0, atWholes: fraction(n, 4) });
    expect([0, 1, 2, 3].map(at)).toEqual([0, 1, 2, 5]);
    expect(momentAt(timeline, 4)).toEqual({ performed: 0, atWholes: 0.75 });
    expect(timeline.holds).toMatchObject([{ startSeconds: 3, lengthSeconds: 2 }]);
  });
});
