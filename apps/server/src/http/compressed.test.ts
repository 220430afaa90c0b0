import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { brotliCompressSync, gzipSync } from 'node:zlib';
import { afterAll, expect, test } from '@jest/globals';
import express, { type Request, type Response } from 'express';
import request from 'supertest';
import { sendCompressed } from './compressed.ts';

const folder = mkdtempSync(join(tmpdir(), 'anchorbeat-web-'));
afterAll(() => rmSync(folder, { recursive: true }));

function write(path: string, text: string): void {
  mkdirSync(join(folder, 'web/assets'), { recursive: true });
  writeFileSync(join(folder, path), text);
  writeFileSync(join(folder, `${path}.br`), brotliCompressSync(text));
  writeFileSync(join(folder, `${path}.gz`), gzipSync(text));
}

write('web/assets/a.js', 'export const a = 1;');
write('web/page.html', '<p>one</p>');
write('secret.js', 'none of yours');
const app = express();
app.use(sendCompressed(join(folder, 'web'), (path) => path.startsWith('/assets/')));
app.use((_request: Request, response: Response) => void response.status(404).send('next'));
const get = (path: string, encodings: string) => request(app).get(path).set('Accept-Encoding', encodings);

test.each([
  ['the smallest that the browser unpacks', '/assets/a.js', 'gzip, deflate, br', 'br'],
  ['the other where it does not', '/assets/a.js', 'gzip', 'gzip'],
  ['a page too', '/page.html', 'br', 'br'],
])('%s is sent', async (_what, path, encodings, encoding) => {
  const answer = await get(path, encodings).expect(200);
  expect(answer.headers['content-encoding']).toBe(encoding);
  expect(answer.text).toContain(path.endsWith('.js') ? 'a = 1' : 'one');
});

test.each([
  ['a browser that unpacks neither', '/assets/a.js', 'identity'],
  ['what is not there', '/assets/b.js', 'br'],
  ['a folder', '/assets', 'br'],
  ['what lies outside', '/assets/..%2f..%2fsecret.js', 'br'],
  ['a path that does not read', '/assets/%E0%A4%A', 'br'],
])('%s goes on to whoever comes next', async (_what, path, encodings) => {
  const answer = await get(path, encodings).expect(404);
  expect(answer.text).toBe('next');
});

test('what is sent goes on only where it is read', async () => {
  await request(app).post('/assets/a.js').set('Accept-Encoding', 'br').expect(404);
  const head = await request(app).head('/assets/a.js').set('Accept-Encoding', 'br').expect(200);
  expect(head.headers['content-encoding']).toBe('br');
});

test('whoever has it is told so; what never changes is kept for good, a page is as it is now', async () => {
  const first = await get('/assets/a.js', 'br').expect(200);
  expect(first.headers['cache-control']).toContain('immutable');
  await get('/assets/a.js', 'br').set('If-None-Match', first.headers['etag']!).expect(304);
  write('web/assets/a.js', 'export const b = 2;');
  expect((await get('/assets/a.js', 'br').expect(200)).text).toContain('a = 1');
  const page = await get('/page.html', 'br').expect(200);
  expect(page.headers['cache-control']).toBe('no-cache');
  write('web/page.html', '<p>two and more</p>');
  const now = await get('/page.html', 'br').set('If-None-Match', page.headers['etag']!).expect(200);
  expect(now.text).toContain('two');
});
