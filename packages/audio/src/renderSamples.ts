import type { RunSounds } from '@anchorbeat/core';
import { limited } from './limiter.ts';
import { VoiceBank, type RecordedWords } from './voiceBank.ts';

const TAIL_SECONDS = 0.5;
const CHUNK_SECONDS = 4;

export interface RenderOptions {
  readonly level?: number;
  /** Words are said with these; without them they are clicked. */
  readonly words?: RecordedWords;
  /** What of it is wanted: all of it, what is said as clicks too, or only what is said. */
  readonly part?: RenderedPart;
  /** Called now and then with the share that is done. */
  readonly onProgress?: (share: number) => void;
}

/** "clicks" has a click where a word is said; "words" has nothing where none is. */
type RenderedPart = 'all' | 'clicks' | 'words';

/** How many samples a run is rendered to. Throws a RangeError where it has no end. */
export function renderedSampleCount({ lengthSeconds }: RunSounds, sampleRate: number): number {
  if (!Number.isFinite(lengthSeconds))
    throw new RangeError('a run that waits for a cue has no length to render');
  return Math.ceil((lengthSeconds + TAIL_SECONDS) * sampleRate);
}

/**
 * A run as samples from −1 to 1, mono, a few seconds at a time: every click from round(t × rate) on, a word so much
 * earlier that its vowel falls there, mixed and limited as it is live. For a run that ends; the memory it takes does not
 * grow with its length.
 */
export function* renderChunks(
  sounds: RunSounds,
  sampleRate: number,
  { level = 1, words, onProgress, part = 'all' }: RenderOptions = {},
): Generator<Float32Array> {
  const total = renderedSampleCount(sounds, sampleRate);
  const voices = new VoiceBank(sampleRate, part === 'clicks' ? undefined : words);
  const chunkSamples = Math.round(CHUNK_SECONDS * sampleRate);
  const { leadSeconds } = voices;
  let mixed = new Float32Array(chunkSamples);
  for (let from = 0; from < total; from += chunkSamples) {
    // A word may begin in this chunk that is meant for a moment after it.
    const fromSeconds = from === 0 ? -Infinity : from / sampleRate + leadSeconds;
    const isLast = from + chunkSamples >= total;
    const toSeconds = isLast ? Infinity : (from + chunkSamples) / sampleRate + leadSeconds;
    for (const click of sounds.clicksIn({ fromSeconds, toSeconds })) {
      const voice = part === 'words' ? voices.wordMaybe(click) : voices.of(click);
      if (!voice) continue;
      const { samples, leadSamples } = voice;
      const begin = Math.round(click.timeSeconds * sampleRate) - leadSamples - from;
      if (begin + samples.length > mixed.length) mixed = lengthened(mixed, begin + samples.length);
      for (let at = Math.max(0, -begin); at < samples.length; at++)
        mixed[begin + at] = (mixed[begin + at] as number) + level * (samples[at] as number);
    }
    const done = mixed.slice(0, Math.min(chunkSamples, total - from));
    for (let at = 0; at < done.length; at++) done[at] = limited(done[at] as number);
    yield done;
    onProgress?.(Math.min(1, (from + chunkSamples) / total));
    mixed = lengthened(mixed.subarray(chunkSamples), chunkSamples);
  }
}

function lengthened(samples: Float32Array, length: number): Float32Array<ArrayBuffer> {
  const longer = new Float32Array(Math.max(samples.length, length));
  longer.set(samples);
  return longer;
}

/** The same as one run of samples. */
export function renderSamples(
  sounds: RunSounds,
  sampleRate: number,
  options: RenderOptions = {},
): Float32Array {
  const samples = new Float32Array(renderedSampleCount(sounds, sampleRate));
  let at = 0;
  for (const chunk of renderChunks(sounds, sampleRate, options)) {
    samples.set(chunk, at);
    at += chunk.length;
  }
  return samples;
}
