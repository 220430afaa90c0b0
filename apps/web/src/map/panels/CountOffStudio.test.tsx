import { afterEach, describe, expect, test } from '@jest/globals';
import { COUNT_OFF_STYLES, COUNT_SCHOOLS, type BarDocument } from '@anchorbeat/core';
import { screen, waitFor, within } from '@testing-library/react';
import { FakeServer } from '../../test/fakeServer.ts';
import { newId, ofPiece, openPage, type TestPage } from '../../test/page.tsx';
import { MapScreen } from '../MapScreen.tsx';

let page: TestPage;
let id = '';
afterEach(() => page.close());

const BARS: readonly BarDocument[] = [
  { meter: '4/4', tempo: [{ tempo: 'quarter = 120' }] },
  { rehearsalMark: 'B' },
  { meter: '7/8 as 2+2+3' },
];

async function openStudio(...keys: string[]) {
  const server = new FakeServer();
  id = newId();
  server.add(id, { format: 'anchorbeat-piece', version: 1, title: 'Counted', bars: BARS });
  page = openPage(`/piece/${id}/map`, ofPiece({ path: 'map', element: <MapScreen /> }), server);
  await screen.findByRole('listbox');
  await page.user.keyboard(`${keys.join('')}z`);
  return within(await screen.findByTestId('panel-countOff'));
}

const kept = () => page.server.piece(id).piece.bars.map(({ countOff }) => countOff);
const isSaved = () => waitFor(() => expect(screen.getByTestId('save-state').textContent).toBe('saved'));

describe('the count-off of a bar', () => {
  test('is as usual until it is set, is told for which bar, and goes back to usual', async () => {
    const studio = await openStudio('{ArrowRight}');
    expect(studio.getByText('Into bar 2.')).toBeDefined();
    expect(studio.getByText('As usual; another bar may have its own.')).toBeDefined();
    expect(studio.getByRole('button', { name: 'As usual' })).toHaveProperty('disabled', true);
    await page.user.selectOptions(studio.getByLabelText('Bars'), '2');
    await studio.findByText('Set for this bar.');
    await isSaved();
    expect(kept()).toMatchObject([undefined, { bars: 2 }, undefined]);
    await page.user.click(studio.getByRole('button', { name: 'As usual' }));
    await studio.findByText('As usual; another bar may have its own.');
    await isSaved();
    expect(kept()).toEqual([undefined, undefined, undefined]);
  });

  test('every school and every way is offered with the bar as it is counted, and kept by its name', async () => {
    const studio = await openStudio('{End}');
    const schools = within(studio.getByLabelText('Counted')).getAllByRole('option');
    expect(schools).toHaveLength(COUNT_SCHOOLS.length);
    for (const school of schools) expect(school.textContent).toMatch(/: .+/);
    const ways = within(studio.getByLabelText('In the way of')).getAllByRole('option');
    expect(ways.map(({ textContent }) => textContent)).toEqual(COUNT_OFF_STYLES.map(({ name }) => name));
    const school = COUNT_SCHOOLS.at(-1)!;
    await page.user.selectOptions(studio.getByLabelText('Counted'), school.id);
    await page.user.click(studio.getByLabelText(/^The last beat stays open/));
    await isSaved();
    expect(kept()[2]).toMatchObject({ school: school.id, breathOnLastBeat: true });
  });

  test('a cue word and a first note are set with Enter; what is no note is told and put back', async () => {
    const studio = await openStudio('{ArrowRight}');
    expect(studio.getByLabelText('Cue word').getAttribute('placeholder')).toBe('B');
    await page.user.type(studio.getByLabelText('Cue word'), 'reeds{Enter}');
    await page.user.type(studio.getByLabelText('First note'), 'H9{Enter}');
    expect(page.toasts.at(-1)).toMatch(/H9/);
    await page.user.clear(studio.getByLabelText('First note'));
    await page.user.type(studio.getByLabelText('First note'), 'F4{Enter}');
    await isSaved();
    expect(kept()[1]).toMatchObject({ cueWord: 'reeds', firstNote: 65 });
    await page.user.clear(studio.getByLabelText('First note'));
    await page.user.tab();
    await isSaved();
    await waitFor(() => expect(kept()[1]).not.toHaveProperty('firstNote'));
  });

  test('is heard with the bar it leads into, and stopped', async () => {
    const studio = await openStudio();
    await page.user.click(studio.getByRole('button', { name: 'Hear it, 4 beats' }));
    await page.pass(0.12 + 2 + 0.6);
    const [first = 0, ...more] = page.device.heard().map(({ whenSeconds }) => whenSeconds);
    expect(more.slice(0, 4).map((seconds) => Number((seconds - first).toFixed(3)))).toEqual([0.5, 1, 1.5, 2]);
    await page.user.click(studio.getByRole('button', { name: 'Stop' }));
    expect(studio.getByRole('button', { name: /^Hear it/ })).toBeDefined();
  });
});
