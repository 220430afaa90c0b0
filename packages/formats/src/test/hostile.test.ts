import { readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { describe, expect, test } from '@jest/globals';
import { zipSync } from 'fflate';
import { seededRandom } from '../../../core/src/random/seededRandom.ts';
import { FILE_FORMATS } from '../formats.ts';
import { midi } from '../midi/midi.ts';
import { musicXml } from '../musicXml/musicXml.ts';
import { pieceJson } from '../pieceJson/pieceJson.ts';
import { bytes, notes, score, time } from './scores.ts';

const MOST_SECONDS = 2;

/** What this process has worked since, whatever else the machine does meanwhile. */
function secondsSince(began: NodeJS.CpuUsage): number {
  const { user, system } = process.cpuUsage(began);
  return (user + system) / 1e6;
}

const DEMO = fileURLToPath(new URL('../../../../demo/lamp-on-the-bar.anchorbeat.json', import.meta.url));

function seedPiece() {
  const reading = pieceJson.read(readFileSync(DEMO));
  if (!reading.ok) throw new Error('the demo does not read');
  return reading.piece;
}

const MB = 1024 * 1024;
const entities = (body: string) =>
  bytes(
    `<?xml version="1.0"?><!DOCTYPE score-partwise [${body}]><score-partwise><work><work-title>&a;</work-title></work></score-partwise>`,
  );
const bomb = Array.from(
  { length: 9 },
  (_, level) => `<!ENTITY ${'abcdefghij'[level]} "${`&${'abcdefghij'[level + 1]};`.repeat(10)}">`,
).join('');
const randomBytes = (length: number, seed: number) => {
  const random = seededRandom(seed);
  return Uint8Array.from({ length }, () => Math.floor(random() * 256));
};
const good = score([[time('4', '4') + notes(4, 4, 4, 4)]]);

describe.each<[string, string, Uint8Array, string]>([
  ['an entity bomb', '.xml', entities(bomb), 'defines entities'],
  ['an external entity', '.xml', entities('<!ENTITY a SYSTEM "file:///etc/passwd">'), 'defines entities'],
  [
    'an entity that is nowhere defined',
    '.xml',
    bytes('<score-partwise><work>&a;</work></score-partwise>'),
    'does not read as XML',
  ],
  ['a score of 50 MB', '.musicxml', new Uint8Array(50 * MB).fill(0x20), 'larger than 32 MB'],
  ['MIDI of 50 MB', '.mid', new Uint8Array(50 * MB), 'larger than 2 MB'],
  ['a piece of 50 MB', '.json', new Uint8Array(50 * MB).fill(0x20), 'larger than 8 MB'],
  ['a table of 50 MB', '.csv', new Uint8Array(50 * MB).fill(0x2c), 'larger than any piece'],
  [
    'a zip bomb',
    '.mxl',
    zipSync({ 'score.xml': new Uint8Array(33 * MB) }, { level: 1 }),
    'refused for safety',
  ],
  [
    'a zip of many files',
    '.mxl',
    zipSync(Object.fromEntries(Array.from({ length: 900 }, (_, n) => [`${n}.xml`, good]))),
    'more files',
  ],
  ['half a zip', '.mxl', zipSync({ 'score.xml': good }).slice(0, 120), 'damaged'],
  ['a zip without a score', '.mxl', zipSync({ 'readme.txt': bytes('hello') }), 'no score'],
  ['half a score', '.xml', good.slice(0, good.length / 2), 'does not read as XML'],
  [
    'elements in elements in elements',
    '.xml',
    bytes(`<score-partwise>${'<work>'.repeat(200_000)}`),
    'nested too deeply',
  ],
  [
    'one text without an end',
    '.xml',
    bytes(`<score-partwise><work><work-title>${'x'.repeat(10 * MB)}</work-title></work></score-partwise>`),
    'longer than any score',
  ],
  [
    'one bar without an end',
    '.xml',
    bytes(
      `<score-partwise><part id="a"><measure>${'<note/>'.repeat(400_000)}</measure></part></score-partwise>`,
    ),
    'more in one place',
  ],
  [
    'half a million bars',
    '.xml',
    bytes(`<score-partwise><part id="a">${'<measure/>'.repeat(500_000)}</part></score-partwise>`),
    'more than 10000 bars',
  ],
  ['another kind of XML', '.xml', bytes('<html><body/></html>'), 'no score'],
  ['random bytes as a score', '.xml', randomBytes(MB, 1), ''],
  ['random bytes as a zip', '.mxl', Uint8Array.from([0x50, 0x4b, 3, 4, ...randomBytes(100_000, 2)]), ''],
  [
    'random bytes as MIDI',
    '.mid',
    Uint8Array.from([...bytes('MThd'), 0, 0, 0, 6, 0, 1, 0, 9, 1, 224, ...randomBytes(MB, 3)]),
    '',
  ],
  [
    'a MIDI file that never ends',
    '.mid',
    Uint8Array.from([
      ...bytes('MThd'),
      0,
      0,
      0,
      6,
      0,
      1,
      0,
      1,
      0,
      1,
      ...bytes('MTrk'),
      0,
      0,
      0,
      8,
      0xff,
      0xff,
      0xff,
      0x7f,
      0xff,
      0x06,
      1,
      65,
    ]),
    'more than 10000 bars',
  ],
  ['random bytes as JSON', '.json', randomBytes(MB, 4), ''],
  ['random bytes as a table', '.csv', randomBytes(MB, 5), ''],
  ['random bytes as words', '.txt', randomBytes(MB, 6), ''],
  ['a line without end', '.txt', bytes(`4 bars of ${'('.repeat(2 * MB)}`), ''],
  ['as many meters as fit', '.txt', bytes('1 bar of 1+1+1+1/4\n'.repeat(90_000)), '10,000'],
])('%s', (_name, ending, file, reason) => {
  test(`is refused within ${MOST_SECONDS} s`, () => {
    const format = FILE_FORMATS.find(({ endings }) => endings.includes(ending))!;
    const began = process.cpuUsage();
    const reading = format.read(file);
    expect(secondsSince(began)).toBeLessThan(MOST_SECONDS);
    expect(reading.ok).toBe(false);
    expect(reading.ok ? '' : reading.problems[0]?.message).toContain(reason);
  });
});

/** Of each of six kinds. */
const MUTATIONS = 2000;

describe('twelve thousand damaged files', () => {
  const zipped = (file: Uint8Array) => zipSync({ 'score.xml': file });
  const piece = seedPiece();
  const short = { ...piece, bars: piece.bars.slice(0, 6) };
  test.each<[string, string, Uint8Array, number]>([
    ['JSON', '.json', pieceJson.write(short), MUTATIONS],
    ['MusicXML', '.xml', musicXml.write(short), MUTATIONS],
    ['compressed MusicXML', '.mxl', zipped(musicXml.write(short)), MUTATIONS],
    ['MIDI', '.mid', midi.write(short), MUTATIONS],
    ['words', '.txt', FILE_FORMATS.find(({ id }) => id === 'words')!.write(short), MUTATIONS],
    ['a table', '.csv', FILE_FORMATS.find(({ id }) => id === 'bar-table')!.write(short), MUTATIONS],
  ])('%s: read or refused with a reason, never more', (_name, ending, valid, count) => {
    const format = FILE_FORMATS.find(({ endings }) => endings.includes(ending))!;
    const random = seededRandom(4711);
    const below = (limit: number) => Math.floor(random() * limit);
    let read = 0;
    let slowest = 0;
    const unexplained: number[] = [];
    for (let round = 0; round < count; round++) {
      const file = mutated(valid, below);
      const began = process.cpuUsage();
      const reading = format.read(file);
      slowest = Math.max(slowest, secondsSince(began));
      if (reading.ok) read++;
      else if (!reading.problems[0]?.message) unexplained.push(round);
    }
    expect(unexplained).toEqual([]);
    expect(read).toBeLessThan(count);
    expect(slowest).toBeLessThan(MOST_SECONDS);
  });
});

/** A few bytes changed, taken out, put in twice, or the end cut off. */
function mutated(valid: Uint8Array, below: (limit: number) => number): Uint8Array {
  let file = Uint8Array.from(valid);
  for (let change = 1 + below(4); change > 0; change--) {
    const at = below(file.length || 1);
    const length = 1 + below(12);
    switch (below(5)) {
      case 0:
        file[at] = below(256);
        break;
      case 1:
        file = joined(file.subarray(0, at), file.subarray(at + length));
        break;
      case 2:
        file = joined(file.subarray(0, at + length), file.subarray(at));
        break;
      case 3:
        file[at] = 0x30 + below(10);
        break;
      default:
        if (below(10) === 0) file = file.slice(0, at);
        else file[at] = [0x3c, 0x3e, 0x22, 0x00, 0xff, 0x7b, 0x2c, 0x0a][below(8)]!;
    }
  }
  return file;
}

function joined(...parts: readonly Uint8Array[]): Uint8Array<ArrayBuffer> {
  return Uint8Array.from(Buffer.concat(parts));
}
