import { describe, expect, test } from '@jest/globals';
import { applyEdit, expectValue, readPiece, type Piece } from '@anchorbeat/core';
import {
  edited,
  merged,
  opened,
  pieceSlice,
  redone,
  saved,
  saveStateChanged,
  undone,
  type PieceState,
} from './pieceSlice.ts';

const reading = readPiece({ format: 'anchorbeat-piece', version: 1, title: 'T', bars: [{ meter: '4/4' }] });
if (!reading.ok) throw new Error('the test piece does not read');
const first: Piece = reading.piece;

const { reducer } = pieceSlice;
type Action = Parameters<typeof reducer>[1];
const start = reducer({ open: null }, opened({ id: 'p', ensembleId: 'e', revision: 4, piece: first }));
const after = (...actions: Action[]) =>
  actions.reduce<PieceState>((state, action) => reducer(state, action), start).open!;
const titled = (title: string) => edited(expectValue(applyEdit(first, { kind: 'setTitle', title })));

describe('history of a sitting', () => {
  test('undo gives back the very same piece, redo the very same again', () => {
    const one = titled('One');
    const two = titled('Two');
    expect(after(one, two, undone(), undone()).present).toBe(first);
    expect(after(one, two, undone()).present).toBe(one.payload.piece);
    expect(after(one, two, undone(), undone(), redone(), redone()).present).toBe(two.payload.piece);
  });

  test('there is nothing before the first step and nothing after the last', () => {
    expect(after(undone(), redone())).toEqual(start.open);
    expect(after(titled('One'), redone()).present.title).toBe('One');
  });

  test('a new step after undo takes the place of what was undone', () => {
    const open = after(titled('One'), titled('Two'), undone(), titled('Three'));
    expect(open.future).toEqual([]);
    expect(open.past.map((step) => step.says)).toEqual(['Title is now One', 'Title is now Three']);
  });

  test('a random walk agrees with a list and a finger on it', () => {
    let seed = 5;
    const below = (limit: number) => (seed = (seed * 48271) % 2147483647) % limit;
    let state: PieceState = start;
    let list = [first];
    let finger = 0;
    for (let step = 0; step < 500; step++) {
      const pick = below(3);
      if (pick === 0) {
        const action = titled(`Step ${step}`);
        state = reducer(state, action);
        list = [...list.slice(0, finger + 1), action.payload.piece];
        finger++;
      } else {
        state = reducer(state, pick === 1 ? undone() : redone());
        finger = pick === 1 ? Math.max(0, finger - 1) : Math.min(list.length - 1, finger + 1);
      }
      expect(state.open!.present).toBe(list[finger]);
    }
  });
});

describe('whether it is saved', () => {
  test('every change waits to be saved, undoing too, and says what was done', () => {
    const open = after(titled('One'), undone());
    expect(open.save).toEqual({ kind: 'waiting' });
    expect(open.unsavedEdits).toEqual(['Title is now One', 'Undone: Title is now One']);
  });

  test('a save covers what was sent; what came meanwhile still waits', () => {
    const sent = saved({ revision: 5, editCount: 1 });
    expect(after(titled('One'), saveStateChanged({ kind: 'saving' }), titled('Two'), sent)).toMatchObject({
      revision: 5,
      unsavedEdits: ['Title is now Two'],
      save: { kind: 'waiting' },
    });
    expect(after(titled('One'), sent).save).toEqual({ kind: 'saved' });
  });

  test('a stale piece stays stale through further changes until the director decides', () => {
    const stale = saveStateChanged({ kind: 'stale', currentRevision: 9, differences: [], isBaseGone: false });
    expect(after(titled('One'), stale, titled('Two')).save.kind).toBe('stale');
    expect(after(titled('One'), stale, titled('Two'), merged({ piece: first, revision: 9 }))).toMatchObject({
      revision: 9,
      present: first,
      save: { kind: 'waiting' },
      unsavedEdits: ['Title is now One', 'Title is now Two', expect.stringContaining('revision 9')],
    });
  });

  test('work from a window that was closed waits to be saved at once', () => {
    const open = reducer(
      { open: null },
      opened({ id: 'p', ensembleId: 'e', revision: 4, piece: first, unsavedEdits: ['x'] }),
    );
    expect(open.open?.save).toEqual({ kind: 'waiting' });
  });
});
