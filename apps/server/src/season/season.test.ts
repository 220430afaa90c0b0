import { randomUUID } from 'node:crypto';
import { afterAll, beforeAll, expect, test } from '@jest/globals';
import type { DateResponse, EnsembleResponse } from '@anchorbeat/contract';
import { PLAIN_WEIGHTS } from '@anchorbeat/core';
import { startTestServer, type TestServer } from '../test/testServer.ts';

let server: TestServer;
let ensembleId: string;

beforeAll(async () => {
  server = await startTestServer();
  const { body } = await server.http.get('/api/ensembles').expect(200);
  ensembleId = (body as EnsembleResponse[])[0]!.id;
});

afterAll(() => server.close());

const date = (more: object = {}) => ({
  kind: 'rehearsal',
  title: '',
  at: '2026-12-01T19:30',
  minutes: 90,
  absent: [],
  pieceIds: [],
  goalPercent: 100,
  wishes: { pinned: [], skipped: [], order: [], minutes: [] },
  done: [],
  note: '',
  ...more,
});
const dates = async () =>
  (await server.http.get(`/api/ensembles/${ensembleId}/dates`).expect(200)).body as DateResponse[];
const path = (id: string) => `/api/ensembles/${ensembleId}/dates/${id}`;

test('dates come in order, change under their id, go and come back', async () => {
  const [late, early] = [randomUUID(), randomUUID()];
  await server.http
    .put(path(late))
    .send(date({ at: '2026-12-08T19:30' }))
    .expect(200);
  await server.http.put(path(early)).send(date()).expect(200);
  const wishes = { pinned: ['p:4'], skipped: [], order: ['p:4'], minutes: [{ key: 'p:4', minutes: 7 }] };
  const tempi = [{ pieceId: randomUUID(), goalPercent: 90, practicePercent: null }];
  const done = [{ key: 'p:8', title: 'Ebb, into bar 9', planned: 4, seconds: 300.5 }];
  await server.http
    .put(path(early))
    .send(date({ title: 'Reeds', wishes, done, weights: PLAIN_WEIGHTS, pauseSeconds: 20, tempi }))
    .expect(200);
  expect(await dates()).toMatchObject([
    { id: early, title: 'Reeds', wishes, done, weights: PLAIN_WEIGHTS, pauseSeconds: 20, tempi },
    { id: late, at: '2026-12-08T19:30' },
  ]);
  await server.http.delete(path(early)).expect(204);
  await server.http.delete(path(early)).expect(404);
  expect((await dates()).map(({ id }) => id)).toEqual([late]);
  await server.http.put(path(early)).send(date()).expect(200);
  expect(await dates()).toHaveLength(2);
});

test.each<[string, object]>([
  ['a day that is none', { at: '2026-13-40T19:30' }],
  ['a moment instead of a local time', { at: '2026-12-01T19:30:00Z' }],
  ['a party', { kind: 'party' }],
  ['minutes without end', { minutes: 1e9 }],
  [
    'a wish for no time',
    { wishes: { pinned: [], skipped: [], order: [], minutes: [{ key: 'a', minutes: 0 }] } },
  ],
  ['a wish that is none', { wishes: null }],
  ['a piece by its title', { pieceIds: ['Ebb Count'] }],
  ['weights of which one is missing', { weights: { mostMinutesAPlace: 4 } }],
  ['a weight out of its limits', { weights: { ...PLAIN_WEIGHTS, wholeShare: 1.5 } }],
  ['a tempo of nothing', { tempi: [{ pieceId: randomUUID(), goalPercent: 0 }] }],
  ['a tempo of no piece', { tempi: [{ goalPercent: 90 }] }],
  ['a pause without end', { pauseSeconds: 1e6 }],
  ['an item without a title', { done: [{ key: 'a', planned: 3, seconds: 10 }] }],
  ['a field nobody knows', { players: ['somebody'] }],
])('%s is refused, and nothing is kept', async (_name, more) => {
  const before = await dates();
  await server.http.put(path(randomUUID())).send(date(more)).expect(422);
  expect(await dates()).toEqual(before);
});

test('what others changed since one saw a date stays; sent twice it is the same, and nothing of before is kept', async () => {
  const id = randomUUID();
  const seen = date({ absent: ['Drums'] });
  await server.http.put(path(id)).send(seen).expect(200);
  await server.http
    .put(path(id))
    .send({ ...seen, note: 'mutes', base: seen })
    .expect(200);
  const mine = { ...seen, absent: ['Drums', 'Reeds'], base: seen };
  for (let turn = 0; turn < 2; turn++) {
    const { body } = await server.http.put(path(id)).send(mine).expect(200);
    expect(body).toEqual({ ...seen, id, note: 'mutes', absent: ['Drums', 'Reeds'] });
  }
  expect((await dates()).find((one) => one.id === id)).not.toHaveProperty('base');
  await server.http
    .put(path(id))
    .send({ ...seen, base: { minutes: 'many' } })
    .expect(422);
  await server.http.put(path(id)).send(seen).expect(200);
  expect((await dates()).find((one) => one.id === id)).toEqual({ ...seen, id });
});

test('a date of no ensemble, or of another one, is not there', async () => {
  const [{ id }] = (await dates()) as [DateResponse];
  await server.http.put(`/api/ensembles/${randomUUID()}/dates/${id}`).send(date()).expect(404);
  await server.http.get(`/api/ensembles/${randomUUID()}/dates`).expect(404);
});

test('what is wished of the plans to come goes with its bars as a piece is saved; what is over stays as it was', async () => {
  const id = randomUUID();
  const piece = (bars: readonly object[]) => ({
    format: 'anchorbeat-piece',
    version: 1,
    title: 'Planned',
    bars,
  });
  const bars: object[] = ['0', '1', '2', '3', '4', '5'].map((note) => ({
    note,
    ...(note === '0' && { meter: '4/4' }),
  }));
  await server.http
    .post('/api/pieces')
    .send({ id, ensembleId, piece: piece(bars) })
    .expect(201);
  const save = (basedOnRevision: number, now: readonly object[]) =>
    server.http
      .post(`/api/pieces/${id}/revisions`)
      .send({ id: randomUUID(), basedOnRevision, piece: piece(now) })
      .expect(201);
  const wishes = {
    pinned: [`${id}:2`, 'other:2'],
    skipped: [`${id}:whole`],
    order: [`${id}:3+4`, `${id}:2`],
    minutes: [{ key: `${id}:3+4`, minutes: 9 }],
  };
  const done = [{ key: `${id}:5`, title: 'Planned, into bar 6', planned: 4, seconds: 200 }];
  const [toCome, over] = [randomUUID(), randomUUID()];
  const at = (days: number) => new Date(Date.now() + days * 86_400_000).toISOString().slice(0, 16);
  await server.http
    .put(path(toCome))
    .send(date({ at: at(2), wishes, done }))
    .expect(200);
  await server.http
    .put(path(over))
    .send(date({ at: at(-9), wishes, done }))
    .expect(200);
  const planned = async (which: string) => (await dates()).find((one) => one.id === which);
  await save(1, bars.toSpliced(3, 0, { note: 'new' }));
  expect(await planned(toCome)).toMatchObject({
    wishes: {
      pinned: [`${id}:2`, 'other:2'],
      skipped: [`${id}:whole`],
      order: [`${id}:4+5`, `${id}:2`],
      minutes: [{ key: `${id}:4+5`, minutes: 9 }],
    },
    done: [{ ...done[0], key: `${id}:6` }],
  });
  await save(2, bars.slice(0, 4).toSpliced(2, 1));
  expect(await planned(toCome)).toMatchObject({
    wishes: { pinned: ['other:2'], order: [`${id}:2`], minutes: [{ key: `${id}:2`, minutes: 9 }] },
    done: [{ ...done[0], key: `gone ${id}:6` }],
  });
  expect(await planned(over)).toMatchObject({ wishes, done });
});
