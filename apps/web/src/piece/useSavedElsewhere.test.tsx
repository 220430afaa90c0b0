import { afterEach, expect, test } from '@jest/globals';
import type { PieceDocument } from '@anchorbeat/core';
import { act, screen, waitFor } from '@testing-library/react';
import { edited } from '../store/pieceSlice.ts';
import { FakeServer } from '../test/fakeServer.ts';
import { newId, ofPiece, openPage, type TestPage } from '../test/page.tsx';

let page: TestPage;
afterEach(() => page.close());

const piece = (title: string): PieceDocument => ({
  format: 'anchorbeat-piece',
  version: 1,
  title,
  bars: [{ meter: '4/4' }, {}],
});

test('whoever comes back to a window finds there what was saved at another device, but nothing instead of what waits here', async () => {
  const server = new FakeServer();
  const id = newId();
  server.add(id, piece('One'));
  page = openPage(`/piece/${id}/map`, ofPiece({ path: 'map', element: <p>the map</p> }), server);
  await screen.findByText('the map');
  const open = () => page.store.getState().piece.open!;
  const comesBack = () => act(() => void window.dispatchEvent(new Event('focus')));

  server.keep(id, piece('Two'));
  comesBack();
  await waitFor(() => expect([open().present.title, open().revision]).toEqual(['Two', 2]));
  expect(open().save.kind).toBe('saved');

  act(() => void page.store.dispatch(edited({ piece: { ...open().present, title: 'Mine' }, says: 'title' })));
  server.keep(id, piece('Three'));
  comesBack();
  await waitFor(() => expect(open().save.kind).toBe('stale'));
  expect([open().present.title, open().revision]).toEqual(['Mine', 2]);
});
