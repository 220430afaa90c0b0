import { afterEach, beforeEach, expect, jest, test } from '@jest/globals';
import type { RunResponse } from '@anchorbeat/contract';
import { loggedRun } from '../test/loggedRun.ts';
import { api } from './api.ts';
import { logRun, removeRun } from './runLog.ts';
import { createStore } from './store.ts';

const { fetch, Request } = globalThis;
/** The browser's, which keeps what the server has not acknowledged. */
const kept = new Map<string, string>();

beforeEach(() => {
  jest.useFakeTimers();
  kept.clear();
  Object.assign(globalThis, {
    localStorage: {
      getItem: (key: string) => kept.get(key) ?? null,
      setItem: (key: string, value: string) => kept.set(key, value),
    },
    // A server that does not answer.
    fetch: () => new Promise(() => undefined),
    Request: class extends Request {
      constructor(path: string, init?: RequestInit) {
        super(new URL(path, 'http://here'), init);
      }
    },
  });
});

afterEach(() => {
  jest.useRealTimers();
  Object.assign(globalThis, { fetch, Request });
  Reflect.deleteProperty(globalThis, 'localStorage');
});

/** The runs of a piece as they are shown, once a list of the server's has come that knows these. */
async function shownAfter(store: ReturnType<typeof createStore>, pieceId: string, listed: RunResponse[]) {
  await store.dispatch(api.util.upsertQueryData('listRuns', pieceId, listed));
  return api.endpoints.listRuns
    .select(pieceId)(store.getState())
    .data?.map(({ id, note }) => [id, note]);
}

test('a run that is logged before its list has come is in it, and in no other', async () => {
  const store = createStore();
  logRun(store.dispatch, 'ebb', loggedRun('one'));
  logRun(store.dispatch, 'rope', loggedRun('two'));
  expect(await shownAfter(store, 'ebb', [loggedRun('older')])).toEqual([
    ['older', ''],
    ['one', ''],
  ]);
  expect(await shownAfter(store, 'rope', [])).toEqual([['two', '']]);
});

test('what was changed since stands as it was changed, also in another window of the same browser', async () => {
  logRun(createStore().dispatch, 'ebb', { ...loggedRun('one'), note: 'better' });
  expect(await shownAfter(createStore(), 'ebb', [loggedRun('one'), loggedRun('newer')])).toEqual([
    ['one', 'better'],
    ['newer', ''],
  ]);
});

test('a run that was taken out while its list was on its way stays out, until it is put back', async () => {
  const store = createStore();
  const gone = new Response(null, { status: 404, headers: { 'content-type': 'application/json' } });
  Object.assign(globalThis, { fetch: () => Promise.resolve(gone) });
  expect(await removeRun(store.dispatch, 'ebb', 'one')).toBeNull();
  expect(await shownAfter(store, 'ebb', [loggedRun('one'), loggedRun('newer')])).toEqual([['newer', '']]);
  Object.assign(globalThis, { fetch: () => new Promise(() => undefined) });
  logRun(store.dispatch, 'ebb', loggedRun('one'));
  expect(await shownAfter(store, 'ebb', [loggedRun('newer')])).toEqual([
    ['newer', ''],
    ['one', ''],
  ]);
});
