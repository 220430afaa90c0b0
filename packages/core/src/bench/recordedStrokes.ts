import { OnsetDetector } from '../take/onsetDetector.ts';
import type { TappedNote } from './tool.ts';

/** A stroke's sound is weighed over this long after it begins. */
const WEIGHED_SECONDS = 0.03;
/** Kinds of strokes are told apart from these differences on, of loudness in decibels and of pitch in octaves. */
const LEAST_DECIBELS = 2.5;
const LEAST_OCTAVES = 0.25;
/** What lies between strong and weak strokes must be this many times what lies within them. */
const LEAST_SEPARATION = 2.5;
/** Strong strokes are at most this share of all: else they would be the weak ones. */
const MOST_STRONG = 0.6;

/**
 * The strokes of a recording, mono, samples from −1 to 1: where they begin, in milliseconds from the first sample, and
 * which are strong. Strong is what is louder, or, where all are as loud, what sounds at another pitch and comes less often.
 * Where nothing tells them apart all are weak. `listened` is called now and then with the share that is done, and waited
 * for.
 */
export async function recordedStrokes(
  samples: Float32Array,
  sampleRate: number,
  listened: (share: number) => Promise<void> = () => Promise.resolve(),
): Promise<readonly TappedNote[]> {
  const detector = new OnsetDetector(sampleRate);
  const part = Math.ceil(sampleRate);
  const onsets: number[] = [];
  for (let from = 0; from < samples.length; from += part) {
    onsets.push(...detector.push(samples.subarray(from, from + part)));
    await listened(Math.min(1, (from + part) / samples.length));
  }
  // What begins at the very end is sure only with some silence after it.
  onsets.push(...detector.push(new Float32Array(Math.ceil(sampleRate * 0.2))));
  const heard = onsets.map((seconds) => soundAt(samples, sampleRate, seconds));
  const isStrong = strongOnes(heard);
  return onsets.map((seconds, index) => ({ ms: 1000 * seconds, isStrong: isStrong[index] ?? false }));
}

interface StrokeSound {
  readonly levelDb: number;
  /** The logarithm of how often the sound goes through zero, in octaves: its pitch, roughly. */
  readonly octave: number;
}

function soundAt(samples: Float32Array, sampleRate: number, seconds: number): StrokeSound {
  const from = Math.max(0, Math.round(seconds * sampleRate));
  const to = Math.min(samples.length, from + Math.round(WEIGHED_SECONDS * sampleRate));
  let energy = 0;
  let crossings = 0;
  for (let at = from; at < to; at++) {
    const sample = samples[at] ?? 0;
    energy += sample * sample;
    if (at > from && sample < 0 !== (samples[at - 1] ?? 0) < 0) crossings++;
  }
  const length = Math.max(1, to - from);
  return { levelDb: 10 * Math.log10(energy / length + 1e-12), octave: Math.log2(crossings + 1) };
}

function strongOnes(heard: readonly StrokeSound[]): readonly boolean[] {
  const byLevel = twoKinds(
    heard.map(({ levelDb }) => levelDb),
    LEAST_DECIBELS,
  );
  const byPitch = twoKinds(
    heard.map(({ octave }) => octave),
    LEAST_OCTAVES,
  );
  const isPitchClearer = byPitch.separation > byLevel.separation;
  const { isHigh, separation } = isPitchClearer ? byPitch : byLevel;
  if (separation < LEAST_SEPARATION) return heard.map(() => false);
  const highShare = isHigh.filter(Boolean).length / isHigh.length;
  // By pitch either kind may be the strong one: the one that comes less often is.
  const isLowStrong = isPitchClearer && highShare > 0.5;
  if (!isPitchClearer && highShare > MOST_STRONG) return heard.map(() => false);
  return isHigh.map((high) => high !== isLowStrong);
}

interface TwoKinds {
  readonly isHigh: readonly boolean[];
  /** The distance of their means over how far each spreads about its own; 0 where they are hardly two. */
  readonly separation: number;
}

/** Numbers in two kinds, high and low, so that the spread within them is least: exactly, by every place to cut. */
function twoKinds(values: readonly number[], least: number): TwoKinds {
  const sorted = [...values].sort((a, b) => a - b);
  let best = { cut: Infinity, within: Infinity, between: 0 };
  for (let at = 1; at < sorted.length; at++) {
    const [low, high] = [spreadOf(sorted.slice(0, at)), spreadOf(sorted.slice(at))];
    const within = low.squares + high.squares;
    if (within < best.within) best = { cut: sorted[at] ?? Infinity, within, between: high.mean - low.mean };
  }
  const spread = Math.sqrt(best.within / Math.max(1, values.length));
  return {
    isHigh: values.map((value) => value >= best.cut),
    separation: best.between < least ? 0 : best.between / (spread + 1e-3),
  };
}

function spreadOf(values: readonly number[]): { readonly mean: number; readonly squares: number } {
  const mean = values.reduce((sum, value) => sum + value, 0) / values.length;
  return { mean, squares: values.reduce((sum, value) => sum + (value - mean) ** 2, 0) };
}
