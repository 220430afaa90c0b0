import type { Proof } from '../proof/proof.ts';
import { countOffFor, type CountOff } from '../countoff/countOff.ts';
import { barStart, lastAtOrBefore } from '../timeline/query.ts';
import { SAME_MOMENT_SECONDS } from '../timeline/sameMoment.ts';
import type { RunBoundary } from './boundary.ts';
import { openRepeats, wayOut } from './openRepeats.ts';
import { entryAfter, stretchesIn, type RunCall, type RunPlan, type RunStretch } from './runPlan.ts';
import { RunPlanner } from './runPlanner.ts';
import { PLAIN_RUN, type RunSettings } from './settings.ts';

/** What a run begins with otherwise than by the piece's own settings. */
export interface RunOpening {
  readonly countOff?: CountOff;
  readonly call?: RunCall | null;
}

/** Plans a run that is counted into a performed bar and goes on to the end, round its loop, or to where it must wait. */
export function runFrom(
  proof: Proof,
  performed: number,
  settings: RunSettings = PLAIN_RUN,
  opening: RunOpening = {},
): RunPlan {
  const { timeline } = proof.compiled;
  const { countOff = countOffFor(proof.piece, timeline, performed), call = null } = opening;
  const entrySeconds = barStart(timeline, performed);
  const planner = new RunPlanner(proof, settings, {
    stretches: [],
    endless: null,
    call,
    countOff,
    entrySeconds,
    lengthSeconds: call?.lengthSeconds ?? 0,
    decided: [],
  });
  planner.countOff(countOff);
  planner.playFrom(entrySeconds);
  return planner.plan();
}

/** The same run up to a boundary, and from there on as it is wanted now. */
export function changedRun(
  proof: Proof,
  plan: RunPlan,
  settings: RunSettings,
  { stretch, atSeconds, runSeconds }: RunBoundary,
): RunPlan {
  const planner = new RunPlanner(proof, settings, upTo(plan, runSeconds));
  if (stretch.countOff && stretch.kind === 'countOff') {
    planner.countOff(stretch.countOff, atSeconds);
    planner.playFrom(entryAfter(plan, stretch));
  } else planner.playFrom(atSeconds);
  return planner.plan();
}

/**
 * Out of the open repeat that is going round, from a bar on: this pass becomes the last one, with its ending where there
 * is one. Null where nothing goes round.
 */
export function goneOnRunMaybe(
  proof: Proof,
  plan: RunPlan,
  settings: RunSettings,
  bar: RunBoundary,
): RunPlan | null {
  const { timeline } = proof.compiled;
  const performed = lastAtOrBefore(timeline.barStartSeconds, bar.atSeconds + SAME_MOMENT_SECONDS);
  const open = openRepeats(proof.piece, timeline.route).find(
    ({ round }) => performed >= round.from && performed < round.to && !plan.decided.includes(round.from),
  );
  if (!open) return null;
  const decided = { ...upTo(plan, bar.runSeconds), decided: [...plan.decided, open.round.from] };
  const planner = new RunPlanner(proof, settings, decided);
  planner.playFrom(barStart(timeline, wayOut(open, timeline.route, performed)));
  return planner.plan();
}

/**
 * A run that waits goes on: one beat of preparation from the cue, then the music. Null where nothing waits at that moment.
 */
export function cuedRunMaybe(
  proof: Proof,
  plan: RunPlan,
  settings: RunSettings,
  cueRunSeconds: number,
): RunPlan | null {
  const waiting = waitingMaybe(plan);
  if (!waiting || cueRunSeconds < waiting.runSeconds) return null;
  const planner = new RunPlanner(proof, settings, upTo(plan, cueRunSeconds));
  planner.cue(waiting.fromSeconds);
  planner.playFrom(waiting.fromSeconds, true);
  return planner.plan();
}

/** The stretch in which a run waits for a cue; null where it does not come to that. */
function waitingMaybe({ stretches }: RunPlan): RunStretch | null {
  const last = stretches.at(-1);
  return last?.kind === 'waiting' ? last : null;
}

/** The run ends at a moment. */
export function endedRun(plan: RunPlan, runSeconds: number): RunPlan {
  return upTo(plan, runSeconds);
}

function upTo(plan: RunPlan, runSeconds: number): RunPlan {
  const stretches = [...stretchesIn(plan, -Infinity, runSeconds)].map((stretch) => ({
    ...stretch,
    lengthSeconds: Math.min(stretch.lengthSeconds, runSeconds - stretch.runSeconds),
  }));
  return { ...plan, stretches, endless: null, lengthSeconds: runSeconds };
}
