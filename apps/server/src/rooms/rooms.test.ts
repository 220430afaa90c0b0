import { randomUUID } from 'node:crypto';
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import { PLAIN_RUN, type RoomState } from '@anchorbeat/core';
import type { Answer, RoomResponse, StandPresence, StandTake } from '@anchorbeat/contract';
import type { Socket } from 'socket.io-client';
import request from 'supertest';
import { documentOf } from '../test/documentOf.ts';
import {
  connected,
  joined,
  ledServer,
  newEnsemble,
  newRoom,
  PASSWORD,
  signedInAs,
  told,
  type SomebodySignedIn,
} from '../test/people.ts';
import { startTestServer, type TestServer } from '../test/testServer.ts';

let server: TestServer;
let first: SomebodySignedIn;
let ensembleId: string;
let pieceId: string;
beforeAll(async () => {
  ({ server, first, ensembleId, pieceId } = await ledServer());
});
afterAll(() => server.close());

const sockets: Socket[] = [];
afterAll(() => sockets.forEach((socket) => socket.disconnect()));

async function socketOf(
  auth: object,
  headers: Record<string, string> = {},
  url = server.url,
): Promise<Socket> {
  const socket = await connected(url, auth, headers);
  sockets.push(socket);
  return socket;
}

const directorSocket = ({ id }: RoomResponse, { cookie } = first) => socketOf({ roomId: id }, { cookie });
const ask = (socket: Socket, event: string, message: object) =>
  socket.timeout(5000).emitWithAck(event, message) as Promise<Answer>;
const startOf = (runId = randomUUID()) => ({
  runId,
  pieceId,
  revision: 1,
  title: 'from bar 1',
  settings: PLAIN_RUN,
  performed: 0,
});

describe('a run in a room', () => {
  test('what the director starts, changes and stops reaches every stand, and who comes late finds it all', async () => {
    const room = await newRoom(first.http, ensembleId);
    const stand = await joined(server, room.code);
    const [director, reeds] = [await directorSocket(room), await socketOf({ token: stand.token })];
    const started = told<RoomState>(reeds, 'room', (state) => state.run !== null);
    const message = startOf();
    expect(await ask(director, 'start', message)).toEqual({ ok: true, value: null });
    const { run } = await started;
    expect(run).toMatchObject({ id: message.runId, revision: 1, title: 'from bar 1' });
    const changed = told<RoomState>(reeds, 'room', (state) => state.run?.session.commands.length === 2);
    const settings = { percent: 80, fade: { kind: 'bars', on: 2, off: 1 }, loop: { from: 0, to: 2 } };
    await ask(director, 'say', { runId: message.runId, known: 1, kind: 'change', settings, every: 'bar' });
    expect((await changed).run?.session.commands[1]).toMatchObject({ kind: 'change', settings });
    const late = await joined(server, room.code, 'Drums');
    const lateSocket = await socketOf({ token: late.token });
    const state = await told<RoomState>(lateSocket, 'room');
    expect(state.run?.session.commands).toHaveLength(2);
    const piece = await request(server.url)
      .get(`/api/stand/pieces/${pieceId}/revisions/1`)
      .set('Authorization', `Bearer ${late.token}`)
      .expect(200);
    expect(piece.body).toMatchObject({ revision: 1, piece: { title: 'Ours' } });
    const stopped = told<RoomState>(
      lateSocket,
      'room',
      ({ run: now }) => now?.session.commands.at(-1)?.kind === 'stop',
    );
    await ask(director, 'say', { runId: message.runId, known: 0, kind: 'stop' });
    await stopped;
  });

  test('goes on with the newest revision of the piece it works on, wherever that was saved', async () => {
    const room = await newRoom(first.http, ensembleId);
    const [director, stand] = [await directorSocket(room), await joined(server, room.code)];
    const reeds = await socketOf({ token: stand.token });
    const made = { id: randomUUID(), ensembleId, piece: documentOf('Worked on') };
    await first.http.post('/api/pieces').send(made).expect(201);
    const save = (revision: number, id = made.id) =>
      first.http
        .post(`/api/pieces/${id}/revisions`)
        .send({ id: randomUUID(), basedOnRevision: revision, piece: documentOf(`Worked on ${revision}`) })
        .expect(201);
    await ask(director, 'open', { pieceId: made.id, revision: 1 });
    const renewed = told<RoomState>(reeds, 'room', ({ open }) => open?.revision === 3);
    await save(1);
    await save(2);
    expect((await renewed).open).toEqual({ pieceId: made.id, revision: 3 });
    // Another piece is nothing to it.
    const other = { ...made, id: randomUUID() };
    await first.http.post('/api/pieces').send(other).expect(201);
    await save(1, other.id);
    const muted = told<RoomState>(reeds, 'room', ({ isMuted }) => isMuted);
    await ask(director, 'settings', { isMuted: true });
    expect((await muted).open).toEqual({ pieceId: made.id, revision: 3 });
  });

  test('a piece that is shared for home is had by the stands, one of another ensemble is not shared', async () => {
    const room = await newRoom(first.http, ensembleId);
    const director = await directorSocket(room);
    const stand = await joined(server, room.code);
    const socket = await socketOf({ token: stand.token });
    const piece = { pieceId, revision: 1, title: 'Ours' };
    const fetched = () =>
      request(server.url)
        .get(`/api/stand/pieces/${pieceId}/revisions/1`)
        .set('Authorization', `Bearer ${stand.token}`);
    await fetched().expect(404);
    const shared = told<RoomState>(socket, 'room', (state) => state.shared.length === 1);
    expect(await ask(director, 'share', { pieces: [piece] })).toMatchObject({ ok: true });
    expect((await shared).shared).toEqual([piece]);
    await fetched().expect(200);
    const strange = { ...piece, pieceId: randomUUID() };
    expect(await ask(director, 'share', { pieces: [strange] })).toMatchObject({ ok: false });
    expect(await ask(director, 'share', { pieces: Array.from({ length: 13 }, () => piece) })).toMatchObject({
      ok: false,
    });
    expect(await ask(socket, 'share', { pieces: [] })).toMatchObject({ ok: false });
    await ask(director, 'share', { pieces: [] });
    await fetched().expect(404);
  });

  test('the server’s clock is answered with two stamps that go on', async () => {
    const room = await newRoom(first.http, ensembleId);
    const director = await directorSocket(room);
    const stamps = async () =>
      ((await ask(director, 'clock', {})) as unknown as { value: { receivedMs: number; answeredMs: number } })
        .value;
    const [one, two] = [await stamps(), await stamps()];
    expect(one.answeredMs).toBeGreaterThanOrEqual(one.receivedMs);
    expect(two.receivedMs).toBeGreaterThan(one.answeredMs);
    expect(Math.abs(one.receivedMs - Number(process.hrtime.bigint()) / 1e6)).toBeLessThan(5000);
  });

  test('who is there, lost and back is told to who leads', async () => {
    const room = await newRoom(first.http, ensembleId);
    const director = await directorSocket(room);
    const { token, id } = await joined(server, room.code, 'Drums');
    const there = told<StandPresence[]>(director, 'presence', ([stand]) => stand?.state === 'ready');
    const drums = await socketOf({ token });
    await ask(drums, 'report', {
      state: 'ready',
      withinMs: 0.4,
      slowRoundTripMs: 12,
      latencyMs: 20,
      isSeen: true,
    });
    expect(await there).toMatchObject([{ standId: id, section: 'Drums', isConnected: true, withinMs: 0.4 }]);
    const lost = told<StandPresence[]>(director, 'presence', ([stand]) => stand?.state === 'lost');
    drums.disconnect();
    expect(await lost).toMatchObject([{ isConnected: false }]);
    const back = told<StandPresence[]>(director, 'presence', ([stand]) => stand?.isConnected === true);
    await socketOf({ token });
    await back;
  });

  test('what a stand played along with is told to who leads, also to one who comes in later, and to nobody else', async () => {
    const room = await newRoom(first.http, ensembleId);
    const [one, other] = [await joined(server, room.code), await joined(server, room.code, 'Drums')];
    const director = await directorSocket(room);
    const [reeds, drums] = [await socketOf({ token: one.token }), await socketOf({ token: other.token })];
    let overheard = 0;
    drums.on('takes', () => overheard++);
    const message = startOf();
    await ask(director, 'start', message);
    const take = { runId: message.runId, onsets: [1.2, 1.83, 2.401] };
    // Nothing was asked to be played along.
    expect(await ask(reeds, 'taken', take)).toMatchObject({ ok: false });
    await ask(director, 'settings', { playsAlong: 'groups' });
    const heard = told<StandTake[]>(director, 'takes', ([first]) => first !== undefined);
    expect(await ask(reeds, 'taken', take)).toEqual({ ok: true, value: null });
    expect(await heard).toMatchObject([{ ...take, standId: one.id, section: one.section, play: 'groups' }]);
    for (const wrong of [
      { ...take, runId: randomUUID() },
      { ...take, onsets: ['soon'] },
      { ...take, onsets: Array.from({ length: 3001 }, (_, at) => at / 5) },
    ])
      expect(await ask(reeds, 'taken', wrong)).toMatchObject({ ok: false });
    expect(await ask(director, 'taken', take)).toMatchObject({ ok: false });
    const again = told<StandTake[]>(await directorSocket(room), 'takes', ([first]) => first !== undefined);
    expect(await again).toHaveLength(1);
    expect(overheard).toBe(0);
  });

  test('killed in the middle of a run, the server has it again with its clock, and the stop works', async () => {
    const { server: ours, first: lead, ensembleId: ensemble, pieceId: id } = await ledServer();
    const room = await newRoom(lead.http, ensemble);
    const { token } = await joined(ours, room.code);
    const director = await socketOf({ roomId: room.id }, { cookie: lead.cookie }, ours.url);
    const started = told<RoomState>(director, 'room', (state) => state.run !== null);
    const message = { ...startOf(), pieceId: id };
    await ask(director, 'start', message);
    const before = await started;
    await ours.kill();
    const again = await startTestServer({ dataFolder: ours.dataFolder });
    const stand = await socketOf({ token }, {}, again.url);
    expect(await told<RoomState>(stand, 'room')).toEqual(before);
    const back = await socketOf({ roomId: room.id }, { cookie: lead.cookie }, again.url);
    const stopped = told<RoomState>(
      stand,
      'room',
      ({ run }) => run?.session.commands.at(-1)?.kind === 'stop',
    );
    await ask(back, 'say', { runId: message.runId, known: 1, kind: 'stop' });
    const { run } = await stopped;
    const stop = run?.session.commands.at(-1);
    const nowSeconds = (Number(process.hrtime.bigint()) / 1e6 - run!.startServerMs) / 1000;
    expect(stop?.kind === 'stop' && Math.abs(stop.atSeconds - nowSeconds)).toBeLessThan(3);
    await again.close();
  });
});

describe('who may not', () => {
  test('comes in without a word, with another’s, a made-up, a revoked, an ended or an expired one', async () => {
    const room = await newRoom(first.http, ensembleId);
    const other = await newEnsemble(first.http, 'The others');
    await first.http
      .post(`/api/ensembles/${other}/members`)
      .send({ name: 'stranger', displayName: 'S', password: PASSWORD, role: 'director' });
    const stranger = await signedInAs(server, 'stranger');
    const { token, id } = await joined(server, room.code);
    const inside = await socketOf({ token });
    const refusals: ReadonlyArray<readonly [object, Record<string, string>?]> = [
      [{}],
      [{ roomId: room.id }],
      [{ roomId: room.id }, { cookie: stranger.cookie }],
      [{ roomId: randomUUID() }, { cookie: first.cookie }],
      [{ token: 'x'.repeat(43) }],
      [{ token: room.code }],
      [{ token: { $ne: null } }],
    ];
    for (const [auth, headers] of refusals)
      await expect(connected(server.url, auth, headers)).rejects.toThrow();
    const over = told<string>(inside, 'over');
    await first.http.delete(`/api/rooms/${room.id}/stands/${id}`).expect(204);
    expect(await over).toContain('taken this stand out');
    await expect(connected(server.url, { token })).rejects.toThrow(/no longer part/);
    const second = await joined(server, room.code);
    await first.http.delete(`/api/rooms/${room.id}`).expect(204);
    await expect(connected(server.url, { token: second.token })).rejects.toThrow();
    await request(server.url).post('/api/join').send({ code: room.code }).expect(404);
  });

  test('a page of another origin, or another host, gets no socket', async () => {
    const room = await newRoom(first.http, ensembleId);
    const { token } = await joined(server, room.code);
    await expect(connected(server.url, { token }, { origin: 'http://elsewhere.example' })).rejects.toThrow();
    await expect(connected(server.url, { token }, { host: 'elsewhere.example' })).rejects.toThrow();
  });

  test('a stand leads nothing, and neither does a co-director who is not let', async () => {
    const room = await newRoom(first.http, ensembleId);
    const { token } = await joined(server, room.code);
    const stand = await socketOf({ token });
    const messages: Readonly<Record<string, object>> = {
      start: startOf(),
      open: { pieceId, revision: 1 },
      say: { runId: randomUUID(), known: 0, kind: 'stop' },
      hear: { section: 'Reeds', hearing: 'nothing' },
      tell: { sections: ['Reeds'], words: 'boo' },
      handOut: { section: 'Reeds', lines: ['10 min · scales'] },
      settings: { isMuted: true },
    };
    for (const [event, message] of Object.entries(messages))
      expect(await ask(stand, event, message)).toMatchObject({ ok: false });
    await first.http
      .post(`/api/ensembles/${ensembleId}/members`)
      .send({ name: 'co', displayName: 'Co', password: PASSWORD, role: 'coDirector' });
    const co = await directorSocket(room, await signedInAs(server, 'co'));
    for (const event of ['start', 'open'])
      expect(await ask(co, event, messages[event]!)).toMatchObject({ ok: false });
    expect(await ask(co, 'settings', { coDirectorsLead: true })).toMatchObject({ ok: false });
    expect(await ask(co, 'settings', { isMuted: true })).toMatchObject({ ok: true });
    await ask(await directorSocket(room), 'settings', { coDirectorsLead: true });
    expect(await ask(co, 'open', messages['open']!)).toMatchObject({ ok: true });
    expect(await ask(co, 'start', startOf())).toMatchObject({ ok: true });
    expect(await ask(await directorSocket(room), 'report', { state: 'ready' })).toMatchObject({ ok: false });
    const byCo = await signedInAs(server, 'co');
    const own = await directorSocket(await newRoom(byCo.http, ensembleId), byCo);
    expect(await ask(own, 'start', startOf())).toMatchObject({ ok: true });
  });

  test('who is taken out of the ensemble, or signs out, hears no more of its room', async () => {
    const room = await newRoom(first.http, ensembleId);
    const members = `/api/ensembles/${ensembleId}/members`;
    const add = (name: string) =>
      first.http.post(members).send({ name, displayName: name, password: PASSWORD, role: 'coDirector' });
    await add('leaver');
    await add('taken-out');
    const [leaver, takenOut] = [await signedInAs(server, 'leaver'), await signedInAs(server, 'taken-out')];
    const sockets = [await directorSocket(room, leaver), await directorSocket(room, takenOut)];
    const ended = sockets.map(
      (socket) => new Promise<void>((resolve) => socket.once('disconnect', () => resolve())),
    );
    const stays = await directorSocket(room);
    await leaver.http.delete('/api/session').expect(204);
    await ended[0];
    const list = (await first.http.get(members)).body as Array<{ name: string; accountId: string }>;
    const { accountId } = list.find(({ name }) => name === 'taken-out')!;
    await first.http.delete(`${members}/${accountId}`).expect(204);
    await ended[1];
    expect(stays.connected).toBe(true);
    expect(await ask(stays, 'clock', {})).toMatchObject({ ok: true });
  });

  test('guessing codes ends soon', async () => {
    const guesser = await startTestServer();
    const guess = () => request(guesser.url).post('/api/join').send({ code: 'ACDEFG' });
    const answers: number[] = [];
    for (let count = 0; count < 8; count++) answers.push((await guess()).status);
    expect(answers).toEqual([404, 404, 404, 404, 404, 429, 429, 429]);
    await guesser.close();
  });
});

describe('what does not read', () => {
  test.each<[string, string, object]>([
    ['a start without a piece', 'start', {}],
    ['an unknown field', 'start', { ...startOf(), now: true }],
    ['a tempo out of reach', 'start', { ...startOf(), settings: { percent: 9000 } }],
    ['a fade that is none', 'start', { ...startOf(), settings: { fade: { kind: 'bars' } } }],
    ['settings that are a list', 'start', { ...startOf(), settings: [] }],
    ['a hearing nobody knows', 'hear', { section: 'Reeds', hearing: 'thunder' }],
    ['work at home without end', 'handOut', { section: 'Reeds', lines: Array(500).fill('scales') }],
    ['words without end', 'tell', { sections: ['Reeds'], words: 'x'.repeat(5000) }],
  ])('%s is refused with a reason', async (_name, event, message) => {
    const room = await newRoom(first.http, ensembleId);
    const answer = await ask(await directorSocket(room), event, message);
    expect(answer.ok ? '' : answer.detail).toMatch(/\w{3}/);
  });

  test('a revision that is not there, or another ensemble’s piece, is run by nobody', async () => {
    const room = await newRoom(first.http, ensembleId);
    const director = await directorSocket(room);
    expect(await ask(director, 'start', { ...startOf(), revision: 7 })).toMatchObject({ ok: false });
    const other = await newEnsemble(first.http, 'Far ones');
    const theirs = await newRoom(first.http, other);
    expect(await ask(await directorSocket(theirs), 'start', startOf())).toMatchObject({ ok: false });
    const { token } = await joined(server, theirs.code);
    await request(server.url)
      .get(`/api/stand/pieces/${pieceId}/revisions/1`)
      .set('Authorization', `Bearer ${token}`)
      .expect(404);
  });

  test('a frame that is too large ends its socket and nothing else; a flood is answered with no', async () => {
    const room = await newRoom(first.http, ensembleId);
    const { token } = await joined(server, room.code);
    const [loud, quiet] = [await socketOf({ token }), await directorSocket(room)];
    const ended = new Promise<void>((resolve) => loud.once('disconnect', () => resolve()));
    loud.emit('report', { state: 'x'.repeat(200_000) });
    await ended;
    const many = await Promise.all(Array.from({ length: 120 }, () => ask(quiet, 'clock', {})));
    expect(many.filter(({ ok }) => !ok).length).toBeGreaterThan(20);
    await request(server.url).get('/api/health').expect(200);
  });
});
