import { createContext, useContext } from 'react';
import type { Playback } from './playback.ts';

export const PlaybackContext = createContext<Playback | null>(null);

export function usePlayback(): Playback {
  const playback = useContext(PlaybackContext);
  if (!playback) throw new Error('usePlayback is used outside PlaybackContext');
  return playback;
}
