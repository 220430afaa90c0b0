import { afterEach, beforeEach, expect, test } from '@jest/globals';
import type { DateResponse } from '@anchorbeat/contract';
import { NEW_DATE } from '../rehearse/season.ts';
import { api } from './api.ts';
import { season, unkeptDates } from './seasonApi.ts';
import { createStore, type AppStore } from './store.ts';

const { fetch, Request } = globalThis;
/** What was asked and has no answer yet, in order. */
let asked: {
  readonly method: string;
  readonly body: Partial<DateResponse>;
  answer: (value: unknown, status?: number) => void;
}[];
let store: AppStore;
let dates = 0;
let ID = '';

beforeEach(() => {
  asked = [];
  ID = `date ${++dates}`;
  store = createStore();
  Object.assign(globalThis, {
    fetch: async (request: globalThis.Request) => {
      const body = JSON.parse((await request.text()) || '{}') as Partial<DateResponse>;
      return new Promise((resolve) => {
        const answer = (value: unknown, status = 200) =>
          resolve(
            new Response(JSON.stringify(value), { status, headers: { 'content-type': 'application/json' } }),
          );
        asked.push({ method: request.method, body, answer });
      });
    },
    Request: class extends Request {
      constructor(path: string, init?: RequestInit) {
        super(new URL(path, 'http://here'), init);
      }
    },
  });
});

afterEach(async () => {
  // Nothing is left waiting for an answer.
  for (; asked.length > 0; await settled()) for (const { answer } of asked.splice(0)) answer([]);
  store.dispatch(api.util.resetApiState());
  Object.assign(globalThis, { fetch, Request });
});

const date = (note: string): DateResponse => ({ ...NEW_DATE, id: ID, at: '2031-03-04T19:30', note });
const shown = () =>
  season.endpoints.listDates
    .select('e')(store.getState())
    .data?.map(({ note }) => note);

/** The next thing asked that has no answer yet. */
async function next(method: string) {
  for (let turn = 0; turn < 1000 && asked[0]?.method !== method; turn++)
    await new Promise((resolve) => setImmediate(resolve));
  const question = asked.shift();
  expect(question?.method).toBe(method);
  return question!;
}

const settled = () => new Promise((resolve) => setTimeout(resolve, 5));
const save = (note: string) => {
  const { id: _, ...fields } = date(note);
  return store.dispatch(
    season.endpoints.saveDate.initiate({ ensembleId: 'e', id: ID, date: fields, base: null }),
  );
};

async function listed(...notes: string[]): Promise<void> {
  void store.dispatch(season.endpoints.listDates.initiate('e'));
  (await next('GET')).answer(notes.map(date));
  await settled();
  expect(shown()).toEqual(notes);
}

test('a list that was on its way while a date was changed does not bring the old one back', async () => {
  await listed('first');
  const saving = save('second');
  expect(shown()).toEqual(['second']);
  (await next('PUT')).answer(date('second'));
  await saving;
  // The list is fetched anew; while it is on its way the date is changed once more.
  const list = await next('GET');
  await settled();
  const more = save('third');
  list.answer([date('second')]);
  await settled();
  expect(shown()).toEqual(['third']);
  (await next('PUT')).answer(date('third'));
  await more;
  (await next('GET')).answer([date('third')]);
  await settled();
  expect(shown()).toEqual(['third']);
});

test('what others changed since is shown with the next list', async () => {
  await listed('first');
  const saving = save('second');
  (await next('PUT')).answer(date('second'));
  await saving;
  await settled();
  (await next('GET')).answer([date('theirs')]);
  await settled();
  expect(shown()).toEqual(['theirs']);
});

test('saves of one date reach the server one after the other', async () => {
  await listed('first');
  void save('second');
  void save('third');
  const first = await next('PUT');
  await settled();
  expect([first.body.note, asked]).toEqual(['second', []]);
  first.answer(date('second'));
  const second = await next('PUT');
  expect(second.body.note).toBe('third');
  second.answer(date('third'));
});

test('a page that is left sends the newest of what waits for an answer, or for its turn', async () => {
  const waiting = () =>
    unkeptDates().flatMap(({ path, date: { note } }) => (path === `ensembles/e/dates/${ID}` ? note : []));
  await listed('first');
  expect(waiting()).toEqual([]);
  void save('second');
  const more = save('third');
  expect(waiting()).toEqual(['third']);
  (await next('PUT')).answer(date('second'));
  const last = await next('PUT');
  expect(waiting()).toEqual(['third']);
  last.answer(date('third'));
  await more;
  expect(waiting()).toEqual([]);
});

test('what could not be kept is shown as it was', async () => {
  await listed('first');
  const saving = save('second');
  (await next('PUT')).answer({ detail: 'no' }, 422);
  expect((await saving).error).toBeDefined();
  await settled();
  expect(shown()).toEqual(['first']);
});
