import { describe, expect, test } from '@jest/globals';
import { applyEdit, expectValue, readPiece, writePiece, type Edit, type Piece } from '@anchorbeat/core';
import type { PieceResponse } from '@anchorbeat/contract';
import { DraftStore, type Draft, type DraftRows, type StoredDraft } from './draftStore.ts';
import { gathered, openingState } from './openingState.ts';
import { edited, opened, pieceSlice, type OpenPiece } from './pieceSlice.ts';

const ID = '5b1d0c1e-6c3f-4f43-9c55-0d1a54a7c1ff';
const reading = readPiece({
  format: 'anchorbeat-piece',
  version: 1,
  title: 'T',
  bars: [{ meter: '4/4' }, {}, {}, {}, {}, {}],
});
if (!reading.ok) throw new Error('the test piece does not read');
const base: Piece = reading.piece;
const note = (bar: number, text: string): Edit => ({ kind: 'setNote', bar, note: text });
const made = (piece: Piece, ...edits: Edit[]) =>
  edits.reduce((now, edit) => expectValue(applyEdit(now, edit)).piece, piece);

/** Rows in memory that a test can make fail, shared by the windows of one browser. */
function browser() {
  const rows = new Map<string, StoredDraft>();
  const there = new Set<string>();
  const disk = { isFull: false };
  const access: DraftRows = {
    put: (draft) =>
      disk.isFull
        ? Promise.reject(new Error('QuotaExceededError'))
        : Promise.resolve(rows.set(draft.key, draft)),
    remove: (key) => Promise.resolve(rows.delete(key)),
    ofPiece: (id) => Promise.resolve([...rows.values()].filter(({ pieceId }) => pieceId === id)),
  };
  const open = (name: string) => {
    there.add(name);
    return new DraftStore(access, () => ({
      own: Promise.resolve(name),
      present: (names) => Promise.resolve(new Set(names.filter((each) => there.has(each)))),
    }));
  };
  return { rows, disk, open, close: (name: string) => there.delete(name) };
}

/** An open piece after some edits. */
function openWith(...edits: Edit[]): OpenPiece {
  const { reducer } = pieceSlice;
  let state = reducer({ open: null }, opened({ id: ID, ensembleId: 'e', revision: 4, piece: base }));
  for (const edit of edits) state = reducer(state, edited(expectValue(applyEdit(state.open!.present, edit))));
  return state.open!;
}

describe('drafts', () => {
  test('the draft of a window that is gone is taken up at once, that of one that is there is left alone', async () => {
    const here = browser();
    const [first, second] = [here.open('one'), here.open('two')];
    await first.keep(openWith(note(0, 'a')), null);
    expect(await second.takeMaybe(ID)).toBeNull();
    here.close('one');
    const taken = await second.takeMaybe(ID);
    expect(taken).toMatchObject({ revision: 4, inFlight: null });
    expect(taken!.piece.bars[0]!.note).toBe('a');
    expect([...here.rows.keys()]).toEqual([`${ID}.two`]);
  });

  test('a window has its own draft first, and each its own', async () => {
    const here = browser();
    const [first, second] = [here.open('one'), here.open('two')];
    await first.keep(openWith(note(0, 'a')), null);
    await second.keep(openWith(note(1, 'b')), null);
    here.close('one');
    expect((await second.takeMaybe(ID))!.piece.bars[1]!.note).toBe('b');
    expect(here.rows.size).toBe(2);
  });

  test('what is saved has no draft any more; what cannot be kept is told', async () => {
    const here = browser();
    const drafts = here.open('one');
    expect(await drafts.keep(openWith(note(0, 'a')), null)).toBe(true);
    expect(await drafts.keep(openWith(), null)).toBe(true);
    expect(here.rows.size).toBe(0);
    here.disk.isFull = true;
    expect(await drafts.keep(openWith(note(0, 'a')), null)).toBe(false);
    expect(await drafts.takeMaybe(ID)).toBeNull();
  });

  test('what is kept one after the other ends as it was kept last', async () => {
    const here = browser();
    const drafts = here.open('one');
    const keeping = Array.from({ length: 20 }, (_, at) => drafts.keep(openWith(note(0, `n${at}`)), null));
    await Promise.all(keeping);
    expect((await drafts.takeMaybe(ID))!.piece.bars[0]!.note).toBe('n19');
  });
});

describe('opening a piece with a draft', () => {
  /** A server with some revisions from 4 on. */
  const openedWith = (draft: Partial<Draft> & Pick<Draft, 'piece'>, ...revisions: Piece[]) => {
    const all = [base, ...revisions];
    const newest: PieceResponse = {
      id: ID,
      ensembleId: 'e',
      revision: 3 + all.length,
      isSetAside: false,
      savedAt: '',
      piece: writePiece(all.at(-1)!),
    };
    return openingState(newest, { revision: 4, edits: ['x'], inFlight: null, ...draft }, (revision) =>
      Promise.resolve(all[revision - 4] ?? null),
    );
  };
  const mine = made(base, note(0, 'mine'));

  test('on the revision it grew from: the draft, to be saved', async () => {
    expect(await openedWith({ piece: mine })).toMatchObject({
      revision: 4,
      unsavedEdits: ['x'],
      piece: mine,
    });
  });

  test('that was saved after all: the saved piece, nothing to save', async () => {
    const state = await openedWith({ piece: mine }, mine);
    expect([state.revision, state.unsavedEdits]).toEqual([5, undefined]);
  });

  test('the first part of which was saved: the rest, on that revision', async () => {
    const more = made(mine, note(0, 'mine again'));
    const inFlight = { piece: mine, editCount: 1 };
    const state = await openedWith({ piece: more, edits: ['x', 'y'], inFlight }, mine);
    expect(state).toMatchObject({ revision: 5, unsavedEdits: ['y'] });
    expect(state.piece.bars[0]!.note).toBe('mine again');
  });

  test('while somebody else changed other bars: both', async () => {
    const theirs = made(base, note(5, 'theirs'));
    const state = await openedWith({ piece: mine }, theirs);
    expect(state).toMatchObject({ revision: 5, unsavedEdits: ['x'] });
    expect(state.piece.bars.map((bar) => bar.note)).toEqual(['mine', ...Array(4).fill(undefined), 'theirs']);
  });

  test('while somebody else changed the same bar: the draft on its own ground, so that its save asks', async () => {
    const state = await openedWith({ piece: mine }, made(base, note(0, 'theirs')));
    expect(state).toMatchObject({ revision: 4, unsavedEdits: ['x'], piece: mine });
  });

  test('on a server that was taken back to an earlier state: the draft, on what there is', async () => {
    const state = await openedWith({ piece: mine, revision: 9 });
    expect(state).toMatchObject({ revision: 4, unsavedEdits: ['x'], piece: mine });
  });
});

describe('what several windows left behind', () => {
  const fetchBase = (revision: number) => Promise.resolve(revision === 4 ? base : null);
  const saved = { id: ID, ensembleId: 'e', revision: 4, piece: base };

  test('is put together where they touched other bars; what clashes stays kept until this is saved', async () => {
    const here = browser();
    for (const [name, edit] of [
      ['one', note(0, 'a')],
      ['two', note(1, 'b')],
      ['three', note(0, 'c')],
    ] as const) {
      await here.open(name).keep(openWith(edit), null);
      here.close(name);
    }
    const drafts = here.open('four');
    const first = await openingState(
      { ...saved, isSetAside: false, savedAt: '', piece: writePiece(base) },
      await drafts.takeMaybe(ID),
      fetchBase,
    );
    const { state, absorbedKeys } = await gathered(first, 4, await drafts.othersOf(ID), fetchBase);
    expect(state.piece.bars.slice(0, 2).map((bar) => bar.note)).toEqual(['a', 'b']);
    expect(state.unsavedEdits).toHaveLength(2);
    const { piece, unsavedEdits: edits = [] } = state;
    await drafts.absorbed(ID, { revision: 4, piece, edits, inFlight: null }, absorbedKeys);
    expect([...here.rows.keys()].sort()).toEqual([`${ID}.four`, `${ID}.three`]);
    expect((await drafts.takeMaybe(ID))!.piece.bars[1]!.note).toBe('b');
  });

  test('where there is no room for both in one, each stays where it is', async () => {
    const here = browser();
    await here.open('one').keep(openWith(note(0, 'a')), null);
    here.close('one');
    const drafts = here.open('two');
    const { state, absorbedKeys } = await gathered(saved, 4, await drafts.othersOf(ID), fetchBase);
    here.disk.isFull = true;
    const { piece, unsavedEdits: edits = [] } = state;
    expect(await drafts.absorbed(ID, { revision: 4, piece, edits, inFlight: null }, absorbedKeys)).toBe(
      false,
    );
    expect([...here.rows.keys()]).toEqual([`${ID}.one`]);
  });

  test('that was saved after all is let go of', async () => {
    const arrived = { revision: 4, edits: ['x'], inFlight: null, piece: made(base, note(0, 'a')), key: 'k' };
    const newest = { ...saved, revision: 5, piece: arrived.piece };
    const fetch = (revision: number) => Promise.resolve(revision === 5 ? arrived.piece : base);
    expect(await gathered(newest, 5, [arrived], fetch)).toEqual({ state: newest, absorbedKeys: ['k'] });
  });
});
