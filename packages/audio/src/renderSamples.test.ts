import { describe, expect, test } from '@jest/globals';
import {
  compilePiece,
  PLAIN_RUN,
  readPiece,
  runFrom,
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
  const source = { piece: reading.piece, compiled: compilePiece(reading.piece) };
  return runFrom(source, 0, { ...PLAIN_RUN, ...settings });
}

describe('a run as samples', () => {
  test('every click begins on the sample nearest to its time, out of silence', () => {
    const plan = runOf([{ meter: '7/8 as 2+2+3', tempo: [{ tempo: 'eighth = 97' }] }, { meter: '4/4' }, {}]);
    const samples = renderSamples(plan, RATE, 0.5);
    for (const { kind, timeSeconds } of plan.clicks) {
      const at = Math.round(timeSeconds * RATE);
      const voice = clickSamples(kind, RATE);
      expect(at === 0 ? 0 : samples[at - 1]).toBe(0);
      for (const offset of [0, 1, 7, 60]) expect(samples[at + offset]).toBeCloseTo(0.5 * voice[offset]!, 6);
    }
    expect(samples.length).toBe(Math.ceil((plan.lengthSeconds + 0.5) * RATE));
  });

  test('whatever sounds together stays under the ceiling', () => {
    const plan = runOf([{ meter: '4/4', tempo: [{ tempo: 'quarter = 1000' }] }, {}, {}], {
      clickOn: 'subdivision',
      overlay: 7,
    });
    const peak = renderSamples(plan, RATE, 4).reduce((most, sample) => Math.max(most, Math.abs(sample)), 0);
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
