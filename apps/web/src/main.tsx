import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { Provider } from 'react-redux';
import { BrowserRouter } from 'react-router';
import { App } from './app/App.tsx';
import { watchKeyboard } from './input/shownKeys.ts';
import { watchErrors } from './app/reportError.ts';
import { fetchWords } from './sound/fetchWords.ts';
import { Playback } from './sound/playback.ts';
import { pagePorts } from './sound/ports.ts';
import { PlaybackContext } from './sound/PlaybackContext.tsx';
import { watchLeaving } from './store/leaving.ts';
import { store } from './store/store.ts';
import { v4 as uuid } from 'uuid';
import './theme/theme.css';

const playback = new Playback(store, pagePorts(uuid), fetchWords);
watchErrors();
watchKeyboard(document.documentElement);
watchLeaving(store);
// Whoever closes or leaves the page has stopped; the run goes into the log with the next page at the latest.
window.addEventListener('pagehide', () => playback.stop());

const root = document.getElementById('root');
if (!root) throw new Error('the page has no #root element');

createRoot(root).render(
  <StrictMode>
    <Provider store={store}>
      <PlaybackContext value={playback}>
        <BrowserRouter>
          <App />
        </BrowserRouter>
      </PlaybackContext>
    </Provider>
  </StrictMode>,
);
