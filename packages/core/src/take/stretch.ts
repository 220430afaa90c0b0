import { barLength } from '../piece/piece.ts';
import { toNumber } from '../fraction/fraction.ts';
import { writtenBar, writtenIndex, type Proof } from '../proof/proof.ts';
import { pulseOf } from '../pulse/pulse.ts';
import { oddBarMaybe } from '../seam/oddBar.ts';
import { anchorIntoMaybe, type Seam } from '../seam/seam.ts';
import { medianOf } from './align.ts';
import type { Asked, ExpectedOnset, RunBar } from './expected.ts';
import type { OddFacts, PlaceAtSeam, SeamFacts } from './shapes.ts';

const BEFORE_ONSETS = 4;
const MOST_BARS_AFTER = 4;
/** Who keeps a tempo that is far from the new one needs longer to be heard. */
const MOST_BARS_AFTER_CHANGE = 7;
const FAR_CHANGE = 0.3;
const FEWEST_AFTER = 8;

/** What is asked for around a seam. */
export interface Stretch {
  readonly anchorSeconds: number;
  readonly before: readonly ExpectedOnset[];
  readonly after: readonly ExpectedOnset[];
}

/** Onsets asked for around a seam: some before it, and after it up to four bars, or where the seam after the next begins. */
export function stretchAt(proof: Proof, asked: Asked, bar: number): Stretch {
  const { bars, onsets } = asked;
  const anchorSeconds = (bars[bar] as RunBar).seconds;
  const firstAfter = onsets.findIndex(({ seconds }) => seconds > anchorSeconds - 1e-6);
  const start = firstAfter < 0 ? onsets.length : firstAfter;
  const endBar = endOf(proof, asked, bar);
  const endSeconds = bars[endBar]?.seconds ?? Infinity;
  let inside = start;
  while (inside < onsets.length && (onsets[inside]?.seconds ?? 0) < endSeconds - 1e-6) inside++;
  const end = Math.max(inside, start + FEWEST_AFTER);
  return {
    anchorSeconds,
    before: onsets.slice(Math.max(0, start - BEFORE_ONSETS), start),
    after: onsets.slice(start, end),
  };
}

/** The bar with which what belongs to a seam ends: an odd bar's own end belongs to it. */
function endOf(proof: Proof, asked: Asked, bar: number): number {
  const { bars } = asked;
  const rateOf = (run: RunBar | undefined) => (run ? run.lengthWholes / run.lengthSeconds : 1);
  const isSeam = (at: number) => anchorIntoMaybe(proof.compiled.seams, bars[at]?.performed ?? -1) !== null;
  const isOdd = oddBarMaybe(proof.piece, writtenIndex(proof, bars[bar]?.performed ?? 0)) !== null;
  const change = Math.abs(Math.log(rateOf(bars[bar]) / rateOf(bars[bar - 1])));
  const most = bar + (change > FAR_CHANGE ? MOST_BARS_AFTER_CHANGE : MOST_BARS_AFTER);
  for (let at = bar + 1; at < most; at++) if (isSeam(at) && !(isOdd && at === bar + 1)) return at;
  return most;
}

/** What a seam offers to be got wrong. */
export function factsAt(proof: Proof, asked: Asked, seam: Seam, bar: number): SeamFacts {
  const { bars } = asked;
  const [before, here] = [bars[bar - 1] as RunBar, bars[bar] as RunBar];
  const written = writtenBar(proof, here.performed);
  const beatLengths: number[] = [];
  for (const run of bars.slice(bar, bar + MOST_BARS_AFTER)) beatLengths.push(...beatSeconds(proof, run));
  const oldBeats = beatSeconds(proof, before);
  const lastBeats = lastBeatsBefore(asked, before, here);
  return {
    oldBeatSeconds: oldBeats.length > 1 ? medianOf(oldBeats.slice(0, -1)) : (oldBeats[0] ?? 0.5),
    lastBeatSeconds: isChanging(oldBeats, lastBeats) ? lastBeats : [],
    newBeatSeconds: beatLengths[0] ?? 0.5,
    oldWholeSeconds: before.lengthSeconds / before.lengthWholes,
    newWholeSeconds: here.lengthSeconds / here.lengthWholes,
    hasEquivalence: written.tempoMarks.some(({ equivalence }) => equivalence !== undefined),
    odd: oddAt(proof, asked, bar) ?? (seam.leavesOdd ? oddBefore(proof, asked, bar) : null),
    beatLengths,
  };
}

const LAST_BEATS = 3;
const SAME_BEAT_SECONDS = 0.004;

/** Seconds of the last whole beats before an anchor, as they were asked for one by one. */
function lastBeatsBefore({ onsets }: Asked, before: RunBar, here: RunBar): readonly number[] {
  const times = onsets
    .filter(
      ({ beats, performed }) => performed === before.performed && Math.abs(beats - Math.round(beats)) < 1e-6,
    )
    .map(({ seconds }) => seconds);
  const ends = [...times, here.seconds];
  return times.map((seconds, index) => (ends[index + 1] ?? seconds) - seconds).slice(-LAST_BEATS);
}

/** Whether beats that their bar has as alike were not: the tempo was changing. */
function isChanging(asWritten: readonly number[], asPlayed: readonly number[]): boolean {
  const last = asWritten.slice(-asPlayed.length);
  return asPlayed.some((seconds, index) => Math.abs(seconds - (last[index] ?? seconds)) > SAME_BEAT_SECONDS);
}

/** The odd bar that begins with a seam. */
function oddAt(proof: Proof, asked: Asked, bar: number): OddFacts | null {
  const run = asked.bars[bar] as RunBar;
  const index = writtenIndex(proof, run.performed);
  const odd = oddBarMaybe(proof.piece, index);
  if (!odd) return null;
  const written = writtenBar(proof, run.performed);
  const wholeSeconds = run.lengthSeconds / toNumber(barLength(written));
  const lastGroup = pulseOf(written).at(-1);
  return {
    endSeconds: run.lengthSeconds,
    lastGroupSeconds: toNumber(lastGroup?.atWholes ?? { n: 0, d: 1 }) * wholeSeconds,
    lackingSeconds: -toNumber(odd.differenceWholes) * wholeSeconds,
    endBeats: pulseOf(written).length,
  };
}

/** The odd bar that ends with a seam: what was made of it shows from here on. */
function oddBefore(proof: Proof, asked: Asked, bar: number): OddFacts | null {
  const odd = oddAt(proof, asked, bar - 1);
  return (
    odd && {
      endSeconds: 0,
      lastGroupSeconds: odd.lastGroupSeconds - odd.endSeconds,
      lackingSeconds: odd.lackingSeconds,
      endBeats: 0,
    }
  );
}

/** An onset as seen from the anchor. */
export function placeAt({ seconds, wholes, beats }: ExpectedOnset, anchor: RunBar): PlaceAtSeam {
  return { seconds: seconds - anchor.seconds, wholes: wholes - anchor.wholes, beats: beats - anchor.beats };
}

function beatSeconds(proof: Proof, { performed, lengthSeconds, lengthWholes }: RunBar): readonly number[] {
  return pulseOf(writtenBar(proof, performed)).map(
    (beat) => (toNumber(beat.lengthWholes) * lengthSeconds) / lengthWholes,
  );
}
