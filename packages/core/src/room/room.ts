import { accepted, refused, type Result } from '../problem/problem.ts';
import { runCallMaybe } from '../run/runPlan.ts';
import type { RunCommand, RunSession } from '../run/session.ts';
import type { PlayedChoice } from '../take/names.ts';
import type { RunSettings } from '../run/settings.ts';
import type { Hearing } from './hearing.ts';

/** A run that a whole room follows: every device that has its revision makes the same plan of it. */
export interface RoomRun {
  readonly id: string;
  readonly pieceId: string;
  readonly revision: number;
  /** What is run, in words: "bars 12 to 15, the reeds' entry". */
  readonly title: string;
  /** The server's time of its first count-off click. */
  readonly startServerMs: number;
  readonly session: RunSession;
}

/** A piece that stands may keep, to practise alone at home. */
export interface SharedPiece {
  readonly pieceId: string;
  readonly revision: number;
  readonly title: string;
}

/** What a room is about at a moment: plain data, kept by the server and sent to whoever comes in. */
export interface RoomState {
  /** The piece that is worked on, and the revision every device holds of it. */
  readonly open: { readonly pieceId: string; readonly revision: number } | null;
  readonly run: RoomRun | null;
  /** What each section hears; one that is not named hears the pulse. */
  readonly hearings: Readonly<Record<string, Hearing>>;
  /** Sections that are to sound alone; null for all. */
  readonly alone: readonly string[] | null;
  readonly isMuted: boolean;
  /** The last words to each section, under its name. */
  readonly words: Readonly<Record<string, string>>;
  /** What each section is to do at home, a line each, under its name. */
  readonly handouts: Readonly<Record<string, readonly string[]>>;
  /** What is rehearsed next, for stands to look at between runs. */
  readonly next: string;
  readonly coDirectorsLead: boolean;
  /** What every stand taps along with the next runs; null where nobody does. */
  readonly playsAlong: PlayedChoice | null;
  /** What stands may take home. */
  readonly shared: readonly SharedPiece[];
}

export const EMPTY_ROOM: RoomState = {
  open: null,
  run: null,
  hearings: {},
  alone: null,
  isMuted: false,
  words: {},
  handouts: {},
  next: '',
  coDirectorsLead: false,
  playsAlong: null,
  shared: [],
};

/** What a director says to a run that goes on; the room gives it its moment. */
export type RunSaying =
  | { readonly kind: 'change'; readonly settings: Partial<RunSettings>; readonly every: 'beat' | 'bar' }
  | { readonly kind: 'cue' }
  | { readonly kind: 'goOn' }
  | { readonly kind: 'stopAtBarEnd' }
  | { readonly kind: 'stop' };

/** What a director does in a room. */
export type RoomAct =
  | { readonly kind: 'open'; readonly pieceId: string; readonly revision: number }
  | {
      readonly kind: 'start';
      readonly runId: string;
      readonly pieceId: string;
      readonly revision: number;
      readonly title: string;
      readonly settings: RunSettings;
      readonly performed: number;
      /** What is called before the count-off: "speak the count"; null where nothing is. */
      readonly call: string | null;
    }
  /** `known` is how many commands of the run whoever says this has seen: nobody steers what they do not see. */
  | { readonly kind: 'say'; readonly runId: string; readonly known: number; readonly saying: RunSaying }
  | { readonly kind: 'hear'; readonly section: string; readonly hearing: Hearing }
  | { readonly kind: 'alone'; readonly sections: readonly string[] | null }
  | { readonly kind: 'mute'; readonly isMuted: boolean }
  | { readonly kind: 'tell'; readonly sections: readonly string[]; readonly words: string }
  | { readonly kind: 'handOut'; readonly section: string; readonly lines: readonly string[] }
  | { readonly kind: 'share'; readonly pieces: readonly SharedPiece[] }
  | { readonly kind: 'next'; readonly title: string }
  | { readonly kind: 'letLead'; readonly coDirectorsLead: boolean }
  | { readonly kind: 'playAlong'; readonly play: PlayedChoice | null };

/** When an act reaches the room, and how long it takes to be everywhere; server milliseconds. */
export interface RoomMoment {
  readonly nowMs: number;
  readonly leadMs: number;
}

const LEAST_LEAD_MS = 400;
const MOST_LEAD_MS = 4000;
const MOST_COMMANDS = 2000;

/** How far ahead of its moment a command must be given, for stands with these round trips. */
export function leadMsFor(slowRoundTripsMs: readonly number[]): number {
  return Math.min(MOST_LEAD_MS, Math.max(LEAST_LEAD_MS, ...slowRoundTripsMs.map((trip) => 3 * trip)));
}

/** The room after an act; refused with a reason where it was meant for another state of it. */
export function roomAfter(room: RoomState, act: RoomAct, moment: RoomMoment): Result<RoomState> {
  switch (act.kind) {
    case 'open':
      return accepted({ ...room, open: { pieceId: act.pieceId, revision: act.revision } });
    case 'start':
      return accepted(started(room, act, moment));
    case 'say':
      return said(room, act, moment);
    case 'hear':
      return accepted({ ...room, hearings: { ...room.hearings, [act.section]: act.hearing } });
    case 'alone':
      return accepted({ ...room, alone: act.sections });
    case 'mute':
      return accepted({ ...room, isMuted: act.isMuted });
    case 'tell': {
      const told = Object.fromEntries(act.sections.map((section) => [section, act.words]));
      return accepted({ ...room, words: { ...room.words, ...told } });
    }
    case 'handOut':
      return accepted({ ...room, handouts: { ...room.handouts, [act.section]: act.lines } });
    case 'share':
      return accepted({ ...room, shared: act.pieces });
    case 'next':
      return accepted({ ...room, next: act.title });
    case 'letLead':
      return accepted({ ...room, coDirectorsLead: act.coDirectorsLead });
    case 'playAlong':
      return accepted({ ...room, playsAlong: act.play });
  }
}

function started(
  room: RoomState,
  { runId, pieceId, revision, title, settings, performed, call }: Extract<RoomAct, { kind: 'start' }>,
  { nowMs, leadMs }: RoomMoment,
): RoomState {
  const start: RunCommand = { kind: 'start', performed, call: runCallMaybe(call) };
  return {
    ...room,
    open: { pieceId, revision },
    run: {
      id: runId,
      pieceId,
      revision,
      title,
      startServerMs: nowMs + leadMs,
      session: { settings, commands: [start] },
    },
  };
}

function said(
  room: RoomState,
  { runId, known, saying }: Extract<RoomAct, { kind: 'say' }>,
  { nowMs, leadMs }: RoomMoment,
): Result<RoomState> {
  const { run } = room;
  if (run?.id !== runId) return refused('Another run has begun meanwhile; this was meant for the one before');
  const { commands } = run.session;
  if (saying.kind === 'stop') {
    return accepted(withCommand(room, run, commandOf(saying, (nowMs - run.startServerMs) / 1000)));
  }
  if (known !== commands.length)
    return refused('Somebody else has changed this run meanwhile; look again, and say it once more');
  if (commands.length >= MOST_COMMANDS) return refused('So much was said to this run already: start it anew');
  const afterSeconds = (nowMs + leadMs - run.startServerMs) / 1000;
  return accepted(withCommand(room, run, commandOf(saying, afterSeconds)));
}

/** What is said to a run as a command of its session, holding after a moment of it. */
export function commandOf(saying: RunSaying, afterSeconds: number): RunCommand {
  switch (saying.kind) {
    case 'change':
      return { kind: 'change', settings: saying.settings, at: { every: saying.every, afterSeconds } };
    case 'cue':
    case 'stop':
      return { kind: saying.kind, atSeconds: afterSeconds };
    case 'goOn':
    case 'stopAtBarEnd':
      return { kind: saying.kind, afterSeconds };
  }
}

function withCommand(room: RoomState, run: RoomRun, command: RunCommand): RoomState {
  const commands = [...run.session.commands, command];
  return { ...room, run: { ...run, session: { ...run.session, commands } } };
}

/** What a section's stands sound: nothing while all are muted, or while others sound alone. */
export function hearingOf({ hearings, alone, isMuted }: RoomState, section: string): Hearing {
  if (isMuted || (alone !== null && !alone.includes(section))) return 'nothing';
  return hearings[section] ?? 'pulse';
}
