import { afterEach, beforeEach, describe, expect, test } from '@jest/globals';
import type { PieceDocument } from '@anchorbeat/core';
import { screen, waitFor, within } from '@testing-library/react';
import { readFileSync } from 'node:fs';
import { FakeServer } from '../test/fakeServer.ts';
import { loggedRun } from '../test/loggedRun.ts';
import { openPage, type TestPage } from '../test/page.tsx';
import { RehearseScreen } from './RehearseScreen.tsx';
import { NEW_DATE } from './season.ts';

let page: TestPage;
const saved: Blob[] = [];
beforeEach(() => {
  saved.length = 0;
  URL.createObjectURL = (file) => `blob:${saved.push(file as Blob)}`;
  URL.revokeObjectURL = () => undefined;
  // A page in memory goes nowhere.
  HTMLAnchorElement.prototype.click = () => undefined;
});
afterEach(() => page.close());

const demo = (name: string) =>
  JSON.parse(readFileSync(`demo/${name}.anchorbeat.json`, 'utf8')) as PieceDocument;

async function openLog(): Promise<void> {
  const server = new FakeServer();
  for (const name of ['slack-water', 'ropewalk']) server.add(name, demo(name));
  server.runs.set('slack-water', [
    loggedRun('one', { mark: 'again', note: 'reeds late' }),
    loggedRun('two', { startedAt: '2026-11-21T19:30:00.000Z', sections: ['Reeds'] }),
  ]);
  server.runs.set('ropewalk', [
    loggedRun('three', {
      bpm: 57.6,
      startedAt: '2026-11-22T19:30:00.000Z',
      placeKind: 'bars',
      bars: 8,
      mark: null,
      sections: ['Drums'],
    }),
  ]);
  server.dates = [
    {
      ...NEW_DATE,
      id: 'past',
      at: '2026-11-19T19:30',
      done: [{ key: 'ropewalk:3', title: 'Ropewalk, into bar 4', planned: 3, seconds: 240 }],
    },
  ];
  page = openPage('/rehearse?view=log', [{ path: 'rehearse', element: <RehearseScreen /> }], server);
  await screen.findByRole('table', { name: 'Newest first' });
  await waitFor(() => expect(lines().length).toBeGreaterThan(3));
}

const lines = () =>
  within(screen.getByRole('table', { name: 'Newest first' }))
    .getAllByRole('row')
    .slice(1)
    .map((row) => [...row.children].map(({ textContent }) => textContent).join(' | '));
const choose = (name: string) => page.user.click(screen.getByRole('button', { name }));

describe('the log', () => {
  test('has every run, what was done of plans and what was put right, newest first', async () => {
    await openLog();
    expect(lines()[0]).toMatch(/22 Nov 2026 .*Ropewalk \| 8 bars from 11 \| 80 % · 58 \| –.*Drums/);
    expect(lines()[1]).toMatch(/21 Nov 2026 .*Slack Water \| into bar 11 .*good.*Reeds/);
    expect(lines()[2]).toMatch(/20 Nov 2026 .*again.*all \| reeds late/);
    expect(lines().some((line) => /Plan.*Ropewalk, into bar 4/.test(line))).toBe(true);
    expect(screen.getByText(/^3 runs · \d+ of plans and corrections$/)).toBeDefined();
  });

  test('is found by any words together, by piece and by section', async () => {
    await openLog();
    const find = screen.getByLabelText(/^Find/);
    await page.user.type(find, 'LATE water');
    expect(lines()).toEqual([expect.stringContaining('reeds late')]);
    await page.user.type(find, ' nowhere');
    expect(screen.getByText('Nothing in the log has all of this.')).toBeDefined();
    await page.user.clear(find);
    await choose('Ropewalk');
    expect(lines().every((line) => line.includes('Ropewalk'))).toBe(true);
    await choose('Ropewalk');
    await choose('Reeds');
    expect(lines().some((line) => line.includes('Drums'))).toBe(false);
    expect(lines().some((line) => line.includes('| all |'))).toBe(true);
  });

  test('what is found is kept as a table and as plain text', async () => {
    await openLog();
    await page.user.type(screen.getByLabelText(/^Find/), 'late');
    await choose('CSV');
    await choose('Markdown');
    const [table = '', text = ''] = await Promise.all(saved.map((file) => file.text()));
    expect(table.trim().split(/\r?\n/)).toHaveLength(2);
    expect(table).toContain('reeds late');
    expect(text).toContain('reeds late');
    expect(text).not.toContain('Drums');
  });
});
