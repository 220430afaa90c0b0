import type { Proof } from '../proof/proof.ts';
import { clicksIn, type RunWindow } from './clicksIn.ts';
import type { RunClick, RunPlan } from './runPlan.ts';

/** What a player asks for: the sounds of any window, and when it is over. Windows that meet lose and double nothing. */
export interface RunSounds {
  readonly clicksIn: (window: RunWindow) => readonly RunClick[];
  /** Infinite where it waits for a cue or goes round without end. */
  readonly lengthSeconds: number;
}

/** The sounds of a run. */
export function soundsOf(proof: Proof, plan: RunPlan): RunSounds {
  return { clicksIn: (window) => clicksIn(proof, plan, window), lengthSeconds: plan.lengthSeconds };
}

/** Sounds that were worked out one by one, in order of time. */
export function listedSounds(clicks: readonly RunClick[], lengthSeconds: number): RunSounds {
  return {
    clicksIn: ({ fromSeconds, toSeconds }) =>
      clicks.filter(({ timeSeconds }) => timeSeconds >= fromSeconds && timeSeconds < toSeconds),
    lengthSeconds,
  };
}
