import { expect, test } from '@jest/globals';
import { readPiece, writePiece } from '@anchorbeat/core';
import { carriedFileMaybe, carryingLink } from './pieceLink.ts';

function pieceOf(title: string, count: number) {
  const bars = Array.from({ length: count }, (_, index) =>
    index % 3 === 1 ? { meter: '7/8 as 2+2+3', rehearsalMark: String(index) } : { meter: '4/4' },
  );
  const reading = readPiece({ format: 'anchorbeat-piece', version: 1, title, bars });
  if (!reading.ok) throw new Error(reading.problems[0]?.message);
  return reading.piece;
}

const hashOf = (link: string) => link.slice(link.indexOf('#'));

test.each([
  ['Ebb – “Count”', 1],
  ['Ropewalk / 2', 240],
])('a link carries %s whole, and nothing that an address may not have', async (title, count) => {
  const piece = pieceOf(title, count);
  const link = await carryingLink(piece, 'http://here');
  expect(link).toMatch(/^http:\/\/here\/#piece=[\w-]+$/);
  const file = await carriedFileMaybe(hashOf(link));
  expect(file?.name).toMatch(/\.anchorbeat\.json$/);
  expect(JSON.parse(await file!.text())).toEqual(JSON.parse(JSON.stringify(writePiece(piece))));
});

test.each([
  ['no mark', '#elsewhere'],
  ['nothing in it', '#piece='],
  ['what is no code', '#piece=%%%'],
  ['what does not unpack', '#piece=AAAA'],
])('a link with %s opens nothing', async (_name, hash) => {
  expect(await carriedFileMaybe(hash)).toBeNull();
});

test('a link that breaks off opens nothing', async () => {
  const hash = hashOf(await carryingLink(pieceOf('Broken', 60), 'http://here'));
  expect(await carriedFileMaybe(hash.slice(0, -9))).toBeNull();
});

test('a link that unpacks to more than any piece opens nothing', async () => {
  const packing = new Blob([new Uint8Array(40 * 1024 * 1024)])
    .stream()
    .pipeThrough(new CompressionStream('deflate-raw'));
  const packed = Buffer.from(await new Response(packing).arrayBuffer());
  expect(packed.length).toBeLessThan(100_000);
  expect(await carriedFileMaybe(`#piece=${packed.toString('base64url')}`)).toBeNull();
});
