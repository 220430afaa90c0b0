import { writtenBar, type Proof } from '../proof/proof.ts';
import { compare, equal, multiply, toNumber } from '../fraction/fraction.ts';
import { formatNumber } from '../fraction/text.ts';
import { feltBeats, type PulseBeat } from '../pulse/pulse.ts';
import { bpmOf } from '../tempo/tempoMark.ts';
import { noteValueOfLengthMaybe } from '../value/noteValue.ts';
import { noteNoun } from '../value/text.ts';
import { comparedBeats, SAME_BEAT, type SeamTurn } from './difficulty.ts';
import { landsTogether, type Seam } from './seam.ts';

/** What happens to the pulse at a seam, in a few words: "pulse stays", "eighth stays", "faster, 96 a minute". */
export function seamWords(proof: Proof, seam: Seam): string {
  const [barBefore, barAfter] = [writtenBar(proof, seam.performed - 1), writtenBar(proof, seam.performed)];
  const [beatsBefore, beatsAfter] = [feltBeats(barBefore), feltBeats(barAfter)];
  const turn = turnWords(seam);
  if (turn && !landsTogether(seam)) return turn;
  const { was: before, is: after } = comparedBeats({ ...seam, before: barBefore, after: barAfter });
  const timeBefore = multiply(before.lengthWholes, seam.rateAfter);
  const timeAfter = multiply(after.lengthWholes, seam.rateBefore);
  if (equal(timeBefore, timeAfter) && isEven(beatsBefore) && isEven(beatsAfter)) return 'pulse stays';
  if (equal(seam.rateBefore, seam.rateAfter)) {
    return seam.carry ? `${noteNoun(seam.carry.after)} stays` : 'nothing carries over';
  }
  if (equal(timeBefore, timeAfter)) return 'beat stays';
  const bpm = bpmOf(seam.rateAfter, after.lengthWholes);
  const value = noteValueOfLengthMaybe(after.lengthWholes);
  const direction = compare(timeAfter, timeBefore) < 0 ? 'faster' : 'slower';
  const beatRatio = toNumber(timeAfter) / toNumber(timeBefore);
  if (Math.abs(beatRatio - 1) < SAME_BEAT)
    return `the same beat, a little ${direction}, ${formatNumber(bpm)} a minute`;
  return `${direction}, ${value ? `${noteNoun(value)} ` : ''}${formatNumber(bpm)} a minute`;
}

const TURN_WORDS: Readonly<Record<SeamTurn, string>> = {
  ramp: 'the tempo begins to move',
  hold: 'a hold in the bar',
  'tempo inside': 'a new tempo inside the bar',
  'open repeat': 'again, until cued',
  jump: 'a jump',
};

/** What happens in the bar, in words; empty where nothing does. */
function turnWords({ changes }: Seam): string {
  return changes
    .flatMap((change) => (change in TURN_WORDS ? [TURN_WORDS[change as SeamTurn]] : []))
    .join(', ');
}

function isEven(beats: readonly PulseBeat[]): boolean {
  return beats.every((beat) => beats[0] && equal(beat.lengthWholes, beats[0].lengthWholes));
}
