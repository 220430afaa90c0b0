import type { Proof } from '../proof/proof.ts';
import type { RunPlan } from '../run/runPlan.ts';
import { askedOf, type ExpectedOnset } from './expected.ts';
import { Listener } from './listener.ts';
import type { Explanation, PlayedChoice } from './names.ts';
import { USUAL_CARRIED } from './surprise.ts';
import { PRIOR_SPREAD } from './whereabouts.ts';

/** A take: onsets in seconds of the run, from its first count-off click, and what was asked for. */
export interface Take {
  readonly onsets: readonly number[];
  readonly play: PlayedChoice;
}

/** What was done at a seam, and how sure that is. */
export interface SeamVerdict {
  readonly performed: number;
  /** Index of the first asked onset from its anchor on. */
  readonly atOnset: number;
  readonly explanation: Explanation;
  readonly probability: number;
  /** How far off it came at most, in milliseconds: late above zero. */
  readonly effectMs: number;
  readonly second: Explanation | null;
  readonly secondProbability: number;
}

/** How one onset that was asked for was played. */
export interface PlayedOnset {
  readonly asked: ExpectedOnset;
  /** Late above zero, the player's own constant taken away; null where it was left out. */
  readonly offMs: number | null;
}

export interface TakeAnalysis {
  /** What device and person add to every onset, in milliseconds. */
  readonly constantMs: number;
  /** Standard deviation where nothing went wrong, in milliseconds. */
  readonly spreadMs: number;
  /** Of how far off an onset is, what is brought along to the next, from 0 to 1: people bring themselves back by and by. */
  readonly carriedShare: number;
  /** How much later each bar comes than the one before it, over the whole take. */
  readonly driftMsPerBar: number;
  readonly matched: number;
  readonly missing: number;
  readonly extra: number;
  readonly onsets: readonly PlayedOnset[];
  readonly seams: readonly SeamVerdict[];
}

/** What was played, held against what was asked for: seam by seam, each from where the player stood before it. */
export function analysedTake(proof: Proof, plan: RunPlan, { onsets: given, play }: Take): TakeAnalysis {
  const onsets = [...given].filter(Number.isFinite).sort((a, b) => a - b);
  const asked = askedOf(proof, plan, play, (onsets.at(-1) ?? 0) + 1);
  const first = new Listener(proof, asked, onsets, PRIOR_SPREAD, USUAL_CARRIED).analysis();
  return new Listener(proof, asked, onsets, first.spreadMs / 1000, first.carriedShare).analysis();
}
