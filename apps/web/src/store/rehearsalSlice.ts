import type { DateResponse } from '@anchorbeat/contract';
import type { PlanItem } from '@anchorbeat/core';
import { createSlice, type PayloadAction } from '@reduxjs/toolkit';

/** The rehearsal that is under way. Times are the page's clock. */
export interface RehearsalState {
  readonly dateId: string | null;
  readonly endsAtMs: number;
  /** What was done so far: kept here until the server has all of it. */
  readonly done: DateResponse['done'];
  readonly item: PlanItem | null;
  readonly itemStartedAtMs: number;
  /** What comes after it, as planned now. */
  readonly next: string | null;
}

const NONE: RehearsalState = {
  dateId: null,
  endsAtMs: 0,
  done: [],
  item: null,
  itemStartedAtMs: 0,
  next: null,
};

const KEY = 'anchorbeat.rehearsal';

/** A rehearsal goes on when its page is loaded again. */
function keptRehearsal(): RehearsalState {
  try {
    return { ...NONE, ...(JSON.parse(localStorage.getItem(KEY) ?? '{}') as Partial<RehearsalState>) };
  } catch {
    return NONE;
  }
}

export function keepRehearsal(state: RehearsalState): void {
  try {
    localStorage.setItem(KEY, JSON.stringify(state));
  } catch {
    // Without storage it only lasts as long as the page.
  }
}

export const rehearsalSlice = createSlice({
  name: 'rehearsal',
  initialState: keptRehearsal,
  reducers: {
    rehearsalBegun: (
      _state,
      { payload }: PayloadAction<Pick<RehearsalState, 'endsAtMs' | 'done'> & { readonly dateId: string }>,
    ): RehearsalState => ({ ...NONE, ...payload }),
    itemBegun: (
      state,
      {
        payload,
      }: PayloadAction<
        Pick<RehearsalState, 'item' | 'itemStartedAtMs' | 'next'> & Partial<Pick<RehearsalState, 'done'>>
      >,
    ): RehearsalState => ({ ...(state as RehearsalState), ...payload }),
    rehearsalEnded: () => NONE,
  },
});

export const { rehearsalBegun, itemBegun, rehearsalEnded } = rehearsalSlice.actions;
