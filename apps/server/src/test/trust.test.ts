import { randomUUID } from 'node:crypto';
import { once } from 'node:events';
import { readFileSync } from 'node:fs';
import { connect } from 'node:net';
import { Worker } from 'node:worker_threads';
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import type { EnsembleResponse, ProblemDocument, RevisionResponse } from '@anchorbeat/contract';
import { documentOf } from './documentOf.ts';
import { startTestServer, type TestServer } from './testServer.ts';

let server: TestServer;
let ensembleId: string;
beforeAll(async () => {
  server = await startTestServer();
  ensembleId = ((await server.http.get('/api/ensembles')).body as EnsembleResponse[])[0]!.id;
});
afterAll(() => server.close());

async function newPiece(piece: object = documentOf('Piece')): Promise<string> {
  const id = randomUUID();
  await server.http.post('/api/pieces').send({ id, ensembleId, piece }).expect(201);
  return id;
}

const detailOf = ({ text }: { text: string }) => (JSON.parse(text) as ProblemDocument).detail;

describe('what is sent is bounded before it is made anything of', () => {
  const sent = (body: string) =>
    server.http.post('/api/pieces').set('Content-Type', 'application/json').send(body);

  test.each([5000, 2_000_000])('%i brackets in one another are answered at once', async (count) => {
    const began = performance.now();
    const answer = await sent(`{"piece":${'['.repeat(count)}`).expect(400);
    expect(detailOf(answer)).toContain('nested deeper');
    await server.http.get('/api/health').expect(200);
    expect(performance.now() - began).toBeLessThan(8000);
  });

  test('brackets inside a text are no depth', async () => {
    await newPiece(documentOf('[[[[{{{{'.repeat(20)));
  });

  test('bytes that are no text are refused', async () => {
    const answer = await server.http
      .post('/api/pieces')
      .set('Content-Type', 'application/json')
      .serialize((body: unknown) => body as string)
      .send(Buffer.from([0x7b, 0xff, 0xfe, 0x7d]).toString('latin1'));
    expect([400, 422]).toContain(answer.status);
  });

  test('a legal piece of ten thousand full bars is kept', async () => {
    const bars = Array.from({ length: 10_000 }, (_, index) => ({
      ...(index === 0 && { meter: '4/4' }),
      note: 'n'.repeat(200),
      rhythm: 'q q q q',
      sections: [{ section: 'Reeds', does: 'cue', says: 's'.repeat(150) }],
    }));
    expect(JSON.stringify(bars).length).toBeGreaterThan(4_300_000);
    await newPiece(documentOf('Full', bars));
  });

  test('a table of three hundred thousand rows is refused by its rows', async () => {
    const began = performance.now();
    const answer = await server.http
      .post('/api/files/read?name=long.csv')
      .set('Content-Type', 'application/octet-stream')
      .send(Buffer.from(`meter\n${'4/4\n'.repeat(300_000)}`))
      .expect(422);
    expect(detailOf(answer)).toContain('more rows than');
    expect(performance.now() - began).toBeLessThan(10_000);
  });
});

describe('ids mean one thing', () => {
  test('a piece cannot take the id of a save', async () => {
    const id = await newPiece();
    const save = { id: randomUUID(), basedOnRevision: 1, piece: documentOf('Two') };
    await server.http.post(`/api/pieces/${id}/revisions`).send(save).expect(201);
    await server.http
      .post('/api/pieces')
      .send({ id: save.id, ensembleId, piece: documentOf('x') })
      .expect(409);
  });

  test('a save id with other content, or in another piece, is told apart from a stale save', async () => {
    const [id, other] = [await newPiece(), await newPiece()];
    const save = { id: randomUUID(), basedOnRevision: 1, piece: documentOf('Two') };
    const post = (piece: string, body: object) =>
      server.http.post(`/api/pieces/${piece}/revisions`).send(body);
    const first = await post(id, save).expect(201);
    expect((await post(id, save).expect(201)).body).toEqual(first.body);
    for (const answer of [
      await post(id, { ...save, piece: documentOf('Three') }),
      await post(other, save),
      await post(id, { ...save, basedOnRevision: 2 }),
    ]) {
      expect(answer.status).toBe(409);
      expect(detailOf(answer)).toContain('A save with this id is already kept');
    }
    const stale = await post(id, { ...save, id: randomUUID() });
    expect([stale.status, detailOf(stale)]).toEqual([409, expect.stringContaining('since you opened')]);
  });
});

test.each(['2026-W01-1', '2026-001', '2026-03-28', 'yesterday', '2026-13-45T19:30:00Z'])(
  'a run cannot have begun at "%s"',
  async (startedAt) => {
    const id = await newPiece();
    const run = {
      placeKind: 'bars',
      barIndex: 0,
      label: '1',
      bars: 1,
      drillId: null,
      way: 'play',
      percent: 100,
      goalPercent: 100,
      bpm: null,
      mark: null,
      sections: [],
      note: '',
      ratingBefore: null,
      ratingAfter: null,
      startedAt,
      lengthSeconds: 1,
    };
    await server.http.put(`/api/pieces/${id}/runs/${randomUUID()}`).send(run).expect(422);
    await server.http
      .put(`/api/pieces/${id}/runs/${randomUUID()}`)
      .send({ ...run, startedAt: '2026-03-28T19:30:00.000+01:00' })
      .expect(200);
  },
);

test('the history reaches every saved state, in pages', async () => {
  const id = await newPiece();
  for (let revision = 1; revision < 230; revision++)
    await server.http
      .post(`/api/pieces/${id}/revisions`)
      .send({ id: randomUUID(), basedOnRevision: revision, piece: documentOf(`T${revision}`) })
      .expect(201);
  const found: number[] = [];
  for (;;) {
    const before = found.length > 0 ? `?before=${found.at(-1)}` : '';
    const { body } = await server.http.get(`/api/pieces/${id}/revisions${before}`).expect(200);
    const page = (body as RevisionResponse[]).map(({ revision }) => revision);
    expect(page.length).toBeLessThanOrEqual(100);
    if (page.length === 0) break;
    found.push(...page);
  }
  expect(found).toEqual(Array.from({ length: 230 }, (_, at) => 230 - at));
  await server.http.get(`/api/pieces/${id}/revisions?before=soon`).expect(422);
});

describe('what is answered', () => {
  test('a wrong method is told with the right ones', async () => {
    for (const [path, allow] of [
      ['/api/pieces', 'GET, POST, HEAD'],
      [`/api/pieces/${randomUUID()}/runs/${randomUUID()}`, 'GET, PUT, DELETE, HEAD'],
      ['/api/health', 'GET, HEAD'],
    ] as const) {
      const answer = await server.http.patch(path).expect(405);
      expect([...answer.headers['allow']!.split(', ')].sort()).toEqual([...allow.split(', ')].sort());
    }
    await server.http.patch('/api/nowhere').expect(404);
  });

  test('a wrong host gets a problem document, the API is not stored, other windows are kept apart', async () => {
    const wrong = await server.http.get('/api/pieces').set('Host', 'evil.example').expect(403);
    expect(wrong.headers['content-type']).toContain('application/problem+json');
    const { headers } = await server.http.get('/api/pieces').expect(200);
    expect([headers['cache-control'], headers['cross-origin-opener-policy']]).toEqual([
      'no-store',
      'same-origin',
    ]);
  });

  test('many words are packed on their way, few are not, and what is packed already goes as it is', async () => {
    const asked = (path: string, encoding: string) =>
      server.http.get(path).set('Accept-Encoding', encoding).expect(200);
    for (const encoding of ['br', 'gzip']) {
      const { headers, body } = await asked('/api/openapi.json', encoding);
      expect(headers['content-encoding']).toBe(encoding);
      expect(body).toHaveProperty('openapi');
    }
    expect((await asked('/api/health', 'br')).headers).not.toHaveProperty('content-encoding');
    const id = await newPiece(documentOf('Plain', [{ meter: '4/4' }, {}]));
    const wav = await asked(`/api/pieces/${id}/files/wav`, 'br');
    expect(wav.headers).not.toHaveProperty('content-encoding');
  });

  test('HEAD is answered as GET', async () => {
    for (const path of ['/api/pieces', '/api/health', '/api/openapi.json'])
      await server.http.head(path).expect(200);
  });
});

describe('stopping', () => {
  const idleSocket = (url: string) =>
    new Promise<ReturnType<typeof connect>>((resolve) => {
      const socket = connect(Number(new URL(url).port), '127.0.0.1', () => resolve(socket));
      socket.on('error', () => undefined);
    });

  test('idle connections, also such as never said a word, hold nobody up', async () => {
    const ending = await startTestServer();
    const sockets = await Promise.all([idleSocket(ending.url), idleSocket(ending.url)]);
    sockets[1].write('GET /api/health HTTP/1.1\r\nHost: localhost\r\n\r\n');
    await new Promise((resolve) => sockets[1].once('data', resolve));
    expect(await ending.stop()).toBeLessThan(3000);
    await ending.close();
  });
});

/** Health answers within this nine times of ten, also where two cores are shared with the client that makes the rush. */
const PULSE_MS = 250;
/** After it a file is read within this; where other work has the cores, within three times what it took before. */
const AS_BEFORE_MS = 5000;

/**
 * Asks a server how it is, every 50 ms until it is ended; gives how long each answer took, in milliseconds, less what the thread
 * that asks was itself not woken meanwhile. It is a thread of its own: who makes a rush is busy with that.
 */
function takePulse(url: string): () => Promise<number[]> {
  const code = `
    const { parentPort, workerData } = require('node:worker_threads');
    const TICK_MS = 10;
    let ticked = performance.now();
    let sleptMs = 0;
    const lateMs = () => {
      const late = performance.now() - ticked - TICK_MS;
      return late > TICK_MS / 2 ? late : 0;
    };
    const ticks = setInterval(() => {
      sleptMs += lateMs();
      ticked = performance.now();
    }, TICK_MS);
    let isOver = false;
    parentPort.once('message', () => (isOver = true));
    (async () => {
      const pulses = [];
      while (!isOver) {
        const [began, sleptBefore] = [performance.now(), sleptMs];
        const answer = await fetch(workerData + '/api/health');
        await answer.arrayBuffer();
        const tookMs = performance.now() - began - (sleptMs + lateMs() - sleptBefore);
        pulses.push(answer.status === 200 ? Math.max(0, tookMs) : Infinity);
        await new Promise((resolve) => setTimeout(resolve, 50));
      }
      clearInterval(ticks);
      parentPort.postMessage(pulses);
    })();`;
  const worker = new Worker(code, { eval: true, workerData: url });
  return async () => {
    const told = once(worker, 'message') as Promise<[number[]]>;
    worker.postMessage('end');
    const [pulses] = await told;
    await worker.terminate();
    return pulses;
  };
}

const nineOfTen = (values: readonly number[]): number =>
  [...values].sort((a, b) => a - b)[Math.floor(0.9 * values.length)] ?? 0;

describe('a rush of large files', () => {
  /** Peak memory of the server's process so far, in megabytes. */
  const peakMegabytes = () =>
    Number(/VmHWM:\s+(\d+) kB/.exec(readFileSync(`/proc/${server.pid}/status`, 'utf8'))?.[1] ?? 0) / 1024;

  test('forty of 32 MB and ten sounds of the longest length at once: bounded memory, a quick pulse, and soon as before', async () => {
    const measures = Array.from(
      { length: 4000 },
      (_, at) => `<measure number="${at}"><note><rest/><duration>4</duration></note></measure>`,
    );
    const xml = `<score-partwise><part id="a">${measures.join('')}</part></score-partwise>`;
    const large = Buffer.concat([Buffer.from(xml), Buffer.alloc(32_000_000 - xml.length, 0x20)]);
    const bars = [
      { meter: '4/4', tempo: [{ tempo: 'quarter = 96' }] },
      ...Array.from({ length: 4000 }, () => ({})),
    ];
    const pieceId = await newPiece(documentOf('Long', bars));
    const timeToRead = async () => {
      const began = performance.now();
      await server.http
        .post('/api/files/read?name=a.musicxml')
        .set('Content-Type', 'application/octet-stream')
        .send(Buffer.from(xml))
        .expect(200);
      return performance.now() - began;
    };
    const calmMs = await timeToRead();
    const uploads = Array.from({ length: 40 }, () =>
      fetch(`${server.url}/api/files/read?name=a.musicxml`, {
        method: 'POST',
        headers: { 'Content-Type': 'application/octet-stream', cookie: server.cookie },
        body: large,
      }).then(
        async (answer) => {
          await answer.arrayBuffer();
          return answer.status;
        },
        () => 0,
      ),
    );
    const sounds = Array.from({ length: 10 }, async () => {
      const gone = new AbortController();
      try {
        const answer = await fetch(`${server.url}/api/pieces/${pieceId}/files/wav?rate=96000&bits=24`, {
          signal: gone.signal,
          headers: { cookie: server.cookie },
        });
        if (answer.status !== 200) return answer.status;
        let bytes = 0;
        for await (const part of answer.body as unknown as AsyncIterable<Uint8Array>) {
          bytes += part.length;
          // Somebody who has heard enough goes away in the middle of it.
          if (bytes > 8_000_000) break;
        }
        gone.abort();
        return 200;
      } catch {
        return 0;
      }
    });
    const endPulse = takePulse(server.url);
    const statuses = await Promise.all([...uploads, ...sounds]);
    const pulses = await endPulse();
    expect(statuses.filter((status) => ![0, 200, 422, 503].includes(status))).toEqual([]);
    expect(statuses.filter((status) => status === 200).length).toBeGreaterThan(2);
    expect(statuses.filter((status) => status === 503).length).toBeGreaterThan(10);
    expect(peakMegabytes()).toBeLessThan(600);
    expect(nineOfTen(pulses)).toBeLessThan(PULSE_MS);
    const readMs = await timeToRead();
    console.info(
      `peak ${Math.round(peakMegabytes())} MB; ${pulses.length} pulses, nine of ten within ${nineOfTen(pulses).toFixed(0)} ms, longest ${Math.max(...pulses).toFixed(0)} ms; then read in ${readMs.toFixed(0)} ms`,
    );
    expect(readMs).toBeLessThan(Math.max(AS_BEFORE_MS, 3 * calmMs));
  });
});
