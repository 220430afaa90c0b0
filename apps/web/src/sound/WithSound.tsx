import { Outlet } from 'react-router';
import { pagePlayback } from './pagePlayback.ts';
import { PlaybackContext } from './PlaybackContext.tsx';

/** The screens on which something sounds: what it takes for that comes with the first of them. */
export function WithSound() {
  return (
    <PlaybackContext value={pagePlayback}>
      <Outlet />
    </PlaybackContext>
  );
}
