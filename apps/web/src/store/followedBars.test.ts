import { afterEach, expect, test } from '@jest/globals';
import { applyEdit, expectValue, type Edit, type Piece } from '@anchorbeat/core';
import { pieceOf } from '../../../../packages/core/src/test/pieceOf.ts';
import { spanSelected } from './mapSlice.ts';
import { closed, edited, merged, opened, renewed, undone } from './pieceSlice.ts';
import { createStore, type AppDispatch } from './store.ts';
import { barBeat, settingsChanged } from './transportSlice.ts';

const PIECE = pieceOf(
  { meter: '4/4', note: '0' },
  ...Array.from({ length: 9 }, (_, bar) => ({ note: `${bar + 1}` })),
);
const by = (edit: Edit): Piece => expectValue(applyEdit(PIECE, edit)).piece;
const LONGER = by({ kind: 'insertBars', at: 1, count: 2 });
const SHORTER = by({ kind: 'deleteBars', from: 4, count: 3 });

let dispatch: AppDispatch;
let opening = 0;
// What is closed is not saved.
afterEach(() => void dispatch(closed()));

function openedStore() {
  const { getState, ...store } = createStore();
  ({ dispatch } = store);
  dispatch(opened({ id: `piece ${++opening}`, ensembleId: 'e', revision: 1, piece: PIECE }));
  dispatch(spanSelected({ from: 4, count: 2 }));
  dispatch(
    settingsChanged({
      clickSpans: [{ from: 3, to: 5, clickOn: 'downbeats' }],
      leftOut: [
        { from: 5, to: 6 },
        { from: 8, to: 9 },
      ],
    }),
  );
  dispatch(barBeat({ performed: 7, beatIndex: 0, waits: null }));
  const now = () => {
    const { map, transport } = getState();
    const { clickSpans, leftOut } = transport.settings;
    return {
      chosen: [map.anchorBar, map.focusBar],
      clicks: clickSpans.map(({ from, to }) => [from, to]),
      leftOut: leftOut.map(({ from, to }) => [from, to]),
      stoppedAt: transport.performed,
    };
  };
  return now;
}

const AS_IT_WAS = {
  chosen: [4, 5],
  clicks: [[3, 5]],
  leftOut: [
    [5, 6],
    [8, 9],
  ],
  stoppedAt: 7,
};
const TWO_LATER = {
  clicks: [[5, 7]],
  leftOut: [
    [7, 8],
    [10, 11],
  ],
  stoppedAt: 9,
};

test('what was wished of bars, and where a run stopped, goes with them as the piece is changed, and back again', () => {
  const now = openedStore();
  dispatch(edited({ piece: LONGER, says: 'two bars' }));
  expect(now()).toEqual({ ...TWO_LATER, chosen: AS_IT_WAS.chosen });
  dispatch(undone());
  expect(now()).toEqual(AS_IT_WAS);
  dispatch(edited({ piece: SHORTER, says: 'three bars less' }));
  expect(now()).toEqual({ chosen: [4, 5], clicks: [[3, 4]], leftOut: [[5, 6]], stoppedAt: 4 });
});

test.each([
  ['saved elsewhere', renewed],
  ['put together with what was', merged],
])('what was %s leaves the bars chosen that were', (_, changed) => {
  const now = openedStore();
  dispatch(changed({ piece: LONGER, revision: 2 }));
  expect(now()).toEqual({ ...TWO_LATER, chosen: [6, 7] });
  dispatch(changed({ piece: SHORTER, revision: 3 }));
  expect(now().chosen).toEqual([4, 4]);
});
