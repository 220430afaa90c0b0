import { afterEach, describe, expect, test } from '@jest/globals';
import type { SessionResponse } from '@anchorbeat/contract';
import { screen, waitFor, within } from '@testing-library/react';
import { alertSays } from '../test/alert.ts';
import { ENSEMBLE, FakeServer } from '../test/fakeServer.ts';
import { openPage, type TestPage } from '../test/page.tsx';
import { Shelf } from './Shelf.tsx';

let page: TestPage;
afterEach(() => page.close());

const bars = [{ meter: '4/4', tempo: [{ tempo: 'quarter = 120' }] }, {}, { meter: '7/8 as 2+2+3' }];
const piece = (title: string) => ({ format: 'anchorbeat-piece' as const, version: 1 as const, title, bars });

function openShelf(titles: readonly string[], prepare: (server: FakeServer) => void = () => undefined): void {
  const server = new FakeServer();
  for (const title of titles) server.add(`id of ${title}`, piece(title));
  prepare(server);
  page = openPage('/', [{ path: '*', element: <Shelf /> }], server);
}

const sessionOf = (role: 'director' | 'coDirector'): SessionResponse => {
  const roles = [{ ensembleId: ENSEMBLE.id, role }];
  const signedIn = { accountId: 'a', displayName: 'Ida Quill', isLocal: false, roles };
  return { signedIn, canOpenHere: false, canSetUp: false };
};
const shelved = () => screen.getAllByRole('heading', { level: 2 }).map(({ textContent }) => textContent);
const tidied = () =>
  within(screen.getByRole('list', { name: 'On the shelf' }))
    .getAllByRole('listitem')
    .map((row) => row.querySelector('b')?.textContent);
const dialog = () => screen.findByRole('dialog');
const press = async (name: string) => page.user.click(await screen.findByRole('button', { name }));
/** A button of a dialog rests while the list is fetched anew. */
const pressWhenFree = async (name: string) => {
  const button = await screen.findByRole('button', { name });
  await waitFor(() => expect(button).toHaveProperty('disabled', false));
  await page.user.click(button);
};

describe('the shelf', () => {
  test('lists the pieces with what they are made of, and a digit opens one', async () => {
    openShelf(['Ebb Count', 'Ropewalk']);
    const [ebb] = await screen.findAllByText(/3 bars · .* · 1 seam/);
    expect(ebb).toBeDefined();
    expect(shelved()).toEqual(['Ebb Count', 'Ropewalk']);
    expect(screen.getByRole('heading', { level: 1 }).textContent).toBe(ENSEMBLE.name);
    expect(screen.getByText('Marrowick Haven · Handbells, Reeds, Contrabass, Drums')).toBeDefined();
    await page.user.keyboard('2');
    expect(page.address()).toBe('/piece/id of Ropewalk/map');
  });

  test('a piece that cannot be read has its row, and the others theirs', async () => {
    openShelf(['Ebb Count'], (server) => {
      const unread = piece('Torn');
      server.add('torn', { ...unread, bars: [{ meter: '0/0' }] });
    });
    expect(await screen.findByText('This piece could not be read; open it to see why')).toBeDefined();
    expect(await screen.findByText(/3 bars/)).toBeDefined();
  });

  test('a server that does not answer is told, with what to do', async () => {
    openShelf([], (server) => (server.isAway = true));
    expect(await screen.findByText(/The server does not answer: check that/)).toBeDefined();
  });

  test('an empty shelf offers four beginnings; words make a piece of one bar and open beside it', async () => {
    openShelf([]);
    const offers = await screen.findByRole('region', { name: 'To begin with' });
    expect(within(offers).getAllByRole('button')).toHaveLength(4);
    await page.user.keyboard('w');
    await waitFor(() => expect(page.address()).toMatch(/^\/piece\/.*\/map\?panel=words$/));
    expect(page.server.pieces.map((made) => made.piece.bars.length)).toEqual([1]);
  });

  test('the demo comes whole and in its order', async () => {
    openShelf([]);
    await screen.findByRole('region', { name: 'To begin with' });
    await page.user.keyboard('d');
    await waitFor(() =>
      expect(page.server.pieces.map((made) => made.piece.title)).toEqual([
        'Slack Water',
        'Ropewalk',
        'Ebb Count',
        'Tar and Twine',
        'Lamp on the Bar',
      ]),
    );
    await waitFor(() => expect(shelved()).toHaveLength(5));
  });

  test('a further ensemble is chosen above, and its shelf is its own', async () => {
    openShelf(['Ebb Count'], (server) => {
      server.ensembles.push({ ...ENSEMBLE, id: 'other', name: 'Quay Street Choir', place: '', sections: [] });
      server.pieces.push({ ...server.add('theirs', piece('Low Tide')), id: 'q', ensembleId: 'other' });
      server.pieces.splice(1, 1);
    });
    await screen.findByText('Ebb Count');
    await page.user.selectOptions(screen.getByRole('combobox', { name: 'Ensemble' }), 'Quay Street Choir');
    expect(await screen.findByText('Low Tide')).toBeDefined();
    expect(screen.queryByText('Ebb Count')).toBeNull();
    await page.user.selectOptions(screen.getByRole('combobox', { name: 'Ensemble' }), ENSEMBLE.name);
  });
});

describe('tidying', () => {
  test('pieces are moved, copied beside themselves, set aside and brought back; nothing is deleted', async () => {
    openShelf(['One', 'Two', 'Three']);
    await screen.findByText('Three');
    await page.user.keyboard('t');
    await pressWhenFree('Three: earlier');
    await waitFor(() => expect(tidied()).toEqual(['One', 'Three', 'Two']));
    await pressWhenFree('One: copy');
    await waitFor(() => expect(tidied()).toEqual(['One', 'One, copy', 'Three', 'Two']));
    await pressWhenFree('Two: set aside');
    const aside = await screen.findByRole('region', { name: 'Set aside' });
    expect(within(aside).getByText('Two')).toBeDefined();
    expect(page.server.piece('id of Two').isSetAside).toBe(true);
    await pressWhenFree('Two: bring back');
    await waitFor(() => expect(screen.queryByRole('region', { name: 'Set aside' })).toBeNull());
    expect(page.server.pieces.map(({ piece: { title }, isSetAside }) => [title, isSetAside])).toEqual([
      ['One', false],
      ['One, copy', false],
      ['Three', false],
      ['Two', false],
    ]);
    expect(page.server.changes.filter((change) => change.startsWith('DELETE'))).toEqual([]);
  });

  test('the first cannot go earlier, nor the last later', async () => {
    openShelf(['One', 'Two']);
    await screen.findByText('Two');
    await page.user.keyboard('t');
    await dialog();
    expect(screen.getByRole('button', { name: 'One: earlier' })).toHaveProperty('disabled', true);
    expect(screen.getByRole('button', { name: 'Two: later' })).toHaveProperty('disabled', true);
  });
});

describe('the ensemble', () => {
  test('is named; sections are told apart by commas, once each, and notes are called as it calls them', async () => {
    openShelf(['Ebb Count']);
    await screen.findByText('Ebb Count');
    await page.user.keyboard('e');
    await dialog();
    const sections = screen.getByLabelText('Sections, with commas between');
    await page.user.clear(sections);
    await page.user.type(sections, 'Bells,  Reeds , ,Bells');
    await press('minim, crotchet, quaver');
    await press('Keep it');
    await waitFor(() =>
      expect(page.server.ensembles).toEqual([
        { ...ENSEMBLE, sections: ['Bells', 'Reeds'], noteNames: 'crotchet' },
      ]),
    );
    await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull());
  });

  test('what cannot be kept is told in the dialog, which keeps what was typed', async () => {
    openShelf(['Ebb Count']);
    await screen.findByText('Ebb Count');
    await page.user.keyboard('e');
    await dialog();
    page.server.isAway = true;
    const name = screen.getByLabelText('Name');
    await page.user.clear(name);
    await page.user.type(name, 'Harbour Band');
    await press('Keep it');
    await alertSays(/does not answer/);
    expect(name).toHaveProperty('value', 'Harbour Band');
  });

  test('who leads adds another by a name and a first password, and takes them out', async () => {
    openShelf(['Ebb Count'], (server) => {
      server.session = sessionOf('director');
    });
    await screen.findByText('Ebb Count');
    await page.user.keyboard('p');
    const add = async () => {
      await page.user.type(await screen.findByLabelText('Called'), 'Jon Tarn');
      await page.user.type(screen.getByLabelText('Signs in as'), 'jon');
      await page.user.type(screen.getByLabelText('First password'), 'a long first one');
      await press('Add');
    };
    await add();
    expect(await screen.findByText('jon · co-director')).toBeDefined();
    expect(screen.getByLabelText('Called')).toHaveProperty('value', '');
    await add();
    await alertSays('That name is taken');
    expect(screen.getByLabelText('Called')).toHaveProperty('value', 'Jon Tarn');
    await press('make director');
    expect(await screen.findByText('jon · director')).toBeDefined();
    await press('take out');
    expect(await screen.findByText('leads no more')).toBeDefined();
    expect(page.server.members).toEqual([]);
    await press('put back');
    await waitFor(() => expect(screen.queryByText('leads no more')).toBeNull());
    expect(await screen.findByText('jon · director')).toBeDefined();
  });

  test('nobody leaves an ensemble by a slip', async () => {
    openShelf(['Ebb Count'], (server) => {
      server.session = sessionOf('director');
      const { accountId, displayName } = server.session.signedIn!;
      server.members = [{ accountId, name: 'ida', displayName, role: 'director' }];
    });
    await screen.findByText('Ebb Count');
    await page.user.keyboard('p');
    await dialog();
    await press('leave');
    await screen.findByText(/^You would see nothing of/);
    await press('Stay');
    expect(page.server.changes).toEqual([]);
    await press('leave');
    await press('Leave');
    await waitFor(() =>
      expect(page.server.changes).toEqual([expect.stringMatching(/^DELETE ensembles.*members/)]),
    );
  });

  test('a co-director sees who leads, changes their own password, and is offered nothing that is refused', async () => {
    openShelf(['Ebb Count'], (server) => {
      server.session = sessionOf('coDirector');
      server.members = [{ accountId: 'a', name: 'ida', displayName: 'Ida Quill', role: 'coDirector' }];
    });
    await screen.findByText('Ebb Count');
    await page.user.keyboard('ep');
    await dialog();
    expect(await screen.findByText('ida · co-director')).toBeDefined();
    expect(screen.queryByRole('button', { name: /take out|Add/ })).toBeNull();
    await press('change it');
    await page.user.type(screen.getByLabelText('The one you have now'), 'not this');
    await page.user.type(screen.getByLabelText(/^The new one/), 'a long new one');
    await press('Change it');
    await alertSays('This is not the password you have now');
    const now = screen.getByLabelText('The one you have now');
    await page.user.clear(now);
    await page.user.type(now, FakeServer.PASSWORD);
    await press('Change it');
    await waitFor(() => expect(page.toasts).toEqual([expect.stringMatching(/^Your password was changed/)]));
    expect(screen.queryByLabelText('The one you have now')).toBeNull();
  });

  test('who was taken out of their last ensemble is told so, and finds the way out', async () => {
    openShelf([], (server) => {
      server.ensembles = [];
      const at = { since: '2026-11-20T18:00:00Z', lastSeen: '2026-11-20T18:00:00Z' };
      server.places = [{ id: 'here', device: 'This tablet', isThis: true, ...at }];
    });
    expect(await screen.findByText('You lead no ensemble here.')).toBeDefined();
    expect(screen.queryByText(/Nothing on the shelf yet/)).toBeNull();
    await page.user.keyboard('np');
    await dialog();
    expect(await screen.findByText('This tablet')).toBeDefined();
    await press('sign out');
    await waitFor(() => expect(page.server.changes).toEqual(['DELETE session']));
  });

  test('whoever sits at the machine is told how others come in', async () => {
    openShelf(['Ebb Count']);
    await screen.findByText('Ebb Count');
    await page.user.keyboard('p');
    expect(await screen.findByText(/Whoever sits at this machine opens everything/)).toBeDefined();
    expect(screen.queryByLabelText('First password')).toBeNull();
  });
});
