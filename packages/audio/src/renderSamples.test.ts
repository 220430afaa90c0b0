import { describe, expect, test } from '@jest/globals';
import {
  PLAIN_RUN,
  readPiece,
  proofOf,
  runFrom,
  soundsOf,
  type BarDocument,
  type RunSettings,
} from '@anchorbeat/core';
import { CEILING } from './limiter.ts';
import { renderSamples } from './renderSamples.ts';
import { clickSamples } from './voices.ts';

const RATE = 44_100;

function runOf(bars: readonly BarDocument[], settings: Partial<RunSettings> = {}) {
  const reading = readPiece({ format: 'anchorbeat-piece', version: 1, title: 'T', bars });
  if (!reading.ok) throw new Error(JSON.stringify(reading.problems));
  const proof = proofOf(reading.piece);
  return soundsOf(proof, runFrom(proof, 0, { ...PLAIN_RUN, ...settings }));
}

describe('a run as samples', () => {
  test('every click begins on the sample nearest to its time, out of silence', () => {
    const sounds = runOf([
      { meter: '7/8 as 2+2+3', tempo: [{ tempo: 'eighth = 97' }] },
      { meter: '4/4' },
      {},
    ]);
    const samples = renderSamples(sounds, RATE, { level: 0.5 });
    for (const { kind, timeSeconds } of sounds.clicksIn({ fromSeconds: 0, toSeconds: Infinity })) {
      const at = Math.round(timeSeconds * RATE);
      const voice = clickSamples(kind, RATE);
      expect(at === 0 ? 0 : samples[at - 1]).toBe(0);
      for (const offset of [0, 1, 7, 60]) expect(samples[at + offset]).toBeCloseTo(0.5 * voice[offset]!, 6);
    }
    expect(samples.length).toBe(Math.ceil((sounds.lengthSeconds + 0.5) * RATE));
  });

  test('whatever sounds together stays under the ceiling', () => {
    const sounds = runOf([{ meter: '4/4', tempo: [{ tempo: 'quarter = 1000' }] }, {}, {}], {
      clickOn: 'subdivision',
      overlay: 7,
    });
    const peak = renderSamples(sounds, RATE, { level: 4 }).reduce(
      (most, sample) => Math.max(most, Math.abs(sample)),
      0,
    );
    expect(peak).toBeGreaterThan(0.85);
    expect(peak).toBeLessThanOrEqual(Math.fround(CEILING));
  });

  test('a run without end cannot be rendered', () => {
    const waiting = runOf([
      { meter: '4/4', tempo: [{ tempo: 'quarter = 120' }], holds: [{ length: 'until cued' }] },
      {},
    ]);
    expect(() => renderSamples(waiting, RATE)).toThrow('waits for a cue');
  });
});

test('a word is heard with its vowel on the beat; without words, or where it has no room, it is a click', () => {
  const sounds = runOf([{ meter: '4/4', tempo: [{ tempo: 'quarter = 60' }] }], { spoken: 'count-off' });
  const samples = new Float32Array(22_050).fill(0.25);
  const index = Object.fromEntries(
    ['1', '2', '3', '4'].map((word) => [word, { startSeconds: 0, lengthSeconds: 0.3, anchorSeconds: 0.1 }]),
  );
  const words = { samples, sampleRate: 22_050, index };
  const said = renderSamples(sounds, RATE, { words });
  const second = Math.round(RATE * 1);
  expect(said[second - Math.round(0.1 * RATE) - 1]).toBe(0);
  expect(said[second - Math.round(0.1 * RATE)]).toBeCloseTo(0.25, 3);
  expect(said[second + Math.round(0.2 * RATE) - 2]).toBeCloseTo(0.25, 3);
  expect(said[second + Math.round(0.2 * RATE) + 1]).toBe(0);
  const clicked = renderSamples(sounds, RATE);
  expect(clicked[second - 10]).toBe(0);
  expect(clicked[second + 20]).toBeCloseTo(clickSamples('countoff', RATE)[20]!, 5);
});
