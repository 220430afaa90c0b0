import { FASTEST_PERCENT, SLOWEST_PERCENT } from '@anchorbeat/core';
import { useEffect } from 'react';
import { useSearchParams } from 'react-router';
import { usePlayback } from '../sound/PlaybackContext.tsx';

/** Whoever comes from a plan plays the piece at the tempo that the plan has for it; taken once, so that it can be changed. */
export function usePlannedTempo(): void {
  const playback = usePlayback();
  const [search, setSearch] = useSearchParams();
  const planned = search.get('percent');
  useEffect(() => {
    if (planned === null) return;
    setSearch(
      (now) => {
        now.delete('percent');
        return now;
      },
      { replace: true },
    );
    const percent = Number(planned);
    if (percent >= SLOWEST_PERCENT && percent <= FASTEST_PERCENT) playback.want({ percent });
  }, [planned, playback, setSearch]);
}
