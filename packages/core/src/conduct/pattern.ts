import type { Stress } from '../pulse/pulse.ts';

/**
 * Where the hand touches down on a beat, as its owner sees a right hand: x to the right, y up from the plane of the beat;
 * a full upbeat reaches y = 1. `reboundHeight` is how far it rises on the way to the next.
 */
export interface BeatPoint {
  readonly x: number;
  readonly y: number;
  readonly reboundHeight: number;
}

interface Point {
  readonly x: number;
  readonly y: number;
}

const UP: Point = { x: 0.14, y: 0.3 };

/** Down; down and up; down curving in, out, up; down, across, out, up. */
const PLAIN: Readonly<Record<number, readonly Point[]>> = {
  1: [{ x: 0, y: 0 }],
  2: [
    { x: 0.16, y: 0 },
    { x: -0.04, y: 0.14 },
  ],
  3: [{ x: -0.08, y: 0 }, { x: 0.58, y: 0.08 }, UP],
  4: [{ x: 0, y: 0 }, { x: -0.52, y: 0.05 }, { x: 0.62, y: 0.1 }, UP],
};

/** Where groups begin when the last of them has beats of its own on the way up. */
const GROUP_STARTS: Readonly<Record<number, readonly Point[]>> = {
  2: [
    { x: 0, y: 0 },
    { x: 0.46, y: 0.06 },
  ],
  3: [
    { x: 0, y: 0 },
    { x: -0.5, y: 0.05 },
    { x: 0.46, y: 0.08 },
  ],
  4: [
    { x: 0, y: 0 },
    { x: -0.5, y: 0.05 },
    { x: 0.46, y: 0.08 },
    { x: 0.1, y: 0.24 },
  ],
};

const INNER_STEP = 0.2;
const INNER_RISE = 0.035;
const HEIGHTS = { toDownbeat: 0.78, toGroup: 0.42, toBeat: 0.24, onlyBeat: 0.95 };
/** How a bar without groups is divided when it has more beats than a hand has directions. */
const DIVIDED: Readonly<Record<number, readonly number[]>> = { 5: [3, 2], 6: [3, 3], 7: [4, 3], 8: [4, 4] };

/** The points of a bar, beat by beat, from the stresses of its pulse: groups where it has groups, else by number. */
export function beatPattern(stresses: readonly Stress[]): readonly BeatPoint[] {
  const sizes = groupSizes(stresses);
  const points = sizes.every((size) => size === 1) ? plainPoints(sizes.length) : groupedPoints(sizes);
  const starts = new Set(sizes.map((_, index) => sizes.slice(0, index).reduce((a, b) => a + b, 0)));
  return points.map((point, index) => ({
    ...point,
    reboundHeight: heightAfter(index, points.length, starts),
  }));
}

function heightAfter(index: number, count: number, starts: ReadonlySet<number>): number {
  if (count === 1) return HEIGHTS.onlyBeat;
  if (index === count - 1) return HEIGHTS.toDownbeat;
  const isToGroup = starts.size < count ? starts.has(index + 1) : true;
  return isToGroup ? HEIGHTS.toGroup : HEIGHTS.toBeat;
}

/** Beats in each group; where only the downbeat stands out, one group a beat, up to four, else a division that can be shown. */
function groupSizes(stresses: readonly Stress[]): readonly number[] {
  const starts = stresses.flatMap((stress, index) => (stress === 'beat' && index > 0 ? [] : [index]));
  const sizes = starts.map((start, index) => (starts[index + 1] ?? stresses.length) - start);
  if (sizes.length > 1 && sizes.length <= 4) return sizes;
  const count = stresses.length;
  return count <= 4 ? stresses.map(() => 1) : (DIVIDED[count] ?? inThrees(count));
}

function inThrees(count: number): readonly number[] {
  const groups = Math.min(4, Math.ceil(count / 3));
  return Array.from(
    { length: groups },
    (_, group) => Math.floor((count * (group + 1)) / groups) - Math.floor((count * group) / groups),
  );
}

function plainPoints(count: number): readonly Point[] {
  return PLAIN[count] ?? [];
}

function groupedPoints(sizes: readonly number[]): readonly Point[] {
  const isLastAlone = sizes.at(-1) === 1;
  const starts = (isLastAlone ? PLAIN : GROUP_STARTS)[sizes.length] ?? PLAIN[4] ?? [];
  const points = sizes.flatMap((size, group) => {
    const start = starts[group] ?? UP;
    const outward = group === 0 ? -1 : Math.sign(start.x) || 1;
    return Array.from({ length: size }, (_, inner) => ({
      x: start.x + outward * inner * INNER_STEP,
      y: start.y + inner * INNER_RISE,
    }));
  });
  return isLastAlone ? points : [...points.slice(0, -1), UP];
}
