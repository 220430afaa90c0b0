import { describe, expect, test } from '@jest/globals';
import { CLICK_KINDS } from '@anchorbeat/core';
import { CEILING, limited, limiterCurve, LIMITER_RANGE } from './limiter.ts';
import { clickSamples, toneSamples } from './voices.ts';

const peakOf = (samples: Float32Array) =>
  samples.reduce((peak, sample) => Math.max(peak, Math.abs(sample)), 0);

describe('click voices', () => {
  test.each(CLICK_KINDS)('%s begins on its first sample, peaks within 2 ms and fades to nothing', (kind) => {
    for (const rate of [44_100, 48_000, 96_000]) {
      const samples = clickSamples(kind, rate);
      const peak = peakOf(samples);
      expect(Math.abs(samples[0]!)).toBeGreaterThan(0.01 * peak);
      expect(peakOf(samples.subarray(0, Math.ceil(rate * 0.002)))).toBeGreaterThan(0.7 * peak);
      expect(Math.abs(samples.at(-1)!)).toBeLessThan(0.001);
      expect(peak).toBeLessThan(0.9);
    }
  });

  test('no two kinds are the same sound', () => {
    const voices = CLICK_KINDS.map((kind) => clickSamples(kind, 48_000).slice(0, 400).join());
    expect(new Set(voices).size).toBe(CLICK_KINDS.length);
  });
});

test.each([48, 60, 69, 84])(
  'a tone on MIDI note %i has that pitch, begins at once and dies away',
  (pitch) => {
    const rate = 48_000;
    const samples = toneSamples(pitch, rate);
    expect(peakOf(samples)).toBeLessThan(0.7);
    expect(peakOf(samples.subarray(0, 240))).toBeGreaterThan(0.4);
    expect(Math.abs(samples.at(-1)!)).toBeLessThan(0.001);
    const strengthAt = (hertz: number) => {
      let [real, imaginary] = [0, 0];
      samples.forEach((sample, index) => {
        real += sample * Math.cos((2 * Math.PI * hertz * index) / rate);
        imaginary += sample * Math.sin((2 * Math.PI * hertz * index) / rate);
      });
      return Math.hypot(real, imaginary);
    };
    const hertz = 440 * 2 ** ((pitch - 69) / 12);
    for (const wrong of [2 ** (-1 / 12), 2 ** (1 / 12)])
      expect(strengthAt(hertz)).toBeGreaterThan(2 * strengthAt(hertz * wrong));
  },
);

describe('the limiter', () => {
  test('leaves what is quiet alone and lets nothing past −1 dBFS', () => {
    const curve = limiterCurve();
    expect(peakOf(curve)).toBeLessThanOrEqual(Math.fround(CEILING));
    expect(limited(0.5)).toBe(0.5);
    expect(limited(1e9)).toBeLessThanOrEqual(CEILING);
    const middle = (curve.length - 1) / 2;
    const index = middle + Math.round((0.3 / LIMITER_RANGE) * middle);
    expect(curve[index]).toBeCloseTo(0.3, 3);
  });

  test('never turns back: more in is never less out', () => {
    limiterCurve().reduce((before, value) => {
      expect(value).toBeGreaterThanOrEqual(before);
      return value;
    });
  });
});
