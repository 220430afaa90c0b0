import { QUIET_LEVEL } from '@anchorbeat/audio';
import { PLAIN_RUN, type BarMoment, type RunSettings } from '@anchorbeat/core';
import { createSlice, isAnyOf, type PayloadAction } from '@reduxjs/toolkit';
import { edited, opened, redone, undone } from './pieceSlice.ts';

/** What is sounding, beat by beat. The audio itself never enters the store. */
export interface TransportState {
  readonly status: 'stopped' | 'starting' | 'countOff' | 'running';
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
  /** How runs are wanted; it lasts from one run to the next. */
  readonly settings: RunSettings;
  /** When a change made while it sounds takes effect. */
  readonly takesEffect: 'beat' | 'bar';
}

const initialState: TransportState = {
  status: 'stopped',
  entryPerformed: 0,
  performed: 0,
  beatIndex: 0,
  waits: null,
  level: QUIET_LEVEL,
  isMuted: false,
  settings: PLAIN_RUN,
  takesEffect: 'beat',
};

export const transportSlice = createSlice({
  name: 'transport',
  initialState,
  reducers: {
    starting: (state, { payload }: PayloadAction<{ readonly performed: number }>) => {
      state.status = 'starting';
      state.entryPerformed = payload.performed;
      state.performed = payload.performed;
      state.beatIndex = 0;
      state.waits = null;
    },
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
    stopped: (state) => {
      state.status = 'stopped';
      state.waits = null;
    },
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
    takesEffectToggled: (state) => {
      state.takesEffect = state.takesEffect === 'beat' ? 'bar' : 'beat';
    },
  },
  extraReducers: (builder) => {
    builder.addMatcher(isAnyOf(opened, edited, undone, redone), (state) => {
      if (state.settings.loop) state.settings = { ...state.settings, loop: null };
    });
  },
});

export const {
  starting,
  countOffBeat,
  barBeat,
  stopped,
  levelSet,
  muteToggled,
  settingsChanged,
  takesEffectToggled,
} = transportSlice.actions;
