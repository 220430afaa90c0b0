import { writtenBar, type Proof } from '../proof/proof.ts';
import { compare, equal, multiply } from '../fraction/fraction.ts';
import { formatNumber } from '../fraction/text.ts';
import { pulseOf, type PulseBeat } from '../pulse/pulse.ts';
import { bpmOf } from '../tempo/tempoMark.ts';
import { noteValueOfLengthMaybe } from '../value/noteValue.ts';
import { formatNoteValue } from '../value/text.ts';
import type { Seam } from './seam.ts';

/** What happens to the pulse at a seam, in a few words: "pulse stays", "eighth stays", "faster, 96 a minute". */
export function seamWords(proof: Proof, seam: Seam): string {
  const beatsBefore = pulseOf(writtenBar(proof, seam.performed - 1));
  const beatsAfter = pulseOf(writtenBar(proof, seam.performed));
  const [before, after] = [beatsBefore.at(-1), beatsAfter[0]];
  if (!before || !after) throw new RangeError('a bar without a pulse');
  const timeBefore = multiply(before.lengthWholes, seam.rateAfter);
  const timeAfter = multiply(after.lengthWholes, seam.rateBefore);
  if (equal(timeBefore, timeAfter) && isEven(beatsBefore) && isEven(beatsAfter)) return 'pulse stays';
  if (equal(seam.rateBefore, seam.rateAfter)) {
    return seam.carry ? `${formatNoteValue(seam.carry.after)} stays` : 'nothing carries over';
  }
  if (equal(timeBefore, timeAfter)) return 'beat stays';
  const bpm = bpmOf(seam.rateAfter, after.lengthWholes);
  const value = noteValueOfLengthMaybe(after.lengthWholes);
  const direction = compare(timeAfter, timeBefore) < 0 ? 'faster' : 'slower';
  return `${direction}, ${value ? `${formatNoteValue(value)} ` : ''}${formatNumber(bpm)} a minute`;
}

function isEven(beats: readonly PulseBeat[]): boolean {
  return beats.every((beat) => beats[0] && equal(beat.lengthWholes, beats[0].lengthWholes));
}
