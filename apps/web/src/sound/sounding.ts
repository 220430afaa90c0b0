import {
  barName,
  barsPlace,
  heardBars,
  printedBpmMaybe,
  type Proof,
  type RoomRun,
  type RunMoment,
  type RunPlan,
  type RunSaying,
  type RunSettings,
  type RunState,
} from '@anchorbeat/core';
import type { WantedRun } from '../room/directorRoom.ts';
import type { RunEnd, RunInfo, RunSubject } from '../store/transportSlice.ts';

/** What is to be run, how it is wanted where not as runs of the piece are, and what is said before its count-off. */
export interface RunWish {
  readonly subject: RunSubject;
  readonly settings?: RunSettings;
  readonly call?: string | null;
}

/** The rehearsal's room, where one is open: runs of the piece and drills are then everybody's. */
export interface RunRoom {
  readonly isOpen: boolean;
  readonly run: RoomRun | null;
  readonly serverNowMs: () => number;
  readonly pageMsAt: (serverMs: number) => number;
  readonly serverMsAt: (pageMs: number) => number;
  readonly start: (wanted: WantedRun) => Promise<RoomRun>;
  readonly sayTo: (runId: string, known: number, saying: RunSaying) => Promise<void>;
  readonly subscribe: (tell: () => void) => () => void;
}

/** Something went wrong between this page and its room, in words for the director. */
export type TellTrouble = (words: string) => void;

/** The run that sounds. */
export interface Sounding {
  readonly info: RunInfo;
  readonly proof: Proof;
  readonly performed: number;
  state: RunState;
  /** The run as the room has it; null where it is this page's alone. */
  room: RoomRun | null;
  /** What somebody played along, in seconds of the run; null where nobody was going to. */
  readonly onsets: number[] | null;
}

/** What was played along with a run that has ended. */
export interface PlayedTake {
  readonly info: RunInfo;
  readonly proof: Proof;
  readonly plan: RunPlan;
  readonly onsets: readonly number[];
}

/** Runs of the piece and drills are everybody's; what is made up for practice stays on this page. */
export function isEverybodys({ kind }: RunSubject): boolean {
  return kind === 'piece' || kind === 'drill';
}

/** What is run, for those who look at their stands. */
export function titleOf(subject: RunSubject, { compiled }: Proof, performed: number): string {
  const name = barName(compiled.labels, compiled.timeline.route.barIndex[performed] ?? 0);
  if (subject.kind !== 'drill') return `from ${name}`;
  const { place } = subject;
  return place.kind === 'seam'
    ? `into ${barName(compiled.labels, place.barIndex)}`
    : `${place.bars} bars from ${name}`;
}

/** A refusal of the room, in its own words. */
export class RoomTrouble extends Error {}

export const NOTHING_HEARD: RunEnd = { wholeBars: 0, place: null, bpm: null, lengthSeconds: 0 };

export function planOf({ state }: Sounding): RunPlan {
  if (!state.plan) throw new Error('the run that sounds has not been started');
  return state.plan;
}

/** What was heard of a run up to a moment of it. */
export function endOf({ proof, state }: Sounding, runSeconds: number): RunEnd {
  if (!state.plan) return NOTHING_HEARD;
  const { wholeBars, barIndex, bars } = heardBars(proof, state.plan, runSeconds);
  const place = barIndex === null ? null : barsPlace(proof.compiled, barIndex, bars);
  const printed = place && printedBpmMaybe(proof, place);
  const bpm = printed === null ? null : Math.round(printed * state.settings.percent) / 100;
  return {
    wholeBars,
    place,
    bpm,
    lengthSeconds: Math.max(0, Math.min(runSeconds, state.plan.lengthSeconds)),
  };
}

export function beatKey(moment: RunMoment): string {
  return moment.phase === 'countOff'
    ? `count ${moment.beatIndex}`
    : `bar ${moment.performed} ${moment.beatIndex} ${moment.waits ?? ''}`;
}
