import { afterEach, beforeEach, expect, jest, test } from '@jest/globals';
import { UNKNOWN_CLOCK } from '@anchorbeat/core';
import type { RoomResponse } from '@anchorbeat/contract';
import { act, cleanup, render } from '@testing-library/react';
import { Provider } from 'react-redux';
import { DirectorRoom, type DirectorLine } from '../room/directorRoom.ts';
import { RoomContext } from '../room/RoomContext.tsx';
import type { RoomView } from '../room/roomLink.ts';
import { createStore } from '../store/store.ts';
import { FakeServer } from '../test/fakeServer.ts';
import { useEnteredRoom } from './useRehearsal.ts';

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

const pass = (seconds: number) => act(() => jest.advanceTimersByTimeAsync(seconds * SECONDS));

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
  const { container } = render(
    <Provider store={createStore()}>
      <RoomContext value={room}>
        <Entered />
      </RoomContext>
    </Provider>,
  );
  await pass(60);
  expect([container.textContent, entered]).toEqual(['alone', []]);
  server.rooms = [{ id: 'room 1' } as RoomResponse];
  await pass(20);
  expect([container.textContent, entered]).toEqual(['in a rehearsal', ['room 1']]);

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
  await pass(20);
  expect([container.textContent, entered]).toEqual(['in a rehearsal', ['room 1', 'room 2']]);

  // Who was signed out, and is let in again, comes back by and by.
  act(() => show({ over: 'You are no longer signed in to this rehearsal' }));
  await pass(60);
  expect([container.textContent, entered]).toEqual(['in a rehearsal', ['room 1', 'room 2', 'room 2']]);
});
