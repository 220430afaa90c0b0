/** Onsets held against times they may stand for. */
export interface Alignment {
  /** For each time the index of its onset, −1 where it was left out. */
  readonly onsetOf: Int32Array;
  /** Twice the negative logarithm of how likely this is, up to a constant. */
  readonly cost: number;
  readonly matched: number;
}

/** An onset or a time that has no partner costs so much: one in twenty is left out, one in thirty is too many. */
const ALONE = 6;
const FAR = 14;
/** Student's t with four degrees: far onsets are not as unlikely as a bell curve has them. */
const DEGREES = 4;
const MOST_SQUARE = Math.exp(FAR / (DEGREES + 1)) - 1;

function missCost(miss: number, spread: number): number {
  return Math.min(FAR, (DEGREES + 1) * Math.log1p((miss / spread) ** 2 / DEGREES));
}

/**
 * The likeliest way to match onsets to times in order (dynamic programming over both). A pair that is farther apart than
 * leaving both alone costs is not made. Onsets before the first and after the last time belong to something else and cost
 * nothing.
 */
export function aligned(times: readonly number[], onsets: readonly number[], spread: number): Alignment {
  const [rows, columns] = [times.length + 1, onsets.length + 1];
  const costs = new Float64Array(rows * columns);
  const scale = 1 / (spread * spread * DEGREES);
  for (let row = 1; row < rows; row++) {
    const time = times[row - 1] as number;
    const [here, above] = [row * columns, (row - 1) * columns];
    costs[here] = ALONE * row;
    for (let column = 1; column < columns; column++) {
      const miss = (onsets[column - 1] as number) - time;
      const square = miss * miss * scale;
      // Farther than this both are cheaper alone: the logarithm need not be taken.
      const apart = square > MOST_SQUARE ? FAR : Math.min(FAR, (DEGREES + 1) * Math.log(1 + square));
      const together = (costs[above + column - 1] as number) + apart;
      const without = ALONE + (costs[above + column] as number);
      const extra = ALONE + (costs[here + column - 1] as number);
      costs[here + column] =
        together < without ? (together < extra ? together : extra) : without < extra ? without : extra;
    }
  }
  return traced(times, onsets, spread, costs);
}

function traced(
  times: readonly number[],
  onsets: readonly number[],
  spread: number,
  costs: Float64Array,
): Alignment {
  const columns = onsets.length + 1;
  const at = (row: number, column: number) => costs[row * columns + column] as number;
  const onsetOf = new Int32Array(times.length).fill(-1);
  let end = 0;
  for (let column = 1; column < columns; column++)
    if (at(times.length, column) < at(times.length, end)) end = column;
  let [row, column, matched] = [times.length, end, 0];
  while (row > 0 && column > 0) {
    const here = at(row, column);
    const without = here - at(row - 1, column) - ALONE;
    const extra = here - at(row, column - 1) - ALONE;
    const miss = (onsets[column - 1] as number) - (times[row - 1] as number);
    const together = here - at(row - 1, column - 1) - missCost(miss, spread);
    if (Math.abs(together) < 1e-7 && missCost(miss, spread) < FAR) {
      onsetOf[--row] = --column;
      matched++;
    } else if (Math.abs(without) < 1e-7) row--;
    else if (Math.abs(extra) < 1e-7) column--;
    else {
      row--;
      column--;
    }
  }
  return { onsetOf, cost: at(times.length, end), matched };
}

export function medianOf(values: readonly number[]): number {
  if (values.length === 0) return NaN;
  const sorted = [...values].sort((a, b) => a - b);
  const middle = sorted.length >> 1;
  const upper = sorted[middle] as number;
  return sorted.length % 2 ? upper : ((sorted[middle - 1] as number) + upper) / 2;
}
