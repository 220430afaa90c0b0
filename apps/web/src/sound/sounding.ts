import {
  barName,
  barsPlace,
  heardBars,
  howMany,
  isHeardToEnd,
  printedBpmMaybe,
  simulatedSections,
  soundsOf,
  soundsWithSections,
  type Proof,
  type RoomRun,
  type RunMoment,
  type RunPlan,
  type RunSaying,
  type RunSettings,
  type RunSounds,
  type RunState,
  type SectionsWish,
} from '@anchorbeat/core';
import type { WantedRun } from '../room/directorRoom.ts';
import type { PlaybackPorts } from './ports.ts';
import type { OpenPiece } from '../store/pieceSlice.ts';
import type { RunEnd, RunInfo, RunSubject, TransportState } from '../store/transportSlice.ts';

/** What is to be run, how it is wanted where not as runs of the piece are, and what is said before its count-off. */
export interface RunWish {
  readonly subject: RunSubject;
  readonly settings?: RunSettings;
  readonly call?: string | null;
}

/** The rehearsal's room, where one is open: runs of the piece and drills are then everybody's. */
export interface RunRoom {
  readonly isOpen: boolean;
  /** Resolves once it is known whether it is, where a page was only just loaded; at once otherwise. */
  readonly untilEntered: () => Promise<void>;
  readonly knowsClock: boolean;
  /** Resolves once it does, or where there is nobody to ask. */
  readonly untilClockKnown: () => Promise<void>;
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
  /** What was said to it there and is not answered yet, in the order in which it was said. */
  readonly unanswered: Set<Partial<RunSettings>>;
  /** What somebody played along, in seconds of the run; null where nobody was going to. */
  readonly onsets: number[] | null;
  /** Simulated sections that play along; null where there are none. */
  readonly tried: SectionsWish | null;
}

/** What was played along with a run that has ended. */
export interface PlayedTake {
  readonly info: RunInfo;
  readonly proof: Proof;
  readonly plan: RunPlan;
  readonly onsets: readonly number[];
  readonly isSimulated: boolean;
}

/** Runs of the piece and drills are everybody's; what is made up for practice stays on this page. */
export function isEverybodys({ kind }: RunSubject): boolean {
  return kind === 'piece' || kind === 'drill';
}

/** Whether a run of a room is a proof's: of the piece that is open, at the revision that it is without anything unsaved. */
export function isRunOf(run: RoomRun, open: OpenPiece | null, { piece }: Proof): open is OpenPiece {
  if (run.pieceId !== open?.id || run.revision !== open.revision) return false;
  return open.present === piece && open.unsavedEdits.length === 0;
}

/** What is run, for those who look at their stands. */
export function titleOf(subject: RunSubject, { compiled }: Proof, performed: number): string {
  const name = barName(compiled.labels, compiled.timeline.route.barIndex[performed] ?? 0);
  if (subject.kind !== 'drill') return `from ${name}`;
  const { place } = subject;
  return place.kind === 'seam'
    ? `into ${barName(compiled.labels, place.barIndex)}`
    : `${howMany(place.bars, 'bar')} from ${name}`;
}

/** A refusal of the room, in its own words. */
export class RoomTrouble extends Error {}

export const NOTHING_HEARD: RunEnd = {
  wholeBars: 0,
  place: null,
  bpm: null,
  lengthSeconds: 0,
  isToEnd: false,
};

export function planOf({ state }: Sounding): RunPlan {
  if (!state.plan) throw new Error('the run that sounds has not been started');
  return state.plan;
}

/** A run that begins now, of the open piece where there is one. */
export function infoOf(
  { newId, nowMs }: Pick<PlaybackPorts, 'newId' | 'nowMs'>,
  open: { readonly id: string } | null,
  subject: RunSubject,
  settings: RunSettings,
): RunInfo {
  const pieceId = open?.id ?? null;
  return { id: newId(), pieceId, subject, settings, startedAtMs: nowMs(), isJoined: false, mark: null };
}

const MOST_SEED = 2 ** 24;

/** Who plays along with a run: somebody, whose onsets are kept, and simulated sections, other ones every time. */
export function alongOf(
  { subject, startedAtMs }: RunInfo,
  { playsAlong, triedHabit }: Pick<TransportState, 'playsAlong' | 'triedHabit'>,
): Pick<Sounding, 'onsets' | 'tried'> {
  const isTried = subject.kind === 'tried' && triedHabit !== null;
  return {
    onsets: playsAlong === null ? null : [],
    tried: isTried ? { habit: triedHabit, seed: startedAtMs % MOST_SEED, play: playsAlong ?? 'pulse' } : null,
  };
}

/** A run as it begins: this page's alone, with nobody who plays along, where nothing else is said. */
export function soundingOf(
  run: Pick<Sounding, 'info' | 'proof' | 'performed' | 'state'> & Partial<Sounding>,
): Sounding {
  return { room: null, onsets: null, tried: null, unanswered: new Set(), ...run };
}

/** How a run is wanted, with what is not answered yet as if it held. */
export function wantedOf({ state, unanswered }: Pick<Sounding, 'state' | 'unanswered'>): RunSettings {
  return Object.assign({}, state.settings, ...unanswered) as RunSettings;
}

/** Those settings that a change names. */
export function settingsNamed(settings: RunSettings, change: Partial<RunSettings>): Partial<RunSettings> {
  return Object.fromEntries(Object.entries(settings).filter(([name]) => name in change));
}

/** All that sounds of a run: its clicks, and whoever plays along with them. */
export function heardOf(sounding: Sounding): RunSounds {
  const { proof, tried } = sounding;
  const plan = planOf(sounding);
  const sounds = soundsOf(proof, plan);
  return tried ? soundsWithSections(sounds, simulatedSections(proof, plan, tried)) : sounds;
}

/** What was played along with a run up to a moment of it, by somebody or else by the first simulated section. */
export function takeOfMaybe(sounding: Sounding, runSeconds: number): PlayedTake | null {
  const { info, proof, state, onsets, tried } = sounding;
  if (!state.plan) return null;
  const taken = { info, proof, plan: state.plan };
  if (onsets && onsets.length > 0) return { ...taken, onsets, isSimulated: false };
  const [first] = tried ? simulatedSections(proof, state.plan, tried) : [];
  const heard = first?.onsets.filter((seconds) => seconds < runSeconds) ?? [];
  return heard.length > 0 ? { ...taken, onsets: heard, isSimulated: true } : null;
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
    isToEnd: isHeardToEnd(proof, state.plan, runSeconds),
  };
}

export function beatKey(moment: RunMoment): string {
  return moment.phase === 'countOff'
    ? `count ${moment.beatIndex}`
    : `bar ${moment.performed} ${moment.beatIndex} ${moment.waits ?? ''}`;
}

/** A change takes effect at the first beat or bar that is farther off than this: nearer ones may have begun to sound. */
export const CHANGE_LEAD_SECONDS = 0.06;
/** No change waits for longer. */
const MOST_LEAD_SECONDS = 1;

/** Says something from a moment on that is soon; where the cores are busy it may take so long to work out that it is a later one. */
export function sayInTime(
  isSaid: (leadSeconds: number, how: { readonly mayBeLate: boolean }) => boolean,
): void {
  let lead = CHANGE_LEAD_SECONDS;
  while (!isSaid(lead, { mayBeLate: lead > MOST_LEAD_SECONDS })) lead *= 3;
}
