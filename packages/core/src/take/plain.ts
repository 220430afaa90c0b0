import type { Fit } from './fits.ts';
import { missesOf, type Heard } from './shapeFit.ts';
import { isAfterAnchor, type PlaceAtSeam } from './shapes.ts';
import { sharedOf, surprises } from './surprise.ts';

/** Ways in which onsets may lean away after an anchor, by beats from it: at once, by and by, less and less, only at first. */
const LEANINGS: readonly ((beats: number) => number)[] = [
  () => 1,
  (beats) => 1 - Math.exp(-beats / 3),
  (beats) => Math.exp(-beats / 3),
  (beats) => (beats < 0.5 ? 1 : 0),
];
/** None is farther from what was to be expected than so many standard deviations, and no way of leaning has more of them. */
const MOST_SURPRISE = 2.6;
const MOST_LEANING = 1.3;

/**
 * Whether a seam was played so evenly as written that nothing else need be tried: all there, none surprising, and nothing leaning
 * away (a score test against each way of leaning; Rao 1948).
 */
export function isPlain({ onsetOf }: Fit, places: readonly PlaceAtSeam[], heard: Heard): boolean {
  const misses = missesOf(onsetOf, heard);
  if (places.some((place, index) => isAfterAnchor(place) && Number.isNaN(misses[index]))) return false;
  const leanings = LEANINGS.map((leaning) =>
    Float64Array.from(places, (place) => (isAfterAnchor(place) ? leaning(Math.max(0, place.beats)) : 0)),
  );
  const [fresh, ...expected] = surprises([misses, ...leanings], heard.carried, heard.before).news as [
    Float64Array,
  ];
  if (fresh.some((miss) => Math.abs(miss) > MOST_SURPRISE)) return false;
  return expected.every((leaning) => Math.abs(leaningOf(fresh, leaning)) < MOST_LEANING);
}

/** How far onsets lean one way, in standard deviations of what chance would have them. */
function leaningOf(fresh: Float64Array, leaning: Float64Array): number {
  const { together, square } = sharedOf(fresh, leaning);
  return together / Math.sqrt(square);
}
