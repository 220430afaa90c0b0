import { randomUUID } from 'node:crypto';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import { ACCOUNT_HEADER } from '@anchorbeat/contract';
import type {
  EnsembleResponse,
  MemberResponse,
  ProblemDocument,
  SessionResponse,
} from '@anchorbeat/contract';
import request from 'supertest';
import { dataCommand } from '../test/dataCommand.ts';
import { documentOf } from '../test/documentOf.ts';
import {
  joined,
  ledServer,
  newEnsemble,
  newRoom,
  PASSWORD,
  signedInAs,
  type Agent,
  type SomebodySignedIn,
} from '../test/people.ts';
import { startTestServer, type TestServer } from '../test/testServer.ts';
import { LOCAL_ACCOUNT } from './access.service.ts';
import { setPasswordInFolder } from './passwordInFolder.ts';
import { Tries } from './tries.ts';

const NEW_PASSWORD = 'five other words of it';

let server: TestServer;
let first: SomebodySignedIn;
let ensembleId: string;
let pieceId: string;
let otherEnsembleId: string;
let roomId: string;
let code: string;
beforeAll(async () => {
  ({ server, first, ensembleId, pieceId } = await ledServer());
  otherEnsembleId = await newEnsemble(first.http, 'The others');
  const member = (name: string, role: string, ensemble: string) =>
    first.http
      .post(`/api/ensembles/${ensemble}/members`)
      .send({ name, displayName: name, password: PASSWORD, role })
      .expect(201);
  await member('co', 'coDirector', ensembleId);
  await member('stranger', 'director', otherEnsembleId);
  ({ id: roomId, code } = await newRoom(first.http, ensembleId));
});
afterAll(() => server.close());

interface Endpoint {
  readonly method: string;
  readonly path: string;
}

/** Every address of the API with every method it has, as it describes itself. */
async function endpoints(): Promise<readonly Endpoint[]> {
  const document = (await request(server.url).get('/api/openapi.json')).body as {
    paths: Record<string, object>;
  };
  return Object.entries(document.paths).flatMap(([path, item]) =>
    Object.keys(item).map((method) => ({ method, path })),
  );
}

const OPEN = [
  'get /api/health',
  'get /api/session',
  'post /api/session',
  'post /api/session/here',
  'post /api/session/first-account',
  'post /api/join',
  'post /api/reports',
];
const ONLY_ACCOUNT = /^\/api\/(session|pieces$|ensembles$|files|archives)/;

function filled(path: string): string {
  const values: Record<string, string> = {
    pieceId,
    ensembleId,
    roomId,
    revision: '1',
    format: 'midi',
    name: 'some.sqlite',
  };
  return path.replaceAll(/\{(\w+)\}/g, (_all, name: string) => values[name] ?? randomUUID());
}

function asked(http: Agent, { method, path }: Endpoint) {
  const address = filled(path);
  switch (method) {
    case 'get':
      return http.get(address);
    case 'put':
      return http.put(address).send({});
    case 'delete':
      return http.delete(address);
    default:
      return http.post(address).send(path === '/api/pieces' ? { ensembleId } : {});
  }
}

describe('every address of the API', () => {
  test('asks for a sign-in first, but for the few through which one comes in', async () => {
    const all = await endpoints();
    expect(all.length).toBeGreaterThan(35);
    const answers = await Promise.all(
      all.map(async (endpoint) => {
        const { status } = await asked(request.agent(server.url), endpoint);
        return [`${endpoint.method} ${endpoint.path}`, status] as const;
      }),
    );
    const letIn = answers.filter(([, status]) => status !== 401).map(([name]) => name);
    expect(letIn.sort()).toEqual([...OPEN].sort());
  });

  test('gives nothing of an ensemble to who directs another', async () => {
    const stranger = await signedInAs(server, 'stranger');
    const ofAnEnsemble = (await endpoints()).filter(
      ({ method, path }) =>
        !OPEN.includes(`${method} ${path}`) && !ONLY_ACCOUNT.test(path) && !path.startsWith('/api/stand'),
    );
    for (const endpoint of ofAnEnsemble) {
      const answer = await asked(stranger.http, endpoint);
      expect([endpoint.path, [403, 404].includes(answer.status)]).toEqual([endpoint.path, true]);
      expect(answer.text).not.toContain('Ours');
    }
    expect((await stranger.http.get('/api/pieces')).body).toEqual([]);
    expect(
      ((await stranger.http.get('/api/ensembles')).body as EnsembleResponse[]).map(({ name }) => name),
    ).toEqual(['The others']);
    const put = { id: randomUUID(), ensembleId, piece: documentOf('Smuggled') };
    await stranger.http.post('/api/pieces').send(put).expect(404);
  });

  test('opens to a stand nothing but its own', async () => {
    const { token } = await joined(server, code);
    for (const endpoint of await endpoints()) {
      if (OPEN.includes(`${endpoint.method} ${endpoint.path}`) || endpoint.path.startsWith('/api/stand'))
        continue;
      const { status } = await asked(request.agent(server.url), endpoint).set(
        'Authorization',
        `Bearer ${token}`,
      );
      expect([endpoint.path, endpoint.method, [403, 404].includes(status)]).toEqual([
        endpoint.path,
        endpoint.method,
        true,
      ]);
    }
  });

  test('a co-director keeps pieces and rooms, and neither members nor the server', async () => {
    const co = await signedInAs(server, 'co');
    await co.http.get(`/api/pieces/${pieceId}`).expect(200);
    await co.http.get(`/api/ensembles/${ensembleId}/rooms`).expect(200);
    const members = await co.http.get(`/api/ensembles/${ensembleId}/members`).expect(200);
    expect((members.body as MemberResponse[]).map(({ name, role }) => `${name}: ${role}`)).toEqual([
      'first: director',
      'co: coDirector',
    ]);
    const third = { name: 'third', displayName: 'Third', password: PASSWORD, role: 'director' };
    await co.http.post(`/api/ensembles/${ensembleId}/members`).send(third).expect(403);
    await co.http
      .put(`/api/ensembles/${ensembleId}`)
      .send({ name: 'x', place: '', sections: [] })
      .expect(403);
    await co.http.get('/api/backups').expect(403);
    await co.http
      .post('/api/ensembles')
      .send({ id: randomUUID(), name: 'x', place: '', sections: [] })
      .expect(403);
  });
});

describe('signing in', () => {
  test('a wrong name and a wrong password are told apart by nobody, and guessing is slowed down', async () => {
    const tryOf = (name: string) =>
      request(server.url).post('/api/session').send({ name, password: 'not the right one' });
    const wrong = [await tryOf('first'), await tryOf('nobody of this name')];
    expect(wrong.map(({ status }) => status)).toEqual([401, 401]);
    expect((JSON.parse(wrong[0]!.text) as ProblemDocument).detail).toBe(
      (JSON.parse(wrong[1]!.text) as ProblemDocument).detail,
    );
    const more = await Promise.all(Array.from({ length: 12 }, () => tryOf('first')));
    expect(more.filter(({ status }) => status === 401).length).toBeLessThanOrEqual(4);
    const late = more.find(({ status }) => status === 429)!;
    expect(Number(late.headers['retry-after'])).toBeGreaterThan(0);
  });

  test('the first account is made once, from this machine, and then the machine alone opens nothing', async () => {
    const { body } = (await request(server.url).get('/api/session')) as { body: SessionResponse };
    expect(body).toEqual({ signedIn: null, canOpenHere: false, canSetUp: false });
    await request(server.url).post('/api/session/here').expect(403);
    const again = { name: 'second', displayName: 'Second', password: PASSWORD };
    await request(server.url).post('/api/session/first-account').send(again).expect(403);
  });

  test('through a proxy on this machine nobody is at this machine', async () => {
    const fresh = await startTestServer();
    const through = (path: string) => request(fresh.url).post(path).set('X-Forwarded-For', '192.168.1.9');
    await through('/api/session/here').expect(403);
    await through('/api/session/first-account')
      .send({ name: 'x1', displayName: 'x', password: PASSWORD })
      .expect(403);
    await fresh.close();
  });

  test('a sign-out ends it here or elsewhere at once; the cookie is for requests only', async () => {
    const here = await signedInAs(server, 'co');
    const there = await signedInAs(server, 'co');
    const places = (await here.http.get('/api/session/places')).body as Array<{
      id: string;
      isThis: boolean;
    }>;
    for (const { id } of places.filter(({ isThis }) => !isThis))
      await here.http.delete(`/api/session/places/${id}`).expect(204);
    await there.http.get('/api/pieces').expect(401);
    await here.http.delete('/api/session').expect(204);
    await request(server.url).get('/api/pieces').set('Cookie', here.cookie).expect(401);
    const answer = await request(server.url).post('/api/session').send({ name: 'co', password: PASSWORD });
    expect(String(answer.headers['set-cookie'])).toMatch(/HttpOnly; SameSite=Lax/);
  });

  test('a password is changed by who knows it, and then the account is signed out everywhere else', async () => {
    const here = await signedInAs(server, 'stranger');
    const there = await signedInAs(server, 'stranger');
    const change = (password: string, newPassword: string) =>
      here.http.put('/api/session/password').send({ password, newPassword });
    const wrong = await change('not the right one', NEW_PASSWORD).expect(422);
    expect((JSON.parse(wrong.text) as ProblemDocument).detail).toMatch(/not the password you have now/);
    await change(PASSWORD, 'short').expect(422);
    await there.http.get('/api/pieces').expect(200);
    await change(PASSWORD, NEW_PASSWORD).expect(204);
    await there.http.get('/api/pieces').expect(401);
    await here.http.get('/api/pieces').expect(200);
    const signIn = (password: string) =>
      request(server.url).post('/api/session').send({ name: 'stranger', password });
    await signIn(PASSWORD).expect(401);
    await signIn(NEW_PASSWORD).expect(204);
    for (let turn = 0; turn < 5; turn++) await change('a guess at it', PASSWORD).expect(422);
    await change('a guess at it', PASSWORD).expect(429);
    await change(NEW_PASSWORD, PASSWORD).expect(429);
  });

  test('a page that asks for one account gets and does nothing where another is signed in', async () => {
    const { http } = first;
    const { body } = (await http.get('/api/session').expect(200)) as { body: SessionResponse };
    const own = body.signedIn!.accountId;
    const add = (id: string, account: string) =>
      http
        .post('/api/pieces')
        .set(ACCOUNT_HEADER, account)
        .send({ id, ensembleId, piece: documentOf('Whose') });
    const [theirs, ours] = [randomUUID(), randomUUID()];
    await add(theirs, randomUUID()).expect(401);
    await http.get('/api/pieces').set(ACCOUNT_HEADER, randomUUID()).expect(401);
    await http.get(`/api/pieces/${theirs}`).expect(404);
    await add(ours, own).expect(201);
    // Whoever asks who is here is told.
    await http.get('/api/session').set(ACCOUNT_HEADER, randomUUID()).expect(200);
  });

  test('who has an account already keeps its password as they are added to another ensemble, and that is said', async () => {
    const add = (name: string) =>
      first.http
        .post(`/api/ensembles/${otherEnsembleId}/members`)
        .send({ name, displayName: name, password: NEW_PASSWORD, role: 'coDirector' })
        .expect(201);
    const said = async (name: string) =>
      ((await add(name)).body as MemberResponse[]).filter((one) => one.keepsPassword).map((one) => one.name);
    expect(await said('Co')).toEqual(['co']);
    expect(await said('entirely-new')).toEqual([]);
    await signedInAs(server, 'co');
  });

  test('an ensemble keeps a director, and a right that is taken away is gone at once', async () => {
    const members = (await first.http.get(`/api/ensembles/${ensembleId}/members`)).body as Array<{
      accountId: string;
      name: string;
    }>;
    const idOf = (name: string) => members.find((member) => member.name === name)!.accountId;
    await first.http.delete(`/api/ensembles/${ensembleId}/members/${idOf('first')}`).expect(422);
    const co = await signedInAs(server, 'co');
    const partOf = (http: typeof first.http, id: string, role: string) =>
      http.put(`/api/ensembles/${ensembleId}/members/${id}`).send({ role });
    await partOf(co.http, idOf('co'), 'director').expect(403);
    await first.http.delete(`/api/ensembles/${ensembleId}/members/${idOf('co')}`).expect(204);
    await co.http.get(`/api/pieces/${pieceId}`).expect(404);
    await partOf(first.http, idOf('co'), 'king').expect(422);
    await partOf(first.http, randomUUID(), 'director').expect(404);
    await partOf(first.http, LOCAL_ACCOUNT, 'director').expect(404);
    await partOf(first.http, idOf('first'), 'coDirector').expect(422);
    await partOf(first.http, idOf('co'), 'director').expect(200);
    await co.http.get(`/api/pieces/${pieceId}`).expect(200);
    await partOf(co.http, idOf('first'), 'coDirector').expect(200);
    await partOf(first.http, idOf('first'), 'director').expect(403);
    await partOf(co.http, idOf('first'), 'director').expect(200);
  });
});

describe('who speaks for somebody else', () => {
  test('another page’s posts and another host’s requests are refused', async () => {
    const send = () => first.http.post('/api/pieces').send({});
    await send().set('Origin', 'http://elsewhere.example').expect(403);
    await send().set('Host', 'elsewhere.example').expect(403);
    await first.http.get('/api/pieces').set('Host', 'elsewhere.example').expect(403);
    await send().set('Origin', server.url).expect(404);
  });
});

describe('a password that was forgotten', () => {
  let ours: TestServer;
  beforeAll(async () => void ({ server: ours } = await ledServer()));
  afterAll(() => ours.close());

  const set = (name: string, password: string) => setPasswordInFolder(ours.dataFolder, name, password);

  test('is given anew at the machine, with no server running; who had it is signed out', async () => {
    const { cookie } = await signedInAs(ours, 'first');
    await expect(set('first', NEW_PASSWORD)).rejects.toThrow('Another Anchorbeat is running');
    await ours.stop();
    await expect(set('nobody', NEW_PASSWORD)).rejects.toThrow('Nobody signs in as "nobody" here, but first');
    await expect(set('local', NEW_PASSWORD)).rejects.toThrow('Nobody signs in as "local" here, but first');
    const asked = ['First', '--data', ours.dataFolder];
    expect(await dataCommand('password', asked, 'short\n')).toMatch(/^A password has 10 to 200 characters/);
    expect(await dataCommand('password', asked, `${NEW_PASSWORD}\n`)).toMatch(/^First signs in with the new/);
    ours = await startTestServer({ dataFolder: ours.dataFolder });
    await request(ours.url).get('/api/pieces').set('Cookie', cookie).expect(401);
    const signIn = (password: string) =>
      request(ours.url).post('/api/session').send({ name: 'first', password });
    await signIn(PASSWORD).expect(401);
    await signIn(NEW_PASSWORD).expect(204);
  });

  test('in a folder without a database nothing is made', async () => {
    const empty = mkdtempSync(join(tmpdir(), 'anchorbeat-empty-'));
    await expect(setPasswordInFolder(empty, 'first', NEW_PASSWORD)).rejects.toThrow('There is no database');
    rmSync(empty, { recursive: true });
  });
});

test('tries are counted in a window that moves on', () => {
  let now = 0;
  const tries = new Tries(2, 1000, () => now);
  expect(tries.waitSeconds('a')).toBe(0);
  tries.add('a');
  now = 600;
  tries.add('a');
  expect([tries.waitSeconds('a'), tries.waitSeconds('b')]).toEqual([1, 0]);
  now = 1001;
  expect(tries.waitSeconds('a')).toBe(0);
});
