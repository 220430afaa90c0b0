import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { applyEdit } from '../edit/applyEdit.ts';
import { writePiece } from '../document/writePiece.ts';
import { type BarDocument } from '../document/document.ts';
import type { Piece } from '../piece/piece.ts';
import { expectValue } from '../problem/problem.ts';
import { pieceOf } from '../test/pieceOf.ts';
import { randomPiece } from '../test/randomPiece.ts';
import { richPiece } from '../test/richPiece.ts';
import { readShorthand } from './readShorthand.ts';
import { writeShorthand } from './writeShorthand.ts';

const blank = pieceOf({ meter: '4/4' });

function barsOf(text: string): readonly BarDocument[] | string {
  const { piece, problems } = readShorthand(text, blank);
  return piece ? writePiece(piece).bars : problems.map(({ message }) => message).join(' / ');
}

describe('what the lines mean', () => {
  test.each<[string, readonly BarDocument[] | string]>([
    ['3 bars of 7/8 as 2+2+3', [{ meter: '7/8 as 2+2+3' }, {}, {}]],
    ['two bars of 4/4\nbar of 3/4\n1 bar', [{ meter: '4/4' }, {}, { meter: '3/4' }, {}]],
    ['pickup of 1/8 in 6/8\n1 bar', [{ meter: '6/8', pickup: '1/8' }, {}]],
    ['pickup of an eighth in 6/8', [{ meter: '6/8', pickup: '1/8' }]],
    ['mark A\nnumber 12a\n2 bars of 4/4', [{ meter: '4/4', rehearsalMark: 'A', label: '12a' }, {}]],
    ['no number\n1 bar of 4/4', [{ meter: '4/4', label: null }]],
    [
      'repeat from here\n2 bars of 4/4\n1 bar, ending 1\nrepeat back\n1 bar, ending 2, 3',
      [{ meter: '4/4', startsRepeat: true }, {}, { ending: '1', endsRepeat: 2 }, { ending: '2, 3' }],
    ],
    ['1 bar of 4/4\nrepeat back, 3 times', [{ meter: '4/4', endsRepeat: 3 }]],
    ['1 bar of 4/4\nrepeat back until cued', [{ meter: '4/4', endsRepeat: 'until cued' }]],
    [
      'segno\n1 bar of 4/4\nto coda\n1 bar\nd.s. al Coda\ncoda\n1 bar\nfine',
      [{ meter: '4/4', segno: true, toCoda: true }, { jump: 'D.S. al coda' }, { coda: true, fine: true }],
    ],
    [
      'tempo "Largo, non troppo", quarter = 60\n1 bar of 4/4',
      [{ meter: '4/4', tempo: [{ term: 'Largo, non troppo', tempo: 'quarter = 60' }] }],
    ],
    [
      'tempo Lento, 66\n1 bar of 6/8',
      [{ meter: '6/8', tempo: [{ term: 'Lento', tempo: 'dotted quarter = 66' }] }],
    ],
    [
      'tempo e = e, on 3\n1 bar of 4/4',
      [{ meter: '4/4', tempo: [{ at: '1/2', equivalence: 'eighth = eighth' }] }],
    ],
    [
      'tempo q = 90, at 3/8\ntempo q = 60\n1 bar of 4/4',
      [{ meter: '4/4', tempo: [{ tempo: 'quarter = 60' }, { at: '3/8', tempo: 'quarter = 90' }] }],
    ],
    [
      'tempo molto rit. to half as fast, on 3\n1 bar of 4/4\ntempo a tempo\n1 bar',
      [
        { meter: '4/4', tempo: [{ at: '1/2', term: 'molto rit.', ramp: 'even per beat to half as fast' }] },
        { tempo: [{ returns: 'a tempo' }] },
      ],
    ],
    [
      'hold until cued, on 2\nbreath 0.5 seconds\nbar of 3/4',
      [
        {
          meter: '3/4',
          holds: [
            { at: '1/4', length: 'until cued' },
            { at: '1/2', kind: 'breath', length: '0.5 seconds' },
          ],
        },
      ],
    ],
    [
      '2 bars of 6/8, beaten in 6, notes q. e e e',
      [
        { meter: '6/8', pulse: 'in 6', rhythm: 'q. e e e' },
        { pulse: 'in 6', rhythm: 'q. e e e' },
      ],
    ],
    [
      'bar of 4/4\nbar of 7/8\nlast 2 bars 2 more times',
      [
        { meter: '4/4' },
        { meter: '7/8' },
        { meter: '4/4' },
        { meter: '7/8' },
        { meter: '4/4' },
        { meter: '7/8' },
      ],
    ],
    [
      'Allegro q = 120\n1 bar of 4/4\nrit. on 3\n1 bar\na tempo\n1 bar\naccel. to 160\n1 bar of 6/8\ntempo Meno mosso 60',
      'This stands before a bar, and no bar comes after it',
    ],
    [
      'Allegro q = 120\n1 bar of 4/4\nrit. on 3\n1 bar\na tempo\n1 bar\ncrotchet = dotted crotchet\n1 bar of 6/8\naccel. 160\n1 bar',
      [
        { meter: '4/4', tempo: [{ term: 'Allegro', tempo: 'quarter = 120' }] },
        { tempo: [{ at: '1/2', term: 'rit.', ramp: 'even per beat' }] },
        { tempo: [{ returns: 'a tempo' }] },
        { meter: '6/8', tempo: [{ equivalence: 'quarter = dotted quarter' }] },
        { tempo: [{ term: 'accel.', ramp: 'even per beat to dotted quarter = 160' }] },
      ],
    ],
    [
      'tempo Fast 160 bpm\n1 bar of 4/4\ntempo ♩ = ♩.\n1 bar of 6/8\ntempo Tempo I\n1 bar of 4/4\ntempo Marcia 2\n1 bar',
      [
        { meter: '4/4', tempo: [{ term: 'Fast', tempo: 'quarter = 160' }] },
        { meter: '6/8', tempo: [{ equivalence: 'quarter = dotted quarter' }] },
        { meter: '4/4', tempo: [{ term: 'Tempo I', returns: 'tempo primo' }] },
        { tempo: [{ term: 'Marcia 2' }] },
      ],
    ],
    ['bar of 5/8, notes q e q\nlast bar once more', [{ meter: '5/8', rhythm: 'q e q' }, { rhythm: 'q e q' }]],
  ])('%j', (text, expected) => {
    expect(barsOf(text)).toEqual(expected);
  });

  test('head lines set the head; those left out leave it', () => {
    const piece: Piece = { ...blank, composer: 'Wenna Tarrick', key: 'D minor' };
    const read = readShorthand('title: Ebb\nkey:\n1 bar of 4/4', piece).piece;
    expect(read).toMatchObject({ title: 'Ebb', composer: 'Wenna Tarrick' });
    expect(read?.key).toBeUndefined();
  });
});

describe('what is wrong is told at its very place', () => {
  test.each<[string, string, string]>([
    ['4 bars of 4/4\n3 bars of 7/8 as 2+2+2', '7/8 as 2+2+2', 'makes 6, but 7/8 has 7: 1 too few'],
    ['4 bars of 4/4\nmurk A', 'murk A', 'is not understood'],
    ['4 bars', '4 bars', 'need their meter'],
    ['4 bars of 4/4\nmark A', 'mark A', 'no bar comes after it'],
    ['repeat back\n4 bars of 4/4', 'repeat back', 'no bar comes before it'],
    ['0 bars of 4/4', '0 bars of 4/4', 'from 1 to 10,000'],
    ['4 bars of 4/4, notes q x1', 'notes q x1', 'Note 2'],
    ['4 bars of 4/4, beaten in 3', 'beaten in 3', 'can be in 1, 2, 4'],
    ['4 bars of 4/4, played softly', 'played softly', 'write beaten in 2'],
    ['4 bars of 4/4\ntempo quarter = 9000\n1 bar', 'tempo quarter = 9000', 'cannot be played'],
    ['tempo q = 60, on 7\n1 bar of 4/4', 'tempo q = 60, on 7', 'no beat 7'],
    ['hold for long\n1 bar of 4/4', 'hold for long', 'no length of a hold'],
    ['1 bar of 4/4\nrepeat back, 1 times', 'repeat back, 1 times', '2 to 99'],
    ['pickup of 7/8 in 6/8', 'pickup of 7/8 in 6/8', 'shorter than its 6/8 bar'],
    ['last 4 bars 2 more times', 'last 4 bars 2 more times', 'there are 0 bars so far'],
    ['title:\n1 bar of 4/4', 'title:', 'Give the piece a title'],
  ])('%j', (text, at, message) => {
    const { piece, problems } = readShorthand(text, blank);
    expect(piece).toBeNull();
    expect(problems[0]?.message).toContain(message);
    expect(text.slice(problems[0]?.from, problems[0]?.to)).toBe(at);
  });

  test('an empty text asks for a bar', () => {
    expect(barsOf('\n \n')).toContain('at least one bar');
  });

  test('texts of anything at all are read or refused', () => {
    const word = fc.constantFrom(
      ...['bars', 'of', '4/4', 'tempo', '"', ',', '=', 'hold', '3', 'on', '\n', 'last', 'more times'],
      ...['ending', '[', 'rit. to', 'D.C.'],
    );
    const texts = fc.array(fc.oneof({ weight: 9, arbitrary: word }, fc.string()), { maxLength: 14 });
    fc.assert(
      fc.property(texts, (parts) => {
        const { piece, problems } = readShorthand(parts.join(' '), blank);
        expect(piece === null).toBe(problems.length > 0);
        for (const { from, to } of problems)
          expect([from, to]).toEqual([expect.any(Number), expect.any(Number)]);
      }),
      { seed: 12, numRuns: 3000 },
    );
  });
});

describe('nothing is lost', () => {
  test.each(Array.from({ length: 50 }, (_, seed) => seed))(
    'piece %i reads back as the very same bars',
    (seed) => {
      const piece = seed % 2 ? richPiece(seed, 40) : randomPiece(seed, 60);
      const { piece: read, problems } = readShorthand(writeShorthand(piece), piece);
      expect(problems).toEqual([]);
      read?.bars.forEach((bar, index) => expect(bar).toBe(piece.bars[index]));
      expect(read?.bars).toHaveLength(piece.bars.length);
      const { piece: anew } = readShorthand(writeShorthand(piece), { ...piece, bars: [] });
      expect(withoutUnsaid(anew)).toEqual(withoutUnsaid(piece));
    },
  );

  test('a bar whose line changes keeps its note, its sections and its answers; others move with their bars', () => {
    const piece = pieceOf(
      { meter: '4/4' },
      { note: 'lift', sections: [{ section: 'Bells', does: 'enters' }] },
      { meter: '3/4', note: 'breathe' },
    );
    const text = writeShorthand(piece).replace('2 bars of 4/4', '1 bar of 5/4\n1 bar of 4/4\n1 bar of 7/8');
    const read = readShorthand(text, piece).piece;
    expect(writePiece(read ?? piece).bars).toEqual([
      { meter: '5/4' },
      { meter: '4/4' },
      { meter: '7/8', note: 'lift', sections: [{ section: 'Bells', does: 'enters' }] },
      { meter: '3/4', note: 'breathe' },
    ]);
  });

  test('as an edit it says what changes', () => {
    const piece = pieceOf({ meter: '4/4' }, {}, { meter: '5/8' });
    const read = readShorthand(writeShorthand(piece).replace('5/8', '9/16'), piece).piece;
    const edited = expectValue(
      applyEdit(piece, { kind: 'replacePiece', piece: read ?? piece, how: 'Shorthand' }),
    );
    expect(edited.says).toBe('Shorthand: bar 3 is now 9/16, was 5/8: one sixteenth shorter');
  });
});

function withoutUnsaid(piece: Piece | null): unknown {
  return piece?.bars.map(({ answers: _a, note: _n, sectionMarks: _s, countOff: _c, ...said }) => said);
}
