import { add, compare, fraction, multiply, subtract, type Fraction } from '../fraction/fraction.ts';
import { barLength, barStartInFullBar, type Bar } from '../piece/piece.ts';
import { pulseOf, type PulseBeat } from '../pulse/pulse.ts';

/** One spoken syllable of a bar. */
export interface CountWord {
  readonly atWholes: Fraction;
  readonly word: string;
  /** A beat or the start of a group, spoken stronger; the rest runs under it. */
  readonly isMain: boolean;
}

/** A way of counting: words for a full bar. Partial bars get the part of the full bar's words that they keep. */
export interface CountSchool {
  readonly id: string;
  readonly name: string;
  /** How 7/8 as 2+2+3 sounds in it, for choosing. */
  readonly example: string;
  readonly countFullBar: (bar: FullBar) => readonly CountWord[];
}

/** What a school sees: a whole bar, its pulse and its unit. */
export interface FullBar {
  readonly bar: Bar;
  readonly pulse: readonly PulseBeat[];
  readonly unitWholes: Fraction;
  readonly lengthWholes: Fraction;
}

/**
 * The words of a bar in a school. A pickup is counted as the end of its full bar, a cut bar as the beginning, so
 * that a count never runs on wrongly over a pickup, a half-bar or an ending.
 */
export function countBar(bar: Bar, school: CountSchool): readonly CountWord[] {
  const full = fullBarOf(bar);
  const words = school.countFullBar(full);
  if (!bar.partial) return words;
  const from = barStartInFullBar(bar);
  const to = add(from, barLength(bar));
  return words
    .filter((word) => compare(word.atWholes, from) >= 0 && compare(word.atWholes, to) < 0)
    .map((word) => ({ ...word, atWholes: subtract(word.atWholes, from) }));
}

function fullBarOf({ meter, pulse }: Bar): FullBar {
  const bar: Bar = { meter, ...(pulse && { pulse }), tempoMarks: [] };
  const unit = Math.max(...meter.parts.map((part) => part.unit));
  return { bar, pulse: pulseOf(bar), unitWholes: fraction(1, unit), lengthWholes: barLength(bar) };
}

/**
 * The count over several bars of rest: the bar's number stands in place of beat one ("1 2 3 4, 2 2 3 4").
 */
export function countRest(bars: readonly Bar[], school: CountSchool): ReadonlyArray<readonly CountWord[]> {
  return bars.map((bar, index) => {
    const [first, ...rest] = countBar(bar, school);
    return first ? [{ ...first, word: String(index + 1), isMain: true }, ...rest] : [];
  });
}

/** Where slashes go in a printed part: one for each beat of the pulse. */
export function slashPositions(bar: Bar): readonly Fraction[] {
  return pulseOf(bar).map((beat) => beat.atWholes);
}

/** Positions of the parts of a beat, from the beat itself on. */
export function beatParts(beat: PulseBeat, parts: number): readonly Fraction[] {
  return Array.from({ length: parts }, (_, part) =>
    add(beat.atWholes, multiply(beat.lengthWholes, fraction(part, parts))),
  );
}
