import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { Provider } from 'react-redux';
import { BrowserRouter } from 'react-router';
import { App } from './app/App.tsx';
import { fetchWords } from './sound/fetchWords.ts';
import { Playback } from './sound/playback.ts';
import { PlaybackContext } from './sound/PlaybackContext.tsx';
import { store } from './store/store.ts';
import './theme/theme.css';
import { ThemeProvider } from './theme/useTheme.tsx';

const root = document.getElementById('root');
if (!root) throw new Error('the page has no #root element');

createRoot(root).render(
  <StrictMode>
    <Provider store={store}>
      <PlaybackContext value={new Playback(store, fetchWords())}>
        <ThemeProvider>
          <BrowserRouter>
            <App />
          </BrowserRouter>
        </ThemeProvider>
      </PlaybackContext>
    </Provider>
  </StrictMode>,
);
