import type { Explanation } from './names.ts';

/** An onset asked for in the stretch around a seam, counted from its anchor: below zero before it. */
export interface PlaceAtSeam {
  /** As asked for, in seconds from the anchor. */
  readonly seconds: number;
  readonly wholes: number;
  readonly beats: number;
}

/** What a seam offers to be got wrong. Seconds and whole notes. */
export interface SeamFacts {
  readonly oldBeatSeconds: number;
  /** The last beats before the anchor, where they are others: the tempo was changing, and somebody goes on with any of them. */
  readonly lastBeatSeconds: readonly number[];
  readonly newBeatSeconds: number;
  /** Seconds of a whole note before and after. */
  readonly oldWholeSeconds: number;
  readonly newWholeSeconds: number;
  readonly hasEquivalence: boolean;
  /** An odd bar that begins here, or has just ended here: how much it lacks (below zero: how much it has too many). */
  readonly odd: OddFacts | null;
  /** Seconds from one beat after the anchor to the next, in order. */
  readonly beatLengths: readonly number[];
}

export interface OddFacts {
  /** Where it ends, and where its last group begins, in seconds from the anchor. */
  readonly endSeconds: number;
  readonly lastGroupSeconds: number;
  readonly lackingSeconds: number;
  /** Beats from the anchor to its end. */
  readonly endBeats: number;
}

/** One way in which a seam may have been played: how much later than asked each onset comes, in seconds. */
export interface Shape {
  readonly name: Explanation;
  /** NaN for an onset that is left out. */
  readonly shift: (place: PlaceAtSeam) => number;
  /** Of the ways in which its name is meant, how often it is this one, from 0 to 1. */
  readonly share: number;
  /** A free size that `shift` is multiplied by; the onsets tell it. Null where nothing is free. */
  readonly free: { readonly least: number; readonly most: number } | null;
}

const SAME_SECONDS = 0.004;
const FOLLOW_LEAST = 0.08;
const FOLLOW_MOST = 0.25;
/** Beats after which what was lost has been made good. */
const MADE_GOOD_BEATS = [2, 4, 8, Infinity];
const KEPT_BEATS = [2, 3, 4, 5, 6, 8, Infinity];
const DECAYS = [2, 3.5];

/**
 * Every explanation a seam allows, with its few parameters tried out.
 *
 * @param least What is off by less than this, in seconds, at no size of its own is told from chance.
 */
export function shapesOf(seam: SeamFacts, least: number): readonly Shape[] {
  const lateness = { least, most: Math.min(0.6 * seam.newBeatSeconds, 0.4) };
  return [
    ...heldShapes(seam, lateness),
    ...sharedOut([...keptShapes(seam), ...oddShapes(seam), ...countedWrong(seam), ...lateShapes(lateness)]),
  ];
}

type Way = Omit<Shape, 'share'>;

/** Each way in which a name is meant is as likely as the next. */
function sharedOut(ways: readonly Way[]): readonly Shape[] {
  return ways.map((way) => ({ ...way, share: 1 / ways.filter(({ name }) => name === way.name).length }));
}

/** So seldom does something new begin just where an odd bar ends. */
const NEW_AT_END = 0.05;

/** As written; of an odd bar also up to its end, from where on what comes is told at the seam that is there. */
function heldShapes({ odd }: SeamFacts, { least, most }: Sizes): readonly Shape[] {
  const asWritten: Shape = { name: 'held', shift: () => 0, share: 1, free: null };
  if (!odd || odd.endBeats === 0 || least >= most) return [asWritten];
  const shift = ({ seconds }: PlaceAtSeam) => (seconds > odd.endSeconds - SAME_SECONDS ? 1 : 0);
  const upToEnd = { name: 'held' as const, shift, share: NEW_AT_END / 2 };
  return [
    { ...asWritten, share: 1 - NEW_AT_END },
    { ...upToEnd, free: { least, most } },
    { ...upToEnd, free: { least: -most, most: -least } },
  ];
}

interface Sizes {
  readonly least: number;
  readonly most: number;
}

export function isAfterAnchor({ seconds }: PlaceAtSeam): boolean {
  return seconds > -SAME_SECONDS;
}

/** Something of before is kept, for some beats or for good, and then joined within two beats. */
function keptShapes({
  oldBeatSeconds,
  lastBeatSeconds,
  newBeatSeconds,
  oldWholeSeconds,
  newWholeSeconds,
  hasEquivalence,
  beatLengths,
  odd,
}: SeamFacts): Way[] {
  const kept = (name: Explanation, timeOf: (place: PlaceAtSeam) => number): Way[] =>
    KEPT_BEATS.map((beats) => ({
      name,
      free: null,
      shift: (place) => {
        if (!isAfterAnchor(place)) return 0;
        const own = timeOf(place) - place.seconds;
        if (place.beats <= beats) return own;
        // What was off when it was given up is made good within two beats; whoever is later than that leaves beats out.
        const share = beats / place.beats;
        const given = { beats, wholes: place.wholes * share, seconds: place.seconds * share };
        const late = timeOf(given) - given.seconds;
        if (late > newBeatSeconds / 2)
          return place.seconds > given.seconds + late + newBeatSeconds / 2 ? 0 : NaN;
        return late * Math.max(0, 1 - (place.beats - beats) / 2);
      },
    }));
  const shapes: Way[] = [];
  // In a bar that is only a little short or long the beat is the same but for its last one: that is a mistake of its own.
  const newBeats = odd ? [newBeatSeconds] : beatLengths;
  const isNewPulse = newBeats.some((length) => Math.abs(oldBeatSeconds - length) > SAME_SECONDS);
  const isNewRate = Math.abs(oldWholeSeconds / newWholeSeconds - 1) > 0.01;
  for (const beatSeconds of [oldBeatSeconds, ...lastBeatSeconds])
    if (isNewPulse) shapes.push(...kept('old-pulse', ({ beats }) => beats * beatSeconds));
  if (isNewRate) {
    const turned = newWholeSeconds === 0 ? 0 : oldWholeSeconds ** 2 / newWholeSeconds;
    if (hasEquivalence) shapes.push(...kept('turned-round', ({ wholes }) => wholes * turned));
    shapes.push(...kept('old-small-note', ({ wholes }) => wholes * oldWholeSeconds));
  }
  return shapes;
}

/** A bar that is a little short is filled up, one that is a little long is cut, or its last notes are made a triplet. */
function oddShapes({ odd }: SeamFacts): Way[] {
  if (!odd) return [];
  const { endSeconds, lackingSeconds, lastGroupSeconds, endBeats } = odd;
  const made = (beats: number, { beats: at }: PlaceAtSeam) =>
    beats === Infinity ? 1 : Math.max(0, 1 - (at - endBeats) / beats);
  const shapes: Way[] = MADE_GOOD_BEATS.map((beats) => ({
    name: lackingSeconds > 0 ? 'filled-up' : 'cut-short',
    free: null,
    shift: (place) => (place.seconds > endSeconds - SAME_SECONDS ? lackingSeconds * made(beats, place) : 0),
  }));
  const groupSeconds = endSeconds - lastGroupSeconds;
  if (lackingSeconds > 0 && groupSeconds > 0)
    shapes.push(
      ...MADE_GOOD_BEATS.map((beats): Way => ({
        name: 'triplet',
        free: null,
        shift: (place) => {
          if (place.seconds > endSeconds - SAME_SECONDS) return lackingSeconds * made(beats, place);
          const into = place.seconds - lastGroupSeconds;
          return into > SAME_SECONDS ? (into / groupSeconds) * lackingSeconds : 0;
        },
      })),
    );
  return shapes;
}

/** A beat was left out of the count, or one too many was put in: the pattern of what follows comes that much off. */
function countedWrong({ beatLengths, odd }: SeamFacts): Way[] {
  const starts = beatLengths.reduce<number[]>(
    (times, length) => [...times, (times.at(-1) ?? 0) + length],
    [0],
  );
  const at = (times: readonly number[], beats: number) => {
    const index = Math.min(Math.max(0, Math.floor(beats + 1e-6)), times.length - 2);
    const [from, to] = [times[index] ?? 0, times[index + 1] ?? 0];
    return from + (beats - index) * (to - from);
  };
  const isEven = beatLengths.every((length) => Math.abs(length - (beatLengths[0] ?? 0)) < SAME_SECONDS);
  if (isEven || starts.length < 5) return [];
  const lost = starts.slice(1).map((time) => time - (starts[1] ?? 0));
  const first = beatLengths[0] ?? 0;
  const gained = [0, ...starts.map((time) => time + first)];
  // A beat that is counted twice in an odd bar has the times of one filled up or cut and made good at once, and that says more.
  const isMadeFull =
    odd !== null &&
    Math.abs((gained[odd.endBeats] ?? 0) - odd.endSeconds - odd.lackingSeconds) < SAME_SECONDS;
  return [
    { name: 'lost-beat' as const, times: lost },
    ...(isMadeFull ? [] : [{ name: 'gained-beat' as const, times: gained }]),
  ].map(({ name, times }) => ({
    name,
    free: null,
    shift: (place) =>
      isAfterAnchor(place) && place.beats < times.length - 1 ? at(times, place.beats) - place.seconds : 0,
  }));
}

/** What grows by and by may come to more than what happens at once, and what passes by itself is told from chance only if larger. */
const GROWING = { least: 1.5, most: 2 };
const PASSING = { least: 1.3, most: 1 };

/** Off by some amount that nothing on paper gives: at once, more and more, less and less, or only until the ear has followed. */
function lateShapes({ least, most }: Sizes): Way[] {
  const onward = (place: PlaceAtSeam) => Math.max(0, place.beats);
  const both = (
    [early, late]: readonly [Explanation, Explanation],
    sizes: Sizes,
    share: (beats: number) => number,
  ): Way[] => {
    const shift = (place: PlaceAtSeam) => (isAfterAnchor(place) ? share(onward(place)) : 0);
    const [from, to] = [sizes.least * least, sizes.most * most];
    if (from >= to) return [];
    return [
      { name: early, shift, free: { least: -to, most: -from } },
      { name: late, shift, free: { least: from, most: to } },
    ];
  };
  const growing = (share: (beats: number) => number) => both(['rushed', 'dragged'], GROWING, share);
  return [
    ...both(['early', 'late'], { least: 1, most: 1 }, () => 1),
    ...[2, 4].flatMap((tau) => growing((beats) => 1 - Math.exp(-beats / tau))),
    ...growing((beats) => beats / 8),
    ...DECAYS.flatMap((tau) =>
      both(['settled-in', 'settled-in'], PASSING, (beats) => Math.exp(-beats / tau)),
    ),
    ...[0, 0.25, 0.45].map((rest): Way => ({
      name: 'followed',
      shift: (place) =>
        isAfterAnchor(place) && place.beats < 3 ? rest ** Math.floor(onward(place) + 1e-6) : 0,
      free: { least: FOLLOW_LEAST, most: FOLLOW_MOST },
    })),
  ];
}
