import { readFileSync } from 'node:fs';
import { afterAll, beforeAll, expect, test } from '@jest/globals';
import { zipSync } from 'fflate';
import { startTestServer, type TestServer } from '../test/testServer.ts';

const SLACK_WATER = '5b1d0c1e-6c3f-4f43-9c55-0d1a54a7c101';
let server: TestServer;

beforeAll(async () => {
  server = await startTestServer({ demo: true });
});
afterAll(() => server.close());

const demo = JSON.parse(
  readFileSync(new URL('../../../../demo/slack-water.anchorbeat.json', import.meta.url), 'utf8'),
) as { readonly title: string; readonly bars: readonly unknown[] };
const fileOf = async (format: string, query = '') => {
  const { body, headers } = await server.http
    .get(`/api/pieces/${SLACK_WATER}/files/${format}${query}`)
    .buffer(true)
    .parse((response, done) => {
      const parts: Buffer[] = [];
      response.on('data', (part: Buffer) => parts.push(part));
      response.on('end', () => done(null, Buffer.concat(parts)));
    })
    .expect(200);
  return { bytes: body as Buffer, headers };
};
const read = (name: string, bytes: Uint8Array) =>
  server.http
    .post(`/api/files/read?name=${encodeURIComponent(name)}`)
    .set('Content-Type', 'application/octet-stream')
    .send(Buffer.from(bytes));

test.each([
  ['musicxml', 'a.musicxml'],
  ['midi', 'a.mid'],
  ['bar-table', 'a.csv'],
  ['words', 'a.txt'],
  ['piece-json', 'a.json'],
])('a piece goes out as %s and comes in again', async (format, name) => {
  const { bytes, headers } = await fileOf(format);
  expect(headers['content-disposition']).toContain('Slack%20Water');
  const { body } = await read(name, bytes).expect(200);
  const { piece } = body as { piece: { bars: unknown[] } };
  expect(piece.bars).toHaveLength(demo.bars.length);
  if (format === 'musicxml' || format === 'piece-json') expect(piece.bars).toEqual(demo.bars);
});

test('as sound, in the rate and width that is asked for', async () => {
  const { bytes } = await fileOf('wav', '?rate=48000&bits=24&percent=150');
  expect([bytes.toString('latin1', 0, 4), bytes.readUInt32LE(24), bytes.readUInt16LE(34)]).toEqual([
    'RIFF',
    48_000,
    24,
  ]);
  await server.http.get(`/api/pieces/${SLACK_WATER}/files/wav?rate=8000`).expect(422);
  await server.http.get(`/api/pieces/${SLACK_WATER}/files/mp4`).expect(404);
});

test('what does not read is refused with its reason, the server unharmed', async () => {
  const bomb = zipSync({ 'score.xml': new Uint8Array(33 * 1024 * 1024) }, { level: 1 });
  const { body } = await read('a.mxl', bomb).expect(422);
  expect(body).toMatchObject({ detail: expect.stringContaining('refused for safety') });
  await read('a.xml', Buffer.from('<score-partwise>')).expect(422);
  await read('a.exe', Buffer.from('x')).expect(422);
  await read('a.mid', new Uint8Array(50 * 1024 * 1024)).expect(413);
  await server.http.get('/api/health').expect(200);
});
