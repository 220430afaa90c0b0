import { afterEach, beforeEach, expect, jest, test } from '@jest/globals';
import type { DateResponse } from '@anchorbeat/contract';
import { NEW_DATE } from '../rehearse/season.ts';
import { FakeServer } from '../test/fakeServer.ts';
import { loggedRun } from '../test/loggedRun.ts';
import { showToastsBy } from '../ui/toast.ts';
import { keepDone, sendWaitingDone } from './doneLog.ts';
import { logRun, sendWaitingRuns } from './runLog.ts';
import { season } from './seasonApi.ts';
import { createStore, type AppStore } from './store.ts';
import { runLogged } from './transportSlice.ts';

const { fetch, Request } = globalThis;
/** The browser's, which keeps what the server has not acknowledged; nothing where it has no room. */
const kept = new Map<string, string>();
let hasRoom: boolean;
let server: FakeServer;
let store: AppStore;
let toasts: string[];
/** How often something was asked of the server. */
let asked: number;
let answer: typeof fetch;

beforeEach(() => {
  jest.useFakeTimers({ doNotFake: ['nextTick', 'setImmediate', 'queueMicrotask'] });
  kept.clear();
  hasRoom = true;
  server = new FakeServer();
  server.dates = [date()];
  toasts = [];
  asked = 0;
  answer = server.fetch as typeof fetch;
  showToastsBy((words) => void toasts.push(words));
  Object.assign(globalThis, {
    localStorage: {
      getItem: (key: string) => kept.get(key) ?? null,
      setItem: (key: string, value: string) => {
        if (!hasRoom) throw new Error('no room');
        kept.set(key, value);
      },
    },
    fetch: (request: globalThis.Request) => {
      asked++;
      return answer(request);
    },
    Request: class extends Request {
      constructor(path: string | globalThis.Request, init?: RequestInit) {
        super(typeof path === 'string' ? new URL(path, 'http://here') : path, init);
      }
    },
  });
  store = createStore();
});

afterEach(async () => {
  // What still waits is sent: nothing goes on after its test.
  server.isAway = false;
  answer = server.fetch as typeof fetch;
  await Promise.all([sendWaitingDone(store.dispatch), until(() => waiting().length === 0)]);
  jest.useRealTimers();
  Object.assign(globalThis, { fetch, Request });
  Reflect.deleteProperty(globalThis, 'localStorage');
});

const date = (changes: Partial<DateResponse> = {}): DateResponse => ({
  ...NEW_DATE,
  id: 'tuesday',
  at: '2031-03-04T19:30',
  ...changes,
});
const item = (key: string, seconds = 60) => ({ key, title: key, planned: 5, seconds });
const doneThere = () => server.dates[0]?.done.map(({ key, seconds }) => [key, seconds]);
const waiting = () => Object.keys(JSON.parse(kept.get('anchorbeat.done') ?? '{}') as object);

/** Until something holds, while what is tried again after a time is. */
async function until(isSo: () => boolean): Promise<void> {
  for (let turn = 0; turn < 2000 && !isSo(); turn++) {
    await new Promise((resolve) => setImmediate(resolve));
    await jest.advanceTimersByTimeAsync(200);
  }
  expect(isSo()).toBe(true);
}

/** Until the server, wherever it is, has been asked so many times more. */
function untilAsked(times: number): Promise<void> {
  const before = asked;
  return until(() => asked >= before + times);
}

test('what was done reaches a server that was away, with what others did and changed meanwhile', async () => {
  server.isAway = true;
  void keepDone(store.dispatch, 'e', date(), [item('ebb')]);
  await untilAsked(4);
  void keepDone(store.dispatch, 'e', date(), [item('ebb'), item('rope')]);
  await untilAsked(2);
  expect([toasts.length, toasts[0]]).toEqual([1, expect.stringMatching(/^What was done is kept here/)]);
  server.dates = [date({ note: 'theirs', done: [item('tar'), item('ebb', 7)] })];
  server.isAway = false;
  await until(() => waiting().length === 0);
  expect(doneThere()).toEqual([
    ['tar', 60],
    ['ebb', 60],
    ['rope', 60],
  ]);
  expect(server.dates[0]?.note).toBe('theirs');
});

test('it is shown where the dates are shown, also before the server has it', async () => {
  await store.dispatch(season.endpoints.listDates.initiate('e'));
  const shown = () =>
    season.endpoints.listDates
      .select('e')(store.getState())
      .data?.[0]?.done.map(({ key }) => key);
  server.isAway = true;
  void keepDone(store.dispatch, 'e', date(), [item('ebb')]);
  await untilAsked(3);
  expect(shown()).toEqual(['ebb']);
  server.isAway = false;
  await until(() => waiting().length === 0);
  expect([shown(), doneThere()]).toEqual([['ebb'], [['ebb', 60]]]);
});

test('what an earlier visit left is sent by the next one; of a date that is gone nothing is', async () => {
  const left = {
    tuesday: { ensembleId: 'e', done: [item('ebb')] },
    gone: { ensembleId: 'e', done: [item('rope')] },
  };
  kept.set('anchorbeat.done', JSON.stringify(left));
  await sendWaitingDone(store.dispatch);
  expect([doneThere(), server.dates.length, waiting()]).toEqual([[['ebb', 60]], 1, []]);
});

test.each([true, false])(
  'who is no longer signed in loses nothing: it is sent after they are (the browser has room: %s)',
  async (room) => {
    hasRoom = room;
    const { session } = server;
    server.session = { signedIn: null, canOpenHere: false, canSetUp: false };
    await keepDone(store.dispatch, 'e', date(), [item('ebb')]);
    logRun(store.dispatch, 'ropewalk', loggedRun('one'));
    await sendWaitingRuns(store.dispatch);
    expect([doneThere(), server.runs.size]).toEqual([[], 0]);
    server.session = session;
    await sendWaitingDone(store.dispatch);
    await sendWaitingRuns(store.dispatch);
    expect([doneThere(), server.runs.get('ropewalk')?.map(({ id }) => id)]).toEqual([[['ebb', 60]], ['one']]);
    expect(await sendWaitingRuns(store.dispatch)).toBe(false);
    expect(toasts).toEqual([]);
  },
);

test('a run that another page started is as that page logged it, with the mark that was given here', async () => {
  const led = loggedRun('one', { way: 'step', note: 'led' });
  server.runs.set('ebb', [led]);
  store.dispatch(runLogged({ pieceId: 'ebb', run: loggedRun('one') }));
  logRun(store.dispatch, 'ebb', loggedRun('one', { mark: null }), { onlyNew: true });
  await sendWaitingRuns(store.dispatch);
  expect([server.runs.get('ebb'), store.getState().transport.lastLogged?.run]).toEqual([[led], led]);
  server.runs.set('ebb', [{ ...led, mark: null }]);
  logRun(store.dispatch, 'ebb', loggedRun('one', { mark: null }), { onlyNew: true });
  logRun(store.dispatch, 'ebb', loggedRun('one', { mark: 'again' }));
  logRun(store.dispatch, 'rope', loggedRun('two'), { onlyNew: true });
  await sendWaitingRuns(store.dispatch);
  expect(server.runs.get('ebb')).toEqual([{ ...led, mark: 'again' }]);
  expect(server.runs.get('rope')).toEqual([loggedRun('two')]);
});

test('what the server refuses is told, and not sent again', async () => {
  const refused = { status: 422, headers: { 'content-type': 'application/json' } };
  answer = () => Promise.resolve(new Response('{"detail":"too long"}', refused));
  await keepDone(store.dispatch, 'e', date(), [item('ebb')]);
  expect([toasts, waiting()]).toEqual([['What was done was not kept: too long'], []]);
});
