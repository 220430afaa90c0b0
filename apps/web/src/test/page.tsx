import { act, cleanup, configure, render } from '@testing-library/react';
import { userEvent, type UserEvent } from '@testing-library/user-event';
import { Provider } from 'react-redux';
import type { Action } from 'sonner';
import { MemoryRouter, useLocation, useRoutes, type RouteObject } from 'react-router';
import { ActsProvider } from '../acts/ActsContext.tsx';
import { SheetProvider } from '../acts/SheetProvider.tsx';
import { CompileDesk, type SaidRequest } from '../compiled/compileAnswer.ts';
import { InputsProvider } from '../input/Inputs.tsx';
import { PieceLayout } from '../piece/PieceLayout.tsx';
import { DirectorRoom } from '../room/directorRoom.ts';
import { RoomContext } from '../room/RoomContext.tsx';
import { Playback } from '../sound/playback.ts';
import { PlaybackContext } from '../sound/PlaybackContext.tsx';
import { api } from '../store/api.ts';
import { createStore, type AppStore } from '../store/store.ts';
import { keepTakes, tellNobodyHeard } from '../takes/keepTakes.ts';
import { answerTake } from '../takes/takeAnswer.ts';
import { showToastsBy } from '../ui/toast.ts';
import { FakeServer } from './fakeServer.ts';
import { SimulatedDevice, simulatedPorts } from './simulatedDevice.ts';

/** A page of the app in memory: its screens with a store, a server and a loudspeaker of their own. */
export interface TestPage {
  readonly store: AppStore;
  readonly server: FakeServer;
  readonly device: SimulatedDevice;
  readonly user: UserEvent;
  /** What was told for a moment, the newest last. */
  readonly toasts: readonly string[];
  /** Presses what the last toast offers. */
  readonly takeOffer: () => void;
  /** Where the page is. */
  readonly address: () => string;
  /** Lets so many seconds sound, a quarter of one at a time, and shows each. */
  readonly pass: (seconds: number) => Promise<void>;
  /** Resolves when nothing of it goes on: what was on its way to the server has been answered. */
  readonly close: () => Promise<void>;
}

// Cores may be busy: what is waited for comes, only later. Whether something can be seen is a browser's to say, and costs much
// here. What is missing is named without the whole page.
configure({
  defaultHidden: true,
  asyncUtilTimeout: 60_000,
  getElementError: (message) => new Error(message ?? 'not found'),
});

const FRAME_SECONDS = 0.25;

let ids = 0;

/** An id that nothing else has: how a piece is run and drilled is kept with it. */
export function newId(): string {
  return `00000000-0000-4000-8000-${String(++ids).padStart(12, '0')}`;
}

/** The screens of a piece, as the app has them. */
export function ofPiece(...screens: RouteObject[]): RouteObject[] {
  return [{ path: '/piece/:pieceId', element: <PieceLayout />, children: screens }];
}

/** Opens an address on these screens. */
export function openPage(address: string, screens: RouteObject[], server = new FakeServer()): TestPage {
  Object.assign(globalThis, { fetch: server.fetch, Worker: WorkerHere });
  const store = createStore();
  const device = new SimulatedDevice(5);
  const { ports, pass } = simulatedPorts(device);
  const playback = new Playback(store, ports);
  const room = new DirectorRoom();
  playback.onTake = keepTakes(store);
  playback.onNobodyPlayed = tellNobodyHeard;
  const toasts: string[] = [];
  let offered: unknown = null;
  showToastsBy((words, { action } = {}) => {
    toasts.push(words);
    offered = action;
  });
  let place = '';
  function Screens() {
    const { pathname, search } = useLocation();
    place = pathname + search;
    return useRoutes(screens);
  }
  render(
    <Provider store={store}>
      <MemoryRouter initialEntries={[address]}>
        <ActsProvider>
          <InputsProvider>
            <SheetProvider>
              <RoomContext value={room}>
                <PlaybackContext value={playback}>
                  <Screens />
                </PlaybackContext>
              </RoomContext>
            </SheetProvider>
          </InputsProvider>
        </ActsProvider>
      </MemoryRouter>
    </Provider>,
  );
  return {
    store,
    server,
    device,
    user: userEvent.setup({ delay: null, pointerEventsCheck: 0 }),
    toasts,
    takeOffer: () => act(() => (offered as Action).onClick({} as never)),
    address: () => place,
    pass: async (seconds) => {
      for (let left = seconds; left > 1e-9; left -= FRAME_SECONDS)
        await act(async () => {
          pass(Math.min(left, FRAME_SECONDS));
          await Promise.resolve();
        });
    },
    close: async () => {
      playback.stop();
      cleanup();
      const { getRunningMutationsThunk, getRunningQueriesThunk } = api.util;
      await Promise.allSettled([
        ...store.dispatch(getRunningMutationsThunk()),
        ...store.dispatch(getRunningQueriesThunk()),
      ]);
    },
  };
}

/** What workers answer, by the file they are made of. */
const WORKERS: Readonly<Record<string, () => (asked: never) => unknown>> = {
  'compile.worker.ts': () => {
    const desk = new CompileDesk();
    return ({ noteNames: _, ...request }: SaidRequest) => desk.answer(request);
  },
  'take.worker.ts': () => answerTake,
};

/** A worker on the page's own thread. */
class WorkerHere {
  onmessage: ((event: { readonly data: unknown }) => void) | null = null;
  private readonly answer: (asked: never) => unknown;

  constructor({ pathname }: URL) {
    const make = WORKERS[pathname.split('/').at(-1) ?? ''];
    if (!make) throw new Error(`tests have no worker of ${pathname}`);
    this.answer = make();
  }

  postMessage(asked: unknown): void {
    queueMicrotask(() => this.onmessage?.({ data: this.answer(asked as never) }));
  }
}
