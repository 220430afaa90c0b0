import { accepted, refused, type Result } from '@anchorbeat/core';
import type { RecordedWords } from './voiceBank.ts';
import type { SpokenWord } from './words.ts';

/** Samples a second of words that are kept, as of those that ship. */
export const WORD_RATE = 22_050;

/** A word in somebody's own voice, cut and levelled: at `WORD_RATE`, its vowel so far in. */
export interface OwnWord {
  /** What is shown for it, and asked for by it: "4", "&", "from the top". */
  readonly name: string;
  readonly samples: Float32Array;
  readonly anchorSeconds: number;
}

const FRAME_SECONDS = 0.01;
/** Of the frames so many are taken to be the room alone. */
const ROOM_SHARE = 0.2;
/** Speech is louder than the room by so much in energy, and not so much softer than its loudest part. */
const OVER_ROOM = 3;
const UNDER_PEAK = 1e-4;
/** Less than 15 dB over the room cannot be cut cleanly. */
const LEAST_OVER_ROOM = 30;
const LEAST_LOUD = 0.01;
/** Stops and pauses inside what is said in one breath. */
const LONGEST_PAUSE_SECONDS = 0.2;
const SHORTEST_SECONDS = 0.06;
const LONGEST_SECONDS = 2;
const LEAD_SECONDS = 0.012;
const TAIL_SECONDS = 0.03;
const CUT_OFF = 0.985;
const MOST_CUT_OFF_SHARE = 0.002;
/** As loud as the words that ship: the root mean square of their loudest 50 ms. */
const LOUDEST_RMS = 0.2;
const LOUDEST_SECONDS = 0.05;
const MOST_PEAK = 0.9;
const FADE_SECONDS = 0.012;
const VOWEL_BAND_HERTZ = [100, 900] as const;
const VOWEL_WINDOW_SECONDS = 0.012;

/**
 * Cuts a word out of a recording: without the room before and after it and without a knock beside it, as loud as the words
 * that ship, with the place where the ear takes it to begin: where its vowel opens; of several words, the last one's.
 * Refused, with what to do, where nothing was said, or it was too soft, too loud, too long or drowned.
 */
export function cutWord(name: string, recording: Float32Array, sampleRate: number): Result<OwnWord> {
  const clean = highPassed(recording, VOWEL_BAND_HERTZ[0], sampleRate);
  const frame = Math.round(FRAME_SECONDS * sampleRate);
  const energies = frameEnergies(clean, frame);
  const loudest = Math.max(0, ...energies);
  const room = [...energies].sort((a, b) => a - b)[Math.floor(energies.length * ROOM_SHARE)] ?? 0;
  if (Math.sqrt(loudest) < LEAST_LOUD) return refused('Nothing was heard: speak nearer to the microphone');
  if (loudest < room * LEAST_OVER_ROOM)
    return refused(
      'The room is too loud for it: speak nearer to the microphone, or wait until it is quieter',
    );
  if (recording.filter((sample) => Math.abs(sample) > CUT_OFF).length > recording.length * MOST_CUT_OFF_SHARE)
    return refused('That was too loud for the microphone: a little further away');
  const isSpeech = energies.map((energy) => energy > Math.max(room * OVER_ROOM, loudest * UNDER_PEAK));
  const spoken = mostEnergy(runsOf(isSpeech, LONGEST_PAUSE_SECONDS / FRAME_SECONDS), energies);
  const refusal = spanRefusalMaybe(spoken, energies.length);
  if (refusal) return refused(refusal);
  const from = Math.max(0, spoken.from * frame - Math.round(LEAD_SECONDS * sampleRate));
  const to = Math.min(clean.length, spoken.to * frame + Math.round(TAIL_SECONDS * sampleRate));
  const samples = levelled(clean.slice(from, to), sampleRate);
  const anchorSeconds = vowelSeconds(samples, sampleRate, /\s/.test(name.trim()));
  return accepted({ name, samples, anchorSeconds });
}

interface Span {
  readonly from: number;
  readonly to: number;
}

function spanRefusalMaybe({ from, to }: Span, frames: number): string | null {
  const seconds = (to - from) * FRAME_SECONDS;
  if (from === 0) return 'It had begun before it was listened for: press first, then speak';
  if (to === frames) return 'It was not over when listening ended: once more, a little sooner';
  if (seconds < SHORTEST_SECONDS) return 'That was a knock rather than a word: once more';
  if (seconds > LONGEST_SECONDS) return `That was ${seconds.toFixed(1)} s of speech: one word at a time`;
  return null;
}

/** Mean square of each frame. */
function frameEnergies(samples: Float32Array, frame: number): number[] {
  return Array.from({ length: Math.floor(samples.length / frame) }, (_, index) => {
    let energy = 0;
    for (let at = index * frame; at < (index + 1) * frame; at++) energy += (samples[at] ?? 0) ** 2;
    return energy / frame;
  });
}

/** The stretches that are true, those with no more than `pause` between them as one. */
function runsOf(isIn: readonly boolean[], pause: number): Span[] {
  const runs: Span[] = [];
  isIn.forEach((isHere, at) => {
    const last = runs.at(-1);
    if (!isHere) return;
    if (last && at - last.to <= pause) runs[runs.length - 1] = { from: last.from, to: at + 1 };
    else runs.push({ from: at, to: at + 1 });
  });
  return runs;
}

/** A knock or a key may be louder than a word, but it is short. */
function mostEnergy(runs: readonly Span[], energies: readonly number[]): Span {
  const energyOf = ({ from, to }: Span) => energies.slice(from, to).reduce((sum, energy) => sum + energy, 0);
  return runs.reduce(
    (best, run) => (energyOf(run) > energyOf(best) ? run : best),
    runs[0] ?? { from: 0, to: 0 },
  );
}

function levelled(samples: Float32Array, sampleRate: number): Float32Array {
  const window = Math.min(samples.length, Math.round(LOUDEST_SECONDS * sampleRate));
  const rms = Math.sqrt(Math.max(...slidingEnergies(samples, window, Math.max(1, window >> 3))) / window);
  const peak = samples.reduce((most, sample) => Math.max(most, Math.abs(sample)), 1e-6);
  const gain = Math.min(LOUDEST_RMS / Math.max(rms, 1e-6), MOST_PEAK / peak);
  const fade = Math.round(FADE_SECONDS * sampleRate);
  return samples.map((sample, at) => sample * gain * Math.min(1, at / fade, (samples.length - at) / fade));
}

/** The energy of a window at every `step`. */
function slidingEnergies(samples: Float32Array, window: number, step: number): number[] {
  const upTo = new Float64Array(samples.length + 1);
  samples.forEach((sample, at) => (upTo[at + 1] = (upTo[at] ?? 0) + sample ** 2));
  const count = Math.floor((samples.length - window) / step) + 1;
  return Array.from(
    { length: Math.max(1, count) },
    (_, index) => (upTo[Math.min(samples.length, index * step + window)] ?? 0) - (upTo[index * step] ?? 0),
  );
}

/**
 * Where the energy of 12 ms first comes to a quarter of its peak (−6 dB), in the band where vowels are loud and s, f and t
 * are not. Of several words, in the last that stands out: after the last dip to a sixteenth of the peak.
 */
function vowelSeconds(samples: Float32Array, sampleRate: number, isSeveral: boolean): number {
  const [low, high] = VOWEL_BAND_HERTZ;
  const band = lowPassed(lowPassed(highPassed(samples, low, sampleRate), high, sampleRate), high, sampleRate);
  const window = Math.round(VOWEL_WINDOW_SECONDS * sampleRate);
  const step = Math.max(1, Math.round(0.0005 * sampleRate));
  const energies = slidingEnergies(band, window, step);
  const peak = Math.max(...energies);
  const first = isSeveral ? lastVowelFrom(energies, peak) : 0;
  const ownPeak = Math.max(...energies.slice(first));
  const rises = energies.findIndex((energy, at) => at >= first && energy >= ownPeak / 4);
  return (Math.max(0, rises) * step + window / 2) / sampleRate;
}

/** From the dip before the last stretch that comes to a quarter of the peak. */
function lastVowelFrom(energies: readonly number[], peak: number): number {
  const last = energies.findLastIndex((energy) => energy >= peak / 4);
  return Math.max(
    0,
    energies.findLastIndex((energy, at) => at < last && energy < peak / 16),
  );
}

/** First-order filters: gentle, and hardly later than the sound. */
function lowPassed(samples: Float32Array, hertz: number, sampleRate: number): Float32Array {
  const share = 1 - Math.exp((-2 * Math.PI * hertz) / sampleRate);
  let held = 0;
  return samples.map((sample) => (held += share * (sample - held)));
}

function highPassed(samples: Float32Array, hertz: number, sampleRate: number): Float32Array {
  const low = lowPassed(samples, hertz, sampleRate);
  return samples.map((sample, at) => sample - (low[at] ?? 0));
}

const GAP_SECONDS = 0.05;

/** Own words one after another, as the words that ship stand in their file. */
export function ownRecording(words: readonly OwnWord[]): RecordedWords {
  const gap = Math.round(GAP_SECONDS * WORD_RATE);
  const samples = new Float32Array(words.reduce((sum, word) => sum + word.samples.length + gap, 0));
  const index: Record<string, SpokenWord> = {};
  let at = 0;
  for (const { name, samples: own, anchorSeconds } of words) {
    samples.set(own, at);
    index[name] = {
      startSeconds: at / WORD_RATE,
      lengthSeconds: own.length / WORD_RATE,
      anchorSeconds,
    };
    at += own.length + gap;
  }
  return { samples, sampleRate: WORD_RATE, index };
}

/** The words that ship with those in somebody's own voice in place of them, and besides. Both at `WORD_RATE`. */
export function withOwnWords(shipped: RecordedWords, own: RecordedWords): RecordedWords {
  const samples = new Float32Array(shipped.samples.length + own.samples.length);
  samples.set(shipped.samples);
  samples.set(own.samples, shipped.samples.length);
  const after = shipped.samples.length / shipped.sampleRate;
  const moved = Object.entries(own.index).map(([name, word]) => [
    name,
    { ...word, startSeconds: word.startSeconds + after },
  ]);
  return {
    samples,
    sampleRate: shipped.sampleRate,
    index: { ...shipped.index, ...(Object.fromEntries(moved) as RecordedWords['index']) },
  };
}
