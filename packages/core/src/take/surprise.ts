/**
 * How much of an onset is new, given those before it. People bring themselves back to the beat a little at every onset (Vorberg
 * and Schulze 2002), so that neighbouring onsets go together, and hands add noise of their own (Wing and Kristofferson 1973).
 */

/** Of how far the timekeeper is off at an onset, so much is brought along to the next: of people of whom nothing is known. */
export const USUAL_CARRIED = 0.6;
/** Shares of a person's variance: the timekeeper's, that is brought along, and the hands'. */
const TIMEKEEPER_VARIANCE = 0.84;
const HAND_VARIANCE = 1 - TIMEKEEPER_VARIANCE;
/** What is known of where a person is, in spreads and spreads squared: on the whole, and how far the timekeeper is off by now. */
export interface PersonState {
  readonly standing: number;
  readonly timekeeper: number;
  readonly standingVariance: number;
  readonly timekeeperVariance: number;
  /** How the two go together. */
  readonly between: number;
}

/** How much of a shape is in what is new, and of the shape itself: sums of products over the onsets that are there. */
export function sharedOf(
  news: Float64Array,
  shape: Float64Array,
): { readonly together: number; readonly square: number } {
  let [together, square] = [0, 1e-9];
  for (let index = 0; index < news.length; index++) {
    const [miss, share] = [news[index] as number, shape[index] as number];
    if (Number.isNaN(miss)) continue;
    together += miss * share;
    square += share * share;
  }
  return { together, square };
}

/** Somebody who was found about where they stand, and has not been listened to yet. */
const NOT_YET_HEARD: PersonState = {
  standing: 0,
  timekeeper: 0,
  standingVariance: 4,
  timekeeperVariance: TIMEKEEPER_VARIANCE,
  between: 0,
};

/** What some misses have that was not to be expected, and what is known of the person after them. */
export interface Surprises {
  readonly news: readonly Float64Array[];
  /** By how much each was uncertain before it came, in spreads. */
  readonly deviations: Float64Array;
  readonly after: PersonState;
}

/**
 * Onsets' misses with what follows from those before them taken away, each against its own standard deviation (a Kalman filter
 * over where the person stands on the whole and where the timekeeper is by now). It is linear in the misses: what is new in a
 * shape is asked of the same filter. NaN for onsets that are left out.
 *
 * @param columns Misses and shapes, in spreads, all of one length; an onset that is NaN in the first is left out of all.
 * @param carried Of how far the timekeeper is off, what is brought along to the next onset, from 0 to 1.
 * @param before What is known of the person at the first of them, who made the misses of the first column.
 */
export function surprises(
  columns: readonly Float64Array[],
  carried: number = USUAL_CARRIED,
  before: PersonState = NOT_YET_HEARD,
): Surprises {
  const [leading] = columns;
  const length = leading?.length ?? 0;
  const news = columns.map(() => new Float64Array(length).fill(NaN));
  const deviations = new Float64Array(length).fill(NaN);
  const standing = new Float64Array(columns.length);
  const timekeeper = new Float64Array(columns.length);
  standing[0] = before.standing;
  timekeeper[0] = before.timekeeper;
  let [ss, tt, st] = [before.standingVariance, before.timekeeperVariance, before.between];
  for (let at = 0; at < length; at++) {
    if (!Number.isNaN((leading as Float64Array)[at])) {
      const variance = ss + tt + 2 * st + HAND_VARIANCE;
      const [toStanding, toTimekeeper] = [(ss + st) / variance, (tt + st) / variance];
      const scale = 1 / Math.sqrt(variance);
      deviations[at] = Math.sqrt(variance);
      for (let index = 0; index < columns.length; index++) {
        const column = columns[index] as Float64Array;
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
  const after = {
    standing: standing[0] ?? 0,
    timekeeper: timekeeper[0] ?? 0,
    standingVariance: ss,
    timekeeperVariance: tt,
    between: st,
  };
  return { news, deviations, after };
}
