import { useSyncExternalStore } from 'react';

const EVERY_MS = 1000;

function subscribe(tell: () => void): () => void {
  const timer = setInterval(tell, EVERY_MS);
  return () => clearInterval(timer);
}

const now = () => Math.floor(Date.now() / EVERY_MS) * EVERY_MS;

/** The page's clock, second by second, in milliseconds. */
export function useNow(): number {
  return useSyncExternalStore(subscribe, now);
}
