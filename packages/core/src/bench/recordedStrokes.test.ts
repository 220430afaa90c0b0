import { expect, test } from '@jest/globals';
import { seededRandom } from '../random/seededRandom.ts';
import { recordedStrokes } from './recordedStrokes.ts';
import { likelyBars, parseStrokes, strokesText } from './tools/meterFinder.ts';

const RATE = 44_100;
const { exp, sin, PI, round } = Math;

interface Click {
  readonly seconds: number;
  readonly level: number;
  readonly hertz: number;
}

/** A recording of a click in a room that is not quite still. */
function recording(clicks: readonly Click[], seed: number): Float32Array {
  const random = seededRandom(seed);
  const samples = new Float32Array(round((clicks.at(-1)!.seconds + 0.5) * RATE));
  for (let at = 0; at < samples.length; at++) samples[at] = 0.002 * (2 * random() - 1);
  for (const { seconds, level, hertz } of clicks)
    for (let at = 0; at < 0.05 * RATE; at++)
      samples[round(seconds * RATE) + at]! +=
        level * exp(-at / (0.008 * RATE)) * sin((2 * PI * hertz * at) / RATE);
  return samples;
}

/** Bars of some groups, the first beat of each strong, at so many small notes a minute. */
function bars(groups: readonly number[], count: number, perMinute: number, strong: Partial<Click>): Click[] {
  const clicks: Click[] = [];
  let at = 0.4;
  for (let bar = 0; bar < count; bar++)
    for (const [place, group] of groups.entries()) {
      clicks.push({ seconds: at, level: 0.3, hertz: 1500, ...(place === 0 && strong) });
      at += (group * 60) / perMinute;
    }
  return clicks;
}

const LOUDER = { level: 0.6 };
const HIGHER = { hertz: 2400 };
const LOWER = { hertz: 900 };

test.each([
  ['7/8 with a louder one', [2, 2, 3], 300, LOUDER],
  ['7/8 with a higher one', [2, 2, 3], 300, HIGHER],
  ['7/8 with a lower one', [3, 2, 2], 300, LOWER],
  ['4/4 with a louder one', [2, 2, 2, 2], 240, LOUDER],
  ['11/8 with a higher one', [2, 2, 3, 2, 2], 420, HIGHER],
] as const)('a recorded click of %s gives its meter', async (_, groups, perMinute, strong) => {
  const clicks = bars(groups, 6, perMinute, strong);
  const strokes = await recordedStrokes(recording(clicks, 5), RATE);
  expect(strokes.map(({ isStrong }) => isStrong)).toEqual(clicks.map((_, at) => at % groups.length === 0));
  strokes.forEach(({ ms }, at) => expect(Math.abs(ms - 1000 * clicks[at]!.seconds)).toBeLessThan(3));
  const read = parseStrokes(strokesText(strokes));
  if (!read.ok) throw new Error(read.problem.message);
  const [best] = likelyBars(read.value);
  const plain = groups.every((group) => group === groups[0]) ? groups.map(() => 1) : groups;
  const written = best!.bars[0]!;
  // Even beats may be told in their own small note: four of one are the same bar as four of two.
  expect([groups.join('+'), plain.join('+'), String(groups.length)]).toContain(written.join('+'));
});

test('all alike, none is strong; silence has no strokes', async () => {
  const alike = await recordedStrokes(recording(bars([2, 2], 5, 240, {}), 6), RATE);
  expect(alike).toHaveLength(10);
  expect(alike.some(({ isStrong }) => isStrong)).toBe(false);
  expect(await recordedStrokes(new Float32Array(RATE), RATE)).toEqual([]);
});
