import { afterEach, describe, expect, test } from '@jest/globals';
import type { SessionResponse } from '@anchorbeat/contract';
import { writePiece } from '@anchorbeat/core';
import { screen, waitFor } from '@testing-library/react';
import { pieceOf } from '../../../../packages/core/src/test/pieceOf.ts';
import { useSentWaiting } from '../app/useSentWaiting.ts';
import { api } from '../store/api.ts';
import { keepDone } from '../store/doneLog.ts';
import { opened } from '../store/pieceSlice.ts';
import { logRun } from '../store/runLog.ts';
import { NEW_DATE } from '../rehearse/season.ts';
import { alertSays } from '../test/alert.ts';
import { FakeServer } from '../test/fakeServer.ts';
import { loggedRun } from '../test/loggedRun.ts';
import { newId, openPage, type TestPage } from '../test/page.tsx';
import { SessionGate } from './SessionGate.tsx';

let page: TestPage;
afterEach(() => page.close());

const NOBODY: SessionResponse = { signedIn: null, canOpenHere: false, canSetUp: false };

const hereIs = (accountId: string): SessionResponse => ({
  ...NOBODY,
  signedIn: { accountId, displayName: accountId, isLocal: false, roles: [] },
});

function Behind() {
  useSentWaiting();
  return 'the shelf';
}

/** How often the page was begun anew, since somebody else had come. */
let beginnings: number;

function comeTo(session: SessionResponse, server = new FakeServer()): void {
  server.session = session;
  beginnings = 0;
  const behind = (
    <SessionGate onAnother={() => beginnings++}>
      <Behind />
    </SessionGate>
  );
  page = openPage('/', [{ path: '*', element: behind }], server);
}

const type = async (label: string, text: string) => page.user.type(await screen.findByLabelText(label), text);
const press = async (name: string) => page.user.click(await screen.findByRole('button', { name }));
const signIn = async (name: string) => {
  await type('Name', name);
  await type('Password', FakeServer.PASSWORD);
  await press('Sign in');
};

/** Ida is signed in, and her shelf has a piece of two bars. */
async function idaAtWork() {
  comeTo(hereIs('ida'));
  await screen.findByText('the shelf');
  const { server, store } = page;
  const { id, ensembleId } = server.add(newId(), writePiece(pieceOf({ meter: '4/4' }, {})));
  return { id, ensembleId, server, store };
}

describe('the door', () => {
  test('at the machine, while nobody has an account, one button opens it', async () => {
    comeTo({ ...NOBODY, canOpenHere: true, canSetUp: true });
    await press('Open the shelf');
    expect(await screen.findByText('the shelf')).toBeDefined();
    expect(page.server.changes).toEqual(['POST session/here']);
  });

  test('there the first account is made, and one may go back from that', async () => {
    comeTo({ ...NOBODY, canOpenHere: true, canSetUp: true });
    await press('make the first account');
    await press('Back');
    await press('make the first account');
    await type('What people call you', 'Ida Quill');
    await type('Name to sign in with', 'ida');
    await type('Password, ten characters or more', 'short');
    await press('Make the first account');
    await alertSays('A password has ten characters at least');
    await type('Password, ten characters or more', ' no longer');
    await press('Make the first account');
    expect(await screen.findByText('the shelf')).toBeDefined();
  });

  test('elsewhere a name and a password are asked; a wrong one is told and may be typed again', async () => {
    comeTo(NOBODY);
    const button = await screen.findByRole('button', { name: 'Sign in' });
    expect(button).toHaveProperty('disabled', true);
    await type('Name', 'ida');
    await type('Password', 'not this one');
    await press('Sign in');
    await alertSays('Name or password are not right');
    await page.user.clear(screen.getByLabelText('Password'));
    await type('Password', FakeServer.PASSWORD);
    await press('Sign in');
    expect(await screen.findByText('the shelf')).toBeDefined();
  });

  test('players find the way to their rehearsal', async () => {
    comeTo(NOBODY);
    const way = await screen.findByRole('link', { name: 'Join with its code' });
    expect(way.getAttribute('href')).toBe('/s');
  });

  test('where the server does not answer, the page goes on with what it has', async () => {
    const server = new FakeServer();
    server.isAway = true;
    comeTo(NOBODY, server);
    expect(await screen.findByText('the shelf')).toBeDefined();
  });

  test('work that could not be sent since one was signed out is saved as one signs in again', async () => {
    const { id, ensembleId, server, store } = await idaAtWork();
    server.session = NOBODY;
    const piece = pieceOf({ meter: '4/4' }, { meter: '7/8' });
    store.dispatch(opened({ id, ensembleId, revision: 1, piece, unsavedEdits: ['meter 7/8'] }));
    await screen.findByLabelText('Name');
    expect(screen.queryByText('the shelf')).toBeNull();
    expect(server.piece(id).revision).toBe(1);
    await signIn('ida');
    await waitFor(() => expect(store.getState().piece.open?.save.kind).toBe('saved'));
    expect(server.piece(id).piece.bars[1]).toMatchObject({ meter: '7/8' });
  });

  test('what is sent in the moment before it is known that somebody else is here is not taken for theirs', async () => {
    const { id, ensembleId, server, store } = await idaAtWork();
    server.session = hereIs('bo');
    const edited = { piece: pieceOf({ meter: '4/4' }, { meter: '7/8' }), unsavedEdits: ['meter 7/8'] };
    store.dispatch(opened({ id, ensembleId, revision: 1, ...edited }));
    logRun(store.dispatch, id, loggedRun('hers'));
    await waitFor(() => expect(beginnings).toBe(1));
    expect([server.piece(id).revision, server.runs.get(id)]).toEqual([1, undefined]);
  });

  test('who signs in where somebody else was sees nothing of theirs, nor sends it; it goes when they are back', async () => {
    const { id, ensembleId, server, store } = await idaAtWork();
    server.session = NOBODY;
    logRun(store.dispatch, id, loggedRun('hers'));
    const date = { ...NEW_DATE, id: 'tuesday', at: '2031-03-04T19:30' };
    server.dates = [date];
    const done = [{ key: 'ebb', title: 'Ebb', planned: 5, seconds: 60 }];
    void keepDone(store.dispatch, ensembleId, date, done);
    const edited = { piece: pieceOf({ meter: '4/4' }, { meter: '7/8' }), unsavedEdits: ['meter 7/8'] };
    store.dispatch(opened({ id, ensembleId, revision: 1, ...edited }));
    await signIn('bo');
    await waitFor(() => expect(beginnings).toBe(1));
    expect(screen.queryByText('the shelf')).toBeNull();
    expect(store.getState().piece.open).toBeNull();
    await page.close();

    comeTo(hereIs('bo'), server);
    await screen.findByText('the shelf');
    logRun(page.store.dispatch, id, loggedRun('his'));
    await page.store.dispatch(api.endpoints.listRuns.initiate(id));
    const shown = api.endpoints.listRuns.select(id)(page.store.getState()).data;
    expect(shown?.map((run) => run.id)).toEqual(['his']);
    await waitFor(() => expect(server.runs.get(id)?.map((run) => run.id)).toEqual(['his']));
    expect([server.piece(id).revision, server.dates, page.toasts]).toEqual([1, [date], []]);
    await page.close();

    comeTo(hereIs('ida'), server);
    await waitFor(() => expect(server.runs.get(id)?.map((run) => run.id)).toEqual(['his', 'hers']));
    await waitFor(() => expect(server.dates[0]?.done).toEqual(done));
    expect(beginnings).toBe(0);
  });

  test('nobody sees anything before it is known who asks', async () => {
    comeTo(hereIs('ida'));
    expect(screen.queryByText('the shelf')).toBeNull();
    await waitFor(() => expect(screen.getByText('the shelf')).toBeDefined());
  });
});
