import { afterEach, describe, expect, test } from '@jest/globals';
import type { BarDocument } from '@anchorbeat/core';
import { screen, waitFor, within } from '@testing-library/react';
import { FakeServer } from '../test/fakeServer.ts';
import { newId, ofPiece, openPage, type TestPage } from '../test/page.tsx';
import { MapScreen } from './MapScreen.tsx';
import { Errata } from './panels/Errata.tsx';

let page: TestPage;
afterEach(() => page.close());

let id = '';

async function openMap(bars: readonly BarDocument[], asked = ''): Promise<void> {
  const server = new FakeServer();
  id = newId();
  server.add(id, { format: 'anchorbeat-piece', version: 1, title: 'Mapped', bars });
  page = openPage(
    `/piece/${id}/map${asked}`,
    ofPiece({ path: 'map', element: <MapScreen /> }, { path: 'errata', element: <Errata /> }),
    server,
  );
  await screen.findByRole('listbox');
}

const press = (keys: string) => page.user.keyboard(keys);

/** Opens an entry by its key, writes over what is in it, and keeps it. */
async function enter(key: string, text: string): Promise<void> {
  await press(key);
  const field = await screen.findByRole('textbox');
  await page.user.clear(field);
  await page.user.type(field, `${text.replaceAll(/[[{]/g, '$&$&')}{Enter}`);
}

/** What the server has, once it has all. */
async function saved(): Promise<readonly BarDocument[]> {
  await waitFor(() => expect(screen.getByTestId('save-state').textContent).toBe('saved'));
  return page.server.piece(id).piece.bars;
}

const FOUR: readonly BarDocument[] = [{ meter: '4/4', tempo: [{ tempo: 'quarter = 96' }] }, {}, {}, {}];

describe('writing in the bars', () => {
  test('each kind of entry is opened by its key, read by the core, saved as the file has it', async () => {
    await openMap(FOUR);
    await press('{ArrowRight}');
    await enter('m', '7/8 2+2+3');
    await enter('=', 'e = e');
    await enter('w', 'drums alone');
    await press('{End}');
    await enter('t', '88');
    await enter('b', '2 of 3/4');
    expect(await saved()).toEqual([
      { meter: '4/4', tempo: [{ tempo: 'quarter = 96' }] },
      { meter: '7/8 as 2+2+3', tempo: [{ equivalence: 'eighth = eighth' }], note: 'drums alone' },
      { meter: '4/4' },
      { tempo: [expect.objectContaining({ tempo: 'quarter = 88' })] },
      { meter: '3/4' },
      {},
    ]);
  });

  test('a digit begins a meter; what is none is told in its place, kept typed, and changes nothing', async () => {
    await openMap(FOUR);
    await press('5');
    const field = await screen.findByRole('textbox');
    expect(field).toHaveProperty('value', '5');
    await page.user.type(field, '/0{Enter}');
    const says = () => document.getElementById(field.getAttribute('aria-describedby') ?? '')?.textContent;
    await waitFor(() => expect(says()).toMatch(/5\/0/));
    expect(field).toHaveProperty('value', '5/0');
    await press('{Escape}');
    expect(screen.queryByRole('textbox')).toBeNull();
    expect(page.server.changes).toEqual([]);
  });

  test('undo and redo go all the way back and forth, and are saved like any change', async () => {
    await openMap(FOUR);
    await enter('m', '3/4');
    await press('{ArrowRight}');
    await enter('m', '5/8');
    const both = await saved();
    expect(both.slice(0, 2).map(({ meter }) => meter)).toEqual(['3/4', '5/8']);
    await press('{Control>}z{/Control}{Control>}z{/Control}');
    await waitFor(() => expect(page.server.piece(id).piece.bars).toEqual(FOUR));
    await press('{Control>}y{/Control}{Control>}{Shift>}Z{/Shift}{/Control}');
    await waitFor(() => expect(page.server.piece(id).piece.bars).toEqual(both));
  });

  test('bars are selected with shift, moved, and deleted; all of them cannot be', async () => {
    await openMap([...FOUR.slice(0, 3), { meter: '3/4' }]);
    await press('{End}<');
    const moved = [{}, {}, { meter: '3/4' }, { meter: '4/4' }];
    await waitFor(() => expect(page.server.piece(id).piece.bars).toMatchObject(moved));
    await press('{Home}{Shift>}{End}{/Shift}{Delete}');
    expect(page.toasts.at(-1)).toMatch(/^A piece needs at least one bar/);
    expect(await saved()).toMatchObject(moved);
    await press('{Home}{Shift>}{ArrowRight}{ArrowRight}{/Shift}{Delete}');
    await waitFor(() => expect(page.server.piece(id).piece.bars).toMatchObject([{ meter: '4/4' }]));
  });

  test('while the server is away work goes on, and is saved once it answers', async () => {
    await openMap(FOUR);
    page.server.isAway = true;
    await enter('m', '3/4');
    await waitFor(() => expect(screen.getByTestId('save-state').textContent).toMatch(/^Not saved/));
    await press('{ArrowRight}');
    await enter('m', '2/4');
    page.server.isAway = false;
    expect((await saved()).map(({ meter }) => meter)).toEqual(['3/4', '2/4', '4/4', undefined]);
  });
});

const CHECKED: readonly BarDocument[] = [
  { meter: '4/4', tempo: [{ tempo: 'quarter = 96' }] },
  {},
  { meter: '15/16 as 4+4+4+3' },
  { meter: '4/4' },
  {},
  { meter: '9/8' },
  { meter: '4/4' },
  {},
];

describe('checks', () => {
  test('one is put right and logged with why and by whom, one is meant, and the list can be printed', async () => {
    await openMap(CHECKED);
    await press('c');
    await screen.findByText(/^Bar 3 is 15\/16 as 4\+4\+4\+3, one sixteenth short/);
    await press('f');
    await page.user.type(await screen.findByLabelText('Why'), 'the parts have four');
    await page.user.type(screen.getByLabelText('Spotted by'), 'Reeds{Enter}');
    expect((await screen.findByRole('region', { name: 'Corrections' })).textContent).toContain(
      'bar 3: 4/4, was 15/16 as 4+4+4+3',
    );
    await press('i');
    await page.user.type(await screen.findByLabelText('Reason'), 'it is a stumble{Enter}');
    await screen.findByText('Meant so: it is a stumble');
    await saved();
    const { corrections, bars } = page.server.piece(id).piece;
    expect(corrections).toMatchObject([
      { place: 'bar 3', was: '15/16 as 4+4+4+3', is: '4/4', why: 'the parts have four', spottedBy: 'Reeds' },
    ]);
    expect(bars?.[5]).toMatchObject({ answers: [{ reason: 'it is a stumble' }] });
    await page.user.click(screen.getByRole('link', { name: 'Errata list to print' }));
    expect((await screen.findByRole('row', { name: /bar 3/i })).textContent).toMatch(/15\/16.*4\/4.*Reeds/);
  });

  test('what was answered is asked again, and c goes on from one to the next', async () => {
    await openMap(CHECKED);
    await press('c');
    const findings = await screen.findByRole('list', { name: 'Findings in reading order' });
    const shown = () => within(findings).getByRole('button', { current: true }).textContent;
    const first = shown();
    await press('c');
    expect(shown()).not.toBe(first);
    await press('c');
    expect(shown()).toBe(first);
    await press('i{Enter}');
    await screen.findByText('Meant so: as it is in the score');
    await page.user.click(within(findings).getByText(/^Meant so/));
    await page.user.click(screen.getByRole('button', { name: 'Ask again' }));
    await waitFor(() => expect(screen.queryByText(/^Meant so/)).toBeNull());
    expect((await saved())[2]?.answers).toBeUndefined();
  });

  test('where all comes out it says so', async () => {
    await openMap(FOUR);
    await press('c');
    expect(await screen.findByText(/^Nothing to look at/)).toBeDefined();
  });
});

describe('history', () => {
  test('tells what was done when; an earlier state is held against now and brought back', async () => {
    await openMap([...FOUR.slice(0, 2), { meter: '5/8' }, { meter: '4/4' }]);
    await press('{ArrowRight}{ArrowRight}');
    await enter('m', '9/16');
    await saved();
    await press('y');
    const list = await screen.findByRole('list', { name: 'Revisions, newest first' });
    await within(list).findByText(/bar 3 is now 9\/16, was 5\/8/i);
    await page.user.click(within(list).getByRole('button', { name: /^1/ }));
    const chosen = await screen.findByRole('region', { name: 'Revision 1 and now' });
    expect(chosen.textContent).toContain('bar 3 is now 9/16, was 5/8: one sixteenth shorter');
    await page.user.click(within(chosen).getByRole('button', { name: 'Show it on the line' }));
    await screen.findByText(/^Not taken in yet/);
    await page.user.click(within(chosen).getByRole('button', { name: 'Restore it' }));
    await waitFor(() => expect(page.server.piece(id).piece.bars?.[2]).toMatchObject({ meter: '5/8' }));
    expect(page.server.revisions.get(id)?.at(-1)?.edits[0]).toMatch(/^Revision 1 restored/);
  });
});

describe('about the piece', () => {
  test('its head is set line by line; what is too long is put back as it was', async () => {
    await openMap(FOUR);
    await press('a');
    const panel = await screen.findByTestId('panel-about');
    const composer = within(panel).getByLabelText('Composer');
    await page.user.type(composer, 'I. Quill{Enter}');
    const sections = within(panel).getByLabelText('Sections');
    await page.user.type(sections, 'Bells, Reeds{Enter}');
    await saved();
    expect(page.server.piece(id).piece).toMatchObject({ composer: 'I. Quill', sections: ['Bells', 'Reeds'] });
    await press('{Escape}');
    await waitFor(() => expect(screen.queryByTestId('panel-about')).toBeNull());
  });
});

describe('from a spreadsheet', () => {
  test('cells at fault are named, the change is shown, then taken in', async () => {
    await openMap([{ meter: '4/4', note: 'lift', tempo: [{ tempo: 'quarter = 96' }] }, {}, {}]);
    await press('o');
    const rows = await screen.findByLabelText('Paste rows here');
    const paste = async (text: string) => {
      await page.user.clear(rows);
      await page.user.click(rows);
      await page.user.paste(text);
    };
    await paste('meter\tmark\n4/4\t\n04-Mar\tA\n');
    await screen.findByText(/Row 3, meter: "04-Mar" is a date/);
    await press('{Control>}{Enter}{/Control}');
    expect(page.server.changes).toEqual([]);
    await paste('meter\tmark\tBowing\n4/4\t\tup\n3/4\tA\t\n3/4\t\t\n');
    await screen.findByText(/no column is called so: Bowing/);
    expect((await screen.findByLabelText('What will change')).textContent).toContain('bar 3 is now 3/4');
    await press('{Control>}{Enter}{/Control}');
    await waitFor(() => expect(rows).toHaveProperty('value', ''));
    expect(await saved()).toEqual([
      { meter: '4/4', note: 'lift', tempo: [{ tempo: 'quarter = 96' }] },
      { meter: '3/4', rehearsalMark: 'A' },
      {},
    ]);
    const file = new File(['bars;meter\n5;2/4\n'], 'bars.csv', { type: 'text/csv' });
    await page.user.upload(document.querySelector<HTMLInputElement>('input[type="file"]')!, file);
    await waitFor(() => expect(rows).toHaveProperty('value', 'bars;meter\n5;2/4\n'));
    expect((await screen.findByLabelText('What will change')).textContent).toContain('2/4');
  });
});

test('while it is counted in the count stands there beat by beat, and no longer', async () => {
  await openMap([{ meter: '4/4', tempo: [{ tempo: 'quarter = 240' }] }, {}]);
  await press(' ');
  await page.pass(0.12 + 0.1);
  const words: Array<string | undefined> = [];
  for (let beat = 0; beat < 5; beat++) {
    words.push(screen.queryByTestId('count-off-word')?.textContent);
    await page.pass(0.25);
  }
  expect(words).toEqual(['1', '2', '3', '4', undefined]);
});
