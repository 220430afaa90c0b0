import { randomUUID } from 'node:crypto';
import { afterAll, beforeAll, expect, test } from '@jest/globals';
import type { DrillResponse, EnsembleResponse, PieceResponse, RunResponse } from '@anchorbeat/contract';
import { startTestServer, type TestServer } from '../test/testServer.ts';

let server: TestServer;
let pieceId: string;

const newPiece = async () => {
  const { body } = await server.http.get('/api/ensembles').expect(200);
  const id = randomUUID();
  const piece = { format: 'anchorbeat-piece', version: 1, title: 'Drilled', bars: [{ meter: '4/4' }] };
  await server.http
    .post('/api/pieces')
    .send({ id, ensembleId: (body as EnsembleResponse[])[0]!.id, piece })
    .expect(201);
  return id;
};

beforeAll(async () => {
  server = await startTestServer();
  pieceId = await newPiece();
});

afterAll(() => server.close());

const place = { placeKind: 'seam', barIndex: 3, label: '4', bars: 0 };
const run = (more: object = {}) => ({
  ...place,
  drillId: null,
  way: 'play',
  percent: 80,
  goalPercent: 100,
  bpm: 77,
  mark: null,
  sections: [],
  note: '',
  ratingBefore: null,
  ratingAfter: null,
  startedAt: '2026-11-03T20:00:00+01:00',
  lengthSeconds: 12.5,
  ...more,
});
const drill = (more: object = {}) => ({
  ...place,
  name: 'Into the reeds',
  contextBefore: 2,
  contextAfter: 2,
  percent: 80,
  click: 'carry',
  spoken: 'count-off',
  rounds: null,
  way: 'play',
  ladderStages: ['tempo'],
  startPercent: 60,
  goalPercent: 100,
  stepBy: 'bpm',
  stepSize: 4,
  ladderRule: 'three good',
  ...more,
});
const runs = async (id = pieceId) =>
  (await server.http.get(`/api/pieces/${id}/runs`).expect(200)).body as RunResponse[];
const drills = async () =>
  (await server.http.get(`/api/pieces/${pieceId}/drills`).expect(200)).body as DrillResponse[];

test('a run is logged once however often it is sent, and its mark can change', async () => {
  const id = randomUUID();
  const put = (body: object) => server.http.put(`/api/pieces/${pieceId}/runs/${id}`).send(body);
  await put(run()).expect(200);
  await put(run({ mark: 'good', note: 'reeds late' })).expect(200);
  const earlier = randomUUID();
  await server.http
    .put(`/api/pieces/${pieceId}/runs/${earlier}`)
    .send(run({ startedAt: '2026-11-03T18:00:00Z' }))
    .expect(200);
  expect((await runs()).map((row) => [row.id, row.mark, row.startedAt])).toEqual([
    [earlier, null, '2026-11-03T18:00:00.000Z'],
    [id, 'good', '2026-11-03T19:00:00.000Z'],
  ]);
});

test('what another device saw of a run is logged where nobody else has, and changes nothing of it', async () => {
  const id = randomUUID();
  const path = `/api/pieces/${pieceId}/runs/${id}`;
  const noted = async () => (await runs()).find((row) => row.id === id)?.note;
  await server.http
    .put(`${path}?onlyNew=true`)
    .send(run({ note: 'seen' }))
    .expect(200);
  expect(await noted()).toBe('seen');
  await server.http
    .put(path)
    .send(run({ note: 'led' }))
    .expect(200);
  const kept = await server.http
    .put(`${path}?onlyNew=true`)
    .send(run({ note: 'seen' }))
    .expect(200);
  expect([(kept.body as RunResponse).note, await noted()]).toEqual(['led', 'led']);
  await server.http.put(`${path}?onlyNew=perhaps`).send(run()).expect(400);
});

test('taken out of the log it is gone, and logged again it is back', async () => {
  const other = await newPiece();
  const id = randomUUID();
  const path = `/api/pieces/${other}/runs/${id}`;
  await server.http.put(path).send(run()).expect(200);
  await server.http.delete(path).expect(204);
  expect(await runs(other)).toEqual([]);
  await server.http.delete(path).expect(404);
  await server.http.put(path).send(run()).expect(200);
  expect(await runs(other)).toHaveLength(1);
  await server.http.put(`/api/pieces/${pieceId}/runs/${id}`).send(run()).expect(409);
});

test('a take is kept with its run, in the list without its onsets, and a note changed later leaves it', async () => {
  const id = randomUUID();
  const path = `/api/pieces/${pieceId}/runs/${id}`;
  const seam = { performed: 3, barIndex: 3, atOnset: 1, explanation: 'filled-up', probability: 0.97 };
  const take = {
    play: 'pulse',
    constantMs: -21.4,
    spreadMs: 17,
    driftMsPerBar: 0.2,
    extra: 1,
    onsets: [
      { performed: 2, atWholes: 0.75, offMs: -4.1 },
      { performed: 3, atWholes: 0, offMs: null },
    ],
    seams: [{ ...seam, effectMs: 118.2, second: 'late', secondProbability: 0.02 }],
  };
  const sectionTakes = [{ section: 'Reeds (left)', take: { ...take, spreadMs: 31 } }];
  const listedTakes = sectionTakes.map((one) => ({ ...one, take: { ...one.take, onsets: [] } }));
  await server.http.put(path).send(run({ take, sectionTakes })).expect(200);
  await server.http
    .put(path)
    .send(run({ note: 'again', take: { ...take, onsets: [] }, sectionTakes: listedTakes }))
    .expect(200);
  await server.http
    .put(path)
    .send(run({ note: 'and again' }))
    .expect(200);
  const listed = (await runs()).find((row) => row.id === id);
  expect(listed).toMatchObject({ take: { ...take, onsets: [] }, sectionTakes: listedTakes });
  expect((await server.http.get(path).expect(200)).body).toMatchObject({
    note: 'and again',
    take,
    sectionTakes,
  });
  await server.http.get(`/api/pieces/${pieceId}/runs/${randomUUID()}`).expect(404);
});

test('drills are kept with their piece, changed and taken away', async () => {
  const id = randomUUID();
  const path = `/api/pieces/${pieceId}/drills/${id}`;
  await server.http.put(path).send(drill()).expect(200);
  await server.http
    .put(path)
    .send(drill({ name: 'Bells first' }))
    .expect(200);
  expect(await drills()).toMatchObject([{ id, name: 'Bells first', ladderRule: 'three good' }]);
  await server.http.delete(path).expect(204);
  expect(await drills()).toEqual([]);
});

test.each<[string, string, object]>([
  ['too fast', 'runs', run({ percent: 500 })],
  ['no number', 'runs', run({ percent: '80' })],
  ['an unknown mark', 'runs', run({ mark: 'perfect' })],
  ['a rating of 9', 'runs', run({ ratingBefore: 9 })],
  ['no day', 'runs', run({ startedAt: 'yesterday' })],
  ['a field nobody knows', 'runs', run({ player: 'somebody' })],
  ['a note of a thousand letters', 'runs', run({ note: 'x'.repeat(1000) })],
  ['a take of nobody', 'runs', run({ sectionTakes: [{ section: '', take: null }] })],
  ['a take of something else', 'runs', run({ take: { play: 'kazoo', onsets: [], seams: [] } })],
  ['no name', 'drills', drill({ name: '' })],
  ['an unknown stage', 'drills', drill({ ladderStages: ['magic'] })],
  ['a bar before the first', 'drills', drill({ barIndex: -1 })],
  ['no rounds at all', 'drills', drill({ rounds: 0 })],
])('%s is refused, and nothing is kept', async (_name, kind, body) => {
  const before = [await runs(), await drills()];
  const { body: problem } = await server.http
    .put(`/api/pieces/${pieceId}/${kind}/${randomUUID()}`)
    .send(body)
    .expect(422);
  expect(problem).toMatchObject({
    status: 422,
    errors: expect.arrayContaining([expect.objectContaining({ field: expect.any(String) })]),
  });
  expect([await runs(), await drills()]).toEqual(before);
});

test('what was noted before bars were put in or taken out is told where it is now, and as it was noted again', async () => {
  const id = await newPiece();
  const bars: object[] = [
    { meter: '4/4' },
    {},
    {},
    {},
    {},
    { meter: '7/8', rehearsalMark: 'A' },
    { meter: '4/4' },
    {},
  ];
  const save = (basedOnRevision: number, now: readonly object[]) =>
    server.http
      .post(`/api/pieces/${id}/revisions`)
      .send({
        id: randomUUID(),
        basedOnRevision,
        piece: { format: 'anchorbeat-piece', version: 1, title: 'Drilled', bars: now },
      })
      .expect(201);
  await save(1, bars);
  const seam = { performed: 5, barIndex: 5, atOnset: 0, explanation: 'held', probability: 1, effectMs: 2 };
  const take = {
    ...{ play: 'pulse', constantMs: 0, spreadMs: 9, driftMsPerBar: 0, extra: 0 },
    onsets: [{ performed: 5, atWholes: 0, offMs: 2 }],
    seams: [{ ...seam, second: null, secondProbability: 0 }],
  };
  const at = (revision: number | null, more: object = {}) =>
    run({ placeKind: 'seam', barIndex: 5, label: '6', revision, ...more });
  const ids = Array.from({ length: 4 }, () => randomUUID());
  const [seamRun, spanRun, unsavedRun, drillId] = ids;
  const log = (runId: string | undefined, body: object) =>
    server.http.put(`/api/pieces/${id}/runs/${runId}`).send(body).expect(200);
  await log(seamRun, at(2, { take, sectionTakes: [{ section: 'Reeds', take }] }));
  await log(spanRun, at(2, { placeKind: 'bars', barIndex: 3, label: '4', bars: 4 }));
  await log(unsavedRun, at(null));
  await server.http
    .put(`/api/pieces/${id}/drills/${drillId}`)
    .send(drill({ barIndex: 5, label: '6', revision: 2 }))
    .expect(200);
  const placesNow = async () => {
    const { body } = await server.http.get(`/api/pieces/${id}/drills`).expect(200);
    const logged = await runs(id);
    const now = (which: string | undefined) => logged.find((row) => row.id === which)?.placeNow;
    const seams = logged.find((row) => row.id === seamRun);
    return {
      places: [now(seamRun), now(spanRun), now(unsavedRun), (body as DrillResponse[])[0]?.placeNow],
      seamBars: [seams?.take, seams?.sectionTakes?.[0]?.take].map((one) =>
        one?.seams.map(({ barIndex }) => barIndex),
      ),
    };
  };
  const nowhereElse = { places: [undefined, undefined, undefined, undefined], seamBars: [[5], [5]] };
  expect(await placesNow()).toEqual(nowhereElse);

  await save(
    2,
    bars.toSpliced(2, 0, { note: 'one' }, { note: 'two' }).toSpliced(8, 0, { rehearsalMark: 'B' }),
  );
  const moved = { barIndex: 7, label: '8', bars: 0 };
  expect(await placesNow()).toEqual({
    places: [moved, { barIndex: 5, label: '6', bars: 5 }, undefined, moved],
    seamBars: [[7], [7]],
  });
  expect((await server.http.get(`/api/pieces/${id}/runs/${seamRun}`).expect(200)).body).toMatchObject({
    barIndex: 5,
    take: { seams: [{ barIndex: 5 }] },
  });

  await save(3, bars.toSpliced(5, 1));
  expect(await placesNow()).toEqual({
    places: [null, { barIndex: 3, label: '4', bars: 3 }, undefined, null],
    seamBars: [[], []],
  });

  await save(4, bars);
  expect(await placesNow()).toEqual(nowhereElse);
});

test('an unknown piece has no log', async () => {
  await server.http.get(`/api/pieces/${randomUUID()}/runs`).expect(404);
  await server.http.put(`/api/pieces/${randomUUID()}/runs/${randomUUID()}`).send(run()).expect(404);
  const { body } = await server.http.get('/api/pieces').expect(200);
  expect((body as PieceResponse[]).length).toBeGreaterThan(0);
});
