import { v4 as uuid } from 'uuid';
import { pageRoom } from '../room/pageRoom.ts';
import { store } from '../store/store.ts';
import { keepTakes, tellNobodyHeard } from '../takes/keepTakes.ts';
import { toast } from '../ui/toast.ts';
import { fetchWords } from './fetchWords.ts';
import { browserWindows, hearOneWindow } from './heardWindow.ts';
import { Playback } from './playback.ts';
import { pagePorts } from './ports.ts';

/** What sounds on this page, whichever screen is shown. */
export const pagePlayback = new Playback(
  store,
  pagePorts(uuid),
  fetchWords,
  pageRoom,
  (words) => void toast(words),
);
pagePlayback.onTake = keepTakes(store);
pagePlayback.onNobodyPlayed = tellNobodyHeard;

const heardWindow = hearOneWindow(pagePlayback, store, uuid(), browserWindows());
for (const touch of ['pointerdown', 'keydown', 'focus'])
  window.addEventListener(touch, () => heardWindow.touch(Date.now()), { capture: true, passive: true });

// Whoever closes or leaves the page has stopped; the run goes into the log with the next page at the latest. A room goes on.
window.addEventListener('pagehide', () => pagePlayback.leave());
