import { describe, expect, test } from '@jest/globals';
import { writePiece } from '@anchorbeat/core';
import { readFileNamed } from '../fileByName.ts';

const read = (text: string | Uint8Array) =>
  readFileNamed('a.txt', typeof text === 'string' ? new TextEncoder().encode(text) : text);
const refusals = (text: string) => {
  const reading = read(text);
  return reading.ok ? [] : reading.problems.map(({ field, message }) => `${field}: ${message}`);
};

describe('a text file', () => {
  test('is the piece in words, from whatever editor', () => {
    const text =
      'title: Slack Water\r\n\r\ntempo “Steady, calm”, quarter = 96\r\npickup of 1/4 in 4/4\r\n2 bars\r\n';
    const utf16 = Uint8Array.from([0xff, 0xfe, ...Buffer.from(text, 'utf16le')]);
    for (const file of [text, `\uFEFF${text}`, utf16, Buffer.from(text.replace(/[“”]/g, '"'), 'latin1')]) {
      const reading = read(file);
      expect(reading.ok && writePiece(reading.piece)).toEqual({
        format: 'anchorbeat-piece',
        version: 1,
        title: 'Slack Water',
        bars: [
          { meter: '4/4', pickup: '1/4', tempo: [{ term: 'Steady, calm', tempo: 'quarter = 96' }] },
          {},
          {},
        ],
      });
    }
  });

  test.each([
    ['bar,meter\n1,4/4\n2,3/4\n', 2],
    ['Measures\tTime signature\n4\t4/4\n', 4],
    ['bars,meter\n3,4/4\n', 3],
  ])('is a table where its first row names columns of one: %j', (text, bars) => {
    const reading = read(text);
    expect(reading.ok && reading.piece.bars).toHaveLength(bars);
  });

  test.each([
    ['', ['line 1: Write at least one bar: 8 bars of 4/4']],
    [
      'hello\tthere\n',
      ['row 1: The first row should name the columns, at least "meter": meter, tempo, mark'],
    ],
    [
      'title: A\n4 bars of 4/4\nfoo bar\n\n2 bars of 0/4\n',
      [
        'line 3: Give a number of bars from 1 to 10,000',
        'line 5: 0/4 has a group of 0: leave that group out',
      ],
    ],
  ])('that does not read says in which line: %j', (text, says) => {
    expect(refusals(text)).toEqual(says);
  });

  test('of a hundred thousand wrong lines says the first', () => {
    expect(refusals('nothing of the kind\n'.repeat(90_000))).toHaveLength(100);
    expect(refusals('nothing of the kind\n'.repeat(110_000))).toHaveLength(1);
  });
});
