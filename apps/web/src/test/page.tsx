import { act, cleanup, configure, render } from '@testing-library/react';
import { userEvent, type UserEvent } from '@testing-library/user-event';
import { Provider } from 'react-redux';
import { MemoryRouter, Outlet, useLocation, useRoutes, type RouteObject } from 'react-router';
import { ActsProvider } from '../acts/ActsContext.tsx';
import { SheetProvider } from '../acts/SheetProvider.tsx';
import { CompileDesk, type SaidRequest } from '../compiled/compileAnswer.ts';
import { InputsProvider } from '../input/Inputs.tsx';
import { Playback } from '../sound/playback.ts';
import { PlaybackContext } from '../sound/PlaybackContext.tsx';
import { createStore, type AppStore } from '../store/store.ts';
import { FakeServer } from './fakeServer.ts';
import { SimulatedDevice, simulatedPorts } from './simulatedDevice.ts';

/** A page of the app in memory: its screens with a store, a server and a loudspeaker of their own. */
export interface TestPage {
  readonly store: AppStore;
  readonly server: FakeServer;
  readonly device: SimulatedDevice;
  readonly playback: Playback;
  readonly user: UserEvent;
  /** Where the page is. */
  readonly address: () => string;
  /** Lets so many seconds sound, in pieces of a twentieth, and shows each. */
  readonly pass: (seconds: number) => Promise<void>;
  readonly close: () => void;
}

// Cores may be busy: what is waited for comes, only later. What is missing is named without the whole page.
configure({ asyncUtilTimeout: 20_000, getElementError: (message) => new Error(message ?? 'not found') });

const FRAME_SECONDS = 0.05;

/** Opens an address on these screens. */
export function openPage(address: string, screens: RouteObject[], server = new FakeServer()): TestPage {
  Object.assign(globalThis, { fetch: server.fetch, Worker: CompilingHere });
  const store = createStore();
  const device = new SimulatedDevice(5);
  const { ports, pass } = simulatedPorts(device);
  const playback = new Playback(store, ports);
  let place = '';
  function Screens() {
    const { pathname, search } = useLocation();
    place = pathname + search;
    return useRoutes([{ element: <Outlet />, children: screens }]);
  }
  render(
    <Provider store={store}>
      <MemoryRouter initialEntries={[address]}>
        <ActsProvider>
          <InputsProvider>
            <SheetProvider>
              <PlaybackContext value={playback}>
                <Screens />
              </PlaybackContext>
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
    playback,
    user: userEvent.setup({ delay: null }),
    address: () => place,
    pass: async (seconds) => {
      for (let left = seconds; left > 1e-9; left -= FRAME_SECONDS)
        await act(async () => {
          pass(Math.min(left, FRAME_SECONDS));
          await Promise.resolve();
        });
    },
    close: () => {
      playback.stop();
      cleanup();
    },
  };
}

/** The worker that compiles, on the page's own thread. */
class CompilingHere {
  onmessage: ((event: { readonly data: unknown }) => void) | null = null;
  private readonly desk = new CompileDesk();

  postMessage({ noteNames: _, ...request }: SaidRequest): void {
    queueMicrotask(() => this.onmessage?.({ data: this.desk.answer(request) }));
  }
}
