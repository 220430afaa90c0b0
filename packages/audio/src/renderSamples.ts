import type { RunPlan } from '@anchorbeat/core';
import { limited } from './limiter.ts';
import { clickSamples, toneSamples } from './voices.ts';

const TAIL_SECONDS = 0.5;

/**
 * A run as samples from −1 to 1, mono: every click from round(t × rate) on, mixed and limited as it is live. Words are
 * clicked. For a run that ends.
 */
export function renderSamples(plan: RunPlan, sampleRate: number, level = 1): Float32Array {
  if (!Number.isFinite(plan.lengthSeconds))
    throw new RangeError('a run that waits for a cue has no length to render');
  const mixed = new Float32Array(Math.ceil((plan.lengthSeconds + TAIL_SECONDS) * sampleRate));
  const voices = new Map<string, Float32Array>();
  for (const { kind, pitch, timeSeconds } of plan.clicks) {
    const name = pitch === undefined ? kind : String(pitch);
    const voice =
      voices.get(name) ??
      (pitch === undefined ? clickSamples(kind, sampleRate) : toneSamples(pitch, sampleRate));
    voices.set(name, voice);
    const from = Math.round(timeSeconds * sampleRate);
    for (let index = 0; index < voice.length && from + index < mixed.length; index++)
      mixed[from + index] = (mixed[from + index] as number) + level * (voice[index] as number);
  }
  return mixed.map(limited);
}
