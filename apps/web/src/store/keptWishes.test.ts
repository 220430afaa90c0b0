import { expect, test } from '@jest/globals';
import { PLAIN_RUN } from '@anchorbeat/core';
import { pieceOf } from '../../../../packages/core/src/test/pieceOf.ts';
import { wishesFrom } from './keptWishes.ts';
import { opened } from './pieceSlice.ts';
import { createStore } from './store.ts';
import { settingsChanged } from './transportSlice.ts';

const open = (id: string) => opened({ id, ensembleId: 'e', revision: 1, piece: pieceOf({ meter: '4/4' }) });

test('each piece is run as it was last wanted; a fade and a loop are of the moment', () => {
  const store = createStore();
  const settings = () => store.getState().transport.settings;
  store.dispatch(open('ebb'));
  store.dispatch(settingsChanged({ percent: 70, clickOn: 'carry', loop: { from: 1, to: 3 } }));
  store.dispatch(open('rope'));
  expect(settings()).toEqual(PLAIN_RUN);
  store.dispatch(settingsChanged({ percent: 110 }));
  store.dispatch(open('ebb'));
  expect(settings()).toEqual({ ...PLAIN_RUN, percent: 70, clickOn: 'carry' });
  store.dispatch(open('rope'));
  expect(settings().percent).toBe(110);
});

test.each<[unknown, Partial<typeof PLAIN_RUN>]>([
  [undefined, {}],
  ['plain', {}],
  [{ percent: 9000, clickOn: 'gongs', spoken: 3, overlay: -1 }, {}],
  [
    { percent: 62.5, overlay: 5, spoken: 'everything' },
    { percent: 62.5, overlay: 5, spoken: 'everything' },
  ],
  [
    {
      clickSpans: [
        { from: 4, to: 8, clickOn: 'subdivision' },
        { from: 8, to: 4, clickOn: 'pulse' },
        'bars',
        null,
      ],
    },
    { clickSpans: [{ from: 4, to: 8, clickOn: 'subdivision' }] },
  ],
])('what was stored as %j is made sound', (stored, wanted) => {
  const { percent, clickOn, clickSpans, spoken, overlay, countsEachRound } = PLAIN_RUN;
  expect(wishesFrom(stored)).toEqual({
    percent,
    clickOn,
    clickSpans,
    spoken,
    overlay,
    countsEachRound,
    ...wanted,
  });
});
