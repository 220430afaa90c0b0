import { randomUUID } from 'node:crypto';
import type { EnsembleResponse, JoinResponse, RoomResponse } from '@anchorbeat/contract';
import { io, type Socket } from 'socket.io-client';
import request from 'supertest';
import { documentOf } from './documentOf.ts';
import { startTestServer, type TestServer } from './testServer.ts';

export const PASSWORD = 'four words of a song';

export type Agent = ReturnType<typeof request.agent>;

/** Somebody who is signed in, with the cookie by which they are. */
export interface SomebodySignedIn {
  readonly http: Agent;
  readonly cookie: string;
}

/** Makes the first account of a server. */
async function firstDirector({ url }: TestServer): Promise<SomebodySignedIn> {
  const http = request.agent(url);
  const answer = await http
    .post('/api/session/first-account')
    .send({ name: 'First', displayName: 'The first', password: PASSWORD })
    .expect(204);
  return { http, cookie: cookieIn(answer) };
}

/** A server with its first director, its ensemble, and a piece of it called "Ours". */
export async function ledServer(redisUrl?: string) {
  const server = await startTestServer({ redisUrl });
  const first = await firstDirector(server);
  const [ensemble] = (await first.http.get('/api/ensembles')).body as EnsembleResponse[];
  const ensembleId = ensemble?.id ?? '';
  const pieceId = randomUUID();
  const piece = documentOf('Ours');
  await first.http.post('/api/pieces').send({ id: pieceId, ensembleId, piece }).expect(201);
  return { server, first, ensembleId, pieceId };
}

export async function signedInAs({ url }: TestServer, name: string): Promise<SomebodySignedIn> {
  const http = request.agent(url);
  const answer = await http.post('/api/session').send({ name, password: PASSWORD }).expect(204);
  return { http, cookie: cookieIn(answer) };
}

function cookieIn({ headers }: request.Response): string {
  const [cookie = ''] = headers['set-cookie'] as unknown as string[];
  return cookie.split(';', 1)[0] ?? '';
}

export async function newEnsemble(http: Agent, name: string): Promise<string> {
  const id = randomUUID();
  await http
    .post('/api/ensembles')
    .send({ id, name, place: '', sections: ['Reeds', 'Drums'] })
    .expect(201);
  return id;
}

export async function newRoom(http: Agent, ensembleId: string): Promise<RoomResponse> {
  return (await http.post(`/api/ensembles/${ensembleId}/rooms`).expect(201)).body as RoomResponse;
}

export async function joined({ url }: TestServer, code: string, section = 'Reeds') {
  const answer = await request(url).post('/api/join').send({ code, section }).expect(200);
  return (answer.body as JoinResponse).stand!;
}

const latestOf = new WeakMap<Socket, Map<string, unknown>>();

/** A socket once it is let in; rejects with the reason where it is not. */
export function connected(url: string, auth: object, headers: Record<string, string> = {}): Promise<Socket> {
  const socket = io(url, {
    path: '/api/socket',
    auth,
    extraHeaders: headers,
    transports: ['websocket'],
    forceNew: true,
    reconnection: false,
  });
  // What is told right after the door is remembered, for whoever asks for it a moment later.
  const latest = new Map<string, unknown>();
  latestOf.set(socket, latest);
  socket.onAny((event: string, value: unknown) => latest.set(event, value));
  return new Promise((resolve, reject) => {
    socket.once('connect', () => resolve(socket));
    socket.once('connect_error', (error) => {
      socket.disconnect();
      reject(error);
    });
  });
}

/** What a socket is told under a name that satisfies a condition: the last of it, or the next. */
export function told<T>(
  socket: Socket,
  event: string,
  isMeant: (value: T) => boolean = () => true,
): Promise<T> {
  const known = latestOf.get(socket);
  if (known?.has(event) && isMeant(known.get(event) as T)) return Promise.resolve(known.get(event) as T);
  return new Promise((resolve) => {
    const listen = (value: T) => {
      if (!isMeant(value)) return;
      socket.off(event, listen);
      resolve(value);
    };
    socket.on(event, listen);
  });
}
