import type { Fraction } from '../fraction/fraction.ts';
import { barLength } from '../piece/piece.ts';
import { accepted } from '../problem/problem.ts';
import type { Rhythm } from '../rhythm/rhythm.ts';
import { noteValue, noteValueOfLengthMaybe, NOTE_BASES } from '../value/noteValue.ts';
import { howMany } from '../words/howMany.ts';
import { barAt, spanName } from './bars.ts';
import type { EditKind } from './edit.ts';

/** Everybody rests in these bars: their notes become rests. */
export const restBars: EditKind<'restBars'> = (piece, { from, count }) => {
  const bars = [...piece.bars];
  for (let index = from; index < from + count; index++) {
    const bar = barAt(piece, index);
    bars[index] = { ...bar, rhythm: restOf(barLength(bar)) };
  }
  return accepted({
    piece: { ...piece, bars },
    says: `${howMany(count, 'bar')} of rest: ${spanName(piece, { from, count })}`,
  });
};

/** One rest where a single value fills the bar, else rests of its unit. */
function restOf(lengthWholes: Fraction): Rhythm {
  const whole = noteValueOfLengthMaybe(lengthWholes);
  if (whole) return [{ value: whole, isRest: true }];
  const base = NOTE_BASES[Math.log2(lengthWholes.d) + 1] ?? '64th';
  return Array.from({ length: lengthWholes.n }, () => ({ value: noteValue(base), isRest: true as const }));
}
