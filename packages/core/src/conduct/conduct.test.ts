import { describe, expect, test } from '@jest/globals';
import { proofOf } from '../compile/compile.ts';
import { parseMeter } from '../meter/text.ts';
import { expectValue } from '../problem/problem.ts';
import { parsePulseChoice } from '../pulse/text.ts';
import { nextBoundaryMaybe } from '../run/boundary.ts';
import { allClicks } from '../run/clicksIn.ts';
import { changedRun, runFrom } from '../run/planRun.ts';
import { PLAIN_RUN } from '../run/settings.ts';
import { pieceOf } from '../test/pieceOf.ts';
import { randomPiece } from '../test/randomPiece.ts';
import { barPattern, conductedBeats } from './conductedBeats.ts';
import { handAt, PLAIN_HAND, type ConductedBeat } from './hand.ts';

const pattern = (meter: string, pulse?: string) =>
  barPattern({
    meter: expectValue(parseMeter(meter)),
    tempoMarks: [],
    ...(pulse && { pulse: expectValue(parsePulseChoice(pulse)) }),
  });

/** "down", "left", "right", "up": where each beat lies, as the conductor sees a right hand. */
const directions = (meter: string, pulse?: string) =>
  pattern(meter, pulse)
    .map(({ x, y }) => (y >= 0.24 ? 'up' : x < -0.1 ? 'left' : x > 0.2 ? 'right' : 'down'))
    .join(' ');

test.each([
  ['3/4', undefined, 'down right up'],
  ['4/4', undefined, 'down left right up'],
  ['5/4 as 3+2', undefined, 'down left left right up'],
  ['5/4 as 2+3', undefined, 'down left right right up'],
  ['7/8 as 2+2+3', undefined, 'down right up'],
  ['7/8 as 2+2+3', 'in 7', 'down left left left right right up'],
  ['7/8 as 3+2+2', 'in 7', 'down left left left left right up'],
  ['6/8', 'in 6', 'down left left right right up'],
  ['9/8', undefined, 'down right up'],
  ['12/8', undefined, 'down left right up'],
])('%s, beaten %s: %s', (meter, pulse, expected) => {
  expect(directions(meter, pulse)).toBe(expected);
});

test('in one it goes down and up, in two down a little outwards and up', () => {
  expect(pattern('3/4', 'in 1')).toEqual([{ x: 0, y: 0, reboundHeight: expect.closeTo(0.95, 9) }]);
  const [down, up] = pattern('2/4');
  expect(down!.x).toBeGreaterThan(0.1);
  expect(up!.y).toBeGreaterThan(down!.y);
});

describe('the hand', () => {
  const step = 1e-7;
  const velocity = (beats: readonly ConductedBeat[], seconds: number, side: -1 | 1) => {
    const [a, b] = [handAt(beats, seconds, PLAIN_HAND), handAt(beats, seconds + side * step, PLAIN_HAND)];
    return { x: (side * (b.x - a.x)) / step, y: (side * (b.y - a.y)) / step };
  };

  test('is on every beat at its time, with place and velocity continuous through every meter and tempo', () => {
    for (let seed = 0; seed < 12; seed++) {
      const source = proofOf(randomPiece(seed, 30));
      const plan = runFrom(source, 0);
      const beats = conductedBeats(source, plan);
      const heard = allClicks(source, plan).map(({ timeSeconds }) => timeSeconds);
      expect(beats.slice(0, -1).map(({ seconds }) => seconds)).toEqual(
        heard.map((time) => expect.closeTo(time, 9)),
      );
      for (const [index, beat] of beats.entries()) {
        if (index === 0 || index === beats.length - 1) continue;
        const place = handAt(beats, beat.seconds, PLAIN_HAND);
        expect([place.x, place.y]).toEqual([expect.closeTo(beat.x, 9), expect.closeTo(beat.y, 9)]);
        const [before, after] = [velocity(beats, beat.seconds, -1), velocity(beats, beat.seconds, 1)];
        const scale =
          1 / Math.min(beat.seconds - beats[index - 1]!.seconds, beats[index + 1]!.seconds - beat.seconds);
        expect(Math.abs(before.x - after.x)).toBeLessThan(0.02 * scale);
        expect(Math.abs(before.y - after.y)).toBeLessThan(0.05 * scale);
      }
    }
  });

  test('never jumps: between two frames it moves no farther than a quick hand could', () => {
    const source = proofOf(randomPiece(5, 20));
    const beats = conductedBeats(source, runFrom(source, 0));
    const shortest = Math.min(...beats.slice(1).map((beat, index) => beat.seconds - beats[index]!.seconds));
    let before = handAt(beats, 0, PLAIN_HAND);
    for (let seconds = 0.002; seconds < 30; seconds += 0.002) {
      const now = handAt(beats, seconds, PLAIN_HAND);
      expect(Math.hypot(now.x - before.x, now.y - before.y)).toBeLessThan((0.002 * 6) / shortest);
      before = now;
    }
  });

  test('before a faster tempo the rise and fall to the beat already take the new beat’s time', () => {
    const source = proofOf(
      pieceOf({ meter: '4/4', tempo: [{ tempo: 'quarter = 60' }] }, { tempo: [{ tempo: 'quarter = 120' }] }),
    );
    const beats = conductedBeats(source, runFrom(source, 0));
    const topOf = (from: number, to: number) => {
      let top = { seconds: from, y: -1 };
      for (let seconds = from; seconds <= to; seconds += 0.001) {
        const { y } = handAt(beats, seconds, PLAIN_HAND);
        if (y > top.y) top = { seconds, y };
      }
      return top.seconds;
    };
    expect(topOf(6, 7)).toBeLessThan(6.6);
    expect(topOf(7, 8)).toBeGreaterThan(7.68);
    expect(topOf(8, 8.5)).toBeCloseTo(8.25, 1);
  });

  test('follows a run that is changed, and is mirrored for the ensemble or a left hand, but not for both', () => {
    const source = proofOf(pieceOf({ meter: '4/4', tempo: [{ tempo: 'quarter = 60' }] }, {}, {}));
    const plan = runFrom(source, 0);
    const boundary = nextBoundaryMaybe(source, plan, 5, 'beat')!;
    const beats = conductedBeats(source, changedRun(source, plan, { ...PLAIN_RUN, percent: 50 }, boundary));
    expect(beats.slice(4, 9).map(({ seconds }) => seconds)).toEqual(
      [4, 5, 6, 8, 10].map((at) => expect.closeTo(at, 9)),
    );
    const own = handAt(beats, 5.3, PLAIN_HAND);
    const seen = handAt(beats, 5.3, { ...PLAIN_HAND, seenBy: 'ensemble' });
    expect([seen.x, seen.y]).toEqual([-own.x, own.y]);
    expect(handAt(beats, 5.3, { ...PLAIN_HAND, seenBy: 'ensemble', hand: 'left' })).toEqual(own);
  });
});
