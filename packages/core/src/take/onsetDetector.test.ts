import { describe, expect, test } from '@jest/globals';
import { seededRandom } from '../random/seededRandom.ts';
import { OnsetDetector, type OwnClick } from './onsetDetector.ts';

// Looked up once: in the sandbox of a test each mention of a global is slow.
const { sqrt, log, cos, sin, exp, min, round, PI } = Math;

const RATE = 48_000;
const LEAD_SECONDS = 0.4;

/** Numbers spread around 0 with a standard deviation of 1 (Box and Muller). */
function normalRandom(random: () => number): () => number {
  return () => sqrt(-2 * log(1 - random())) * cos(2 * PI * random());
}

/** Noise that was made once, from a random place on: quick enough for minutes of sound. */
const NOISE = Float32Array.from({ length: 1 << 17 }, normalRandom(seededRandom(77)));

function noiseFrom(random: () => number): () => number {
  let at = (random() * NOISE.length) | 0;
  return () => NOISE[at++ & (NOISE.length - 1)]!;
}

interface Scene {
  readonly seed: number;
  readonly onsets: readonly number[];
  /** Ours, by the microphone. */
  readonly clicks?: readonly OwnClick[];
  readonly sound: 'clap' | 'click' | 'reed';
  /** Peak of the clap or note over the noise's root mean square, in decibels. */
  readonly noiseDb: number;
}

/** What a microphone hears: made from the sounds and their times alone. */
function heard({ seed, onsets, clicks = [], sound, noiseDb }: Scene): Float32Array {
  const random = seededRandom(seed);
  const normal = noiseFrom(random);
  const end = Math.max(...onsets, ...clicks.map(({ seconds }) => seconds)) + 1;
  const samples = new Float32Array(Math.ceil(end * RATE));
  const noise = 0.3 * 10 ** (-noiseDb / 20);
  for (let at = 0; at < samples.length; at++) samples[at] = noise * normal();
  const add = (seconds: number, make: (t: number) => number, length: number) => {
    const from = round(seconds * RATE);
    for (let at = 0; at < length * RATE && from + at < samples.length; at++)
      samples[from + at]! += make(at / RATE);
  };
  for (const { seconds } of clicks) add(seconds, woodClick(1480, 0.3), 0.07);
  for (const seconds of onsets) {
    const level = 0.3 * (0.6 + 0.8 * random());
    if (sound === 'clap') {
      const fall = 0.006 + 0.01 * random();
      // Two hands of skin: a burst of noise, and what the room gives back of it.
      add(seconds, (t) => level * min(1, t / 0.0006) * exp(-t / fall) * normal(), 0.09);
      add(seconds + 0.011, (t) => 0.15 * level * exp(-t / 0.05) * normal(), 0.2);
    } else if (sound === 'click') add(seconds, woodClick(900 + 900 * random(), level), 0.06);
    else {
      const hertz = 220 + 220 * random();
      add(
        seconds,
        (t) => {
          const attack = t < 0.02 ? 0.5 - 0.5 * cos((PI * t) / 0.02) : 1;
          const tone = [1, 0.7, 0.5, 0.35, 0.2].reduce(
            (sum, share, partial) => sum + share * sin(2 * PI * hertz * (partial + 1) * t),
            0,
          );
          return 0.5 * level * attack * exp(-t / 0.12) * tone;
        },
        0.22,
      );
    }
  }
  return samples;
}

function woodClick(hertz: number, peak: number): (t: number) => number {
  return (t) =>
    peak *
    min(1, t / 0.0006) *
    exp((-6 * t) / 0.07) *
    (cos(2 * PI * hertz * t) + 0.45 * cos(2 * PI * 2.76 * hertz * t)) *
    0.69;
}

/** Onsets that are found, taken in blocks as the page does it. */
function found(scene: Scene): readonly number[] {
  const detector = new OnsetDetector(RATE);
  for (const click of scene.clicks ?? []) detector.expectClick(click);
  const samples = heard(scene);
  const onsets: number[] = [];
  for (let at = 0; at < samples.length; at += 128)
    onsets.push(...detector.push(samples.subarray(at, at + 128)));
  return onsets;
}

interface Score {
  readonly recall: number;
  readonly precision: number;
  readonly medianMs: number;
}

/** What was found against what was played, in order, each within 40 ms. */
function scored(played: readonly number[], onsets: readonly number[]): Score {
  const errors: number[] = [];
  let next = 0;
  for (const seconds of played) {
    while (next < onsets.length && onsets[next]! < seconds - 0.04) next++;
    if (next < onsets.length && onsets[next]! <= seconds + 0.04)
      errors.push(Math.abs(onsets[next++]! - seconds));
  }
  errors.sort((a, b) => a - b);
  return {
    recall: errors.length / played.length,
    precision: errors.length / Math.max(1, onsets.length),
    medianMs: 1000 * (errors[errors.length >> 1] ?? Infinity),
  };
}

/** So many a second, by human hands. */
function played(seed: number, perSecond: number, count: number, spreadSeconds: number): number[] {
  const normal = normalRandom(seededRandom(seed));
  return Array.from(
    { length: count },
    (_, at) => LEAD_SECONDS + at / perSecond + spreadSeconds * normal(),
  ).sort((a, b) => a - b);
}

describe('onsets in what a microphone hears', () => {
  test.each([
    ['clap', 8, 40, 0.98, 3],
    ['clap', 8, 20, 0.98, 3],
    ['clap', 2, 20, 0.98, 3],
    ['click', 4, 20, 0.98, 3],
    ['reed', 3, 20, 0.95, 12],
  ] as const)('%s, %i a second, %i dB over the noise', (sound, perSecond, noiseDb, least, mostMs) => {
    const scores = [1, 2].map((seed) => {
      const onsets = played(seed, perSecond, 100, 0.008);
      return scored(onsets, found({ seed, onsets, sound, noiseDb }));
    });
    for (const { recall, precision, medianMs } of scores) {
      expect(recall).toBeGreaterThanOrEqual(least);
      expect(precision).toBeGreaterThanOrEqual(least);
      expect(medianMs).toBeLessThan(mostMs);
    }
  });

  test.each([1, 2, 3])(
    'the page’s own clicks at the level of the claps are not counted, and the claps beside them are (seed %i)',
    (seed) => {
      const period = 0.5;
      const clicks = Array.from({ length: 72 }, (_, at) => ({
        seconds: LEAD_SECONDS + at * period,
        isLearning: at < 8,
      }));
      const normal = normalRandom(seededRandom(seed + 100));
      const onsets = clicks.slice(8).map(({ seconds }) => seconds - 0.015 + 0.02 * normal());
      const { recall, precision, medianMs } = scored(
        onsets,
        found({ seed, onsets, clicks, sound: 'clap', noiseDb: 30 }),
      );
      expect(recall).toBeGreaterThanOrEqual(0.98);
      expect(precision).toBeGreaterThanOrEqual(0.98);
      expect(medianMs).toBeLessThan(3);
    },
  );

  test('where nobody plays nothing is found, clicks or none', () => {
    const clicks = Array.from({ length: 25 }, (_, at) => ({ seconds: 0.5 + at * 0.4, isLearning: at < 4 }));
    const lone = { seed: 9, onsets: [12], sound: 'clap', noiseDb: 26 } as const;
    expect(found(lone)).toHaveLength(1);
    expect(found({ ...lone, clicks })).toHaveLength(1);
  });
});
