import { afterEach, expect, test } from '@jest/globals';
import { applyEdit, expectValue, readPiece, writePiece, type Edit, type Piece } from '@anchorbeat/core';
import { waitFor } from '@testing-library/react';
import { FakeServer } from '../test/fakeServer.ts';
import { newId, openPage, type TestPage } from '../test/page.tsx';
import { sentBefore, settleStale } from './autosave.ts';
import { opened } from './pieceSlice.ts';

let page: TestPage;
afterEach(() => page.close());

const reading = readPiece({
  format: 'anchorbeat-piece',
  version: 1,
  title: 'T',
  bars: [{ meter: '4/4' }, {}, {}],
});
if (!reading.ok) throw new Error('the test piece does not read');
const base: Piece = reading.piece;
const noted = (piece: Piece, bar: number, note: string): Piece => {
  const edit: Edit = { kind: 'setNote', bar, note };
  return expectValue(applyEdit(piece, edit)).piece;
};

/** A window that opened without a server what had been sent before, and changed the same bar once more; the server is back. */
function openAgain(theServerHas: readonly Piece[]): string {
  const id = newId();
  const server = new FakeServer();
  server.add(id, writePiece(base));
  for (const piece of theServerHas) server.keep(id, writePiece(piece));
  page = openPage('/', [{ path: '*', element: null }], server);
  const sent = noted(base, 0, 'sent');
  sentBefore(id, { piece: sent, editCount: 1 });
  const mine = {
    revision: 1,
    piece: noted(sent, 0, 'changed again'),
    unsavedEdits: ['sent', 'changed again'],
  };
  page.store.dispatch(opened({ id, ensembleId: server.piece(id).ensembleId, ...mine }));
  return id;
}

const notes = (id: string) => page.server.piece(id).piece.bars.map(({ note }) => note);
const state = () => page.store.getState().piece.open?.save.kind;

test.each([
  ['had not arrived', [], 2],
  ['had arrived', [noted(base, 0, 'sent')], 3],
])('what was sent and %s is changed once more, and nobody is asked', async (_, theServerHas, revision) => {
  const id = openAgain(theServerHas);
  await waitFor(() => expect(state()).toBe('saved'));
  expect(notes(id)).toEqual(['changed again', undefined, undefined]);
  expect(page.server.piece(id).revision).toBe(revision);
});

test('what somebody else did to other bars after it had arrived is in it too', async () => {
  const sent = noted(base, 0, 'sent');
  const id = openAgain([sent, noted(sent, 2, 'theirs')]);
  await waitFor(() => expect(state()).toBe('saved'));
  expect(notes(id)).toEqual(['changed again', undefined, 'theirs']);
});

test.each(['mine', 'theirs'] as const)(
  'where a backup was brought back meanwhile one is asked, and %s is saved after it',
  async (preferred) => {
    const id = newId();
    const server = new FakeServer();
    server.add(id, writePiece(base));
    page = openPage('/', [{ path: '*', element: null }], server);
    const { ensembleId } = server.piece(id);
    const piece = noted(base, 0, 'since the backup');
    page.store.dispatch(opened({ id, ensembleId, revision: 7, piece, unsavedEdits: ['since'] }));
    await waitFor(() => expect(state()).toBe('stale'));
    expect(page.store.getState().piece.open?.save).toMatchObject({
      currentRevision: 1,
      differences: [expect.stringMatching(/^A backup was brought back/)],
    });
    expect(await settleStale(preferred, page.store.getState, page.store.dispatch)).toBeNull();
    await waitFor(() => expect(state()).toBe('saved'));
    expect([notes(id)[0], page.server.piece(id).revision]).toEqual([
      preferred === 'mine' ? 'since the backup' : undefined,
      2,
    ]);
  },
);

test('where somebody else changed the same bar one is asked', async () => {
  const id = openAgain([noted(base, 0, 'theirs')]);
  await waitFor(() => expect(state()).toBe('stale'));
  expect(notes(id)[0]).toBe('theirs');
});
