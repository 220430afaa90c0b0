import { describe, expect, test } from '@jest/globals';
import { fraction, toNumber } from '../fraction/fraction.ts';
import { barLength } from '../piece/piece.ts';
import { pieceOf } from '../test/pieceOf.ts';
import { randomPiece } from '../test/randomPiece.ts';
import { seededRandom } from '../random/seededRandom.ts';
import { slowBarStarts } from '../test/slowBarStarts.ts';
import { barStart, momentAt, performedCount, pieceSeconds, rateAt, secondsAt } from './query.ts';
import { timelineOf } from './timeline.ts';

const tempo = (text: string) => [{ tempo: text }];

describe('when bars start', () => {
  test('quarter = quarter dotted: the bar lasts as long as before (timing.md, Tempo)', () => {
    const piece = pieceOf(
      { meter: '4/4', tempo: tempo('quarter = 88') },
      { meter: '12/8', tempo: [{ equivalence: 'quarter = dotted quarter' }] },
    );
    const timeline = timelineOf(piece);
    expect(barStart(timeline, 1)).toBe(240 / 88);
    expect(pieceSeconds(timeline)).toBeCloseTo(480 / 88, 14);
  });

  test('a tempo mark inside a bar takes hold exactly there', () => {
    const piece = pieceOf(
      { meter: '4/4', tempo: [{ tempo: 'quarter = 60' }, { at: '3/4', tempo: 'quarter = 120' }] },
      {},
    );
    const timeline = timelineOf(piece);
    expect(secondsAt(timeline, { performed: 0, atWholes: fraction(3, 4) })).toBe(3);
    expect(secondsAt(timeline, { performed: 0, atWholes: fraction(7, 8) })).toBe(3.25);
    expect(barStart(timeline, 1)).toBe(3.5);
    expect(rateAt(timeline, { performed: 0, atWholes: fraction(1, 2) })).toEqual(fraction(15));
    expect(rateAt(timeline, { performed: 1, atWholes: fraction(0) })).toEqual(fraction(30));
  });

  test('a mark at the start of the next bar does not disturb this one', () => {
    const piece = pieceOf({ meter: '3/4', tempo: tempo('quarter = 90') }, { tempo: tempo('quarter = 45') });
    expect(timelineOf(piece).barStartSeconds).toEqual(Float64Array.of(0, 2, 6));
  });

  test('without any tempo, quarter = 96 sounds', () => {
    expect(pieceSeconds(timelineOf(pieceOf({ meter: '4/4' })))).toBe(2.5);
  });

  test.each(Array.from({ length: 40 }, (_, seed) => seed))(
    'random piece %i agrees with the slow twin',
    (seed) => {
      const piece = randomPiece(seed, 60);
      const timeline = timelineOf(piece);
      const slow = slowBarStarts(piece);
      slow.forEach((seconds, performed) => {
        expect(Math.abs(barStart(timeline, performed) - seconds)).toBeLessThanOrEqual(
          1e-9 * Math.max(1, seconds),
        );
      });
    },
  );

  test('nothing accumulates: the last of 10,000 bars is where one division puts it', () => {
    const piece = pieceOf(
      { meter: '7/8', tempo: tempo('quarter = 97') },
      ...Array.from({ length: 9999 }, () => ({})),
    );
    expect(pieceSeconds(timelineOf(piece))).toBe((60 * 7 * 10_000 * 4) / (8 * 97));
  });

  test('units that no common denominator can hold still come out', () => {
    const units = [3, 5, 7, 11, 13, 17, 19, 23, 29, 31, 37, 41, 43, 47, 53, 59, 61, 67, 71, 73, 79, 83];
    const bars = units.map((unit) => ({ meter: `${unit - 1}/${unit}` }));
    const expected = units.reduce((total, unit) => total + (unit - 1) / unit, 0) * 2.5;
    expect(pieceSeconds(timelineOf(pieceOf(...bars)))).toBeCloseTo(expected, 12);
  });
});

describe('from seconds back to the score', () => {
  test('is the inverse to a nanosecond over an hour', () => {
    const random = seededRandom(5);
    const piece = randomPiece(11, 1500);
    const timeline = timelineOf(piece);
    for (let trial = 0; trial < 3000; trial++) {
      const performed = Math.floor(random() * performedCount(timeline));
      const length = barLength(piece.bars[timeline.route.barIndex[performed] ?? 0]!);
      const atWholes = fraction(length.n * Math.floor(random() * 64), length.d * 64);
      const seconds = secondsAt(timeline, { performed, atWholes });
      const moment = momentAt(timeline, seconds);
      const rate = toNumber(rateAt(timeline, { performed, atWholes })) / 60;
      const back = barStart(timeline, moment.performed) - barStart(timeline, performed);
      if (moment.performed === performed)
        expect(Math.abs(moment.atWholes - toNumber(atWholes)) / rate).toBeLessThan(1e-9);
      else expect(Math.abs(back)).toBeLessThan(1e-9 + toNumber(length) / rate);
    }
  });

  test('stays inside the piece', () => {
    const timeline = timelineOf(pieceOf({ meter: '4/4' }, {}));
    expect(momentAt(timeline, -5)).toEqual({ performed: 0, atWholes: 0 });
    expect(momentAt(timeline, 99)).toEqual({ performed: 1, atWholes: 1 });
  });
});
