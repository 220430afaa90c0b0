import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { Provider } from 'react-redux';
import { BrowserRouter } from 'react-router';
import { toast } from 'sonner';
import { SessionGate } from './account/SessionGate.tsx';
import { App } from './app/App.tsx';
import { SaidNotes } from './ensemble/SaidNotes.tsx';
import { watchHand } from './input/lastHand.ts';
import { watchKeyboard } from './input/shownKeys.ts';
import { watchErrors } from './app/reportError.ts';
import { DirectorRoom } from './room/directorRoom.ts';
import { RoomContext } from './room/RoomContext.tsx';
import { fetchWords } from './sound/fetchWords.ts';
import { Playback } from './sound/playback.ts';
import { pagePorts } from './sound/ports.ts';
import { PlaybackContext } from './sound/PlaybackContext.tsx';
import { watchLeaving } from './store/leaving.ts';
import { store } from './store/store.ts';
import { keepTakes } from './takes/keepTakes.ts';
import { v4 as uuid } from 'uuid';
import './theme/theme.css';

const room = new DirectorRoom();
const playback = new Playback(store, pagePorts(uuid), fetchWords, room, (words) => void toast(words));
playback.onTake = keepTakes(store);
watchErrors();
watchKeyboard(document.documentElement);
watchHand();
watchLeaving(store);
// Whoever closes or leaves the page has stopped; the run goes into the log with the next page at the latest. A room goes on.
window.addEventListener('pagehide', () => playback.leave());

const root = document.getElementById('root');
if (!root) throw new Error('the page has no #root element');

createRoot(root).render(
  <StrictMode>
    <Provider store={store}>
      <RoomContext value={room}>
        <PlaybackContext value={playback}>
          <BrowserRouter>
            <SessionGate>
              <SaidNotes>
                <App />
              </SaidNotes>
            </SessionGate>
          </BrowserRouter>
        </PlaybackContext>
      </RoomContext>
    </Provider>
  </StrictMode>,
);
