import { writtenBar, type Proof } from '../proof/proof.ts';
import {
  add,
  compare,
  equal,
  fraction,
  multiply,
  subtract,
  ZERO,
  type Fraction,
} from '../fraction/fraction.ts';
import { barLength, type Bar } from '../piece/piece.ts';
import { pulseOf } from '../pulse/pulse.ts';
import { seamIntoMaybe, type Seam } from '../seam/seam.ts';
import { noteValueLength } from '../value/noteValue.ts';

/** Equal notes by written length: the k-th of n at k/n of the bar (timing.md, Grids). The first is the downbeat itself. */
export function equalNotes(bar: Bar, count: number): readonly Fraction[] {
  const length = barLength(bar);
  return Array.from({ length: count - 1 }, (_, note) => multiply(length, fraction(note + 1, count)));
}

/**
 * Where the carry of a seam sounds in a performed bar, in whole notes from its barline: back from the anchor in the bar
 * before, on from it in the bar after. Beats of the pulse are left out: they have their click. A bar between two seams
 * leads to the second, unless the first is the one that is drilled.
 */
export function carryNotes(proof: Proof, performed: number, seamAt: number | null): readonly Fraction[] {
  const bar = writtenBar(proof, performed);
  const [into, out] = [
    wantedSeamMaybe(proof, performed, seamAt),
    wantedSeamMaybe(proof, performed + 1, seamAt),
  ];
  const notes = out?.carry
    ? stepsBack(barLength(bar), noteValueLength(out.carry.before))
    : into?.carry
      ? stepsOn(barLength(bar), noteValueLength(into.carry.after))
      : [];
  const beats = pulseOf(bar).map(({ atWholes }) => atWholes);
  return notes.filter((at) => !beats.some((beat) => equal(beat, at)));
}

function wantedSeamMaybe({ compiled }: Proof, performed: number, seamAt: number | null): Seam | null {
  return seamAt !== null && seamAt !== performed ? null : seamIntoMaybe(compiled.seams, performed);
}

function stepsOn(length: Fraction, step: Fraction): Fraction[] {
  const notes: Fraction[] = [];
  for (let at = ZERO; compare(at, length) < 0; at = add(at, step)) notes.push(at);
  return notes;
}

function stepsBack(length: Fraction, step: Fraction): Fraction[] {
  const notes: Fraction[] = [];
  for (let at = subtract(length, step); compare(at, ZERO) >= 0; at = subtract(at, step)) notes.unshift(at);
  return notes;
}
