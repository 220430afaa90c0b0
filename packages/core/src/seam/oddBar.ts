import { compare, equal, subtract, type Fraction } from '../fraction/fraction.ts';
import { barLength, type Piece } from '../piece/piece.ts';
import { pulseOf } from '../pulse/pulse.ts';
import { lengthWords } from '../value/text.ts';

/** A bar that misses its neighbours' length by less than a beat. Negative is short. */
export interface OddBar {
  readonly differenceWholes: Fraction;
  /** "one sixteenth short" */
  readonly words: string;
}

/** Compares a full bar with equally long neighbours on both sides; null where it is not odd. */
export function oddBarMaybe(piece: Piece, barIndex: number): OddBar | null {
  const [before, bar, after] = [piece.bars[barIndex - 1], piece.bars[barIndex], piece.bars[barIndex + 1]];
  if (!before || !bar || !after || before.partial || bar.partial || after.partial) return null;
  const prevailing = barLength(before);
  if (!equal(prevailing, barLength(after))) return null;
  const differenceWholes = subtract(barLength(bar), prevailing);
  const size = { n: Math.abs(differenceWholes.n), d: differenceWholes.d };
  const beat = pulseOf(before)[0]?.lengthWholes;
  if (size.n === 0 || !beat || compare(size, beat) >= 0) return null;
  return { differenceWholes, words: `${lengthWords(size)} ${differenceWholes.n < 0 ? 'short' : 'long'}` };
}
