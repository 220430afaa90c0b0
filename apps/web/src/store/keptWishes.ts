import {
  CLICK_CHOICES,
  FASTEST_PERCENT,
  MOST_SPANS,
  movedSpans,
  performedMoved,
  PLAIN_RUN,
  SLOWEST_PERCENT,
  SPOKEN_CHOICES,
  type ClickSpan,
  type RunSettings,
} from '@anchorbeat/core';
import { createListenerMiddleware, isAnyOf } from '@reduxjs/toolkit';
import { Kept } from '../kept/kept.ts';
import { fetchRevision } from './autosave.ts';
import { opened, saved } from './pieceSlice.ts';
import type { AppDispatch, RootState } from './store.ts';
import { settingsChanged } from './transportSlice.ts';

/** What of a run's settings belongs to a piece and is there again when it is opened; loops, fades and what is left out are of the moment. */
export type PieceWishes = Pick<
  RunSettings,
  'percent' | 'clickOn' | 'clickSpans' | 'spoken' | 'overlay' | 'countsEachRound'
>;

/** Pieces whose settings are kept; the one that was opened longest ago goes first. */
const MOST_PIECES = 200;
const MOST_OVERLAID = 32;

/** What was stored where it is a setting; the usual one for whatever is none. */
export function wishesFrom(stored: unknown): PieceWishes {
  const { percent, clickOn, clickSpans, spoken, overlay, countsEachRound } = (stored ?? {}) as Partial<
    Record<keyof PieceWishes, unknown>
  >;
  const isPercent = typeof percent === 'number' && percent >= SLOWEST_PERCENT && percent <= FASTEST_PERCENT;
  const isOverlay = Number.isInteger(overlay) && Number(overlay) >= 2 && Number(overlay) <= MOST_OVERLAID;
  return {
    percent: isPercent ? percent : PLAIN_RUN.percent,
    clickOn: CLICK_CHOICES.find((choice) => choice === clickOn) ?? PLAIN_RUN.clickOn,
    clickSpans: Array.isArray(clickSpans) ? clickSpans.filter(isClickSpan).slice(0, MOST_SPANS) : [],
    spoken: SPOKEN_CHOICES.find((choice) => choice === spoken) ?? PLAIN_RUN.spoken,
    overlay: isOverlay ? Number(overlay) : null,
    countsEachRound: countsEachRound === true,
  };
}

function isClickSpan(stored: unknown): stored is ClickSpan {
  const { from, to, clickOn } = (stored ?? {}) as Partial<Record<keyof ClickSpan, unknown>>;
  const isSpan =
    Number.isInteger(from) && Number.isInteger(to) && Number(from) >= 0 && Number(to) > Number(from);
  return isSpan && CLICK_CHOICES.some((choice) => choice === clickOn);
}

/** With the revision whose bars the spans are counted in; left out by what was kept before that was. */
type ByPiece = ReadonlyArray<readonly [pieceId: string, wishes: PieceWishes, revision?: number]>;

const kept = new Kept<ByPiece>('anchorbeat.pieceWishes', (stored) =>
  Array.isArray(stored) ? stored.flatMap((row: unknown) => rowsFrom(row)) : [],
);

function rowsFrom(row: unknown): ByPiece {
  if (!Array.isArray(row) || typeof row[0] !== 'string') return [];
  const [id, wishes, revision] = row as [string, unknown, unknown];
  return [typeof revision === 'number' ? [id, wishesFrom(wishes), revision] : [id, wishesFrom(wishes)]];
}

/** A piece is run as it was last wanted, not as the one before it was; and so it is after the page was loaded again. */
export const keptWishes = createListenerMiddleware();

const startListening = keptWishes.startListening.withTypes<RootState, AppDispatch>();

/** Pieces whose kept spans are not where their bars are by now: what is kept of them stays until they are. */
const toFollow = new Set<string>();

startListening({
  actionCreator: opened,
  effect: async ({ payload: { id, revision } }, { dispatch, getState }) => {
    const [, stored, keptAt = revision] = kept.get().find(([pieceId]) => pieceId === id) ?? [];
    const wishes = wishesFrom(stored);
    const isThere = keptAt === revision || wishes.clickSpans.length === 0;
    const clickSpans = isThere ? wishes.clickSpans : [];
    if (!isThere) toFollow.add(id);
    dispatch(settingsChanged({ ...wishes, clickSpans, leftOut: [], fade: null, loop: null }));
    if (isThere) return;
    const then = await fetchRevision(dispatch, id, keptAt);
    toFollow.delete(id);
    const { open } = getState().piece;
    if (open?.id !== id) return;
    const now = then ? movedSpans(wishes.clickSpans, performedMoved(then, open.present)) : wishes.clickSpans;
    dispatch(settingsChanged({ clickSpans: now }));
  },
});

startListening({
  matcher: isAnyOf(settingsChanged, saved),
  effect: (_action, { getState }) => {
    const { piece, transport } = getState();
    if (!piece.open || toFollow.has(piece.open.id)) return;
    const { id, revision } = piece.open;
    const others = kept.get().filter(([pieceId]) => pieceId !== id);
    kept.set([...others.slice(1 - MOST_PIECES), [id, wishesFrom(transport.settings), revision]]);
  },
});
