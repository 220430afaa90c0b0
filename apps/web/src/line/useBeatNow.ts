import { useCallback } from 'react';
import type { Proof } from '@anchorbeat/core';
import { usePlayback } from '../sound/PlaybackContext.tsx';
import type { BeatShare } from '@anchorbeat/drawing';

/** What the bead is on. While counting off it waits where the entry will be. */
export function useBeatNow(proof: Proof): () => BeatShare | null {
  const playback = usePlayback();
  return useCallback(() => {
    const moment = playback.momentMaybe();
    if (!moment) return null;
    if (moment.phase === 'bar') return moment;
    const barIndex = proof.compiled.timeline.route.barIndex[playback.entryPerformed] ?? 0;
    return { barIndex, beatIndex: 0, share: 0 };
  }, [playback, proof]);
}
