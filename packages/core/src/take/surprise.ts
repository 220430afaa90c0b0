/**
 * How much of an onset is new, given those before it. People bring themselves back to the beat a little at every onset (Vorberg
 * and Schulze 2002), so that neighbouring onsets go together, and hands add noise of their own (Wing and Kristofferson 1973).
 */

/** Of how far the timekeeper is off at an onset, so much is brought along to the next: of people of whom nothing is known. */
export const USUAL_CARRIED = 0.6;
const LEAST_CARRIED = 0.3;
const MOST_CARRIED = 0.85;
/** What is usual weighs as much as so many onsets of a person's own. */
const USUAL_ONSETS = 40;
/** Shares of a person's variance: the timekeeper's, that is brought along, and the hands'. */
const TIMEKEEPER_VARIANCE = 0.84;
const HAND_VARIANCE = 1 - TIMEKEEPER_VARIANCE;
/** Where a person stands on the whole is known no better than this, in spreads squared. */
const STANDING_VARIANCE = 0.12;

/**
 * Onsets' misses with what follows from those before them taken away, each against its own standard deviation (a Kalman filter
 * over where the person stands on the whole and where the timekeeper is by now). It is linear in the misses: what is new in a
 * shape is asked of the same filter. NaN for onsets that are left out.
 *
 * @param columns Misses and shapes, in spreads, all of one length; an onset that is NaN in the first is left out of all.
 * @param carried Of how far the timekeeper is off, what is brought along to the next onset, from 0 to 1.
 */
export function surprises(
  columns: readonly Float64Array[],
  carried: number = USUAL_CARRIED,
): readonly Float64Array[] {
  const [leading] = columns;
  const length = leading?.length ?? 0;
  const news = columns.map(() => new Float64Array(length).fill(NaN));
  const standing = new Float64Array(columns.length);
  const timekeeper = new Float64Array(columns.length);
  // The state's covariance: standing, timekeeper, and between them.
  let [ss, tt, st] = [STANDING_VARIANCE, TIMEKEEPER_VARIANCE, 0];
  for (let at = 0; at < length; at++) {
    if (!Number.isNaN((leading as Float64Array)[at])) {
      const variance = ss + tt + 2 * st + HAND_VARIANCE;
      const [toStanding, toTimekeeper] = [(ss + st) / variance, (tt + st) / variance];
      const scale = 1 / Math.sqrt(variance);
      for (const [index, column] of columns.entries()) {
        const fresh = (column[at] as number) - (standing[index] as number) - (timekeeper[index] as number);
        (news[index] as Float64Array)[at] = fresh * scale;
        standing[index] = (standing[index] as number) + toStanding * fresh;
        timekeeper[index] = (timekeeper[index] as number) + toTimekeeper * fresh;
      }
      const [seenS, seenT] = [ss + st, tt + st];
      ss -= toStanding * seenS;
      tt -= toTimekeeper * seenT;
      st -= toStanding * seenT;
    }
    for (let index = 0; index < columns.length; index++)
      timekeeper[index] = carried * (timekeeper[index] as number);
    tt = carried * carried * tt + (1 - carried * carried) * TIMEKEEPER_VARIANCE;
    st *= carried;
  }
  return news;
}

/**
 * What a person brings along from onset to onset, told by how alike their neighbouring misses are (autocorrelation at one
 * step), and as much by what is usual as there are few of them.
 *
 * @param misses In seconds, in order; those of one person where nothing went wrong.
 */
export function carriedOf(misses: readonly number[]): number {
  const middle = misses.reduce((sum, miss) => sum + miss, 0) / Math.max(1, misses.length);
  let [square, together] = [0, 0];
  misses.forEach((miss, index) => {
    square += (miss - middle) ** 2;
    if (index > 0) together += (miss - middle) * ((misses[index - 1] as number) - middle);
  });
  const own = square > 0 ? together / square / TIMEKEEPER_VARIANCE : USUAL_CARRIED;
  const bounded = Math.min(MOST_CARRIED, Math.max(LEAST_CARRIED, own));
  return (misses.length * bounded + USUAL_ONSETS * USUAL_CARRIED) / (misses.length + USUAL_ONSETS);
}
