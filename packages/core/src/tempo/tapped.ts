/** A tempo tapped with a finger: beats a minute, and how evenly it was tapped. */
export interface TappedTempo {
  readonly bpm: number;
  readonly taps: number;
  /** Standard deviation of a tap from the even beat, in milliseconds. */
  readonly unevenMilliseconds: number;
}

const LONGEST_GAP_MILLISECONDS = 3000;
const MOST_TAPS = 16;

/**
 * The even beat that fits the last taps best, by least squares over their times in milliseconds (not from interval
 * to interval: one early tap would then count twice). A pause begins anew. Null before the second tap.
 */
export function tappedTempoMaybe(tapMilliseconds: readonly number[]): TappedTempo | null {
  const taps = sinceLastPause(tapMilliseconds).slice(-MOST_TAPS);
  if (taps.length < 2) return null;
  const middle = (taps.length - 1) / 2;
  const mean = taps.reduce((total, tap) => total + tap, 0) / taps.length;
  const spread = taps.reduce((total, _, index) => total + (index - middle) ** 2, 0);
  const beat = taps.reduce((total, tap, index) => total + (index - middle) * (tap - mean), 0) / spread;
  const misses = taps.map((tap, index) => tap - mean - beat * (index - middle));
  const variance = misses.reduce((total, miss) => total + miss ** 2, 0) / taps.length;
  return { bpm: 60_000 / beat, taps: taps.length, unevenMilliseconds: Math.sqrt(variance) };
}

function sinceLastPause(taps: readonly number[]): readonly number[] {
  const pause = taps.findLastIndex(
    (tap, index) => index > 0 && tap - (taps[index - 1] ?? tap) > LONGEST_GAP_MILLISECONDS,
  );
  return pause < 0 ? taps : taps.slice(pause);
}
