import { writtenBar, writtenIndex, type Proof } from '../proof/proof.ts';
import { pulseOf } from '../pulse/pulse.ts';
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
  const toSeconds = Math.min(runSeconds, plan.lengthSeconds);
  const written = new Set<number>();
  let [wholeBars, entry, hasBegun] = [0, -1, false];
  for (const beat of beatsIn(proof, plan, { fromSeconds: -Infinity, toSeconds })) {
    if (beat.kind !== 'music') continue;
    if (beat.beatIndex === 0) hasBegun = true;
    const isLast = beat.beatIndex === pulseOf(writtenBar(proof, beat.performed)).length - 1;
    if (!isLast || !hasBegun || beat.runSeconds + beat.lengthSeconds > toSeconds + LENIENCE_SECONDS) continue;
    hasBegun = false;
    wholeBars++;
    if (entry < 0) entry = writtenIndex(proof, beat.performed);
    written.add(beat.barIndex);
  }
  if (entry < 0) return { wholeBars: 0, barIndex: null, bars: 0 };
  let [from, to] = [entry, entry + 1];
  while (written.has(from - 1)) from--;
  while (written.has(to)) to++;
  return { wholeBars, barIndex: from, bars: to - from };
}
