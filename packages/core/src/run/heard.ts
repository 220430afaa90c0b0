import { writtenBar, writtenIndex, type Proof } from '../proof/proof.ts';
import { pulseOf } from '../pulse/pulse.ts';
import { performedCount } from '../timeline/query.ts';
import { beatsIn } from './beatsIn.ts';
import type { RunPlan } from './runPlan.ts';

/** What has been heard of a run: how many bars whole, and the written bars that lie together around its entry. */
export interface HeardBars {
  readonly wholeBars: number;
  /** The first of those written bars; null where no bar was heard whole. */
  readonly barIndex: number | null;
  /** How many there are. */
  readonly bars: number;
}

/** A beat may end so much after the moment that is looked at and yet be over: clocks are read, not exact. */
const LENIENCE_SECONDS = 0.05;

/** The bars that a run has been through from their first beat to the end of their last, up to a moment of it. */
export function heardBars(proof: Proof, plan: RunPlan, runSeconds: number): HeardBars {
  const heard = [...wholeBars(proof, plan, runSeconds)].map((performed) => writtenIndex(proof, performed));
  const [entry] = heard;
  if (entry === undefined) return { wholeBars: 0, barIndex: null, bars: 0 };
  const written = new Set(heard);
  let [from, to] = [entry, entry + 1];
  while (written.has(from - 1)) from--;
  while (written.has(to)) to++;
  return { wholeBars: heard.length, barIndex: from, bars: to - from };
}

/** Whether a run is over because the piece is: its last bar that is played today was heard whole. */
export function isHeardToEnd(proof: Proof, plan: RunPlan, runSeconds: number): boolean {
  if (runSeconds < plan.lengthSeconds) return false;
  const { leftOut = [] } = plan.stretches.at(-1)?.settings ?? {};
  let end = performedCount(proof.compiled.timeline) - 1;
  while (leftOut.some(({ from, to }) => from <= end && end < to)) end--;
  return [...wholeBars(proof, plan, runSeconds)].at(-1) === end;
}

/** The performed bars that a run has been through from their first beat to the end of their last, one after the other. */
function* wholeBars(proof: Proof, plan: RunPlan, runSeconds: number): Generator<number> {
  const toSeconds = Math.min(runSeconds, plan.lengthSeconds);
  let hasBegun = false;
  for (const beat of beatsIn(proof, plan, { fromSeconds: -Infinity, toSeconds })) {
    if (beat.kind !== 'music') continue;
    if (beat.beatIndex === 0) hasBegun = true;
    const isLast = beat.beatIndex === pulseOf(writtenBar(proof, beat.performed)).length - 1;
    if (!isLast || !hasBegun || beat.runSeconds + beat.lengthSeconds > toSeconds + LENIENCE_SECONDS) continue;
    hasBegun = false;
    yield beat.performed;
  }
}
