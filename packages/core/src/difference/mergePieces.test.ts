import { describe, expect, test } from '@jest/globals';
import { writePiece } from '../document/writePiece.ts';
import { applyEdit } from '../edit/applyEdit.ts';
import { parseTempoEntry } from '../edit/typed.ts';
import type { Edit } from '../edit/edit.ts';
import { parseMeter } from '../meter/text.ts';
import type { Piece } from '../piece/piece.ts';
import { expectValue } from '../problem/problem.ts';
import { pieceOf } from '../test/pieceOf.ts';
import { randomPiece } from '../test/randomPiece.ts';
import { seededRandom } from '../random/seededRandom.ts';
import { mergePiecesMaybe, mergePiecesPreferring } from './mergePieces.ts';

const base = randomPiece(3, 30);
const meter = (text: string) => expectValue(parseMeter(text));
const edited = (piece: Piece, ...edits: Edit[]): Piece =>
  edits.reduce((now, edit) => expectValue(applyEdit(now, edit)).piece, piece);
const said = (piece: Piece | null) => piece && writePiece(piece);
const note = (bar: number, text: string): Edit => ({ kind: 'setNote', bar, note: text });

describe('what two windows did', () => {
  test('to different bars is put together', () => {
    const mine = edited(base, note(2, 'mine'), { kind: 'insertBars', at: 5, count: 2 });
    const theirs = edited(base, note(20, 'theirs'), { kind: 'deleteBars', from: 25, count: 2 });
    const both = edited(mine, note(22, 'theirs'), { kind: 'deleteBars', from: 27, count: 2 });
    expect(said(mergePiecesMaybe(base, mine, theirs))).toEqual(said(both));
    expect(said(mergePiecesMaybe(base, theirs, mine))).toEqual(said(both));
  });

  test('to one bar in the same way is one change', () => {
    const mine = edited(base, note(2, 'alike'));
    expect(said(mergePiecesMaybe(base, mine, edited(base, note(2, 'alike'))))).toEqual(said(mine));
  });

  test.each<[string, Edit, Edit]>([
    ['one bar in two ways', note(2, 'mine'), note(2, 'theirs')],
    ['a bar that the other took out', note(2, 'mine'), { kind: 'deleteBars', from: 2, count: 1 }],
    [
      'one place, by putting in different bars',
      { kind: 'insertBars', at: 4, count: 1 },
      { kind: 'insertBars', at: 4, count: 2 },
    ],
    ['the title, in two ways', { kind: 'setTitle', title: 'Mine' }, { kind: 'setTitle', title: 'Theirs' }],
  ])('to %s wants a choice', (_name, a, b) => {
    expect(mergePiecesMaybe(base, edited(base, a), edited(base, b))).toBeNull();
  });

  test('to the meter of one bar clashes, though the old meter went on to the next bar on both sides', () => {
    const four = pieceOf({ meter: '4/4' }, {}, {}, {});
    const meterOf = (bar: number, text: string): Edit => ({
      kind: 'setMeter',
      from: bar,
      count: 1,
      meter: meter(text),
    });
    const mine = edited(four, meterOf(0, '2/4'));
    const theirs = edited(four, meterOf(0, '3/4'), meterOf(3, '5/4'));
    expect(mergePiecesMaybe(four, mine, theirs)).toBeNull();
    expect(said(mergePiecesPreferring(four, mine, theirs, 'mine'))).toEqual(
      said(edited(four, meterOf(0, '2/4'), meterOf(3, '5/4'))),
    );
    expect(said(mergePiecesPreferring(four, mine, theirs, 'theirs'))).toEqual(said(theirs));
  });

  test('that clashes stands as whoever chooses has it, and everything else as the one who changed it', () => {
    const mine = edited(base, note(2, 'mine'), note(5, 'only mine'), { kind: 'setTitle', title: 'Mine' });
    const theirs = edited(base, note(2, 'theirs'), note(9, 'only theirs'), {
      kind: 'setTitle',
      title: 'Theirs',
    });
    const together = edited(base, note(5, 'only mine'), note(9, 'only theirs'));
    for (const [preferred, text, title] of [
      ['mine', 'mine', 'Mine'],
      ['theirs', 'theirs', 'Theirs'],
    ] as const)
      expect(said(mergePiecesPreferring(base, mine, theirs, preferred))).toEqual(
        said(edited(together, note(2, text), { kind: 'setTitle', title })),
      );
    const gone = edited(base, { kind: 'deleteBars', from: 2, count: 1 });
    expect(said(mergePiecesPreferring(base, gone, theirs, 'mine'))).toEqual(
      said(edited(theirs, { kind: 'deleteBars', from: 2, count: 1 })),
    );
  });

  test('to one bar can be taken both: each field of it that either changed, and mine where it is the same one', () => {
    const mark = (bar: number, text: string): Edit => ({ kind: 'setRehearsalMark', bar, mark: text });
    const mine = edited(base, note(2, 'mine'), mark(4, 'M'), note(6, 'my word'));
    const theirs = edited(base, mark(2, 'T'), mark(4, 'N'), note(4, 'their word'), note(7, 'alone'));
    expect(mergePiecesMaybe(base, mine, theirs)).toBeNull();
    expect(said(mergePiecesPreferring(base, mine, theirs, 'both'))).toEqual(
      said(edited(theirs, note(2, 'mine'), mark(4, 'M'), note(6, 'my word'))),
    );
    const gone = edited(base, { kind: 'deleteBars', from: 2, count: 1 });
    expect(said(mergePiecesPreferring(base, gone, theirs, 'both'))).toEqual(said(theirs));
    const added = (text: string) => edited(base, { kind: 'insertBars', at: 3, count: 1, meter: meter(text) });
    const both = mergePiecesPreferring(base, added('5/8'), added('3/16'), 'both')!;
    expect(both.bars).toHaveLength(base.bars.length + 2);
  });

  test('to one bar that do not go together make nothing: a tempo stands where the other one’s meter has no beat', () => {
    const plain = edited(base, { kind: 'setMeter', from: 2, count: 1, meter: meter('4/4') });
    const mine = edited(plain, { kind: 'setMeter', from: 2, count: 1, meter: meter('2/4') });
    const typed = parseTempoEntry('q = 60 on 4', plain.bars[2]!);
    if (!typed.ok) throw new Error(typed.problem.message);
    const theirs = edited(plain, { kind: 'setTempoMark', bar: 2, mark: typed.value });
    expect(mergePiecesPreferring(plain, mine, theirs, 'both')).toBeNull();
    expect(said(mergePiecesPreferring(plain, mine, theirs, 'theirs'))).toEqual(said(theirs));
  });

  test('to the head and to the bars is put together', () => {
    const mine = edited(base, { kind: 'setTitle', title: 'Mine' });
    const theirs = edited(base, note(1, 'theirs'));
    expect(said(mergePiecesMaybe(base, mine, theirs))).toEqual(said(edited(mine, note(1, 'theirs'))));
  });

  test('nothing, on one side, is as the other left it; untouched bars are the very same', () => {
    const mine = edited(base, note(2, 'mine'));
    const merged = mergePiecesMaybe(base, mine, base)!;
    expect(said(merged)).toEqual(said(mine));
    expect(merged.bars[9]).toBe(base.bars[9]);
  });

  test('at random, far enough from one another, is what doing both one after the other makes', () => {
    const random = seededRandom(5);
    const below = (limit: number) => Math.floor(random() * limit);
    const editIn = (from: number): Edit => {
      const bar = from + below(8);
      const choices: readonly Edit[] = [
        note(bar, `n${below(99)}`),
        { kind: 'setMeter', from: bar, count: 1, meter: meter(['5/8', '11/16', '2/2'][below(3)]!) },
        { kind: 'setRehearsalMark', bar, mark: `M${below(99)}` },
      ];
      return choices[below(choices.length)]!;
    };
    for (let round = 0; round < 60; round++) {
      const piece = randomPiece(round, 30);
      const [low, high] = [
        [editIn(0), editIn(0)],
        [editIn(18), editIn(18)],
      ];
      const [mine, theirs] = [low, high].map((edits) => {
        let now = piece;
        for (const edit of edits) {
          const result = applyEdit(now, edit);
          if (result.ok) now = result.value.piece;
        }
        return now;
      }) as [Piece, Piece];
      const both = { ...piece, bars: [...mine.bars.slice(0, 15), ...theirs.bars.slice(15)] };
      expect(said(mergePiecesMaybe(piece, mine, theirs))).toEqual(said(both));
    }
  });
});
