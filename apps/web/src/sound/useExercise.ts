import {
  performedCount,
  PLAIN_RUN,
  proofOf,
  type Piece,
  type Proof,
  type RunSettings,
} from '@anchorbeat/core';
import { useEffect, useMemo } from 'react';
import { useAppSelector } from '../store/store.ts';
import { toast } from '../ui/toast.ts';
import { usePlayback } from './PlaybackContext.tsx';

/** A small piece that was made up to be practised, played round and round as a run of its own. */
export interface Exercise {
  readonly proof: Proof;
  readonly isRunning: boolean;
  readonly toggle: () => void;
}

/** Plays a made-up piece: from `from` up to `to`, round and round or so many times. It stops when the piece changes. */
export function useExercise(
  piece: Piece,
  wishes: Partial<RunSettings>,
  span?: { readonly from: number; readonly to: number },
): Exercise {
  const playback = usePlayback();
  const runId = useAppSelector((state) => state.transport.run?.id);
  const proof = useMemo(() => proofOf(piece), [piece]);
  useEffect(() => () => playback.stop(), [playback, proof]);
  const loop = span ?? { from: 0, to: performedCount(proof.compiled.timeline) };
  const settings: RunSettings = { ...PLAIN_RUN, loop, ...wishes };
  const isRunning = runId !== undefined && playback.plays(proof);
  const toggle = () => {
    if (isRunning) {
      playback.stop();
      return;
    }
    void playback
      .countIn(proof, loop.from, { subject: { kind: 'exercise' }, settings })
      .catch((error: unknown) => toast((error as Error).message));
  };
  return { proof, isRunning, toggle };
}
