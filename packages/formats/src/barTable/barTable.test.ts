import { readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { describe, expect, test } from '@jest/globals';
import { readShorthand, writePiece, writeShorthand, type Piece } from '@anchorbeat/core';
import { pieceOf } from '../../../core/src/test/pieceOf.ts';
import { randomPiece } from '../../../core/src/test/randomPiece.ts';
import { richPiece } from '../../../core/src/test/richPiece.ts';
import { barTable, writeBarTable } from './barTable.ts';
import { readBarTable } from './readBarTable.ts';

const blank = pieceOf({ meter: '4/4' });
const barsFrom = (text: string, piece: Piece = blank) => {
  const { piece: read, problems } = readBarTable(text, piece);
  return read
    ? writePiece(read).bars
    : problems.map(({ row, column, message }) => `${row} ${column}: ${message}`);
};

describe('what the cells mean', () => {
  test.each<[string, string, readonly object[]]>([
    [
      'meters alone, as many bars as rows',
      'meter\n7/8\n\n7/8\n4/4',
      [{ meter: '7/8' }, {}, { meter: '4/4' }],
    ],
    ['an empty meter goes on', 'bars;meter\n2;7/8 as 2+2+3\n1;', [{ meter: '7/8 as 2+2+3' }, {}, {}]],
    [
      'tabs, other headings and a mark of order',
      '\uFEFFBar\tMeter\tRehearsal mark\tTempo\n1\t6/8\tA\tq. = 66; q. = 60, on 2',
      [
        {
          meter: '6/8',
          rehearsalMark: 'A',
          tempo: [{ tempo: 'dotted quarter = 66' }, { at: '3/8', tempo: 'dotted quarter = 60' }],
        },
      ],
    ],
    [
      'a pickup, numbers that jump, none at all',
      'number,meter,pickup\n,4/4,1/4\n1,,\n5,,\nnone,,\n6,,',
      [{ meter: '4/4', pickup: '1/4' }, {}, { label: '5' }, { label: null }, {}],
    ],
    [
      'only the bars where something changes, under other headings',
      'Measure,Time Signature,BPM\n1,4/4,120\n5,7/8,\n8,4/4,',
      [
        { meter: '4/4', tempo: [{ tempo: 'quarter = 120' }] },
        {},
        {},
        {},
        { meter: '7/8' },
        {},
        {},
        { meter: '4/4' },
      ],
    ],
    [
      'from bar to bar',
      'Bars\tTime sig.\n1-3\t4/4\n4 – 5\t7/8',
      [{ meter: '4/4' }, {}, {}, { meter: '7/8' }, {}],
    ],
    [
      'sections of a song, and remarks that are no rhythms',
      'Section,Measures,Time,Notes\nIntro,2,4/4,quiet here\nA,1,C|,',
      [{ meter: '4/4', rehearsalMark: 'Intro' }, {}, { meter: '2/2', rehearsalMark: 'A' }],
    ],
    [
      'signs, endings and notes',
      'meter,at start,ending,notes,at end\n3/4,repeat from here,1,q q q,"repeat back, 3 times"\n3/4,,2,,fine',
      [
        { meter: '3/4', startsRepeat: true, ending: '1', rhythm: 'q q q', endsRepeat: 3 },
        { ending: '2', fine: true },
      ],
    ],
  ])('%s', (_name, text, bars) => {
    expect(barsFrom(text)).toEqual(bars);
  });

  test.each([
    ['meter,tempo\n4/4,q = 96\n4/4,fast = ', '3 tempo: '],
    ['meter\n04-Mar', '2 meter: "04-Mar" is a date'],
    ['meter\nfour', '2 meter: '],
    ['length\n4', '1 : The first row should name the columns'],
    ['', '1 : The first row'],
    ['meter\tmark\n4/4\t\n\n04-Mar\tA\n', '4 meter: "04-Mar" is a date'],
    ['meter,ending\n4/4,0', '2 meter: '],
    ['Time Signature\n4/4\nfour', '3 time signature: '],
    ['Bar,Meter\n9-1,4/4', '2 bar: Bars 9 to 1 run backwards'],
  ])('%j is told by its cell', (text, expected) => {
    expect(barsFrom(text)[0]).toContain(expected);
  });

  test('a heading nobody knows is left out and told, also of a file', () => {
    const table = 'meter,Bowing\n4/4,up';
    const { piece, unknownColumns } = readBarTable(table, blank);
    expect([piece?.bars.length, unknownColumns]).toEqual([1, ['Bowing']]);
    const file = barTable.read(new TextEncoder().encode(table));
    expect(file.ok && file.notes?.leftOut[0]?.says).toContain('"Bowing"');
  });

  test('of two columns that could be meant the one of that very name counts', () => {
    const { piece, unknownColumns } = readBarTable('Time,Meter\n0:35,7/8', blank);
    expect([piece && writePiece(piece).bars, unknownColumns]).toEqual([[{ meter: '7/8' }], ['Time']]);
  });

  test('numbers are those of the piece: a pickup without one stays in front as it is', () => {
    const pickup = { meter: '4/4', pickup: '1/4', tempo: [{ tempo: 'quarter = 60' }] };
    const piece = pieceOf(pickup, {}, {}, {}, {});
    const read = (table: string) => {
      const { piece: becomes, guessed } = readBarTable(table, piece);
      return { bars: becomes && writePiece(becomes).bars, guessed: guessed.join() };
    };
    const sparse = read('bar,meter,tempo\n1,4/4,\n3,7/8,q = 80');
    const seven = { meter: '7/8', tempo: [{ tempo: 'quarter = 80' }] };
    expect(sparse.bars).toEqual([pickup, {}, {}, seven, {}]);
    expect(sparse.guessed).toMatch(/the pickup, which stays as it is.*only some bars/);
    expect(read('bar,meter\n1,4/4\n2,7/8').bars).toEqual([pickup, {}, { meter: '7/8' }]);
    expect(read('bar,meter\n,4/4\n1,7/8').bars).toEqual([{ ...pickup }, { meter: '7/8' }]);
  });

  test('what changes last lasts to the end of the piece, and that is told', () => {
    const piece = pieceOf({ meter: '4/4' }, ...Array.from({ length: 11 }, () => ({})));
    const { piece: read, guessed } = readBarTable('bar,meter\n1,4/4\n5,7/8\n9,3/4', piece);
    expect(read && writePiece(read).bars.map(({ meter }) => meter ?? '')).toEqual([
      '4/4',
      '',
      '',
      '',
      '7/8',
      '',
      '',
      '',
      '3/4',
      '',
      '',
      '',
    ]);
    expect(guessed[0]).toContain('only some bars are named');
    const jumping = readBarTable('bar,meter\n1,4/4\n2,\n3,\n4,\n101,3/4', piece);
    expect(jumping.guessed[0]).toContain('only some bars');
    const renumbered = readBarTable(`bar,meter\n${[1, 2, 3, 4, 7, 8].join(',4/4\n')},4/4`, piece);
    expect([renumbered.piece?.bars.length, renumbered.guessed]).toEqual([6, []]);
  });
});

describe('the examples in docs/', () => {
  const exampleOf = (name: string) => {
    const file = fileURLToPath(new URL(`../../../../docs/${name}`, import.meta.url));
    return /```\n([\s\S]*?)```/.exec(readFileSync(file, 'utf8'))?.[1] ?? '';
  };

  test('the text in words reads, and comes out as it went in', () => {
    const { piece, problems } = readShorthand(exampleOf('shorthand.md'), blank);
    expect(problems).toEqual([]);
    expect([piece?.title, piece?.bars.length]).toEqual(['Net Menders', 32]);
    expect(readShorthand(writeShorthand(piece!), blank).piece).toEqual(piece);
  });

  test('the table reads to what it says', () => {
    expect(barsFrom(exampleOf('bar-table.md'))).toEqual([
      { meter: '4/4', pickup: '1/4', tempo: [{ term: 'Steady', tempo: 'quarter = 96' }] },
      { startsRepeat: true },
      { meter: '15/16 as 4+4+4+3' },
      { meter: '4/4', ending: '1', endsRepeat: 2 },
      { ending: '2' },
      {
        meter: '12/8',
        rehearsalMark: 'A',
        tempo: [{ equivalence: 'quarter = dotted quarter' }],
        pulse: 'in 2',
      },
    ]);
  });
});

test('a short first bar that has a number keeps it, and the next counts on', () => {
  const table = (...number: readonly string[]) =>
    `number,pickup,meter\n${number[0] ?? ''},1/4,4/4\n${number[1] ?? ''},,4/4`;
  const numbered = { meter: '4/4', pickup: '1/4', label: '1' };
  expect(barsFrom(table('1'))).toEqual([numbered, {}]);
  expect(barsFrom(table('1', '2'))).toEqual([numbered, {}]);
  expect(barsFrom(table('', '1'))).toEqual([{ meter: '4/4', pickup: '1/4' }, {}]);
});

describe('there and back', () => {
  const said = (piece: Piece) =>
    writePiece(piece).bars.map(({ answers: _a, sections: _s, note: _n, countOff: _c, ...bar }) => bar);

  test('what a table says of any piece reads back the same', () => {
    for (let seed = 0; seed < 30; seed++) {
      const piece = seed % 2 ? richPiece(seed, 25) : randomPiece(seed, 40);
      const reading = readBarTable(writeBarTable(piece), blank);
      expect(reading.problems).toEqual([]);
      expect(said(reading.piece!)).toEqual(said(piece));
      expect(readBarTable(writeBarTable(piece), piece).piece).toEqual(piece);
    }
  });

  test('columns left out take nothing away', () => {
    const piece = richPiece(3, 25);
    const onlyMeters = writeBarTable(piece)
      .split('\n')
      .filter((line) => line !== '');
    expect(onlyMeters.length).toBe(26);
    const meters = piece.bars.map(
      (_, index) => `"${writePiece({ ...piece, bars: [piece.bars[index]!] }).bars[0]!.meter}"`,
    );
    expect(readBarTable(['meter', ...meters].join('\n'), piece).piece).toEqual(piece);
  });

  test('a mark that begins like a formula comes out harmless and comes back as it was', () => {
    const piece = pieceOf({ meter: '4/4', rehearsalMark: '=1+1' });
    expect(writeBarTable(piece)).toContain("'=1+1");
    expect(readBarTable(writeBarTable(piece), blank).piece?.bars[0]?.rehearsalMark).toBe('=1+1');
  });

  test('files of older spreadsheets read too', () => {
    const utf16 = Uint8Array.of(0xff, 0xfe, ...[...'meter\n3/4'].flatMap((c) => [c.charCodeAt(0), 0]));
    const western = Uint8Array.of(...new TextEncoder().encode('meter,mark\n3/4,'), 0xc9);
    expect(barTable.read(utf16)).toMatchObject({ ok: true });
    const reading = barTable.read(western);
    expect(reading.ok && reading.piece.bars[0]?.rehearsalMark).toBe('É');
  });
});
