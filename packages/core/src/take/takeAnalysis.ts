import type { Proof } from '../proof/proof.ts';
import type { RunPlan } from '../run/runPlan.ts';
import { firstAtOrAfter } from '../timeline/query.ts';
import { askedOf, type Asked, type ExpectedOnset } from './expected.ts';
import { Listener } from './listener.ts';
import type { Explanation, PlayedChoice } from './names.ts';
import { SOMEBODY } from './person.ts';

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

/** Steadier than this nobody is taken to be: what they do at a seam would be too far off to be looked for. */
const STEADIEST_SECONDS = 0.01;
/** So many onsets tell how a person plays. */
const ONSETS_TO_KNOW = 300;

/** The first bars of a run and what was played in them: enough to know a person by. */
function beginningOf(asked: Asked, onsets: readonly number[]): readonly [Asked, readonly number[]] {
  const beyond = asked.onsets[ONSETS_TO_KNOW];
  if (!beyond) return [asked, onsets];
  const end = asked.bars.findLast(({ seconds }) => seconds <= beyond.seconds)?.seconds ?? Infinity;
  const isBefore = ({ seconds }: { readonly seconds: number }) => seconds < end;
  const inBeginning = { onsets: asked.onsets.filter(isBefore), bars: asked.bars.filter(isBefore) };
  return [inBeginning, onsets.slice(0, firstAtOrAfter(onsets, end))];
}

/** What was played, held against what was asked for: seam by seam, each from where the player stood before it. */
export function analysedTake(proof: Proof, plan: RunPlan, { onsets: given, play }: Take): TakeAnalysis {
  const onsets = [...given].filter(Number.isFinite).sort((a, b) => a - b);
  const asked = askedOf(proof, plan, play, (onsets.at(-1) ?? 0) + 1);
  const first = new Listener(proof, ...beginningOf(asked, onsets), SOMEBODY).analysis();
  const person = {
    spread: Math.max(STEADIEST_SECONDS, first.spreadMs / 1000),
    carried: first.carriedShare,
  };
  return new Listener(proof, asked, onsets, person).analysis();
}
