import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { Provider } from 'react-redux';
import { BrowserRouter } from 'react-router';
import { SessionGate } from './account/SessionGate.tsx';
import { App } from './app/App.tsx';
import { SaidNotes } from './ensemble/SaidNotes.tsx';
import { watchHand } from './input/lastHand.ts';
import { watchKeyboard } from './input/shownKeys.ts';
import { watchErrors } from './app/reportError.ts';
import { pageRoom } from './room/pageRoom.ts';
import { RoomContext } from './room/RoomContext.tsx';
import { watchLeaving } from './store/leaving.ts';
import { store } from './store/store.ts';
import './theme/theme.css';

watchErrors();
watchKeyboard(document.documentElement);
watchHand();
watchLeaving(store);

const root = document.getElementById('root');
if (!root) throw new Error('the page has no #root element');

createRoot(root).render(
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
