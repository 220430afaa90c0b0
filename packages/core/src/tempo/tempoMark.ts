import { divide, multiply, type Fraction } from '../fraction/fraction.ts';
import { multiplyNearest, type NearestFraction } from '../fraction/nearest.ts';
import type { RampShape } from './ramp.ts';
import { noteValueLength, type NoteValue } from '../value/noteValue.ts';

/** Beat unit = beats per minute. */
export interface StatedTempo {
  readonly unit: NoteValue;
  readonly bpm: Fraction;
}

/** *This note before = that note after*: both last equally long across the mark. */
export interface Equivalence {
  readonly before: NoteValue;
  readonly after: NoteValue;
}

/** What a ramp arrives at. `ratio` is of the tempo it starts from: one half is "half as fast". */
export type RampTarget =
  | { readonly kind: 'tempo'; readonly tempo: StatedTempo }
  | { readonly kind: 'ratio'; readonly ratio: Fraction }
  | { readonly kind: 'a tempo' }
  | { readonly kind: 'tempo primo' };

/** A rit. or accel. that begins at its mark. Without a target nothing changes, and a check says so. */
export interface Ramp {
  readonly shape: RampShape;
  readonly target: RampTarget | null;
}

/** Back to the tempo before the last ramp, or to the first tempo of the piece. */
export const TEMPO_RETURNS = ['a tempo', 'tempo primo'] as const;
export type TempoReturn = (typeof TEMPO_RETURNS)[number];

/** The return that words mean: "a tempo", "Tempo primo", "Tempo I", "tempo 1°"; null for other words. */
export function tempoReturnMaybe(words: string): TempoReturn | null {
  if (/^a\s+tempo$/i.test(words)) return 'a tempo';
  return /^tempo\s+(?:primo|i|1[°ºo]?)$/i.test(words) ? 'tempo primo' : null;
}

/**
 * A mark at an exact offset in its bar (whole notes from the barline). Where both a tempo and an
 * equivalence stand, the equivalence is what sounds (timing.md, Tempo). `term` is the printed word.
 * A ramp lasts to the next mark that says something about tempo, or to one that `endsRamp`.
 */
export interface TempoMark {
  readonly atWholes: Fraction;
  readonly term?: string;
  readonly stated?: StatedTempo;
  readonly equivalence?: Equivalence;
  readonly returns?: TempoReturn;
  readonly ramp?: Ramp;
  readonly endsRamp?: true;
}

export const MIN_BPM = 1;
export const MAX_BPM = 1000;

/** The rate a stated tempo means, in whole notes per minute. */
export function statedRate(tempo: StatedTempo): Fraction {
  return multiply(tempo.bpm, noteValueLength(tempo.unit));
}

/** W₂ = W₁ × after / before: the rate after an equivalence (timing.md, Tempo). */
export function rateAfterEquivalence(rate: Fraction, { before, after }: Equivalence): NearestFraction {
  return multiplyNearest(rate, divide(noteValueLength(after), noteValueLength(before)));
}

/** A rate at so many percent of it, for practice. */
export function practiceRate(rate: Fraction, percent: number): Fraction {
  return multiplyNearest(rate, { n: percent, d: 100 }).value;
}

/** Beats per minute of `beatLength` (whole notes) at a rate in whole notes per minute. */
export function bpmOf(rate: Fraction, beatLength: Fraction): Fraction {
  return multiplyNearest(rate, { n: beatLength.d, d: beatLength.n }).value;
}

/** Seconds that a length in whole notes lasts at a steady rate. */
export function secondsOf(lengthWholes: Fraction, rate: Fraction): number {
  return secondsOfRatio(lengthWholes.n, lengthWholes.d, rate);
}

/** The same for a length n/d that need not be reduced: the hot path of a compile makes no fraction of it. */
export function secondsOfRatio(n: number, d: number, rate: Fraction): number {
  return (60 * rate.d * n) / (rate.n * d);
}
