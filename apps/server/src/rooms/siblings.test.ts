import { randomUUID } from 'node:crypto';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import { PLAIN_RUN, type RoomState } from '@anchorbeat/core';
import type { Answer, RoomResponse, StandPresence, StandTake } from '@anchorbeat/contract';
import type { Socket } from 'socket.io-client';
import request from 'supertest';
import { connected, joined, ledServer, newRoom, PASSWORD, signedInAs, told } from '../test/people.ts';
import { HAS_REDIS, startTestRedis, type TestRedis } from '../test/redis.ts';
import { refusedStart, startTestServer, type TestServer } from '../test/testServer.ts';

if (!HAS_REDIS) console.warn('Several processes are not tested: there is no /usr/bin/redis-server here');

/** Two processes on one data folder, with a Redis between them. */
(HAS_REDIS ? describe : describe.skip)('two processes that serve the same rooms', () => {
  let redis: TestRedis;
  let here: TestServer;
  let there: TestServer;
  let led: Awaited<ReturnType<typeof ledServer>>;
  const sockets: Socket[] = [];

  beforeAll(async () => {
    redis = await startTestRedis();
    led = await ledServer(redis.url);
    here = led.server;
    there = await startTestServer({ dataFolder: here.dataFolder, redisUrl: redis.url });
  });
  afterAll(async () => {
    for (const socket of sockets) socket.disconnect();
    await there?.kill();
    await here?.close();
    await redis?.kill();
  });

  const socketAt = async ({ url }: TestServer, auth: object, headers: Record<string, string> = {}) => {
    const socket = await connected(url, auth, headers);
    sockets.push(socket);
    return socket;
  };
  const leadAt = (server: TestServer, { id }: RoomResponse) =>
    socketAt(server, { roomId: id }, { cookie: led.first.cookie });
  const standAt = async (server: TestServer, { code }: RoomResponse, section = 'Reeds') => {
    const stand = await joined(server, code, section);
    return { id: stand.id, token: stand.token, socket: await socketAt(server, { token: stand.token }) };
  };
  const ask = (socket: Socket, event: string, message: object) =>
    socket.timeout(5000).emitWithAck(event, message) as Promise<Answer>;
  const startOf = () => ({
    runId: randomUUID(),
    pieceId: led.pieceId,
    revision: 1,
    title: 'from bar 1',
    settings: PLAIN_RUN,
    performed: 0,
  });
  const runIs = (id: string | null) => (state: RoomState) => (state.run?.id ?? null) === id;
  const REPORT = { state: 'ready', withinMs: 2, slowRoundTripMs: 30, latencyMs: 20, isSeen: true };

  test('what is done by way of one reaches the stands of both, and who comes by the other later finds it', async () => {
    const room = await newRoom(led.first.http, led.ensembleId);
    const director = await leadAt(here, room);
    const stands = [await standAt(here, room), await standAt(there, room, 'Drums')];
    const start = startOf();
    const reached = stands.map(({ socket }) => told<RoomState>(socket, 'room', runIs(start.runId)));
    expect(await ask(director, 'start', start)).toMatchObject({ ok: true });
    const [a, b] = await Promise.all(reached);
    expect(a).toEqual(b);
    const late = await standAt(there, room);
    expect(await told<RoomState>(late.socket, 'room')).toEqual(a);
    // In hand by way of the other process: a director whose page has come back there.
    const again = await leadAt(there, room);
    const stopped = told<RoomState>(
      stands[0]!.socket,
      'room',
      ({ run }) => run?.session.commands.at(-1)?.kind === 'stop',
    );
    expect(await ask(again, 'say', { kind: 'stop', runId: start.runId, known: 0 })).toMatchObject({
      ok: true,
    });
    await stopped;
  });

  test('of acts said at once by way of both each is kept, or refused because it knew another room', async () => {
    const room = await newRoom(led.first.http, led.ensembleId);
    const leads = [await leadAt(here, room), await leadAt(there, room)];
    const { socket } = await standAt(there, room);
    const start = startOf();
    await ask(leads[0]!, 'start', start);
    await told<RoomState>(socket, 'room', runIs(start.runId));
    let kept = 1;
    for (let round = 0; round < 10; round++) {
      const message = {
        kind: 'change',
        runId: start.runId,
        known: kept,
        every: 'beat',
        settings: { percent: 60 + round },
      };
      const answers = await Promise.all(leads.map((lead) => ask(lead, 'say', message)));
      const taken = answers.filter(({ ok }) => ok).length;
      expect(taken).toBe(1);
      kept += taken;
      const state = await told<RoomState>(socket, 'room', ({ run }) => run?.session.commands.length === kept);
      expect(state.run!.session.commands).toHaveLength(kept);
    }
  });

  test('who leads sees the stands of both, their takes, and that a process has died with its stands', async () => {
    const room = await newRoom(led.first.http, led.ensembleId);
    const third = await startTestServer({ dataFolder: here.dataFolder, redisUrl: redis.url });
    const director = await leadAt(here, room);
    const [mine, far] = [await standAt(here, room), await standAt(third, room, 'Drums')];
    const areReady = (list: StandPresence[]) => list.filter(({ state }) => state === 'ready').length === 2;
    const seen = told<StandPresence[]>(director, 'presence', areReady);
    for (const { socket } of [mine, far]) await ask(socket, 'report', REPORT);
    expect((await seen).map(({ section }) => section)).toEqual(['Drums', 'Reeds']);
    await ask(director, 'settings', { playsAlong: 'pulse' });
    const start = startOf();
    const runs = told<RoomState>(far.socket, 'room', runIs(start.runId));
    await ask(director, 'start', start);
    await runs;
    const taken = told<StandTake[]>(director, 'takes', (list) => list.length === 1);
    const onsets = { runId: start.runId, onsets: [0.5, 1, 1.5] };
    expect(await ask(far.socket, 'taken', onsets)).toMatchObject({ ok: true });
    expect((await taken)[0]).toMatchObject({ standId: far.id, section: 'Drums' });
    // The stand comes back by way of a process that goes on.
    await third.kill();
    const back = await socketAt(there, { token: far.token });
    expect(await told<RoomState>(back, 'room', runIs(start.runId))).toBeTruthy();
    const whole = told<StandPresence[]>(director, 'presence', areReady);
    await ask(back, 'report', REPORT);
    await whole;
  });

  test('a stand that comes back by way of the other is not lost when its old socket ends', async () => {
    const room = await newRoom(led.first.http, led.ensembleId);
    const director = await leadAt(here, room);
    const stand = await standAt(there, room);
    const other = await standAt(there, room, 'Drums');
    await ask(stand.socket, 'report', REPORT);
    await socketAt(here, { token: stand.token });
    const whole = told<StandPresence[]>(director, 'presence', (list) => list.length === 2);
    await whole;
    stand.socket.disconnect();
    // Said by way of the same process after the end of the old socket; so is what was made of it.
    const name = 'after it';
    const later = told<StandPresence[]>(director, 'presence', (list) =>
      list.some((one) => one.name === name && one.section === 'Drums'),
    );
    for (let again = 0; again < 20; again++) await ask(other.socket, 'report', REPORT);
    await request(there.url)
      .put('/api/stand')
      .set('Authorization', `Bearer ${other.token}`)
      .send({ section: 'Drums', name })
      .expect(204);
    await ask(other.socket, 'report', REPORT);
    const reeds = (await later).find(({ section }) => section === 'Reeds');
    expect(reeds).toMatchObject({ isConnected: true, state: 'ready' });
  });

  test('a stand that is taken out, a rehearsal that ends and a member who leaves are gone by way of both', async () => {
    const room = await newRoom(led.first.http, led.ensembleId);
    const [gone, stays] = [await standAt(there, room), await standAt(there, room, 'Drums')];
    const out = told<string>(gone.socket, 'over');
    await led.first.http.delete(`/api/rooms/${room.id}/stands/${gone.id}`).expect(204);
    expect(await out).toContain('taken this stand out');
    const members = `/api/ensembles/${led.ensembleId}/members`;
    const member = await led.first.http
      .post(members)
      .send({ name: 'co', displayName: 'Co', password: PASSWORD, role: 'coDirector' })
      .expect(201);
    const co = await signedInAs(there, 'co');
    const theirs = await socketAt(there, { roomId: room.id }, { cookie: co.cookie });
    const signedOut = told<string>(theirs, 'over');
    const listed = (await led.first.http.get(members)).body as Array<{ accountId: string; name: string }>;
    const { accountId } = listed.find(({ name }) => name === 'co')!;
    expect(member.status).toBe(201);
    await led.first.http.delete(`${members}/${accountId}`).expect(204);
    expect(await signedOut).toContain('no longer signed in');
    const over = told<string>(stays.socket, 'over');
    await led.first.http.delete(`/api/rooms/${room.id}`).expect(204);
    expect(await over).toContain('has ended');
    await request(there.url).post('/api/join').send({ code: room.code }).expect(404);
  });

  test('while Redis is away each serves its own stands, and both are together again when it is back', async () => {
    const room = await newRoom(led.first.http, led.ensembleId);
    const director = await leadAt(here, room);
    const [mine, far] = [await standAt(here, room), await standAt(there, room, 'Drums')];
    const port = Number(new URL(redis.url).port);
    await redis.kill();
    const first = startOf();
    const reached = told<RoomState>(mine.socket, 'room', runIs(first.runId));
    expect(await ask(director, 'start', first)).toMatchObject({ ok: true });
    await reached;
    redis = await startTestRedis(port);
    const both = async (): Promise<void> => {
      const start = startOf();
      const there = told<RoomState>(far.socket, 'room', runIs(start.runId));
      expect(await ask(director, 'start', start)).toMatchObject({ ok: true });
      const isThere = await Promise.race([
        there.then(() => true),
        ask(mine.socket, 'report', REPORT)
          .then(() => ask(mine.socket, 'clock', {}))
          .then(() => false),
      ]);
      // Not joined again yet: said once more.
      if (!isThere) await both();
    };
    await both();
  });
});

describe('what cannot be joined', () => {
  test('a folder that one server has for itself is not shared, nor is a shared one had alone', async () => {
    if (!HAS_REDIS) return;
    const redis = await startTestRedis();
    const alone = await startTestServer();
    expect(await refusedStart(alone.dataFolder, redis.url)).toContain('Another Anchorbeat is running');
    await alone.kill();
    const shared = await startTestServer({ dataFolder: alone.dataFolder, redisUrl: redis.url });
    expect(await refusedStart(alone.dataFolder)).toContain('Another Anchorbeat is running');
    await shared.close();
    await redis.kill();
  });

  test('a Redis that does not answer, or is none, is told before anything starts', async () => {
    const folder = mkdtempSync(join(tmpdir(), 'anchorbeat-no-redis-'));
    expect(await refusedStart(folder, 'redis://127.0.0.1:1')).toContain(
      'The Redis at 127.0.0.1:1 does not answer',
    );
    expect(await refusedStart(folder, 'some words')).toContain('not the address of a Redis');
    rmSync(folder, { recursive: true, force: true });
  });
});
