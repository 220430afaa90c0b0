import { divide, multiply, toNumber } from '../fraction/fraction.ts';
import { carriesNear } from '../seam/carry.ts';
import { noteValueLength, type NoteValue } from '../value/noteValue.ts';
import {
  bpmOf,
  rateAfterEquivalence,
  statedRate,
  type Equivalence,
  type StatedTempo,
} from '../tempo/tempoMark.ts';

/** An equivalence between two tempi, and what the new tempo is when it is taken exactly. */
export interface EquivalenceBetween extends Equivalence {
  readonly exact: StatedTempo;
  /** The wanted new tempo over the exact one, minus one: 0.02 is two percent faster than the equivalence gives. */
  readonly missRatio: number;
}

/** An equivalence farther off than this is heard as another tempo. */
const REACH = 0.06;
const MOST_OFFERED = 5;

/** The new tempo, told in `unit`, that an old tempo and an equivalence give: W₂ = W₁ × after / before. */
export function tempoAfter(old: StatedTempo, equivalence: Equivalence, unit: NoteValue): StatedTempo {
  const { value } = rateAfterEquivalence(statedRate(old), equivalence);
  return { unit, bpm: bpmOf(value, noteValueLength(unit)) };
}

/** The old tempo, told in `unit`, from which an equivalence leads to a new one. */
export function tempoBefore(next: StatedTempo, { before, after }: Equivalence, unit: NoteValue): StatedTempo {
  return tempoAfter(next, { before: after, after: before }, unit);
}

/** The equivalences that lead from one tempo to another: the exact one first, else the nearest, at most five. */
export function equivalencesBetween(old: StatedTempo, next: StatedTempo): readonly EquivalenceBetween[] {
  const ratio = divide(statedRate(old), statedRate(next));
  const pulses = { before: noteValueLength(old.unit), after: noteValueLength(next.unit) };
  return carriesNear(ratio, REACH, pulses)
    .slice(0, MOST_OFFERED)
    .map(({ before, after }) => {
      const exact = tempoAfter(old, { before, after }, next.unit);
      const missRatio = toNumber(divide(next.bpm, exact.bpm)) - 1;
      return { before, after, exact, missRatio };
    });
}

/** How long one note of a tempo lasts, in milliseconds. */
export function noteMilliseconds(tempo: StatedTempo, value: NoteValue): number {
  return 60_000 / toNumber(multiply(tempo.bpm, divide(noteValueLength(tempo.unit), noteValueLength(value))));
}
