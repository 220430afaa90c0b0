import { FASTEST_PERCENT, SLOWEST_PERCENT, type Seam } from '@anchorbeat/core';
import { useState } from 'react';
import { useProof } from '../app/PieceLayout.tsx';
import { usePlayback } from '../sound/PlaybackContext.tsx';
import { useAppSelector } from '../store/store.ts';

const MOST_CONTEXT_BARS = 8;

export interface SeamDrill {
  readonly contextBars: number;
  readonly percent: number;
  /** Runs the seam with its context round and round, counted off each time; or stops. */
  readonly toggle: () => Promise<void>;
  readonly changePercent: (by: number) => void;
  readonly changeContext: (by: number) => void;
}

/** The one-key drill of a seam: so many bars before it and after it, in a loop that is counted off. */
export function useSeamDrill(seam: Seam | null): SeamDrill {
  const proof = useProof();
  const playback = usePlayback();
  const percent = useAppSelector((state) => state.transport.settings.percent);
  const [contextBars, setContextBars] = useState(2);
  const toggle = async () => {
    if (playback.isRunning) {
      playback.stop();
      playback.want({ loop: null, countsEachRound: false });
      return;
    }
    if (!seam) return;
    const count = proof.compiled.timeline.route.barIndex.length;
    const from = Math.max(0, seam.performed - contextBars);
    playback.want({
      loop: { from, to: Math.min(count, seam.performed + contextBars) },
      countsEachRound: true,
    });
    await playback.countIn(proof, from);
  };
  return {
    contextBars,
    percent,
    toggle,
    changePercent: (by) =>
      playback.want({ percent: Math.min(Math.max(percent + by, SLOWEST_PERCENT), FASTEST_PERCENT) }),
    changeContext: (by) => setContextBars(Math.min(Math.max(contextBars + by, 1), MOST_CONTEXT_BARS)),
  };
}
