import { afterEach, describe, expect, test } from '@jest/globals';
import type { BarDocument } from '@anchorbeat/core';
import { act, fireEvent, screen, waitFor, within } from '@testing-library/react';
import { FakeServer } from '../../test/fakeServer.ts';
import { newId, ofPiece, openPage, type TestPage } from '../../test/page.tsx';
import { MapScreen } from '../MapScreen.tsx';

let page: TestPage;
let id = '';
afterEach(() => page.close());

const EIGHT: readonly BarDocument[] = [{ meter: '4/4' }, ...Array.from({ length: 7 }, () => ({}))];

async function openTable() {
  const server = new FakeServer();
  id = newId();
  server.add(id, { format: 'anchorbeat-piece', version: 1, title: 'Tabled', bars: EIGHT });
  page = openPage(`/piece/${id}/map`, ofPiece({ path: 'map', element: <MapScreen /> }), server);
  await screen.findByRole('listbox');
  await page.user.keyboard('o');
  const panel = within(await screen.findByTestId('panel-table'));
  const field = panel.getByLabelText('Paste rows here');
  const paste = (text: string) => fireEvent.change(field, { target: { value: text } });
  return { panel, field, paste };
}

const metersKept = () => page.server.piece(id).piece.bars.map(({ meter }) => meter ?? '');

describe('a table from a spreadsheet', () => {
  test('says what it guessed and left out, and what will change before it does', async () => {
    const { panel, paste } = await openTable();
    paste('Measure\tTime Signature\tBowing\n1\t4/4\tup\n5\t7/8\t');
    await panel.findByText(/^Guessed: only some bars are named/);
    panel.getByText('Left out, for no column is called so: Bowing');
    const changes = within(await panel.findByRole('region', { name: 'What will change' }));
    await changes.findByText(/7\/8/);
    expect(metersKept()).toEqual(['4/4', '', '', '', '', '', '', '']);
    await page.user.click(panel.getByRole('button', { name: /^Take it in/ }));
    await waitFor(() => expect(metersKept()).toEqual(['4/4', '', '', '', '7/8', '', '', '']));
  });

  test('ctrl Enter at once takes what stands there, not what was shown before', async () => {
    const { panel, field, paste } = await openTable();
    paste('meter\n3/4');
    await panel.findByRole('region', { name: 'What will change' });
    // Both before there is time to show what the new rows change.
    act(() => {
      paste('meter\n5/8\n4/4');
      fireEvent.keyDown(field, { key: 'Enter', ctrlKey: true });
    });
    await waitFor(() => expect(metersKept()).toEqual(['5/8', '4/4']));
    expect(field).toHaveProperty('value', '');
  });

  test('what is wrong is told by row and column, and cannot be taken in', async () => {
    const { panel, field, paste } = await openTable();
    paste('bar,time signature\n1,4/4\n2,04-Mar');
    await panel.findByText(/^Row 3, time signature: "04-Mar" is a date/);
    expect(panel.getByRole('button', { name: /^Take it in/ })).toHaveProperty('disabled', true);
    fireEvent.keyDown(field, { key: 'Enter', ctrlKey: true });
    expect(page.server.changes).toEqual([]);
  });
});
