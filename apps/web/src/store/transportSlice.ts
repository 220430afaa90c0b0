import { QUIET_LEVEL } from '@anchorbeat/audio';
import {
  PLAIN_RUN,
  type BarMoment,
  type PlayedChoice,
  type TakeRecord,
  type DrillPlace,
  type DrillWay,
  type Habit,
  type Mark,
  type RunSettings,
} from '@anchorbeat/core';
import type { RunResponse } from '@anchorbeat/contract';
import { createSlice, isAnyOf, type PayloadAction } from '@reduxjs/toolkit';
import { edited, merged, opened, redone, renewed, undone } from './pieceSlice.ts';

/** A place of the piece that is drilled, and what the log says of it besides. */
export interface DrillSubject {
  readonly kind: 'drill';
  readonly place: DrillPlace;
  readonly way: DrillWay;
  readonly percent: number;
  readonly goalPercent: number;
  /** Beats a minute at the place; null where it has none. */
  readonly bpm: number | null;
  readonly sections: readonly string[];
  readonly ratingBefore: number | null;
}

/** What is run: the piece from some bar on, a drill, a piece made up for practice, or two tempi that meet. */
export type RunSubject =
  | DrillSubject
  | { readonly kind: 'piece' }
  /** The piece, played along by simulated sections: tried out, and not logged. */
  | { readonly kind: 'tried' }
  | { readonly kind: 'exercise' }
  | { readonly kind: 'audition' };

/** A run, from its count-off until it stops. */
export interface RunInfo {
  readonly id: string;
  /** The open piece; null where it belongs to none. */
  readonly pieceId: string | null;
  readonly subject: RunSubject;
  /** As it is wanted now. */
  readonly settings: RunSettings;
  readonly startedAtMs: number;
  /** Another page of the rehearsal started it, and logs it. */
  readonly isJoined: boolean;
  /** What the director said of it while it sounded. */
  readonly mark: Mark | null;
}

/** What was heard of a run when it ended. */
export interface RunEnd {
  readonly wholeBars: number;
  /** Where it was in the piece; null where no bar was heard whole. */
  readonly place: DrillPlace | null;
  /** Beats a minute at its entry. */
  readonly bpm: number | null;
  readonly lengthSeconds: number;
  /** It was heard to the end of its piece. */
  readonly isToEnd: boolean;
}

/** What was measured of the last run somebody played along with. */
export interface ToldTake {
  readonly runId: string;
  readonly pieceId: string;
  /** Of the printed tempo: what it was played at. */
  readonly percent: number;
  readonly take: TakeRecord;
  /** Nobody's: simulated sections played it. */
  readonly isSimulated: boolean;
}

/** A run as it went into the log. */
export interface LoggedRun {
  readonly pieceId: string;
  readonly run: RunResponse;
}

/** When something was drilled, for rests. Seconds. */
interface DrilledStretch {
  readonly startSeconds: number;
  readonly lengthSeconds: number;
}

/** What is running, beat by beat. The audio itself never enters the store. */
export interface TransportState {
  readonly status: 'stopped' | 'starting' | 'countOff' | 'running';
  /** The last run was one of the piece and was heard to the piece's end; false while one sounds. */
  readonly cameToEnd: boolean;
  readonly run: RunInfo | null;
  /** The last run that went into the log; what is said of it afterwards changes it there. */
  readonly lastLogged: LoggedRun | null;
  readonly drilled: readonly DrilledStretch[];
  /** What is played along with runs, on a key, a pad or the screen; null where nobody does. */
  readonly playsAlong: PlayedChoice | null;
  /** What simulated sections do that play along with runs at the podium; null where there are none. */
  readonly triedHabit: Habit | null;
  /** How often it was tapped in the run that sounds. */
  readonly taps: number;
  /** The take that is looked at; null where none is. */
  readonly toldTake: ToldTake | null;
  /** The performed bar this run was counted into. */
  readonly entryPerformed: number;
  /** The performed bar and the beat being heard; during the count-off, the beat of the count-off. */
  readonly performed: number;
  readonly beatIndex: number;
  /** The music stands still: until a cue, or for the beat of preparation after it. */
  readonly waits: BarMoment['waits'];
  /** Loudness of the click, 0 to 1. */
  readonly level: number;
  readonly isMuted: boolean;
  /** How runs of the piece are wanted; it lasts from one run to the next. */
  readonly settings: RunSettings;
  /** When a change made while it sounds takes effect. */
  readonly takesEffect: 'beat' | 'bar';
}

/** How the run that sounds is wanted, by whoever leads it; while none does, the next one of this page. */
export function settingsNow({ run, settings }: Pick<TransportState, 'run' | 'settings'>): RunSettings {
  return run?.settings ?? settings;
}

const initialState: TransportState = {
  status: 'stopped',
  cameToEnd: false,
  run: null,
  lastLogged: null,
  drilled: [],
  playsAlong: null,
  triedHabit: null,
  taps: 0,
  toldTake: null,
  entryPerformed: 0,
  performed: 0,
  beatIndex: 0,
  waits: null,
  level: QUIET_LEVEL,
  isMuted: false,
  settings: PLAIN_RUN,
  takesEffect: 'beat',
};

const MOST_DRILLED = 200;

/** Reducers replace what is large; nothing of it is copied deep. */
export const transportSlice = createSlice({
  name: 'transport',
  initialState: initialState,
  reducers: {
    runStarted: (
      state,
      { payload }: PayloadAction<{ readonly run: RunInfo; readonly performed: number }>,
    ): TransportState => ({
      ...(state as TransportState),
      status: payload.run.subject.kind === 'audition' ? 'running' : 'starting',
      cameToEnd: false,
      run: payload.run,
      entryPerformed: payload.performed,
      performed: payload.performed,
      beatIndex: 0,
      waits: null,
      taps: 0,
      toldTake: null,
    }),
    countOffBeat: (state, { payload }: PayloadAction<{ readonly beatIndex: number }>) => {
      state.status = 'countOff';
      state.beatIndex = payload.beatIndex;
    },
    barBeat: (state, { payload }: PayloadAction<Pick<BarMoment, 'performed' | 'beatIndex' | 'waits'>>) => {
      state.status = 'running';
      state.waits = payload.waits;
      state.performed = payload.performed;
      state.beatIndex = payload.beatIndex;
    },
    /** The run that sounds is wanted otherwise from now on. */
    runChanged: (state, { payload }: PayloadAction<RunSettings>): TransportState => {
      const { run, ...rest } = state as TransportState;
      return { ...rest, run: run && { ...run, settings: payload } };
    },
    /** A mark for the run that sounds; it goes into the log with it. */
    runMarked: (state, { payload }: PayloadAction<Mark>): TransportState => {
      const { run, ...rest } = state as TransportState;
      return { ...rest, run: run && { ...run, mark: payload } };
    },
    runEnded: (state, { payload }: PayloadAction<RunEnd>): TransportState => {
      const before = state as TransportState;
      const drilled = {
        startSeconds: (before.run?.startedAtMs ?? 0) / 1000,
        lengthSeconds: payload.lengthSeconds,
      };
      return {
        ...before,
        status: 'stopped',
        cameToEnd: payload.isToEnd && before.run?.subject.kind === 'piece',
        run: null,
        waits: null,
        drilled:
          before.run?.subject.kind === 'drill'
            ? [...before.drilled.slice(1 - MOST_DRILLED), drilled]
            : before.drilled,
      };
    },
    runLogged: (state, { payload }: PayloadAction<LoggedRun>): TransportState => ({
      ...(state as TransportState),
      lastLogged: payload,
    }),
    /** The last run was logged by another page: that is what is changed from now on. */
    runTakenOver: (state, { payload }: PayloadAction<LoggedRun>): TransportState => {
      const { lastLogged, ...rest } = state as TransportState;
      return { ...rest, lastLogged: lastLogged?.run.id === payload.run.id ? payload : lastLogged };
    },
    playsAlongSet: (state, { payload }: PayloadAction<PlayedChoice | null>) => {
      state.playsAlong = payload;
    },
    triedHabitSet: (state, { payload }: PayloadAction<Habit | null>) => {
      state.triedHabit = payload;
    },
    tapped: (state) => {
      state.taps += 1;
    },
    takeTold: (state, { payload }: PayloadAction<ToldTake | null>): TransportState => ({
      ...(state as TransportState),
      toldTake: payload,
    }),
    levelSet: (state, { payload }: PayloadAction<number>) => {
      state.level = payload;
    },
    muteToggled: (state) => {
      state.isMuted = !state.isMuted;
    },
    settingsChanged: (state, { payload }: PayloadAction<Partial<RunSettings>>) => ({
      ...state,
      settings: { ...state.settings, ...payload },
    }),
    /** The performed bars have moved since the last run: it stopped where its bar is now, else at what comes after it. */
    stopFollowed: (state, { payload: moved }: PayloadAction<readonly (number | null)[]>) => {
      state.performed = moved.slice(state.performed).find((is) => is !== null) ?? 0;
    },
    takesEffectToggled: (state) => {
      state.takesEffect = state.takesEffect === 'beat' ? 'bar' : 'beat';
    },
  },
  extraReducers: (builder) => {
    // Where a run of another piece stopped is no place in this one.
    builder.addCase(opened, (state) => {
      if (state.run === null) state.performed = 0;
    });
    builder.addMatcher(isAnyOf(opened, edited, undone, redone, merged, renewed), (state) => {
      if (state.settings.loop) state.settings = { ...state.settings, loop: null };
      // It was of the piece as it was; the log has it.
      state.toldTake = null;
    });
  },
});

export const {
  runStarted,
  countOffBeat,
  barBeat,
  runChanged,
  runMarked,
  runEnded,
  runLogged,
  runTakenOver,
  levelSet,
  playsAlongSet,
  triedHabitSet,
  takeTold,
  tapped,
  muteToggled,
  settingsChanged,
  stopFollowed,
  takesEffectToggled,
} = transportSlice.actions;
