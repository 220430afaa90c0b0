import { StrictMode } from 'react';
import { createRoot, type Root } from 'react-dom/client';
import { Provider } from 'react-redux';
import { BrowserRouter } from 'react-router';
import { SessionGate } from './account/SessionGate.tsx';
import { App } from './app/App.tsx';
import { loadScreensAt } from './app/routes.tsx';
import { SaidNotes } from './ensemble/SaidNotes.tsx';
import { watchHand } from './input/lastHand.ts';
import { watchKeyboard } from './input/shownKeys.ts';
import { watchErrors } from './app/reportError.ts';
import { pageRoom } from './room/pageRoom.ts';
import { RoomContext } from './room/RoomContext.tsx';
import { watchLeaving } from './store/leaving.ts';
import { askSession, watchDoor } from './store/peopleApi.ts';
import { store } from './store/store.ts';
import './theme/theme.css';

/** A page of nothing is not looked at longer than this. */
const PATIENCE_MS = 1000;

watchErrors();
watchKeyboard(document.documentElement);
watchHand();
watchLeaving(store);
watchDoor(store.dispatch);

const root = document.getElementById('root');
if (!root) throw new Error('the page has no #root element');

void begin(createRoot(root));

/** Who asks is asked while what they will see is on its way. Where that takes long, what is here is shown meanwhile. */
async function begin(page: Root): Promise<void> {
  void store.dispatch(askSession());
  const patience = new Promise((resolve) => setTimeout(resolve, PATIENCE_MS));
  await Promise.race([loadScreensAt(window.location.pathname), patience]);
  page.render(
    <StrictMode>
      <Provider store={store}>
        <RoomContext value={pageRoom}>
          <BrowserRouter>
            <SessionGate>
              <SaidNotes>
                <App />
              </SaidNotes>
            </SessionGate>
          </BrowserRouter>
        </RoomContext>
      </Provider>
    </StrictMode>,
  );
}
