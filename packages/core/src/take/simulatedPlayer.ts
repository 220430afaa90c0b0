import { toNumber } from '../fraction/fraction.ts';
import { barLength } from '../piece/piece.ts';
import { writtenBar, writtenIndex, type Proof } from '../proof/proof.ts';
import { seededRandom } from '../random/seededRandom.ts';
import type { RunPlan } from '../run/runPlan.ts';
import { oddBarMaybe } from '../seam/oddBar.ts';
import { anchorIntoMaybe } from '../seam/seam.ts';
import { askedOf, type ExpectedOnset, type RunBar } from './expected.ts';
import type { Explanation, PlayedChoice } from './names.ts';

/** What a simulated player does at seams: one of the mistakes a take can show, or none. */
export type Habit = Exclude<Explanation, 'too-few'>;

export interface PlayerWishes {
  readonly habit: Habit;
  readonly seed: number;
  readonly play?: PlayedChoice;
  /** Standard deviation of a person's onsets, in milliseconds. */
  readonly spreadMs?: number;
  /** What device and anticipation add to every onset, in milliseconds. */
  readonly constantMs?: number;
  /** Shares of onsets that are left out, and that are too many. */
  readonly missing?: number;
  readonly extra?: number;
  /** Performed bars at whose seams the habit shows; everywhere it can, where it is not said. */
  readonly atPerformed?: readonly number[];
  /** Seconds of the run up to which is played. */
  readonly untilSeconds: number;
}

/** What a player did at a seam. */
export interface Played {
  readonly onsets: readonly number[];
  /** Seams at which the habit could show and did, by performed bar, with how far off it came, in milliseconds. */
  readonly mistakes: ReadonlyMap<number, number>;
}

/** How fast a person brings an onset back to the beat (Vorberg and Schulze 2002): between 0.2 and 0.6. */
const CORRECTION = 0.4;

/** Seeded numbers from 0 to 1, and such as fall like a bell (Box and Muller). */
function dice(seed: number) {
  const uniform = seededRandom(seed);
  const bell = () => {
    const radius = Math.sqrt(-2 * Math.log(Math.max(1e-12, uniform())));
    return radius * Math.cos(2 * Math.PI * uniform());
  };
  return { uniform, bell };
}

/**
 * A player with a habit: where the beat is in their mind, seam by seam, and over it the two-level timing of people (Wing and
 * Kristofferson 1973): a timekeeper whose noise is corrected against the click, and hands whose noise is not.
 */
export function simulatedTake(proof: Proof, plan: RunPlan, wishes: PlayerWishes): Played {
  const {
    habit,
    seed,
    play = 'pulse',
    spreadMs = 18,
    constantMs = -15,
    missing = 0.02,
    extra = 0.01,
  } = wishes;
  const { uniform, bell } = dice(seed);
  const { onsets: asked, bars } = askedOf(proof, plan, play, wishes.untilSeconds);
  const mind = asked.map(({ seconds }) => seconds);
  const mistakes = new Map<number, number>();
  if (habit !== 'held')
    for (const [index, bar] of bars.entries()) {
      const seam = anchorIntoMaybe(proof.compiled.seams, bar.performed);
      const isWanted = wishes.atPerformed?.includes(bar.performed) ?? true;
      if (index === 0 || !seam || !isWanted) continue;
      const next = nextSeamBar(proof, bars, index);
      const worst = misplay({
        proof,
        bars,
        asked,
        mind,
        index,
        habit,
        next,
        random: uniform,
        spread: spreadMs / 1000,
      });
      if (Math.abs(worst) > 1e-6) mistakes.set(bar.performed, 1000 * worst);
    }
  const hand = 0.4 * spreadMs;
  const steady = Math.sqrt(Math.max(0, spreadMs ** 2 - hand ** 2));
  const tick = steady * Math.sqrt(1 - (1 - CORRECTION) ** 2);
  let off = steady * bell();
  const onsets: number[] = [];
  for (const time of mind) {
    if (Number.isNaN(time)) continue;
    off = (1 - CORRECTION) * off + tick * bell();
    if (uniform() >= missing) onsets.push(time + (constantMs + off + hand * bell()) / 1000);
    if (uniform() < extra) onsets.push(time + (uniform() - 0.5) * 0.5);
  }
  return { onsets: onsets.filter((time) => time > 0).sort((a, b) => a - b), mistakes };
}

function nextSeamBar(proof: Proof, bars: readonly RunBar[], index: number): number {
  const isSeam = (at: number) => anchorIntoMaybe(proof.compiled.seams, bars[at]?.performed ?? -1) !== null;
  let next = index + 1;
  while (next < bars.length && !isSeam(next)) next++;
  return next;
}

interface Misplayed {
  readonly proof: Proof;
  readonly bars: readonly RunBar[];
  readonly asked: readonly ExpectedOnset[];
  /** Where each onset is in the player's mind; changed here. */
  readonly mind: number[];
  readonly index: number;
  readonly habit: Habit;
  readonly next: number;
  readonly random: () => number;
  readonly spread: number;
}

/** Plays one seam as the habit has it; gives how far off it came at most, 0 where the seam gives no room for it. */
function misplay(scene: Misplayed): number {
  const { asked, mind, bars, index, habit, random, spread } = scene;
  const [before, here] = [bars[index - 1] as RunBar, bars[index] as RunBar];
  const first = asked.findIndex(({ seconds }) => seconds > here.seconds - 1e-6);
  if (first < 1) return 0;
  const some = (least: number, most: number) => least + (most - least) * random();
  const size = Math.min(some(2.6, 5) * spread, 0.18);
  const walk = (step: (from: ExpectedOnset, to: ExpectedOnset) => number, beats: number) => {
    let at = mind[first] as number;
    for (let k = first; k + 1 < asked.length; k++) {
      const [from, to] = [asked[k] as ExpectedOnset, asked[k + 1] as ExpectedOnset];
      if (to.beats - here.beats > beats + 1e-6) return join(k + 1, at - from.seconds, from.beats);
      at += step(from, to);
      mind[k + 1] = at;
    }
  };
  const join = (start: number, off: number, sinceBeats: number) => {
    const gap = (asked[start]?.seconds ?? 0) - (asked[start - 1]?.seconds ?? 0);
    const own = (asked[start - 1]?.seconds ?? 0) + off;
    for (let k = start; k < asked.length; k++) {
      const { seconds, beats } = asked[k] as ExpectedOnset;
      // Who is far behind leaves out what is over, and comes in again with the others.
      if (off > gap / 2) mind[k] = seconds > own + gap / 2 ? seconds : NaN;
      else mind[k] = seconds + off * Math.max(0, 1 - (beats - sinceBeats) / 2);
    }
  };
  const shiftBy = (shift: (beats: number) => number) => {
    for (let k = first; k < asked.length; k++)
      mind[k] = (asked[k] as ExpectedOnset).seconds + shift((asked[k] as ExpectedOnset).beats - here.beats);
  };
  const beatsKept = 3 + Math.floor(4 * random());
  const oldBeat = beatOf(scene, before);
  switch (habit) {
    case 'old-pulse':
      walk((from, to) => (to.beats - from.beats) * oldBeat, beatsKept);
      break;
    case 'old-small-note':
      walk((from, to) => (to.wholes - from.wholes) * (before.lengthSeconds / before.lengthWholes), beatsKept);
      break;
    case 'turned-round': {
      if (!writtenBar(scene.proof, here.performed).tempoMarks.some(({ equivalence }) => equivalence))
        return 0;
      const [old, now] = [before, here].map((bar) => bar.lengthSeconds / bar.lengthWholes) as [
        number,
        number,
      ];
      walk((from, to) => (to.wholes - from.wholes) * ((old * old) / now), beatsKept);
      break;
    }
    case 'filled-up':
    case 'cut-short':
    case 'triplet':
      misplayOdd(scene, habit, [2, 4, 8, Infinity][Math.floor(4 * random())] ?? 4);
      break;
    case 'lost-beat':
    case 'gained-beat':
      miscount(scene, first, habit === 'lost-beat' ? 1 : -1);
      break;
    case 'held':
    case 'early':
    case 'late':
    case 'rushed':
    case 'dragged':
    case 'settled-in':
    case 'followed': {
      const late = lateness(habit, size, random);
      if (late) shiftBy(late);
    }
  }
  return mind.slice(first).reduce((worst, time, k) => {
    const off = time - (asked[first + k] as ExpectedOnset).seconds;
    return Math.abs(off) > Math.abs(worst) ? off : worst;
  }, 0);
}

/** How much later than asked a player comes, by beats from the anchor, where nothing on paper gives it; null for other habits. */
function lateness(habit: Habit, size: number, random: () => number): ((beats: number) => number) | null {
  const some = (least: number, most: number) => least + (most - least) * random();
  switch (habit) {
    case 'early':
      return () => -size;
    case 'late':
      return () => size;
    case 'rushed':
    case 'dragged': {
      const tau = some(2, 4);
      const most = 1.5 * size * (habit === 'rushed' ? -1 : 1);
      return (beats) => most * (1 - Math.exp(-beats / tau));
    }
    case 'settled-in': {
      const tau = some(2, 4);
      const start = 1.5 * size * (random() < 0.5 ? -1 : 1);
      return (beats) => start * Math.exp(-beats / tau);
    }
    case 'followed': {
      const lag = some(0.09, 0.22);
      return (beats) => (beats < 0.5 ? lag : beats < 1.5 ? 0.4 * lag : 0);
    }
    case 'held':
    case 'old-pulse':
    case 'old-small-note':
    case 'turned-round':
    case 'filled-up':
    case 'cut-short':
    case 'triplet':
    case 'lost-beat':
    case 'gained-beat':
      return null;
  }
}

function beatOf({ asked }: Misplayed, bar: RunBar): number {
  const beats = asked.filter(({ performed }) => performed === bar.performed);
  const whole = beats.filter((onset) => Math.abs(onset.beats % 1) < 1e-6);
  const gaps = whole.slice(1).map((onset, k) => onset.seconds - (whole[k] as ExpectedOnset).seconds);
  return gaps.sort((a, b) => a - b)[gaps.length >> 1] ?? bar.lengthSeconds;
}

/** A bar a little short or long is played as long as its neighbours, or its last notes become a triplet; then it is made good. */
function misplayOdd(
  { proof, bars, asked, mind, index }: Misplayed,
  habit: Habit,
  madeGoodBeats: number,
): void {
  const here = bars[index] as RunBar;
  const odd = oddBarMaybe(proof.piece, writtenIndex(proof, here.performed));
  if (!odd) return;
  const wholeSeconds = here.lengthSeconds / toNumber(barLength(writtenBar(proof, here.performed)));
  const lacking = -toNumber(odd.differenceWholes) * wholeSeconds;
  if ((habit === 'cut-short') === lacking > 0) return;
  const end = here.seconds + here.lengthSeconds;
  const inBar = asked.filter(({ performed }) => performed === here.performed);
  const lastBeat = inBar.filter((onset) => Math.abs(onset.beats % 1) < 1e-6).at(-1)?.seconds ?? end;
  const endBeats = (bars[index + 1]?.beats ?? Infinity) - 1e-9;
  asked.forEach((onset, k) => {
    if (onset.seconds > end - 1e-6)
      mind[k] = onset.seconds + lacking * Math.max(0, 1 - (onset.beats - endBeats) / madeGoodBeats);
    else if (habit === 'triplet' && onset.seconds > lastBeat)
      mind[k] = onset.seconds + (lacking * (onset.seconds - lastBeat)) / (end - lastBeat);
  });
}

/** One beat of the count is left out, or said twice: what follows comes in the pattern's order, that much off. */
function miscount({ asked, mind, bars, index, next }: Misplayed, first: number, by: 1 | -1): void {
  const until = bars[Math.min(bars.length - 1, Math.max(next, index + 4))]?.seconds ?? Infinity;
  const start = asked[first] as ExpectedOnset;
  const gaps = asked
    .slice(first + 1)
    .map((onset, k) => onset.seconds - (asked[first + k] as ExpectedOnset).seconds);
  const ordered = by > 0 ? gaps.slice(1) : [gaps[0] ?? 0, ...gaps];
  let at = start.seconds;
  for (let k = first + 1; k < asked.length && (asked[k] as ExpectedOnset).seconds < until; k++) {
    at += ordered[k - first - 1] ?? 0;
    mind[k] = at;
  }
}
