import { afterEach, describe, expect, test } from '@jest/globals';
import { screen, waitFor, within } from '@testing-library/react';
import { BenchScreen } from '../bench/BenchScreen.tsx';
import { MapScreen } from '../map/MapScreen.tsx';
import { FakeServer } from '../test/fakeServer.ts';
import { newId, ofPiece, openPage, type TestPage } from '../test/page.tsx';
import { keptKeys, PLAIN_KEYS } from './ownKeys.ts';

let page: TestPage;
let id = '';
afterEach(async () => {
  await page.close();
  keptKeys.set(PLAIN_KEYS);
});

async function openMap(): Promise<void> {
  const server = new FakeServer();
  id = newId();
  const bars = [{ meter: '4/4', tempo: [{ tempo: 'quarter = 96' }] }, {}, { meter: '3/4' }, {}];
  server.add(id, { format: 'anchorbeat-piece', version: 1, title: 'Keyed', bars });
  const screens = ofPiece(
    { path: 'map', element: <MapScreen /> },
    { path: 'bench', element: <BenchScreen /> },
  );
  page = openPage(`/piece/${id}/map`, screens, server);
  await screen.findByRole('listbox');
  await press('?');
  await screen.findByRole('dialog');
}

const press = (keys: string) => page.user.keyboard(keys);
const find = async (words: string) => {
  const field = screen.getByLabelText('Find');
  await page.user.clear(field);
  await page.user.type(field, words);
};
const isClosed = () => waitFor(() => expect(screen.queryByRole('dialog')).toBeNull());
const teach = (name: RegExp) => page.user.click(screen.getByRole('button', { name }));

describe('the sheet of keys', () => {
  test('finds an act by its words and does it', async () => {
    await openMap();
    await find('work out');
    await press('{Enter}');
    expect(await screen.findByRole('textbox', { name: 'Note after' })).toBeDefined();
  });

  test('offers what figures stand for: a meter is written, a bar gone to', async () => {
    await openMap();
    await find('7/8 2+2+3');
    const offers = within(screen.getByRole('region', { name: 'With what you typed' }));
    await page.user.click(offers.getByRole('button', { name: /^(?!.*give another key).*7\/8 as 2\+2\+3/ }));
    await isClosed();
    await waitFor(() =>
      expect(page.server.piece(id).piece.bars?.[0]).toMatchObject({ meter: '7/8 as 2+2+3' }),
    );
    await press('?');
    await find('3');
    await page.user.click(await screen.findByRole('button', { name: /^Go to bar 3/i }));
    await isClosed();
    await press('d');
    expect(screen.getByTestId('bar-strip').textContent).toContain('Bar 3');
  });

  test('says where nothing is called so', async () => {
    await openMap();
    await find('trombone');
    expect(screen.getByText('Nothing here is called so.')).toBeDefined();
  });

  test('a key is exchanged, taken away and given back; Escape leaves it as it was', async () => {
    await openMap();
    await teach(/^y, give another key: /);
    await press('{Escape}');
    expect(screen.getByRole('button', { name: /^y, give another key: / })).toBeDefined();
    await teach(/^y, give another key: /);
    await press('{F8}');
    await page.user.click(screen.getByRole('button', { name: 'Done' }));
    await isClosed();
    await press('y');
    expect(screen.queryByTestId('panel-history')).toBeNull();
    await press('{F8}');
    expect(await screen.findByTestId('panel-history')).toBeDefined();
    await press('{Escape}?');
    await teach(/^F8, give another key: /);
    await press('{Delete}');
    expect(screen.queryByRole('button', { name: /^F8, give another key: / })).toBeNull();
    await page.user.click(screen.getByRole('button', { name: 'As they were' }));
    expect(screen.getByRole('button', { name: /^y, give another key: / })).toBeDefined();
  });

  test('single letters can be turned off, for those who speak or press by chance', async () => {
    await openMap();
    await page.user.click(screen.getByLabelText('Single letters act'));
    await page.user.click(screen.getByRole('button', { name: 'Done' }));
    await isClosed();
    await press('y');
    expect(screen.queryByTestId('panel-history')).toBeNull();
    await press('{ArrowRight}');
    expect(screen.getByTestId('bar-strip').textContent).toContain('Bar 2');
  });
});
