import type { Fraction } from '../fraction/fraction.ts';
import type { CountOffSettings } from './settings.ts';

/** A beat of a count-off before it has a time. */
export interface PlannedBeat {
  readonly atWholes: Fraction;
  readonly lengthWholes: Fraction;
  readonly word: string;
  readonly isDownbeat: boolean;
  /** How many subdivisions the beat carries. */
  readonly parts: number;
  readonly bar: number;
  readonly sound: 'count' | 'subdivision' | 'silent';
  readonly pitch?: number;
}

interface StyleContext {
  readonly settings: CountOffSettings;
  /** The piece's key as printed, or null. */
  readonly key: string | null;
}

/** One of the competing ways to count off: a change of the plainly counted beats. */
export interface CountOffStyle {
  readonly id: string;
  readonly name: string;
  /** Its last words say that the count is over, whatever they sound like. */
  readonly tellsEnd?: true;
  readonly plan: (beats: readonly PlannedBeat[], context: StyleContext) => readonly PlannedBeat[];
}
