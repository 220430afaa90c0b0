import { afterEach, beforeEach, describe, expect, jest, test } from '@jest/globals';
import { EMPTY_ROOM, UNKNOWN_CLOCK, writePiece, type RoomState } from '@anchorbeat/core';
import type { RoomResponse } from '@anchorbeat/contract';
import { act, cleanup, render, screen } from '@testing-library/react';
import type { ReactNode } from 'react';
import { Provider } from 'react-redux';
import { MemoryRouter } from 'react-router';
import { v4 as uuid } from 'uuid';
import { pieceOf } from '../../../../packages/core/src/test/pieceOf.ts';
import { DirectorRoom, type DirectorLine } from '../room/directorRoom.ts';
import { RoomContext } from '../room/RoomContext.tsx';
import type { RoomView } from '../room/roomLink.ts';
import { api } from '../store/api.ts';
import { askSession } from '../store/peopleApi.ts';
import { edited, opened } from '../store/pieceSlice.ts';
import { createStore, type AppDispatch, type AppStore } from '../store/store.ts';
import { ENSEMBLE, FakeServer } from '../test/fakeServer.ts';
import { StandsGlance } from './StandsGlance.tsx';
import { Elsewhere } from './ToStands.tsx';
import { useEnteredRoom, useNewestRevision, usePutOnStands } from './useRehearsal.ts';
import { useToldStands } from './useToldStands.ts';

const SECONDS = 1000;
const OPEN: RoomView = {
  connection: 'open',
  lostSinceMs: null,
  room: null,
  stands: [],
  takes: [],
  clock: UNKNOWN_CLOCK,
  over: null,
};

let server: FakeServer;
let entered: string[];
let told: string[];
/** What the line to the room that was entered last sees of it. */
let show: (changes: Partial<RoomView>) => void;

function lineTo(roomId: string): Promise<DirectorLine> {
  entered.push(roomId);
  let view = OPEN;
  let tell: () => void = () => undefined;
  show = (changes) => {
    view = { ...view, ...changes };
    tell();
  };
  return Promise.resolve({
    subscribe: (listener) => {
      tell = listener;
      tell();
      return () => undefined;
    },
    get: () => view,
    say: () => Promise.resolve({ ok: true, value: null }),
    serverMsAt: (ms) => ms,
    pageMsAt: (ms) => ms,
    close: () => undefined,
  });
}

function Entered() {
  return useEnteredRoom('e') ? 'in a rehearsal' : 'alone';
}

/** Whatever is said after that is heard by nobody: a conversation without an end has one in a test. */
const MOST_SAID = 20;

function AtPodium({ id, revision }: { readonly id: string; readonly revision: number }) {
  usePutOnStands({ id, revision, ensembleId: ENSEMBLE.id });
  return null;
}

function Working({ title }: { readonly title: string }) {
  useToldStands(title);
  return null;
}

const pass = (seconds: number) => act(() => jest.advanceTimersByTimeAsync(seconds * SECONDS));

/** Until something holds, while time passes. */
async function until(isSo: () => boolean): Promise<void> {
  for (let turn = 0; turn < 300 && !isSo(); turn++) await pass(1);
  expect(isSo()).toBe(true);
}

beforeEach(() => {
  jest.useFakeTimers();
  server = new FakeServer();
  entered = [];
  told = [];
  Object.assign(globalThis, { fetch: server.fetch });
});
afterEach(() => {
  cleanup();
  jest.useRealTimers();
});

test('a rehearsal that another device opened is come into; one that is over is left, and not knocked at again and again', async () => {
  const room = new DirectorRoom(lineTo);
  room.onOver = (words) => void told.push(words);
  const store = createStore();
  const { container } = render(
    <Provider store={store}>
      <RoomContext value={room}>
        <Entered />
      </RoomContext>
    </Provider>,
  );
  await pass(60);
  expect([container.textContent, entered]).toEqual(['alone', []]);
  server.rooms = [{ id: 'room 1' } as RoomResponse];
  await until(() => container.textContent === 'in a rehearsal');
  expect([container.textContent, entered]).toEqual(['in a rehearsal', ['room 1']]);
  server.rooms = [{ id: 'room 1', code: 'another' } as RoomResponse];
  act(() => void store.dispatch(api.util.invalidateTags(['Rooms'])));
  await until(() => room.get().response?.code === 'another');
  expect(entered.length).toBe(1);

  // The list that is asked for now may still name it.
  act(() => show({ over: 'The director has ended this rehearsal' }));
  await pass(5);
  expect([container.textContent, entered.length, told]).toEqual([
    'alone',
    1,
    ['The director has ended this rehearsal'],
  ]);
  server.rooms = [];
  await pass(60);
  expect(entered.length).toBe(1);
  server.rooms = [{ id: 'room 2' } as RoomResponse];
  await until(() => entered.length === 2);
  expect([container.textContent, entered]).toEqual(['in a rehearsal', ['room 1', 'room 2']]);

  // Who was signed out, and is let in again, comes back by and by.
  act(() => show({ over: 'You are no longer signed in to this rehearsal' }));
  await until(() => entered.length === 3);
  expect([container.textContent, entered]).toEqual(['in a rehearsal', ['room 1', 'room 2', 'room 2']]);
});

describe('what is on the stands', () => {
  let state: RoomState;
  let said: string[];
  /** Of the page that was opened last. */
  let dispatch: AppDispatch;
  let getState: AppStore['getState'];
  const lines = new Set<() => void>();
  const tellAll = (changes: Partial<RoomState>) => {
    state = { ...state, ...changes, open: changes.open ? { ...changes.open } : state.open };
    for (const tell of [...lines]) tell();
  };

  beforeEach(() => {
    lines.clear();
    said = [];
    state = EMPTY_ROOM;
  });

  /** A page in the rehearsal; given back is how it comes to show something else. */
  async function pageOf(shown: ReactNode, part: 'director' | 'coDirector' = 'director') {
    const signedIn = {
      accountId: part,
      displayName: part,
      isLocal: false,
      roles: [{ ensembleId: ENSEMBLE.id, role: part }],
    };
    server.session = { signedIn, canOpenHere: false, canSetUp: false };
    const store = createStore();
    ({ dispatch, getState } = store);
    await store.dispatch(askSession());
    const room = new DirectorRoom(() =>
      Promise.resolve({
        subscribe: (listener) => {
          lines.add(listener);
          listener();
          return () => void lines.delete(listener);
        },
        get: () => ({ ...OPEN, room: state }),
        say: (event, message) => {
          said.push(Object.values(message).join(' '));
          const changes = event === 'open' ? { open: message as RoomState['open'] } : message;
          if (said.length < MOST_SAID) tellAll(changes);
          return Promise.resolve({ ok: true, value: null });
        },
        serverMsAt: (ms) => ms,
        pageMsAt: (ms) => ms,
        close: () => undefined,
      }),
    );
    const page = (now: ReactNode) => (
      <Provider store={store}>
        <MemoryRouter>
          <RoomContext value={room}>{now}</RoomContext>
        </MemoryRouter>
      </Provider>
    );
    const { rerender } = render(page(shown));
    await act(() => room.enter({ id: 'room' } as RoomResponse));
    return (now: ReactNode) => rerender(page(now));
  }

  /** A page at the podium of a piece; given back is how it comes to have another revision of it. */
  async function podium(id: string, revision: number, part: 'director' | 'coDirector' = 'director') {
    const show = await pageOf(<AtPodium id={id} revision={revision} />, part);
    return (newer: number) => show(<AtPodium id={id} revision={newer} />);
  }

  test('is put there by who comes to a podium last, and two podiums never take it from each other in turn', async () => {
    const revise = await podium('ebb', 3);
    await podium('rope', 1);
    expect(said).toEqual(['ebb 3', 'rope 1']);
    revise(4);
    expect(said.length).toBe(2);
    act(() => tellAll({ isMuted: true }));
    expect(said.length).toBe(2);
  });

  test('is the newest revision that any page has made of it', async () => {
    const revise = await podium('ebb', 3);
    await podium('ebb', 3);
    revise(4);
    expect(said).toEqual(['ebb 3', 'ebb 4']);
  });

  test('is what the plan of a page has come to, until somebody has something else shown there', async () => {
    const first = await pageOf(<Working title="Ebb Count" />);
    const second = await pageOf(<Working title="Ropewalk" />);
    expect(said).toEqual(['Ebb Count', 'Ropewalk']);
    act(() => tellAll({ next: 'a pause' }));
    expect(said.length).toBe(2);
    second(<Working title="" />);
    expect([said.length, state.next]).toEqual([3, '']);
    first(<Working title="Tar and Twine" />);
    expect(said.slice(3)).toEqual(['Tar and Twine']);
    await pageOf(<Working title="" />);
    expect(said.length).toBe(4);
  });

  test('is told where it is another piece than here, with the way there, and put right by a press', async () => {
    const piece = pieceOf({ meter: '4/4' });
    for (const title of ['Ebb Count', 'Ropewalk']) server.add(title, { ...writePiece(piece), title });
    const all = { id: 'podium.together', group: '', key: 'a', name: 'All together', does: () => undefined };
    const show = await pageOf(<StandsGlance act={all} />);
    const words = () => screen.getByTestId('stands-glance').textContent;
    act(() => void dispatch(opened({ id: 'Ebb Count', ensembleId: ENSEMBLE.id, revision: 3, piece })));
    act(() => tellAll({ open: { pieceId: 'Ebb Count', revision: 1 } }));
    expect(words()).toBe('Nobody yet: show the code');
    act(() => tellAll({ open: { pieceId: 'Ropewalk', revision: 1 } }));
    await until(() => words() === 'stands at “Ropewalk”');
    const say = (event: string, message: object) =>
      void said.push(`${event} ${Object.values(message).join(' ')}`);
    show(<Elsewhere mayShow say={say} />);
    expect(screen.getByRole('link', { name: 'Ropewalk' }).getAttribute('href')).toBe(
      '/piece/Ropewalk/podium',
    );
    act(() => screen.getByRole('button').click());
    expect(said).toEqual(['open Ebb Count 3']);
    show(<Elsewhere mayShow={false} say={say} />);
    expect(screen.queryByRole('button')).toBeNull();
  });

  test('is the newest revision of the open piece: it is gone on with here, where nothing waits to be saved', async () => {
    const id = uuid();
    const piece = pieceOf({ meter: '4/4' });
    server.add(id, writePiece(piece));
    for (const revision of [2, 3])
      server.revisions
        .get(id)
        ?.push({ revision, savedAt: '', edits: [], piece: { ...writePiece(piece), title: `${revision}` } });
    function AtWork() {
      useNewestRevision();
      return null;
    }
    await pageOf(<AtWork />);
    const now = () => getState().piece.open!;
    act(() => void dispatch(opened({ id, ensembleId: ENSEMBLE.id, revision: 1, piece })));
    act(() => tellAll({ open: { pieceId: id, revision: 2 } }));
    await until(() => now().revision === 2);
    expect([now().present.title, now().save.kind, now().past.map(({ says }) => says)]).toEqual([
      '2',
      'saved',
      ['Revision 2, saved elsewhere'],
    ]);
    act(() => void dispatch(edited({ piece: { ...now().present, title: 'mine' }, says: 'a title' })));
    act(() => tellAll({ open: { pieceId: id, revision: 3 } }));
    await pass(30);
    expect([now().present.title, now().revision]).toEqual(['mine', 2]);
  });

  test('is put there by nobody who does not lead', async () => {
    await podium('ebb', 3);
    await podium('rope', 1, 'coDirector');
    expect(said).toEqual(['ebb 3']);
    act(() => tellAll({ coDirectorsLead: true }));
    expect(said).toEqual(['ebb 3']);
    await podium('tar', 2, 'coDirector');
    expect(said).toEqual(['ebb 3', 'tar 2']);
  });
});
