import { afterEach, describe, expect, test } from '@jest/globals';
import { screen, waitFor } from '@testing-library/react';
import { openPage, type TestPage } from '../test/page.tsx';
import { Shelf } from './Shelf.tsx';

let page: TestPage;
afterEach(() => page.close());

async function openDialog(): Promise<void> {
  page = openPage('/', [{ path: '*', element: <Shelf /> }]);
  await screen.findByRole('region', { name: 'To begin with' });
  await page.user.keyboard('n');
  await screen.findByRole('dialog');
}

async function fill(fields: Readonly<Record<string, string>>): Promise<void> {
  for (const [label, text] of Object.entries(fields)) {
    const field = screen.getByLabelText(label);
    await page.user.clear(field);
    if (text !== '') await page.user.paste(text);
  }
}

const make = () => page.user.click(screen.getByRole('button', { name: 'Make it' }));
const made = () => page.server.pieces[0]?.piece;

describe('a new piece', () => {
  test('has what its first page says, in the sections of the ensemble, and opens on its map', async () => {
    await openDialog();
    await fill({
      Title: 'Long Quay',
      Composer: 'I. Quill',
      'Period or style': 'harbour dance',
      Key: 'D minor',
      Meter: '7/8 2+2+3',
      'Tempo word': 'Brisk',
      'Printed tempo': 'e = 208',
      Bars: '12',
      Pickup: 'e',
    });
    await make();
    await waitFor(() => expect(page.address()).toMatch(/^\/piece\/[^/]+\/map$/));
    expect(made()).toMatchObject({
      title: 'Long Quay',
      composer: 'I. Quill',
      key: 'D minor',
      sections: ['Handbells', 'Reeds', 'Contrabass', 'Drums'],
    });
    // The pickup stands before the first whole bar.
    expect(made()?.bars).toHaveLength(13);
    expect(made()?.bars?.[0]).toMatchObject({ meter: '7/8 as 2+2+3', tempo: [{ tempo: 'eighth = 208' }] });
  });

  test('nothing has to be answered', async () => {
    await openDialog();
    await make();
    await waitFor(() => expect(made()?.bars).toHaveLength(16));
  });

  test.each([
    ['Meter', '7/0'],
    ['Printed tempo', 'fast'],
    ['Bars', 'many'],
    ['Bars', '0'],
    ['Pickup', '9/8'],
  ])('%s "%s" is refused in words, and what was typed stays', async (label, text) => {
    await openDialog();
    await fill({ Title: 'Kept', [label]: text });
    await make();
    await waitFor(() => expect(screen.getByRole('alert').textContent).not.toBe(''));
    expect(screen.getByLabelText(label)).toHaveProperty('value', text);
    expect(screen.getByLabelText('Title')).toHaveProperty('value', 'Kept');
    expect(page.server.changes).toEqual([]);
  });

  test('how it is best beaten is said as meter and tempo are typed, and a choice is kept', async () => {
    await openDialog();
    const advice = () => screen.getByRole('region', { name: 'How to beat it' }).textContent;
    await fill({ Meter: '', 'Printed tempo': '' });
    expect(advice()).toContain('Give a meter and a tempo');
    await fill({ Meter: '6/8', 'Printed tempo': 'e = 90' });
    expect(advice()).not.toContain('Give a meter and a tempo');
    await page.user.selectOptions(screen.getByLabelText('Beaten'), '6');
    await make();
    await waitFor(() => expect(made()?.bars?.[0]).toMatchObject({ meter: '6/8', pulse: 'in 6' }));
  });
});
