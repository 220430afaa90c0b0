import {
  analysedTake,
  paperRun,
  PLAIN_RUN,
  proofOf,
  simulatedTake,
  takeRecordOf,
  type Habit,
  type Piece,
  type TakeRecord,
} from '@anchorbeat/core';

const BARS_BEFORE = 5;
/** A few bars on either side of a seam. */
const PLAYED_SECONDS = 40;

/** What was measured when a simulated player with a habit played along over the seam before a written bar. */
export function demoTake(
  piece: Piece,
  { barIndex, percent, habit, seed }: { barIndex: number; percent: number; habit: Habit; seed: number },
): TakeRecord {
  const proof = proofOf(piece);
  const performed = proof.compiled.firstPerformed[barIndex] ?? 0;
  const plan = paperRun(proof, { ...PLAIN_RUN, percent }, Math.max(0, performed - BARS_BEFORE));
  const untilSeconds = Math.min(PLAYED_SECONDS, plan.lengthSeconds - 0.1);
  const { onsets } = simulatedTake(proof, plan, { habit, seed, untilSeconds, atPerformed: [performed] });
  return takeRecordOf(proof, 'pulse', analysedTake(proof, plan, { onsets, play: 'pulse' }));
}
