import type { BarsMoved } from '@anchorbeat/core';
import { createSlice, type PayloadAction } from '@reduxjs/toolkit';
import { opened } from './pieceSlice.ts';

/** What can stand beside the line. */
export type PanelKind = 'words' | 'table' | 'checks' | 'history' | 'about' | 'countOff';

/** Where the director stands in the piece, and what is open beside it. Written bars, by index. */
interface MapState {
  readonly anchorBar: number;
  readonly focusBar: number;
  readonly panel: PanelKind | null;
}

const initialState: MapState = {
  anchorBar: 0,
  focusBar: 0,
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
    /** The bars have moved: what is chosen goes with them, to what stands there now where they are gone. */
    barsFollowed: (state, { payload: moved }: PayloadAction<BarsMoved>) => {
      const nowOf = (bar: number) =>
        moved[bar] ?? moved.slice(bar).find((is) => is !== null) ?? moved.findLast((is) => is !== null) ?? 0;
      state.anchorBar = nowOf(state.anchorBar);
      state.focusBar = nowOf(state.focusBar);
    },
    panelOpened: (state, { payload }: PayloadAction<PanelKind>) => {
      state.panel = payload;
    },
    panelClosed: (state) => {
      state.panel = null;
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

export const { barsFollowed, barSelected, panelClosed, panelOpened, spanSelected } = mapSlice.actions;
