import { expect, test } from '@jest/globals';
import { PLAIN_RUN, writePiece } from '@anchorbeat/core';
import { pieceOf } from '../../../../packages/core/src/test/pieceOf.ts';
import { wishesFrom } from './keptWishes.ts';
import { FakeServer } from '../test/fakeServer.ts';
import { closed, edited, opened } from './pieceSlice.ts';
import { createStore, type AppStore, type RootState } from './store.ts';
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

test('what clicks otherwise is where its bars are, also where the piece was changed at another device', async () => {
  const server = new FakeServer();
  Object.assign(globalThis, { fetch: server.fetch });
  const bars = Array.from({ length: 6 }, (_, bar) => ({
    note: `${bar}`,
    ...(bar === 0 && { meter: '4/4' }),
  }));
  const piece = (now: readonly object[]) => writePiece(pieceOf(...now));
  const id = '00000000-0000-4000-8000-00000000aaaa';
  server.add(id, piece(bars));
  const store = createStore();
  const openNow = () => {
    const { revision, piece: document } = server.piece(id);
    store.dispatch(opened({ id, ensembleId: 'e', revision, piece: pieceOf(...document.bars) }));
  };
  const spans = () => store.getState().transport.settings.clickSpans.map(({ from, to }) => [from, to]);
  openNow();
  store.dispatch(settingsChanged({ clickSpans: [{ from: 3, to: 5, clickOn: 'downbeats' }] }));
  server.keep(id, piece(bars.toSpliced(1, 0, { note: 'new' })));
  for (let time = 0; time < 2; time++) {
    store.dispatch(closed());
    openNow();
    await until(store, ({ transport }) => transport.settings.clickSpans.length === 1);
    expect(spans()).toEqual([[4, 6]]);
  }
  // What is changed here is kept as of the revision that it is saved as.
  store.dispatch(edited({ piece: pieceOf(...bars), says: 'as it was' }));
  await until(store, ({ piece: { open } }) => open?.revision === 3 && open.save.kind === 'saved');
  expect(spans()).toEqual([[3, 5]]);
  store.dispatch(closed());
  openNow();
  expect(spans()).toEqual([[3, 5]]);
  store.dispatch(closed());
});

/** Resolves once something of a store is so. */
function until({ getState, subscribe }: AppStore, isSo: (state: RootState) => boolean): Promise<void> {
  return new Promise((resolve) => {
    const look = () => {
      if (!isSo(getState())) return;
      stop();
      resolve();
    };
    const stop = subscribe(look);
    look();
  });
}

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
