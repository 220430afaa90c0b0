import { medianOf } from './align.ts';

/** How late a device hears what it plays itself. */
export interface LoopLatency {
  readonly latencySeconds: number;
  /** Half of what was heard lies within so much of it. */
  readonly spreadSeconds: number;
}

const MOST_LATENCY_SECONDS = 0.8;
const TOGETHER_SECONDS = 0.012;
const LEAST_SHARE = 0.7;

/**
 * The delay between sounds that were played at known moments and what was heard, found as the one that the most of them
 * share; null where too few do, so that something else was heard, or nothing. The moments should not be evenly spaced.
 */
export function loopLatencyMaybe(
  playedSeconds: readonly number[],
  heardSeconds: readonly number[],
): LoopLatency | null {
  const delays = heardSeconds.flatMap((heard) =>
    playedSeconds
      .map((played) => heard - played)
      .filter((delay) => delay >= 0 && delay <= MOST_LATENCY_SECONDS),
  );
  let best: readonly number[] = [];
  for (const delay of delays) {
    const near = delays.filter((other) => Math.abs(other - delay) <= TOGETHER_SECONDS);
    if (near.length > best.length) best = near;
  }
  if (best.length < LEAST_SHARE * playedSeconds.length) return null;
  const latencySeconds = medianOf(best);
  return { latencySeconds, spreadSeconds: medianOf(best.map((delay) => Math.abs(delay - latencySeconds))) };
}
