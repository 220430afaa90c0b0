import type { TrueTo } from '@anchorbeat/core';
import { createSlice, type PayloadAction } from '@reduxjs/toolkit';
import { opened } from './pieceSlice.ts';

/** What can stand beside the line. */
export type PanelKind = 'words' | 'table' | 'checks' | 'history' | 'about' | 'countOff';

/** Where the director stands in the piece, and how the line is drawn. Written bars, by index. */
interface MapState {
  readonly anchorBar: number;
  readonly focusBar: number;
  readonly trueTo: TrueTo;
  readonly pixelsPerSecond: number;
  readonly panel: PanelKind | null;
}

const ZOOM_STEPS: readonly number[] = [12, 20, 32, 50, 75, 100, 140, 200, 300];

const initialState: MapState = {
  anchorBar: 0,
  focusBar: 0,
  trueTo: 'time',
  pixelsPerSecond: 100,
  panel: null,
};

export const mapSlice = createSlice({
  name: 'map',
  initialState,
  reducers: {
    barSelected: (
      state,
      { payload }: PayloadAction<{ readonly bar: number; readonly extends?: boolean }>,
    ) => {
      state.focusBar = payload.bar;
      if (!payload.extends) state.anchorBar = payload.bar;
    },
    spanSelected: (state, { payload }: PayloadAction<{ readonly from: number; readonly count: number }>) => {
      state.anchorBar = payload.from;
      state.focusBar = payload.from + payload.count - 1;
    },
    panelOpened: (state, { payload }: PayloadAction<PanelKind>) => {
      state.panel = payload;
    },
    panelClosed: (state) => {
      state.panel = null;
    },
    trueToToggled: (state) => {
      state.trueTo = state.trueTo === 'time' ? 'ink' : 'time';
    },
    zoomed: (state, { payload }: PayloadAction<{ readonly steps: number }>) => {
      const index = ZOOM_STEPS.indexOf(state.pixelsPerSecond) + payload.steps;
      state.pixelsPerSecond = ZOOM_STEPS[Math.min(Math.max(index, 0), ZOOM_STEPS.length - 1)] ?? 100;
    },
  },
  extraReducers: (builder) => {
    builder.addCase(opened, (state) => {
      state.anchorBar = 0;
      state.focusBar = 0;
      state.panel = null;
    });
  },
});

export const { barSelected, panelClosed, panelOpened, spanSelected, trueToToggled, zoomed } =
  mapSlice.actions;
