import { afterEach, describe, expect, test } from '@jest/globals';
import type { DateResponse } from '@anchorbeat/contract';
import type { PieceDocument } from '@anchorbeat/core';
import { screen, waitFor, within } from '@testing-library/react';
import { readFileSync } from 'node:fs';
import { Podium } from '../podium/Podium.tsx';
import { SeamsScreen } from '../seams/SeamsScreen.tsx';
import { Shelf } from '../shelf/Shelf.tsx';
import { rehearsalEnded } from '../store/rehearsalSlice.ts';
import { alertSays } from '../test/alert.ts';
import { FakeServer } from '../test/fakeServer.ts';
import { ofPiece, openPage, type TestPage } from '../test/page.tsx';
import { RehearsalStrip } from './RehearsalStrip.tsx';
import { RehearseScreen } from './RehearseScreen.tsx';
import { NEW_DATE } from './season.ts';

let page: TestPage;
afterEach(async () => {
  // A rehearsal that is under way is the browser's, and would be the next test's.
  page.store.dispatch(rehearsalEnded());
  await page.close();
  localStorage.removeItem('anchorbeat.rehearsal');
});

const REHEARSAL: DateResponse = { ...NEW_DATE, id: 'first', at: '2031-03-04T19:30', minutes: 45 };
const DEMO = ['slack-water', 'ropewalk', 'tar-and-twine'];
const demo = (name: string) =>
  JSON.parse(readFileSync(`demo/${name}.anchorbeat.json`, 'utf8')) as PieceDocument;

function openRehearse(dates: readonly DateResponse[], asked = '', pieces: readonly string[] = DEMO): void {
  openAt(`/rehearse${asked}`, dates, pieces);
}

function openAt(
  address: string,
  dates: readonly DateResponse[],
  pieces: readonly string[],
  server = new FakeServer(),
) {
  for (const name of pieces) server.add(name, demo(name));
  server.dates = [...dates];
  const [piece] = ofPiece(
    { path: 'seams', element: <SeamsScreen /> },
    { path: 'podium', element: <Podium /> },
  );
  page = openPage(
    address,
    [
      { path: '', element: <Shelf /> },
      { path: 'rehearse', element: <RehearseScreen /> },
      {
        ...piece!,
        element: (
          <>
            {piece!.element}
            <RehearsalStrip />
          </>
        ),
      },
    ],
    server,
  );
}

const press = (keys: string) => page.user.keyboard(keys);
const plan = () => screen.findByRole('list', { name: 'Order of work' });
const items = () =>
  screen.getAllByRole('listitem').filter((row) => row.closest('[aria-label="Order of work"]'));
const titles = () => items().map((row) => row.querySelector('.text-lg')?.textContent);
const kept = () => page.server.dates[0]!;

describe('the order of work', () => {
  test('fills the minutes of the date, and what is changed by key is kept with it and flows anew', async () => {
    openRehearse([REHEARSAL]);
    await plan();
    expect(screen.getByText(/of 45 minutes planned/).textContent).toMatch(/^45 of 45/);
    const before = titles();
    await press('{ArrowDown}p');
    await waitFor(() => expect(kept().wishes.pinned).toHaveLength(1));
    expect(within(await plan()).getAllByText('pinned')).toHaveLength(1);
    await press('+');
    await waitFor(() => expect(kept().wishes.minutes).toHaveLength(1));
    expect(screen.getByText(/of 45 minutes planned/).textContent).toMatch(/^45 of 45/);
    await press('{ArrowDown}');
    const skipped = titles()[2];
    await press('x');
    await waitFor(() => expect(titles()).not.toContain(skipped));
    const back = within(screen.getByText(/^Skipped:/)).getByRole('button');
    await page.user.click(back);
    await waitFor(() => expect(kept().wishes.skipped).toEqual([]));
    await press('z');
    await waitFor(() => expect(titles()).toEqual(before));
    await waitFor(() => expect(kept().wishes).toEqual(REHEARSAL.wishes));
  });

  test('asks for the runs of each piece once, also with a shelf that is known already', async () => {
    const server = new FakeServer();
    const { fetch } = server;
    const asked: string[] = [];
    const counted: typeof fetch = (address, init) => {
      asked.push(new URL(address instanceof Request ? address.url : address, location.href).pathname);
      return fetch(address, init);
    };
    openAt('/', [REHEARSAL], DEMO, Object.assign(server, { fetch: counted }));
    expect(await screen.findAllByText('never run')).toHaveLength(DEMO.length);
    asked.length = 0;
    await page.user.click(await screen.findByRole('link', { name: /: the plan$/ }));
    await plan();
    expect(asked.filter((path) => path.endsWith('/runs')).sort()).toEqual(
      DEMO.map((name) => `/api/pieces/${name}/runs`).sort(),
    );
  });

  test('a place is moved, a piece is added by its name', async () => {
    openRehearse([REHEARSAL]);
    await plan();
    await press('{ArrowDown}');
    const [, first, second] = titles();
    await press('>');
    await waitFor(() => expect(titles().slice(1, 3)).toEqual([second, first]));
    await press('a');
    const sought = await screen.findByLabelText(/^Find: a piece/);
    const offered = () =>
      within(screen.getByRole('list', { name: 'What may be added' }))
        .queryAllByRole('listitem')
        .map(({ textContent }) => textContent);
    const [wanted = ''] = offered();
    await page.user.type(sought, `${wanted.toLowerCase()} nowhere{Enter}`);
    expect(screen.getByText('Nothing has all of these words.')).toBeDefined();
    await page.user.clear(sought);
    await page.user.type(sought, `${wanted.toLowerCase()}{Enter}`);
    await waitFor(() => expect(kept().wishes.pinned).toHaveLength(1));
    await waitFor(() =>
      expect(within(screen.getByRole('list', { name: 'Order of work' })).getByText('pinned')).toBeDefined(),
    );
  });

  test('what weighs how much is changed, and holds', async () => {
    openRehearse([REHEARSAL]);
    await plan();
    expect(titles()[0]).toMatch(/^Off the instruments/);
    await press('w');
    const minutes = await screen.findByLabelText(/^Off the instruments/);
    await page.user.clear(minutes);
    await page.user.type(minutes, '0');
    await page.user.click(screen.getByRole('button', { name: 'Done' }));
    await waitFor(() => expect(titles()[0]).not.toMatch(/^Off the instruments/));
    await waitFor(() => expect(kept().weights?.warmUpMinutes).toBe(0));
  });

  test('what could not be kept is told', async () => {
    openRehearse([REHEARSAL]);
    await plan();
    page.server.isAway = true;
    await press('{ArrowDown}p');
    await waitFor(() => expect(page.toasts.at(-1)).toMatch(/^This was not kept: The server does not answer/));
    expect(kept().wishes.pinned).toEqual([]);
  });

  test('without a date it says how one comes to be', async () => {
    openRehearse([]);
    expect(await screen.findByText(/^No rehearsal yet\. Press n/)).toBeDefined();
  });
});

describe('a rehearsal under way', () => {
  test('leads from place to place; what was worked on is done, with its time', async () => {
    openRehearse([REHEARSAL]);
    await plan();
    await press('{ArrowDown}');
    const [, first] = titles();
    await press(' ');
    const strip = await screen.findByRole('complementary', { name: 'Rehearsal' });
    expect(strip.textContent).toContain(first);
    await screen.findByRole('button', { name: /^Run this seam/ });
    await press('{F2}');
    expect(page.toasts.at(-1)).toBe('Run it first: space');
    await press(' ');
    await page.pass(6);
    await press('g{F2}{F3}');
    expect(page.toasts.slice(-2)).toEqual(['Noted: late', 'Noted: rushed']);
    const [pieceId] = /(?<=piece\/)[^/]+/.exec(page.address())!;
    await waitFor(() =>
      expect(page.server.runs.get(pieceId)).toMatchObject([{ note: 'late, rushed', mark: 'good' }]),
    );
    await press('N');
    await waitFor(() => expect(kept().done).toMatchObject([{ title: first }]));
    await waitFor(() =>
      expect(screen.queryByRole('complementary', { name: 'Rehearsal' })?.textContent).not.toContain(first),
    );
  });
});

describe('a concert', () => {
  test('has its programme in its order, and is played through from its first piece', async () => {
    const concert = { ...REHEARSAL, kind: 'concert', pieceIds: ['tar-and-twine', 'slack-water'] } as const;
    openRehearse(
      [{ ...concert, tempi: [{ pieceId: 'slack-water', goalPercent: 90, practicePercent: null }] }],
      '?date=first',
    );
    const programme = await screen.findByRole('list', { name: 'Programme' });
    await waitFor(() => expect(within(programme).getAllByRole('listitem')).toHaveLength(2));
    const [first, second] = within(programme).getAllByRole('listitem');
    expect(first!.textContent).toContain('Tar and Twine');
    expect(second!.textContent).toMatch(/Slack Water.*at 90 %/);
    await press(' ');
    const strip = await screen.findByRole('complementary', { name: 'Programme' });
    expect(strip.textContent).toMatch(/1 of 2.*then Slack Water/);
    await press('z');
    await waitFor(() =>
      expect(screen.getByRole('complementary', { name: 'Programme' }).textContent).toMatch(
        /2 of 2.*the last piece/,
      ),
    );
    await waitFor(() => expect(screen.getByTestId('run-wishes').textContent).toContain('90 %'));
    await press('z');
    expect(page.toasts.at(-1)).toBe('This is the last piece of the programme');
  });
});

describe('a new date', () => {
  test('says what is wrong with it; a row of weeks is at the same time of day, also after the clocks changed', async () => {
    openRehearse([]);
    await screen.findByText(/^No rehearsal yet/);
    await press('n');
    await screen.findByRole('dialog');
    const set = async (label: string, text: string) => {
      const field = screen.getByLabelText(label);
      await page.user.clear(field);
      await page.user.type(field, text);
    };
    await set('When', '2031-03-23T19:30');
    await set('Minutes', '0');
    expect(screen.getByLabelText('Minutes').getAttribute('aria-invalid')).toBe('true');
    await set('Minutes', '40');
    await set('Weeks in a row', '3');
    await set('What it is called', 'Reeds alone');
    await page.user.click(screen.getByRole('button', { name: 'Keep it' }));
    await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull());
    expect(page.server.dates.map(({ at, title, minutes }) => [at, title, minutes])).toEqual(
      ['2031-03-23T19:30', '2031-03-30T19:30', '2031-04-06T19:30'].map((at) => [at, 'Reeds alone', 40]),
    );
    const dates = within(screen.getByRole('navigation', { name: 'Dates' }));
    await waitFor(() => expect(dates.getAllByText(/^Reeds alone · 40 min/)).toHaveLength(3));
  });

  test('one that could not be kept stays open with what was typed; tried again it is made once', async () => {
    openRehearse([]);
    await screen.findByText(/^No rehearsal yet/);
    await press('n');
    await screen.findByRole('dialog');
    page.server.isAway = true;
    await page.user.click(screen.getByRole('button', { name: 'Keep it' }));
    await alertSays(/does not answer/);
    page.server.isAway = false;
    await page.user.click(screen.getByRole('button', { name: 'Keep it' }));
    await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull());
    expect(page.server.dates).toHaveLength(1);
  });

  test('is taken away, and brought back with all that was in it', async () => {
    openRehearse([REHEARSAL, { ...REHEARSAL, id: 'second', at: '2031-03-11T19:30' }]);
    await plan();
    await press('e');
    await page.user.click(await screen.findByRole('button', { name: 'Take it away' }));
    await waitFor(() => expect(page.server.dates.map(({ id }) => id)).toEqual(['second']));
    await waitFor(() => expect(page.toasts).toEqual([expect.stringMatching(/^Taken away/)]));
    page.takeOffer();
    await waitFor(() => expect(page.server.dates).toContainEqual(REHEARSAL));
  });
});
