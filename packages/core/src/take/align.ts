/** Onsets held against times they may stand for. */
export interface Alignment {
  /** For each time the index of its onset, −1 where it was left out. */
  readonly onsetOf: Int32Array;
  /** Twice the negative logarithm of how likely this is, up to a constant. */
  readonly cost: number;
  readonly matched: number;
}

/** An onset or a time that has no partner costs so much: one in twenty is left out, one in thirty is too many. */
export const ALONE = 6;
const FAR = 14;
/** Student's t with six degrees: far onsets are not as unlikely as a bell curve has them. */
const DEGREES = 6;
/** Farther apart than so many spreads a pair costs as much as `FAR`, and is never made. */
const FARTHEST_SPREADS = Math.sqrt(DEGREES * (Math.exp(FAR / (DEGREES + 1)) - 1));

/** Twice the negative logarithm of how likely a miss of so many spreads, squared, is against none. */
export function unlikely(squared: number): number {
  return (DEGREES + 1) * Math.log(1 + squared / DEGREES);
}

/**
 * The likeliest way to match onsets to times in order. A pair that is farther apart than leaving both alone costs is not
 * made. Onsets before the first and after the last pair belong to something else and cost nothing. Onsets ascend.
 *
 * Only pairs that are near enough are looked at (dynamic programming over those): between two pairs that follow one another
 * every time and every onset is alone.
 */
export function aligned(times: ArrayLike<number>, onsets: readonly number[], spread: number): Alignment {
  const scale = 1 / (spread * spread);
  const reach = FARTHEST_SPREADS * spread;
  const { row: rows, column: columns, before, gain: gains, bestUpTo } = scratchFor(times, onsets);
  let [pairs, last, from] = [0, -1, 0];
  for (let row = 0; row < times.length; row++) {
    const time = times[row] as number;
    const ofRow = pairs;
    // Times ascend where a shape does not fold them back.
    while (from > 0 && (onsets[from - 1] as number) >= time - reach) from--;
    while (from < onsets.length && (onsets[from] as number) < time - reach) from++;
    for (let column = from; column < onsets.length; column++) {
      const miss = (onsets[column] as number) - time;
      if (miss > reach) break;
      const previous = column > 0 ? (bestUpTo[column - 1] as number) : -1;
      // The first pair of all leaves the times before it alone, and no onset.
      const asFirst = -ALONE * column;
      const isLater = previous >= 0 && (gains[previous] as number) < asFirst;
      const apart = unlikely(miss * miss * scale) - 2 * ALONE;
      rows[pairs] = row;
      columns[pairs] = column;
      before[pairs] = isLater ? previous : -1;
      gains[pairs] = apart + (isLater ? (gains[previous] as number) : asFirst);
      pairs++;
    }
    for (let pair = ofRow; pair < pairs; pair++) {
      const gain = gains[pair] as number;
      const column = columns[pair] as number;
      if (last < 0 || gain + ALONE * column < (gains[last] as number) + ALONE * (columns[last] as number))
        last = pair;
      for (let at = column; at < onsets.length; at++) {
        const known = bestUpTo[at] as number;
        if (known >= 0 && (gains[known] as number) <= gain) break;
        bestUpTo[at] = pair;
      }
    }
  }
  const onsetOf = new Int32Array(times.length).fill(-1);
  const gained = last < 0 ? 0 : (gains[last] as number) + ALONE * ((columns[last] as number) + 1);
  let matched = 0;
  // None is made where all alone is cheaper.
  for (let pair = gained < 0 ? last : -1; pair >= 0; pair = before[pair] as number) {
    onsetOf[rows[pair] as number] = columns[pair] as number;
    matched++;
  }
  return { onsetOf, cost: ALONE * times.length + Math.min(0, gained), matched };
}

/**
 * Each pair that may be made: its place, the pair before it (−1 for none), and what all up to it costs less what every time and
 * onset up to it would cost alone; and of the pairs so far with a column up to each, the one after which it is cheapest to go on.
 */
interface Scratch {
  row: Int32Array;
  column: Int32Array;
  before: Int32Array;
  gain: Float64Array;
  bestUpTo: Int32Array;
}

/** Alignments are made by the thousand: what they write into is kept from one to the next, since none outlives its call. */
const scratch: Scratch = {
  row: new Int32Array(0),
  column: new Int32Array(0),
  before: new Int32Array(0),
  gain: new Float64Array(0),
  bestUpTo: new Int32Array(0),
};

function scratchFor(times: ArrayLike<number>, onsets: readonly number[]): Scratch {
  const most = times.length * onsets.length;
  if (scratch.row.length < most) {
    scratch.row = new Int32Array(2 * most);
    scratch.column = new Int32Array(2 * most);
    scratch.before = new Int32Array(2 * most);
    scratch.gain = new Float64Array(2 * most);
  }
  if (scratch.bestUpTo.length < onsets.length) scratch.bestUpTo = new Int32Array(2 * onsets.length);
  scratch.bestUpTo.fill(-1, 0, onsets.length);
  return scratch;
}

export function medianOf(values: readonly number[]): number {
  if (values.length === 0) return NaN;
  const sorted = [...values].sort((a, b) => a - b);
  const middle = sorted.length >> 1;
  const upper = sorted[middle] as number;
  return sorted.length % 2 ? upper : ((sorted[middle - 1] as number) + upper) / 2;
}
