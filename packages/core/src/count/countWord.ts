import type { PulseBeat } from '../pulse/pulse.ts';

/** Plain numerals: the beat's own number ("1", "2", …). */
export function plainNumeral(beat: PulseBeat): string {
  return String(beat.numeral);
}
