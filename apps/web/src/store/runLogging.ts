import type { RunResponse } from '@anchorbeat/contract';
import { createListenerMiddleware } from '@reduxjs/toolkit';
import { api } from './api.ts';
import { savedRevisionMaybe } from './pieceSlice.ts';
import { logRun, showLatest } from './runLog.ts';
import type { AppDispatch, RootState } from './store.ts';
import { runEnded, runLogged, type LoggedRun, type RunEnd, type RunInfo } from './transportSlice.ts';

/** Logs every run of the piece that got through a whole bar, or was marked, once, wherever it was started. */
export const runLogging = createListenerMiddleware();

const startListening = runLogging.startListening.withTypes<RootState, AppDispatch>();

startListening({
  actionCreator: runEnded,
  effect: ({ payload }, { getOriginalState, dispatch }) => {
    const { transport, piece } = getOriginalState();
    const { run } = transport;
    const revision = piece.open?.id === run?.pieceId ? savedRevisionMaybe(piece.open) : null;
    const logged = run && loggedRunMaybe(run, payload, revision);
    if (logged) keep(dispatch, logged, { onlyNew: run.isJoined });
  },
});

startListening({
  matcher: api.endpoints.listRuns.matchFulfilled,
  effect: ({ meta }, { getOriginalState, dispatch }) => {
    const pieceId = meta.arg.originalArgs;
    const asked = api.endpoints.listRuns.select(pieceId)(getOriginalState()).startedTimeStamp;
    showLatest(dispatch, pieceId, asked ?? 0);
  },
});

/** Changes what the log says of the last run: its mark, its note, how it went afterwards. False where there is none. */
export function amendLastRun(
  dispatch: AppDispatch,
  last: LoggedRun | null,
  changes: Partial<Pick<RunResponse, 'mark' | 'ratingAfter' | 'note' | 'take' | 'sectionTakes'>>,
): boolean {
  if (last) keep(dispatch, { ...last, run: { ...last.run, ...changes } });
  return last !== null;
}

function keep(dispatch: AppDispatch, logged: LoggedRun, how: { readonly onlyNew?: boolean } = {}): void {
  dispatch(runLogged(logged));
  logRun(dispatch, logged.pieceId, logged.run, how);
}

const MOST_SECONDS = 86_400;

/** What goes into the log of a run that has ended; null for one that never came to a bar's end, and for made-up pieces. */
function loggedRunMaybe(info: RunInfo, end: RunEnd, revision: number | null): LoggedRun | null {
  const { pieceId, subject, id, mark } = info;
  if (pieceId === null || (subject.kind !== 'drill' && subject.kind !== 'piece')) return null;
  if (end.wholeBars === 0 && mark === null) return null;
  const place = subject.kind === 'drill' ? subject.place : end.place;
  if (!place) return null;
  const said = subject.kind === 'drill' ? subject : plainRun(info, end);
  const run: RunResponse = {
    id,
    revision,
    placeKind: place.kind,
    barIndex: place.barIndex,
    label: place.label,
    bars: place.bars,
    drillId: null,
    way: said.way,
    percent: said.percent,
    goalPercent: said.goalPercent,
    bpm: said.bpm,
    mark,
    sections: said.sections,
    note: '',
    ratingBefore: said.ratingBefore,
    ratingAfter: null,
    startedAt: new Date(info.startedAtMs).toISOString(),
    lengthSeconds: Math.min(MOST_SECONDS, Math.max(0, end.lengthSeconds)),
  };
  return { pieceId, run };
}

function plainRun({ settings }: RunInfo, { bpm }: RunEnd) {
  const { percent } = settings;
  const sections: readonly string[] = [];
  return { way: 'play' as const, percent, goalPercent: 100, bpm, sections, ratingBefore: null };
}
