import type { Fraction } from '../fraction/fraction.ts';
import { UNSTATED_TEMPO, type Piece } from '../piece/piece.ts';
import { rateAfterEquivalence, statedRate, type TempoMark } from './tempoMark.ts';

/** From `atWholes` in a written bar the music moves at `rate` whole notes per minute. */
export interface RateChange {
  readonly barIndex: number;
  readonly atWholes: Fraction;
  readonly rate: Fraction;
  /** False once a chain of equivalences has outgrown exact numbers and was rounded in the 15th digit. */
  readonly isExact: boolean;
}

/** Rates in written order. `atBar[i]` is the index in `changes` of what is in force at the start of bar i. */
export interface TempoMap {
  readonly changes: readonly RateChange[];
  readonly atBar: Int32Array;
}

/** Reads the tempo marks in written order (timing.md, Ramps: a bar sounds at the tempo where it is written). */
export function tempoMapOf(piece: Piece): TempoMap {
  const changes: RateChange[] = [
    { barIndex: 0, atWholes: { n: 0, d: 1 }, rate: statedRate(UNSTATED_TEMPO), isExact: true },
  ];
  const atBar = new Int32Array(piece.bars.length);
  piece.bars.forEach((bar, barIndex) => {
    atBar[barIndex] = changes.length - 1;
    for (const mark of bar.tempoMarks) {
      const change = changeAt(barIndex, mark, changes.at(-1) as RateChange);
      if (!change) continue;
      changes.push(change);
      if (mark.atWholes.n === 0) atBar[barIndex] = changes.length - 1;
    }
  });
  return { changes, atBar };
}

function changeAt(barIndex: number, mark: TempoMark, before: RateChange): RateChange | null {
  const { atWholes, equivalence, stated } = mark;
  if (equivalence) {
    const after = rateAfterEquivalence(before.rate, equivalence);
    return { barIndex, atWholes, rate: after.value, isExact: before.isExact && after.isExact };
  }
  return stated ? { barIndex, atWholes, rate: statedRate(stated), isExact: true } : null;
}

/** The rate in force at the start of a written bar, in whole notes per minute. */
export function rateAtBar(map: TempoMap, barIndex: number): Fraction {
  const change = map.changes[map.atBar[barIndex] ?? 0];
  if (!change) throw new RangeError(`the tempo map has no bar ${barIndex}`);
  return change.rate;
}
