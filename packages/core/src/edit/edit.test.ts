import { describe, expect, test } from '@jest/globals';
import { fraction } from '../fraction/fraction.ts';
import { writePiece } from '../document/writePiece.ts';
import { readPiece } from '../document/readPiece.ts';
import { formatMeter, parseMeter } from '../meter/text.ts';
import { expectValue } from '../problem/problem.ts';
import { pieceOf } from '../test/pieceOf.ts';
import { randomPiece } from '../test/randomPiece.ts';
import { seededRandom } from '../random/seededRandom.ts';
import { applyEdit } from './applyEdit.ts';
import type { Edit } from './edit.ts';
import { parsePickupEntry, parseSectionEntry, parseTempoEntry } from './typed.ts';
import { formatEquivalence, formatStatedTempo } from '../tempo/text.ts';

const meter = (text: string) => expectValue(parseMeter(text));
const base = pieceOf(
  { meter: '4/4', tempo: [{ tempo: 'quarter = 96' }] },
  { rehearsalMark: 'A' },
  { meter: '3/4', tempo: [{ at: '1/2', tempo: 'quarter = 60' }] },
  {},
);

describe('every edit says what it did', () => {
  test.each<[Edit, string, string[]]>([
    [
      { kind: 'insertBars', at: 2, count: 2 },
      '2 bars of 4/4 added after bar 2',
      ['4/4', '', '', '', '3/4', ''],
    ],
    [
      { kind: 'insertBars', at: 0, count: 1, meter: meter('7/8') },
      '1 bar of 7/8 added at the start',
      ['7/8', '4/4', '', '3/4', ''],
    ],
    [
      { kind: 'deleteBars', from: 1, count: 2 },
      'bars 2 to 3 deleted, with the tempo marks in them',
      ['4/4', '3/4'],
    ],
    [
      { kind: 'repeatBars', from: 1, count: 2, times: 2 },
      'bars 2 to 3 written out 2 more times',
      ['4/4', '', '3/4', '4/4', '3/4', '4/4', '3/4', ''],
    ],
    [
      { kind: 'setMeter', from: 1, count: 1, meter: meter('7/8 as 2+2+3') },
      'bar 2 is now 7/8 as 2+2+3, was 4/4',
      ['4/4', '7/8 as 2+2+3', '3/4', ''],
    ],
  ])('%j', (edit, says, meters) => {
    const edited = expectValue(applyEdit(base, edit));
    expect(edited.says).toBe(says);
    expect(writePiece(edited.piece).bars.map((bar) => bar.meter ?? '')).toEqual(meters);
  });

  test.each<[Edit, string]>([
    [
      { kind: 'setTempoMark', bar: 1, mark: expectValue(parseTempoEntry('q. = 66 on 3', base.bars[1]!)) },
      'dotted quarter = 66 at bar 2',
    ],
    [{ kind: 'clearTempoMarks', from: 0, count: 1 }, 'Tempo marks taken out of bar 1'],
    [{ kind: 'setPickup', bar: 0, lengthWholes: fraction(1, 4) }, 'bar 1 is a pickup of one quarter'],
    [{ kind: 'setLabel', bar: 3, label: '12a' }, 'bar 4 is labelled 12a'],
    [{ kind: 'setLabel', bar: 3, label: null }, 'bar 4 has no number'],
    [{ kind: 'setRehearsalMark', bar: 1, mark: undefined }, 'Rehearsal mark A taken off bar 2'],
    [{ kind: 'setTitle', title: ' Skein ' }, 'Title is now Skein'],
  ])('%j', (edit, says) => {
    expect(expectValue(applyEdit(base, edit)).says).toBe(says);
  });
});

test.each<[Edit, string]>([
  [{ kind: 'deleteBars', from: 0, count: 4 }, 'at least one bar'],
  [{ kind: 'insertBars', at: 4, count: 10_000 }, 'at most 10,000'],
  [{ kind: 'setMeter', from: 2, count: 1, meter: meter('2/4') }, 'tempo mark or hold inside bar 3'],
  [{ kind: 'setPickup', bar: 0, lengthWholes: fraction(4, 4) }, 'shorter than its 4/4 bar'],
  [{ kind: 'setPickup', bar: 2, lengthWholes: fraction(1, 4) }, 'outside the pickup'],
  [{ kind: 'setTempoMark', bar: 2, mark: { atWholes: fraction(3, 4) } }, 'outside bar 3'],
  [{ kind: 'setTitle', title: '' }, 'a title'],
  [{ kind: 'clearTempoMarks', from: 1, count: 1 }, 'no tempo mark'],
])('%j is refused', (edit, reason) => {
  const result = applyEdit(base, edit);
  expect(result.ok || result.problem.message).toContain(reason);
});

test('any sequence of edits leaves a piece that reads back, and never touches the one before', () => {
  const random = seededRandom(99);
  let piece = randomPiece(1, 30);
  for (let step = 0; step < 300; step++) {
    const before = JSON.stringify(piece);
    const result = applyEdit(piece, randomEdit(random, piece.bars.length));
    expect(JSON.stringify(piece)).toBe(before);
    if (!result.ok) continue;
    piece = result.value.piece;
    expect(readPiece(JSON.parse(JSON.stringify(writePiece(piece))))).toEqual({ ok: true, piece });
  }
});

function randomEdit(random: () => number, bars: number): Edit {
  const below = (limit: number) => Math.floor(random() * limit);
  const from = below(bars);
  const span = { from, count: 1 + below(Math.min(3, bars - from)) };
  const atWholes = fraction(below(8), 8);
  const choices: Edit[] = [
    { kind: 'insertBars', at: below(bars + 1), count: 1 + below(2) },
    { kind: 'deleteBars', ...span },
    {
      kind: 'setMeter',
      ...span,
      meter: meter(['7/8', '3/4', '15/16 as 4+4+4+3', '3/4+3/8'][below(4)] ?? '4/4'),
    },
    {
      kind: 'setTempoMark',
      bar: from,
      mark: {
        atWholes,
        equivalence: {
          before: { base: 'eighth', dots: 0, tuplets: [] },
          after: { base: 'eighth', dots: 1, tuplets: [] },
        },
      },
    },
    { kind: 'setPickup', bar: from, lengthWholes: below(2) ? fraction(1, 8) : null },
    { kind: 'setLabel', bar: from, label: [null, '7b', undefined][below(3)] },
    { kind: 'repeatBars', ...span, times: 1 },
  ];
  return choices[below(choices.length)] as Edit;
}

describe('what a director types', () => {
  const bar = (text: string) => ({ meter: meter(text), tempoMarks: [] });

  test.each([
    ['132', '4/4', 'quarter = 132', undefined, '0'],
    ['66', '6/8', 'dotted quarter = 66', undefined, '0'],
    ['q=88 on 3', '4/4', 'quarter = 88', undefined, '1/2'],
    ['e = e', '9/8', undefined, 'eighth = eighth', '0'],
    ['e3 = s, q = 54', '4/4', 'quarter = 54', 'triplet eighth = sixteenth', '0'],
    ['crotchet = 60', '6/8', 'quarter = 60', undefined, '0'],
    ['Allegro minim = 60', '4/4', 'half = 60', undefined, '0'],
    ['quintuplet eighth = e', '4/4', undefined, 'quintuplet eighth = eighth', '0'],
    ['88,5', '4/4', 'quarter = 88.5', undefined, '0'],
    ['♪ = ♪', '9/8', undefined, 'eighth = eighth', '0'],
    ['Lively ♩. = 66 on 2', '6/8', 'dotted quarter = 66', undefined, '3/8'],
    ['M.M. 96', '4/4', 'quarter = 96', undefined, '0'],
    ['96 bpm', '6/8', 'dotted quarter = 96', undefined, '0'],
    ['Largo c. 60', '4/4', 'quarter = 60', undefined, '0'],
    ['M.M. h = ca. 60', '4/4', 'half = 60', undefined, '0'],
  ])('tempo "%s" in %s', (text, meterText, stated, equivalence, at) => {
    const mark = expectValue(parseTempoEntry(text, bar(meterText)));
    expect(mark.stated && formatStatedTempo(mark.stated)).toBe(stated);
    expect(mark.equivalence && formatEquivalence(mark.equivalence)).toBe(equivalence);
    expect(`${mark.atWholes.n}${mark.atWholes.d === 1 ? '' : `/${mark.atWholes.d}`}`).toBe(at);
  });

  test.each([
    ['4/4', '1/8', 'quarter = 96'],
    ['6/8', '1/8', 'dotted quarter = 96'],
    ['3/4', '2/4', 'quarter = 96'],
    ['2/2', '1/4', 'half = 96'],
  ])('a number at the pickup of a piece in %s, %s long, is of its beat', (meter, pickup, stated) => {
    const [upbeat] = pieceOf({ meter, pickup }, {}).bars;
    const mark = expectValue(parseTempoEntry('96', upbeat!));
    expect(mark.stated && formatStatedTempo(mark.stated)).toBe(stated);
  });

  test.each([
    ['a tempo', 'a tempo', 'a tempo'],
    ['Tempo I', 'tempo primo', 'Tempo I'],
    ['tempo 1°', 'tempo primo', 'tempo 1°'],
  ])('"%s" is a return to %s', (text, returns, term) => {
    expect(expectValue(parseTempoEntry(text, bar('4/4')))).toMatchObject({ returns, term });
  });

  test.each(['q = 88 on 9', '', 'allegro', 'e = ', '-3'])('tempo "%s" is refused', (text) => {
    expect(parseTempoEntry(text, bar('4/4')).ok).toBe(false);
  });

  test.each([
    ['e', fraction(1, 8)],
    ['dotted quarter', fraction(3, 8)],
    ['3/8', fraction(3, 8)],
    ['2', fraction(2, 4)],
  ])('pickup "%s"', (text, length) => {
    expect(parsePickupEntry(text, bar('4/4'))).toEqual({ ok: true, value: length });
  });
});

describe('sections, notes and corrections', () => {
  const piece = pieceOf({ meter: '4/4' }, {}, { meter: '5/8' }, {}, { meter: '4/4' }, {});
  const barsAfter = (...edits: readonly Edit[]) => {
    const last = edits.reduce((before, edit) => expectValue(applyEdit(before, edit)).piece, piece);
    return writePiece(last).bars.map(({ meter: _meter, ...rest }) => rest);
  };

  test.each<[string, Edit[], object[]]>([
    [
      'a section rests and comes in again',
      [{ kind: 'restSection', section: 'Reeds', from: 1, count: 2 }],
      [
        {},
        { sections: [{ section: 'Reeds', does: 'rests' }] },
        {},
        { sections: [{ section: 'Reeds', does: 'enters' }] },
        {},
        {},
      ],
    ],
    [
      'a rest up to a bar that says something already',
      [
        { kind: 'markSection', bar: 5, section: 'Reeds', does: 'cue', says: 'watch' },
        { kind: 'markSection', bar: 4, section: 'Reeds', does: 'enters' },
        { kind: 'restSection', section: 'Reeds', from: 3, count: 2 },
      ],
      [
        {},
        {},
        {},
        { sections: [{ section: 'Reeds', does: 'rests' }] },
        {},
        { sections: [{ section: 'Reeds', does: 'cue', says: 'watch' }] },
      ],
    ],
    [
      'everybody rests',
      [{ kind: 'restBars', from: 1, count: 2 }],
      [{}, { rhythm: 'rw' }, { rhythm: 're re re re re' }, {}, {}, {}],
    ],
    [
      'a word to the ensemble, and away with it',
      [
        { kind: 'setNote', bar: 0, note: 'lift' },
        { kind: 'setNote', bar: 1, note: 'breathe' },
        { kind: 'setNote', bar: 0, note: undefined },
      ],
      [{}, { note: 'breathe' }, {}, {}, {}, {}],
    ],
  ])('%s', (_name, edits, expected) => {
    expect(barsAfter(...edits)).toEqual(expected);
  });

  test.each<[number, number, number, string]>([
    [2, 2, 0, '5/8 5/8 4/4 4/4 4/4 4/4'],
    [0, 1, 3, '4/4 5/8 4/4 5/8 4/4 4/4'],
    [1, 2, 6, '4/4 5/8 4/4 4/4 4/4 5/8'],
  ])('bars from %i, %i of them, move before %i', (from, count, before, meters) => {
    const moved = expectValue(applyEdit(piece, { kind: 'moveBars', from, count, before }));
    expect(moved.piece.bars.map((bar) => formatMeter(bar.meter)).join(' ')).toBe(meters);
    expect(new Set(moved.piece.bars)).toEqual(new Set(piece.bars));
  });

  test('a correction is made and logged with what it was and is', () => {
    const log = { why: 'a beat too many', spottedBy: 'Reeds', on: '2026-03-28' };
    const edit: Edit = { kind: 'setMeter', from: 2, count: 1, meter: meter('9/16') };
    const corrected = expectValue(applyEdit(piece, { kind: 'correct', edit, log }));
    expect(corrected.piece.corrections).toEqual([{ place: 'bar 3', was: '5/8', is: '9/16', ...log }]);
    expect(corrected.says).toBe('Corrected: bar 3 is now 9/16, was 5/8, spotted by Reeds');
    const again = applyEdit(corrected.piece, { kind: 'correct', edit, log });
    expect(again.ok).toBe(false);
  });

  test('an earlier piece takes the place of this one, and what changes is told', () => {
    const later = expectValue(
      applyEdit(piece, { kind: 'setMeter', from: 2, count: 1, meter: meter('9/16') }),
    ).piece;
    const back = expectValue(applyEdit(later, { kind: 'replacePiece', piece, how: 'Revision 3 restored' }));
    expect(back.says).toBe('Revision 3 restored: bar 3 is now 5/8, was 9/16: one sixteenth longer');
    expect(back.piece).toBe(piece);
  });

  test('the head of a piece is set field by field', () => {
    const head = { composer: ' Wenna Tarrick ', sections: ['Bells', ' Bells', '', 'Reeds'], key: 'D minor' };
    const set = expectValue(applyEdit(piece, { kind: 'setHead', head }));
    expect(set.piece).toMatchObject({
      composer: 'Wenna Tarrick',
      sections: ['Bells', 'Reeds'],
      key: 'D minor',
      title: 'Test',
    });
    expect(
      expectValue(applyEdit(set.piece, { kind: 'setHead', head: { key: '' } })).piece,
    ).not.toHaveProperty('key');
    expect(applyEdit(piece, { kind: 'setHead', head: { title: ' ' } }).ok).toBe(false);
  });

  test.each<[string, unknown]>([
    ['bells enter', { kind: 'markSection', bar: 4, section: 'Bells', does: 'enters' }],
    ['Bells rest', { kind: 'markSection', bar: 4, section: 'Bells', does: 'rests' }],
    ['Bells rest 8 bars', { kind: 'restSection', section: 'Bells', from: 4, count: 8 }],
    [
      'low reeds cue after the drum',
      { kind: 'markSection', bar: 4, section: 'low reeds', does: 'cue', says: 'after the drum' },
    ],
    ['BELLS', { kind: 'markSection', bar: 4, section: 'Bells', does: null }],
    ['Bells rest a while', 'not a number of bars'],
    ['nobody', 'Write the section'],
  ])('typed: %s', (text, expected) => {
    const read = parseSectionEntry(text, ['Bells', 'Reeds'], 4);
    if (typeof expected === 'string') expect(!read.ok && read.problem.message).toContain(expected);
    else expect(read).toEqual({ ok: true, value: expected });
  });
});
