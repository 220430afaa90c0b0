import { fraction, subtract, type Fraction } from '../fraction/fraction.ts';
import { meterLength, type Meter } from '../meter/meter.ts';
import type { StatedTempo, TempoMark } from '../tempo/tempoMark.ts';
import { noteValue } from '../value/noteValue.ts';

/**
 * A bar shorter than its meter. A pickup keeps the *end* of the full bar; the bar that completes
 * it, before a repeat or at the close, keeps the *start*.
 */
export interface PartialBar {
  readonly keeps: 'start' | 'end';
  readonly lengthWholes: Fraction;
}

/** One written measure. */
export interface Bar {
  readonly meter: Meter;
  /** Printed label where it does not simply count on; null for a bar that has none. */
  readonly label?: string | null;
  readonly partial?: PartialBar;
  readonly rehearsalMark?: string;
  /** In order of position; at most one at a position. */
  readonly tempoMarks: readonly TempoMark[];
}

/** What is written. Plain, readonly, serialisable: an edit makes a new piece and shares the rest. */
export interface Piece {
  readonly title: string;
  readonly subtitle: string;
  readonly composer: string;
  readonly bars: readonly Bar[];
}

export const MAX_BARS = 10_000;
export const MAX_TEXT_LENGTH = 200;

/** What sounds when a piece states no tempo at its start. */
export const UNSTATED_TEMPO: StatedTempo = { unit: noteValue('quarter'), bpm: fraction(96) };

/** The length a bar really has, in whole notes. */
export function barLength(bar: Bar): Fraction {
  return bar.partial ? bar.partial.lengthWholes : meterLength(bar.meter);
}

/** How far into its full bar the bar starts, in whole notes: more than zero only for a pickup. */
export function barStartInFullBar(bar: Bar): Fraction {
  if (bar.partial?.keeps !== 'end') return fraction(0);
  return subtract(meterLength(bar.meter), bar.partial.lengthWholes);
}
