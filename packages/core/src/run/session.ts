import type { Proof } from '../proof/proof.ts';
import { nextBoundaryMaybe } from './boundary.ts';
import { changedRun, cuedRunMaybe, endedRun, goneOnRunMaybe, runFrom } from './planRun.ts';
import type { RunCall, RunPlan } from './runPlan.ts';
import { PLAIN_RUN, type RunSettings } from './settings.ts';

/** When a command holds: at the first beat or bar that begins after a moment of the run. */
interface NextBoundary {
  readonly every: 'beat' | 'bar';
  readonly afterSeconds: number;
}

/**
 * What a director says to a run: plain data, so that it can be sent, kept and said again. Moments are seconds of the run,
 * from its first count-off click.
 */
export type RunCommand =
  /** Counts off a performed bar and runs on from there. The first command of a run, and said once. */
  | { readonly kind: 'start'; readonly performed: number; readonly call: RunCall | null }
  /** Tempo, loop, what clicks, how it fades, what is spoken: whatever is named is so from then on. */
  | { readonly kind: 'change'; readonly settings: Partial<RunSettings>; readonly at: NextBoundary }
  /** Out of a hold: one beat of preparation, then the music. */
  | { readonly kind: 'cue'; readonly atSeconds: number }
  /** Out of an open repeat, with the pass that begins or goes on at the next bar. */
  | { readonly kind: 'goOn'; readonly afterSeconds: number }
  | { readonly kind: 'stopAtBarEnd'; readonly afterSeconds: number }
  | { readonly kind: 'stop'; readonly atSeconds: number };

/** A run as a list: how it is wanted at first, and all that was said to it, in order. */
export interface RunSession {
  readonly settings: RunSettings;
  readonly commands: readonly RunCommand[];
}

/** A run after some of its commands. */
export interface RunState {
  readonly settings: RunSettings;
  /** Null before the start. */
  readonly plan: RunPlan | null;
  /** From this moment of the run the plan is another than before the last command that changed it. */
  readonly changedFromSeconds: number;
}

/** A run before anything was said to it. What a session of an earlier version does not say is plain. */
export function readyRun(wanted: Partial<RunSettings>): RunState {
  const settings = { ...PLAIN_RUN, ...wanted };
  return { settings, plan: null, changedFromSeconds: 0 };
}

/**
 * The run after one more command; the very same where there is nothing for it to do: a cue that nothing waits for, a
 * change after the end. Who replays the same commands over the same proof has the same plan to the last digit.
 */
export function runAfter(proof: Proof, state: RunState, command: RunCommand): RunState {
  const { plan, settings } = state;
  if (!plan) return command.kind === 'start' ? started(proof, state, command) : state;
  const taken = (next: RunPlan | null, fromSeconds: number, wanted = settings): RunState =>
    next ? { settings: wanted, plan: next, changedFromSeconds: fromSeconds } : state;
  switch (command.kind) {
    case 'start':
      return state;
    case 'change': {
      const wanted = { ...settings, ...command.settings };
      const boundary = nextBoundaryMaybe(proof, plan, command.at.afterSeconds, command.at.every);
      // Nothing is left to be beaten but a wait: what comes after the cue is as it is wanted now.
      if (!boundary) return { ...state, settings: wanted };
      return taken(changedRun(proof, plan, wanted, boundary), boundary.runSeconds, wanted);
    }
    case 'cue':
      return taken(cuedRunMaybe(proof, plan, settings, command.atSeconds), command.atSeconds);
    case 'goOn': {
      const bar = nextBoundaryMaybe(proof, plan, command.afterSeconds, 'bar');
      return bar ? taken(goneOnRunMaybe(proof, plan, settings, bar), bar.runSeconds) : state;
    }
    case 'stopAtBarEnd': {
      const bar = nextBoundaryMaybe(proof, plan, command.afterSeconds, 'bar');
      return bar ? taken(endedRun(plan, bar.runSeconds), bar.runSeconds) : state;
    }
    case 'stop':
      return command.atSeconds < plan.lengthSeconds
        ? taken(endedRun(plan, Math.max(0, command.atSeconds)), Math.max(0, command.atSeconds))
        : state;
  }
}

function started(
  proof: Proof,
  { settings }: RunState,
  { performed, call }: Extract<RunCommand, { kind: 'start' }>,
): RunState {
  return { settings, plan: runFrom(proof, performed, settings, { call }), changedFromSeconds: 0 };
}

/** The run after all its commands. */
export function runOf(proof: Proof, { settings, commands }: RunSession): RunState {
  return commands.reduce((state, command) => runAfter(proof, state, command), readyRun(settings));
}
