import { toNumber, type Fraction } from '../fraction/fraction.ts';
import { formatNumber } from '../fraction/text.ts';
import { meterLength } from '../meter/meter.ts';
import type { Bar } from '../piece/piece.ts';
import type { PulseOption } from '../pulse/advice.ts';
import { MAX_COUNT_OFF_BARS } from './settings.ts';

/** A count-off gives at least this many beats, and about this long. */
const LEAST_BEATS = 2;
const LEAST_SECONDS = 2;
/** A little less than the least is taken for it. */
const ABOUT = 0.9;
/** Slower beats are divided in the count: nobody places the next one from the last. */
const DIVIDED_BELOW_BPM = 60;

/** How to count into a bar, and why in words. */
export interface CountOffAdvice {
  readonly bars: number;
  /** Id of a count-off style. */
  readonly style: string;
  readonly says: string;
}

/** The count-off a bar should have when it is beaten this way at a rate (whole notes per minute). */
export function countOffAdvice(bar: Pick<Bar, 'meter'>, rate: Fraction, pulse: PulseOption): CountOffAdvice {
  const barSeconds = (60 * toNumber(meterLength(bar.meter))) / toNumber(rate);
  const fewest = Math.max(
    Math.ceil(LEAST_BEATS / pulse.beats),
    Math.ceil((LEAST_SECONDS * ABOUT) / barSeconds),
    1,
  );
  const bars = Math.min(MAX_COUNT_OFF_BARS, fewest);
  const length = bars === 1 ? 'one bar' : `${bars} bars`;
  const seconds = `${(bars * barSeconds).toFixed(1)} s`;
  if (toNumber(pulse.bpm) < DIVIDED_BELOW_BPM && pulse.beats > 1 && bars === 1)
    return {
      bars,
      style: 'subdivided-last',
      says: `${length}, divided (${seconds}): at ${formatNumber(pulse.bpm)} a beat is too long to place without its parts`,
    };
  if (bars === 1) return { bars, style: 'plain', says: `${length} (${seconds})` };
  const short =
    pulse.beats === 1 ? 'one bar is a single click' : `one bar lasts only ${barSeconds.toFixed(1)} s`;
  if (pulse.beats === 1) return { bars, style: 'plain', says: `${length} (${seconds}): ${short}` };
  return {
    bars,
    style: 'half-time-first',
    says: `${length}, the first in half time (${seconds}): ${short}`,
  };
}

/** The least bars of a plain count-off nobody asked for: never a lone click. */
export function leastBars(beatsInBar: number): number {
  return Math.ceil(LEAST_BEATS / Math.max(1, beatsInBar));
}
