import { randomUUID } from 'node:crypto';
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import type { EnsembleResponse, PieceResponse, RevisionResponse } from '@anchorbeat/contract';
import { documentOf } from '../test/documentOf.ts';
import { startTestServer, type TestServer } from '../test/testServer.ts';

let server: TestServer;
let ensembleId: string;

beforeAll(async () => {
  server = await startTestServer();
  const { body } = await server.http.get('/api/ensembles').expect(200);
  ensembleId = (body as EnsembleResponse[])[0]!.id;
});

afterAll(() => server.close());

async function newPiece(title = 'Piece'): Promise<string> {
  const id = randomUUID();
  await server.http
    .post('/api/pieces')
    .send({ id, ensembleId, piece: documentOf(title) })
    .expect(201);
  return id;
}

const save = (pieceId: string, basedOnRevision: number, piece: unknown, more: object = {}) =>
  server.http
    .post(`/api/pieces/${pieceId}/revisions`)
    .send({ id: randomUUID(), basedOnRevision, piece, ...more });

test('an ensemble keeps its name, place and sections, and refuses what is none', async () => {
  const put = (body: object) => server.http.put(`/api/ensembles/${ensembleId}`).send(body);
  const named = { name: 'Quay Band', place: 'Marrowick Haven', sections: ['Bells', 'Reeds'] };
  await put(named).expect(200);
  const { body } = await server.http.get('/api/ensembles').expect(200);
  expect(body).toEqual([{ id: ensembleId, ...named, noteNames: 'quarter' }]);
  await put({ ...named, noteNames: 'crotchet' }).expect(200);
  // Who does not say leaves them as they are.
  expect((await put(named).expect(200)).body).toEqual({ id: ensembleId, ...named, noteNames: 'crotchet' });
  await put({ ...named, noteNames: 'flags' }).expect(422);
  await put({ ...named, sections: ['Bells', 'Bells'] }).expect(422);
  await put({ ...named, name: '' }).expect(422);
  await server.http.put(`/api/ensembles/${randomUUID()}`).send(named).expect(404);
});

test('pieces are put in order, set aside with all they have, and brought back', async () => {
  const [a, b, c] = [await newPiece('A'), await newPiece('B'), await newPiece('C')];
  const shelved = async () =>
    ((await server.http.get('/api/pieces').expect(200)).body as PieceResponse[])
      .filter(({ id }) => [a, b, c].includes(id))
      .map(({ piece, isSetAside }) => `${piece.title}${isSetAside ? ' aside' : ''}`);
  const placeOf = async (wanted: string) =>
    ((await server.http.get('/api/pieces').expect(200)).body as PieceResponse[])
      .filter(({ isSetAside }) => !isSetAside)
      .findIndex(({ id }) => id === wanted);
  const put = (id: string, body: object) => server.http.put(`/api/pieces/${id}/shelf`).send(body);
  await put(c, { place: 0, isSetAside: false }).expect(200);
  expect(await shelved()).toEqual(['C', 'A', 'B']);
  await put(a, { place: 1000, isSetAside: true }).expect(200);
  expect(await shelved()).toEqual(['C', 'B', 'A aside']);
  // A new piece stands behind what is aside; on the shelf that takes no place.
  const d = await newPiece('D');
  const at = await placeOf(d);
  await put(b, { place: at, isSetAside: false }).expect(200);
  expect(await placeOf(b)).toBe(at);
  await put(d, { place: 0, isSetAside: true }).expect(200);
  await save(a, 1, documentOf('A again')).expect(201);
  await put(a, { place: 1, isSetAside: false }).expect(200);
  expect(await shelved()).toEqual(['C', 'A again', 'B']);
  await put(a, { place: -1, isSetAside: false }).expect(422);
  await put(a, { place: 0 }).expect(422);
  await put(randomUUID(), { place: 0, isSetAside: true }).expect(404);
});

describe('revisions', () => {
  test('follow one another, and every one stays', async () => {
    const id = await newPiece();
    await save(id, 1, documentOf('Two'), { edits: ['Title is now Two'] }).expect(201);
    await save(id, 2, documentOf('Three')).expect(201);
    const { body } = await server.http.get(`/api/pieces/${id}`).expect(200);
    expect(body).toMatchObject({ revision: 3, piece: { title: 'Three' } });
    const { body: history } = await server.http.get(`/api/pieces/${id}/revisions`).expect(200);
    expect((history as RevisionResponse[]).map(({ revision, edits }) => [revision, edits])).toEqual([
      [3, []],
      [2, ['Title is now Two']],
      [1, ['Piece made']],
    ]);
    const { body: first } = await server.http.get(`/api/pieces/${id}/revisions/1`).expect(200);
    expect((first as PieceResponse).piece.title).toBe('Piece');
  });

  test('a stale one is refused with what differs, and nothing is lost', async () => {
    const id = await newPiece();
    await save(id, 1, documentOf('Piece', [{ meter: '4/4' }, { meter: '7/8' }])).expect(201);
    const { body } = await save(id, 1, documentOf('Mine'))
      .expect(409)
      .expect('content-type', /problem\+json/);
    expect(body).toMatchObject({
      type: 'urn:anchorbeat:problem:stale',
      currentRevision: 2,
      differences: ['1 bar added at bar 2'],
    });
    await save(id, 2, documentOf('Mine')).expect(201);
    const { body: theirs } = await server.http.get(`/api/pieces/${id}/revisions/2`).expect(200);
    expect((theirs as PieceResponse).piece.bars).toHaveLength(2);
  });

  test('of twenty saves at once from the same revision exactly one wins', async () => {
    const id = await newPiece();
    const answers = await Promise.all(
      Array.from({ length: 20 }, (_, n) => save(id, 1, documentOf(`Racer ${n}`))),
    );
    expect(answers.map((answer) => answer.status).sort()).toEqual([201, ...Array<number>(19).fill(409)]);
    expect((await server.http.get(`/api/pieces/${id}/revisions`)).body).toHaveLength(2);
  });

  test('the same save sent twice is saved once', async () => {
    const id = await newPiece();
    const again = { id: randomUUID(), basedOnRevision: 1, piece: documentOf('Again') };
    const first = await server.http.post(`/api/pieces/${id}/revisions`).send(again).expect(201);
    const second = await server.http.post(`/api/pieces/${id}/revisions`).send(again).expect(201);
    expect(second.body).toEqual(first.body);
  });

  test('a save from the future is refused', async () => {
    const { body } = await save(await newPiece(), 7, documentOf('Ahead')).expect(422);
    expect((body as { detail: string }).detail).toContain('newest is 1');
  });
});

describe('bad input gets a clear problem and saves nothing', () => {
  const cases: ReadonlyArray<
    readonly [name: string, send: (id: string) => ReturnType<typeof save>, status: number, detail: string]
  > = [
    ['meter 7/0', (id) => save(id, 1, documentOf('x', [{ meter: '7/0' }])), 422, 'Bar 1: 7/0 has no unit'],
    [
      'grouping that does not sum',
      (id) => save(id, 1, documentOf('x', [{ meter: '4/4' }, { meter: '7/8 as 2+2' }])),
      422,
      'Bar 2: The grouping',
    ],
    [
      'tempo of -3',
      (id) => save(id, 1, documentOf('x', [{ meter: '4/4', tempo: [{ tempo: 'quarter = -3' }] }])),
      422,
      'cannot be played',
    ],
    [
      '20,000 bars',
      (id) =>
        save(
          id,
          1,
          documentOf(
            'x',
            Array.from({ length: 20_000 }, () => ({ meter: '4/4' })),
          ),
        ),
      422,
      'at most 10,000',
    ],
    [
      'a field nobody knows',
      (id) => save(id, 1, documentOf('x'), { colour: 'red' }),
      422,
      '"colour" is not a field',
    ],
    ['no piece', (id) => save(id, 1, undefined), 422, 'named fields'],
    [
      'a number as revision text',
      (id) => save(id, 'one' as unknown as number, documentOf('x')),
      422,
      'basedOnRevision',
    ],
    ['20 MB', (id) => save(id, 1, documentOf('x'.repeat(20_000_000))), 413, 'at most 16 MB'],
    [
      'broken JSON',
      (id) =>
        server.http
          .post(`/api/pieces/${id}/revisions`)
          .set('content-type', 'application/json')
          .send('{"id":'),
      400,
      'does not read as JSON',
    ],
    ['no such piece', () => save(randomUUID(), 1, documentOf('x')), 404, 'no such piece'],
    ['not even an id', () => save('nonsense', 1, documentOf('x')), 404, 'nothing at this address'],
  ];

  test.each(cases)('%s', async (_name, send, status, detail) => {
    const id = await newPiece();
    const answer = await send(id);
    expect(answer.headers['content-type']).toContain('application/problem+json');
    const problem = JSON.parse(answer.text) as {
      status: number;
      detail: string;
      title: string;
      type: string;
    };
    expect([answer.status, problem.status]).toEqual([status, status]);
    expect(problem.detail).toContain(detail);
    expect(problem.type).toMatch(/^urn:anchorbeat:problem:/);
    expect((await server.http.get(`/api/pieces/${id}`)).body).toMatchObject({
      revision: 1,
      piece: { title: 'Piece' },
    });
  });

  test('every wrong field is named with its value and its bar', async () => {
    const bars = [{ meter: '4/4', label: '31' }, { meter: '7/0' }, { tempo: [{ tempo: 'quarter = 0' }] }];
    const { body } = await save(await newPiece(), 1, documentOf('x', bars)).expect(422);
    expect((body as { errors: unknown }).errors).toMatchObject([
      { field: 'piece.bars[1].meter', value: '7/0', bar: '32' },
      { field: 'piece.bars[2].tempo[0].tempo', value: 'quarter = 0', bar: '33' },
    ]);
  });
});

describe('around the pieces', () => {
  test('health, and a description of the interface that knows the piece format', async () => {
    await server.http.get('/api/health').expect(200);
    const { body } = await server.http.get('/api/openapi.json').expect(200);
    const { paths, components } = body as { paths: object; components: { schemas: Record<string, unknown> } };
    expect(Object.keys(paths)).toContain('/api/pieces/{pieceId}/revisions');
    expect(components.schemas).toHaveProperty('SaveRevisionRequest');
    expect(components.schemas).toHaveProperty('PieceDocument');
  });

  test('another host’s name is turned away', async () => {
    await server.http.get('/api/pieces').set('host', 'elsewhere.example').expect(403);
  });
});

test('the demo is put into a new database once, and survives a restart with what was changed', async () => {
  const first = await startTestServer({ demo: true });
  const { body } = await first.http.get('/api/pieces');
  const pieces = body as PieceResponse[];
  expect(pieces.some((piece) => piece.piece.bars.length >= 40)).toBe(true);
  const [piece] = pieces;
  await first.http
    .post(`/api/pieces/${piece!.id}/revisions`)
    .send({ id: randomUUID(), basedOnRevision: 1, piece: { ...piece!.piece, title: 'Renamed' } })
    .expect(201);
  await first.kill();
  const second = await startTestServer({ demo: true, dataFolder: first.dataFolder });
  const again = (await second.http.get('/api/pieces')).body as PieceResponse[];
  expect(again.map(({ piece: { title } }) => title)).toEqual([
    'Renamed',
    ...pieces.slice(1).map(({ piece: { title } }) => title),
  ]);
  await second.close();
});
