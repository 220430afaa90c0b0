import { QUIET_LEVEL } from '@anchorbeat/audio';
import { createSlice, type PayloadAction } from '@reduxjs/toolkit';

/** What is sounding, beat by beat. The audio itself never enters the store. */
export interface TransportState {
  readonly status: 'stopped' | 'starting' | 'countOff' | 'running';
  /** The performed bar this run was counted into. */
  readonly entryPerformed: number;
  /** The performed bar and the beat being heard; during the count-off, the beat of the count-off. */
  readonly performed: number;
  readonly beatIndex: number;
  /** Loudness of the click, 0 to 1. */
  readonly level: number;
}

const initialState: TransportState = {
  status: 'stopped',
  entryPerformed: 0,
  performed: 0,
  beatIndex: 0,
  level: QUIET_LEVEL,
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
    },
    countOffBeat: (state, { payload }: PayloadAction<{ readonly beatIndex: number }>) => {
      state.status = 'countOff';
      state.beatIndex = payload.beatIndex;
    },
    barBeat: (
      state,
      { payload }: PayloadAction<{ readonly performed: number; readonly beatIndex: number }>,
    ) => {
      state.status = 'running';
      state.performed = payload.performed;
      state.beatIndex = payload.beatIndex;
    },
    stopped: (state) => {
      state.status = 'stopped';
    },
    levelSet: (state, { payload }: PayloadAction<number>) => {
      state.level = payload;
    },
  },
});

export const { starting, countOffBeat, barBeat, stopped, levelSet } = transportSlice.actions;
