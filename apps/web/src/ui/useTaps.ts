import { tappedTempoMaybe } from '@anchorbeat/core';
import { useCallback, useRef } from 'react';

const MOST_TAPS = 32;

/** A tap, at a moment of the page: it gives the tempo of this one and those before it, in beats a minute; null for the first. */
export function useTaps(): (atMs: number) => number | null {
  const taps = useRef<readonly number[]>([]);
  return useCallback((atMs: number) => {
    taps.current = [...taps.current.slice(1 - MOST_TAPS), atMs];
    return tappedTempoMaybe(taps.current)?.bpm ?? null;
  }, []);
}
