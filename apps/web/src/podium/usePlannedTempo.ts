import { FASTEST_PERCENT, SLOWEST_PERCENT } from '@anchorbeat/core';
import { useAsked } from '../app/useAsked.ts';
import { usePlayback } from '../sound/PlaybackContext.tsx';

/** Whoever comes from a plan plays the piece at the tempo that the plan has for it. */
export function usePlannedTempo(): void {
  const playback = usePlayback();
  useAsked('percent', (asked) => {
    const percent = Number(asked);
    if (percent >= SLOWEST_PERCENT && percent <= FASTEST_PERCENT) playback.want({ percent });
  });
}
