import {
  barsMovedIn,
  leftOutToggled,
  movedSpans,
  performedMoved,
  type PerformedSpan,
} from '@anchorbeat/core';
import { createListenerMiddleware, isAnyOf } from '@reduxjs/toolkit';
import { barsFollowed } from './mapSlice.ts';
import { edited, merged, redone, renewed, undone } from './pieceSlice.ts';
import type { AppDispatch, RootState } from './store.ts';
import { settingsChanged, stopFollowed } from './transportSlice.ts';

/** What says something of bars goes with them as the piece changes: what is chosen on the map, what is wished of a run. */
export const followedBars = createListenerMiddleware();

const startListening = followedBars.startListening.withTypes<RootState, AppDispatch>();

/** What somebody else changed moves nothing that is chosen here; whoever changes it here goes on with what they changed. */
startListening({
  matcher: isAnyOf(merged, renewed),
  effect: (_action, { getOriginalState, getState, dispatch }) => {
    const [was, is] = [getOriginalState().piece.open, getState().piece.open];
    const { anchorBar, focusBar } = getState().map;
    if (!was || !is || Math.max(anchorBar, focusBar) === 0) return;
    dispatch(barsFollowed(barsMovedIn(was.present, is.present)));
  },
});

startListening({
  matcher: isAnyOf(edited, undone, redone, merged, renewed),
  effect: (_action, { getOriginalState, getState, dispatch }) => {
    const [was, is] = [getOriginalState().piece.open, getState().piece.open];
    const { settings, performed, run } = getState().transport;
    const { clickSpans, leftOut } = settings;
    const hasSpans = clickSpans.length + leftOut.length > 0;
    if (!was || !is || was === is || !(hasSpans || (run === null && performed > 0))) return;
    const moved = performedMoved(was.present, is.present);
    if (run === null) dispatch(stopFollowed(moved));
    if (!hasSpans) return;
    const apart = movedSpans(leftOut, moved).reduce<readonly PerformedSpan[]>(
      (spans, span) =>
        spans.some(({ from, to }) => from <= span.from && span.to <= to)
          ? spans
          : leftOutToggled(spans, span),
      [],
    );
    dispatch(settingsChanged({ clickSpans: movedSpans(clickSpans, moved), leftOut: apart }));
  },
});
