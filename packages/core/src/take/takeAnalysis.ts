import { barLength } from '../piece/piece.ts';
import { toNumber } from '../fraction/fraction.ts';
import { writtenBar, writtenIndex, type Proof } from '../proof/proof.ts';
import { pulseOf } from '../pulse/pulse.ts';
import type { RunPlan } from '../run/runPlan.ts';
import { oddBarMaybe } from '../seam/oddBar.ts';
import { landsTogether, type Seam } from '../seam/seam.ts';
import { aligned, medianOf } from './align.ts';
import { askedOf, type Asked, type ExpectedOnset, type RunBar } from './expected.ts';
import { EXPLANATIONS, type Explanation, type PlayedChoice } from './names.ts';
import { shapesOf, type OddFacts, type PlaceAtSeam, type SeamFacts, type Shape } from './shapes.ts';

/** A take: onsets in seconds of the run, from its first count-off click, and what was asked for. */
export interface Take {
  readonly onsets: readonly number[];
  readonly play: PlayedChoice;
}

/** What was done at a seam, and how sure that is. */
export interface SeamVerdict {
  readonly performed: number;
  readonly explanation: Explanation;
  readonly probability: number;
  /** How far off it came at most, in milliseconds: late above zero. */
  readonly effectMs: number;
  readonly second: Explanation | null;
  readonly secondProbability: number;
}

/** How one onset that was asked for was played. */
export interface PlayedOnset {
  readonly asked: ExpectedOnset;
  /** Late above zero, the player's own constant taken away; null where it was left out. */
  readonly offMs: number | null;
}

export interface TakeAnalysis {
  /** What device and person add to every onset, in milliseconds. */
  readonly constantMs: number;
  /** Standard deviation where nothing went wrong, in milliseconds. */
  readonly spreadMs: number;
  /** How much later each bar comes than the one before it, over the whole take. */
  readonly driftMsPerBar: number;
  readonly matched: number;
  readonly missing: number;
  readonly extra: number;
  readonly onsets: readonly PlayedOnset[];
  readonly seams: readonly SeamVerdict[];
}

const PRIOR_SPREAD = 0.025;
/** What device and person add, before anything is known of them. */
const USUAL_CONSTANT = 0.03;
/** Where fewer than this share of a player's last onsets can be matched, they are looked for anew. */
const LOST_SHARE = 0.6;
const LEAST_SPREAD = 0.006;
const MOST_SPREAD = 0.06;
const BEFORE_ONSETS = 9;
/** Where a player stands before a seam is told by more of them, since people wander. */
const BASE_ONSETS = 28;
const FEWEST = 5;
const MOST_BARS_AFTER = 4;
/** Who keeps a tempo that is far from the new one needs longer to be heard. */
const MOST_BARS_AFTER_CHANGE = 7;
const FAR_CHANGE = 0.3;
const FEWEST_AFTER = 8;
/** People wander: neighbouring onsets go together, so that being a little off for long says less than as many single ones. */
const WANDERING: Readonly<Partial<Record<Explanation, number>>> = {
  early: 9.5,
  late: 9.5,
  rushed: 11,
  dragged: 11,
  'settled-in': 6,
  followed: 5,
};
/** What is said otherwise than held must be so much likelier, before it is looked at closely. */
const HELD_FIRST = 2 * Math.log(EXPLANATIONS.length - 2);
/** An effect under this many spreads is not told from chance. */
const LEAST_EFFECT_SPREADS = 1.75;
const LEAST_EFFECT_SECONDS = 0.012;
const SIZES_TRIED = 6;
/** Shapes whose times differ less than this, in spreads, cannot be told apart. */
const ALIKE_SPREADS = 0.5;

/** What was played, held against what was asked for: seam by seam, each from where the player stood before it. */
export function analysedTake(proof: Proof, plan: RunPlan, { onsets: given, play }: Take): TakeAnalysis {
  const onsets = [...given].filter(Number.isFinite).sort((a, b) => a - b);
  const asked = askedOf(proof, plan, play, (onsets.at(-1) ?? 0) + 1);
  const first = new Listener(proof, asked, onsets, PRIOR_SPREAD).analysis();
  return new Listener(proof, asked, onsets, first.spreadMs / 1000).analysis();
}

/** A shape as it fits the onsets around a seam. */
interface Fit {
  readonly shape: Shape;
  readonly size: number;
  readonly score: number;
  readonly shifts: readonly number[];
  readonly onsetOf: Int32Array;
}

interface Stretch {
  readonly anchorSeconds: number;
  readonly before: readonly ExpectedOnset[];
  readonly after: readonly ExpectedOnset[];
}

class Listener {
  private readonly verdicts: SeamVerdict[] = [];
  /** How late each asked onset is expected by now: the constant, and what earlier seams have left. */
  private readonly drawn: number[];
  private constant = 0;

  constructor(
    private readonly proof: Proof,
    private readonly asked: Asked,
    private readonly onsets: readonly number[],
    private readonly spread: number,
  ) {
    this.constant = nearestConstant(
      asked.onsets.slice(0, 12).map(({ seconds }) => seconds),
      onsets,
      USUAL_CONSTANT,
    );
    this.drawn = asked.onsets.map(() => this.constant);
  }

  analysis(): TakeAnalysis {
    for (const seam of this.passedSeams()) this.listenAt(seam);
    const times = this.asked.onsets.map(({ seconds }, index) => seconds + (this.drawn[index] ?? 0));
    const own = this.onsets.filter((time) => time > (times[0] ?? 0) - 0.25);
    const onsetOf = alignedInParts(times, own, this.spread);
    const matched = onsetOf.filter((onset) => onset >= 0).length;
    const residuals = times.flatMap((time, index) => {
      const onset = onsetOf[index] ?? -1;
      return onset < 0 ? [] : [(own[onset] ?? 0) - time];
    });
    const played = this.asked.onsets.map((onset, index): PlayedOnset => {
      const at = onsetOf[index] ?? -1;
      return { asked: onset, offMs: at < 0 ? null : 1000 * ((own[at] ?? 0) - onset.seconds - this.constant) };
    });
    const last = onsetOf.findLastIndex((onset) => onset >= 0);
    return {
      constantMs: 1000 * this.constant,
      spreadMs: 1000 * spreadOf(residuals),
      driftMsPerBar: driftOf(played, this.asked.bars.length),
      matched,
      missing: last + 1 - matched,
      extra: own.length - matched,
      onsets: played,
      seams: this.verdicts,
    };
  }

  /** Seams that the run has passed, where all land together. */
  private passedSeams(): readonly { readonly seam: Seam; readonly bar: number }[] {
    const { bars } = this.asked;
    const until = (this.onsets.at(-1) ?? 0) + 0.2;
    return bars.flatMap(({ performed, seconds }, bar) => {
      const seam = this.proof.compiled.seams.find((known) => known.performed === performed);
      const follows = bar > 0 && bars[bar - 1]?.performed === performed - 1;
      return seam && follows && landsTogether(seam) && seconds < until ? [{ seam, bar }] : [];
    });
  }

  private listenAt({ seam, bar }: { readonly seam: Seam; readonly bar: number }): void {
    const stretch = this.stretchAt(bar);
    const facts = this.factsAt(seam, bar);
    const { before, after, anchorSeconds } = stretch;
    const from = this.asked.onsets.indexOf(before[0] ?? (after[0] as ExpectedOnset));
    const base = this.baseBefore(from + before.length);
    const places = [...before, ...after].map((onset) => placeAt(onset, this.asked.bars[bar] as RunBar));
    const drawnBefore = before.map((_, index) => this.drawn[from + index] ?? base);
    const lateness = [...drawnBefore, ...after.map(() => base)];
    const reach = 1.2 * Math.max(facts.oldBeatSeconds, facts.newBeatSeconds);
    const first = (places[0]?.seconds ?? 0) + anchorSeconds + (lateness[0] ?? 0) - 0.3 * reach;
    const last = (places.at(-1)?.seconds ?? 0) + anchorSeconds + base + reach;
    const near = this.onsets.filter((time) => time > first && time < last);
    const [asWritten, ...others] = shapesOf(facts);
    const fitsOf = (shape: Shape) => this.fitted(shape, places, lateness, anchorSeconds, near);
    const plain = asWritten ? fitsOf(asWritten) : [];
    const times = places.map(({ seconds }, index) => anchorSeconds + seconds + (lateness[index] ?? 0));
    const isPlain = plain.some((fit) => this.isPlain(fit, times.slice(before.length), near, before.length));
    const fits = isPlain ? plain : [...plain, ...others.flatMap(fitsOf)];
    const named = bestOfEach(fits);
    const distinct = told(named, this.spread);
    const total = distinct.reduce(
      (sum, fit) => sum + Math.exp(-(fit.score - (distinct[0]?.score ?? 0)) / 2),
      0,
    );
    const probability = (fit: Fit | undefined) =>
      fit ? Math.exp(-(fit.score - (distinct[0]?.score ?? 0)) / 2) / total : 0;
    const [best, second] = distinct;
    const matchedOf = ({ onsetOf }: Fit, from: number, to: number) =>
      onsetOf.slice(from, to).filter((onset) => onset >= 0).length;
    const isFew = !named.some(
      (fit) =>
        matchedOf(fit, 0, before.length) >= FEWEST && matchedOf(fit, before.length, places.length) >= FEWEST,
    );
    const held = distinct.find(({ shape }) => shape.name === 'held');
    const effect = best ? farthest(best.shifts) : 0;
    const least = Math.max(LEAST_EFFECT_SECONDS, LEAST_EFFECT_SPREADS * this.spread);
    const isSaid = best && best.shape.name !== 'held' && Math.abs(effect) >= least;
    const taken = isSaid ? best : (held ?? best);
    this.draw(taken, from, lateness);
    const performed = (this.asked.bars[bar] as RunBar).performed;
    if (isFew || !best || !taken) {
      const none = {
        explanation: 'too-few' as const,
        probability: 1,
        effectMs: 0,
        second: null,
        secondProbability: 0,
      };
      this.verdicts.push({ performed, ...none });
      return;
    }
    const other = taken === best ? second : best;
    // What comes off by less than one can tell is held, whatever it might be called.
    const asHeld = distinct.filter(({ shifts }) => Math.abs(farthest(shifts)) < least);
    this.verdicts.push({
      performed,
      explanation: taken.shape.name,
      probability: isSaid ? probability(taken) : asHeld.reduce((sum, fit) => sum + probability(fit), 0),
      effectMs: 1000 * (taken.shape.name === 'held' ? 0 : farthest(taken.shifts)),
      second: other?.shape.name ?? null,
      secondProbability: probability(other),
    });
  }

  /** Whether a seam was played so evenly that nothing else need be tried: all there, none far off, neither end leaning away. */
  private isPlain(
    { onsetOf }: Fit,
    after: readonly number[],
    near: readonly number[],
    offset: number,
  ): boolean {
    const misses = after.flatMap((time, index) => {
      const onset = near[onsetOf[offset + index] ?? -1];
      return onset === undefined ? [] : [(onset - time) / this.spread];
    });
    const mean = (values: readonly number[]) => values.reduce((sum, value) => sum + value, 0) / values.length;
    return (
      misses.length >= after.length - 1 &&
      misses.length > FEWEST &&
      misses.every((miss) => Math.abs(miss) < 2.6) &&
      [misses.slice(0, 3), misses, misses.slice(-4)].every((part) => Math.abs(mean(part)) < 0.9)
    );
  }

  /** Onsets asked for around a seam: some before it, and after it up to four bars, or where the seam after the next begins. */
  private stretchAt(bar: number): Stretch {
    const { bars, onsets } = this.asked;
    const anchorSeconds = (bars[bar] as RunBar).seconds;
    const firstAfter = onsets.findIndex(({ seconds }) => seconds > anchorSeconds - 1e-6);
    const start = firstAfter < 0 ? onsets.length : firstAfter;
    const endBar = this.endOf(bar);
    const endSeconds = bars[endBar]?.seconds ?? Infinity;
    const inside = onsets.slice(start).filter(({ seconds }) => seconds < endSeconds - 1e-6).length;
    const end = start + Math.max(inside, FEWEST_AFTER);
    return {
      anchorSeconds,
      before: onsets.slice(Math.max(0, start - BEFORE_ONSETS), start),
      after: onsets.slice(start, end),
    };
  }

  /** The bar with which what belongs to a seam ends: an odd bar's own end belongs to it. */
  private endOf(bar: number): number {
    const { bars } = this.asked;
    const rateOf = (run: RunBar | undefined) => (run ? run.lengthWholes / run.lengthSeconds : 1);
    const isSeam = (at: number) =>
      this.proof.compiled.seams.some((seam) => seam.performed === bars[at]?.performed && landsTogether(seam));
    const isOdd = oddBarMaybe(this.proof.piece, writtenIndex(this.proof, bars[bar]?.performed ?? 0)) !== null;
    const change = Math.abs(Math.log(rateOf(bars[bar]) / rateOf(bars[bar - 1])));
    const most = bar + (change > FAR_CHANGE ? MOST_BARS_AFTER_CHANGE : MOST_BARS_AFTER);
    for (let at = bar + 1; at < most; at++) if (isSeam(at) && !(isOdd && at === bar + 1)) return at;
    return most;
  }

  /** How late the player was just before the onset at an index, as the last ones before it say. */
  private baseBefore(to: number): number {
    const from = Math.max(0, to - BASE_ONSETS);
    const asked = this.asked.onsets.slice(from, to).map(({ seconds }) => seconds);
    const times = asked.map((time, index) => time + (this.drawn[from + index] ?? 0));
    const near = this.onsets.filter(
      (time) => time > (times[0] ?? 0) - 0.3 && time < (times.at(-1) ?? 0) + 0.3,
    );
    const { onsetOf, matched } = aligned(times, near, this.spread);
    if (matched < LOST_SHARE * Math.min(times.length, near.length)) {
      // Nobody is where they were thought to be: they are looked for around the beat, as at the beginning.
      const found = nearestConstant(asked.slice(-10), this.onsets, this.constant);
      for (let index = from; index < to; index++) this.drawn[index] = found;
      return found;
    }
    const miss = middleMiss(times, near, onsetOf);
    for (let index = from; index < to; index++) this.drawn[index] = (this.drawn[index] ?? 0) + miss;
    return this.drawn[to - 1] ?? this.constant;
  }

  private factsAt(seam: Seam, bar: number): SeamFacts {
    const { bars } = this.asked;
    const [before, here] = [bars[bar - 1] as RunBar, bars[bar] as RunBar];
    const written = writtenBar(this.proof, here.performed);
    const beatLengths: number[] = [];
    for (const run of bars.slice(bar, bar + MOST_BARS_AFTER))
      beatLengths.push(...beatSeconds(this.proof, run));
    const oldBeats = beatSeconds(this.proof, before);
    return {
      oldBeatSeconds: oldBeats.length > 1 ? medianOf(oldBeats.slice(0, -1)) : (oldBeats[0] ?? 0.5),
      newBeatSeconds: beatLengths[0] ?? 0.5,
      oldWholeSeconds: before.lengthSeconds / before.lengthWholes,
      newWholeSeconds: here.lengthSeconds / here.lengthWholes,
      hasEquivalence: written.tempoMarks.some(({ equivalence }) => equivalence !== undefined),
      odd: this.oddAt(bar) ?? (seam.leavesOdd ? this.oddBefore(bar) : null),
      beatLengths,
    };
  }

  /** The odd bar that begins with a seam. */
  private oddAt(bar: number): OddFacts | null {
    const run = this.asked.bars[bar] as RunBar;
    const index = writtenIndex(this.proof, run.performed);
    const odd = oddBarMaybe(this.proof.piece, index);
    if (!odd) return null;
    const written = writtenBar(this.proof, run.performed);
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
  private oddBefore(bar: number): OddFacts | null {
    const odd = this.oddAt(bar - 1);
    return (
      odd && {
        endSeconds: 0,
        lastGroupSeconds: odd.lastGroupSeconds - odd.endSeconds,
        lackingSeconds: odd.lackingSeconds,
        endBeats: 0,
      }
    );
  }

  private fitted(
    shape: Shape,
    places: readonly PlaceAtSeam[],
    lateness: readonly number[],
    anchorSeconds: number,
    near: readonly number[],
  ): Fit[] {
    const unit = places.map(shape.shift);
    if (unit.every((shift) => Math.abs(shift) < 1e-9) && shape.name !== 'held') return [];
    const played = unit.flatMap((shift, index) => (Number.isNaN(shift) ? [] : [index]));
    const timesAt = (size: number) =>
      played.map(
        (index) =>
          anchorSeconds + (places[index]?.seconds ?? 0) + (lateness[index] ?? 0) + size * (unit[index] ?? 0),
      );
    const at = (size: number): Fit => {
      const { onsetOf, cost } = aligned(timesAt(size), near, this.spread);
      const prior = shape.name === 'held' ? 0 : HELD_FIRST + (WANDERING[shape.name] ?? 0);
      const score = cost + shape.parameters * Math.log(places.length) + prior;
      const whole = new Int32Array(places.length).fill(-1);
      played.forEach((index, order) => (whole[index] = onsetOf[order] ?? -1));
      return { shape, size, score, onsetOf: whole, shifts: unit.map((shift) => size * shift) };
    };
    if (!shape.free) return [at(1)];
    const { least, most } = shape.free;
    let best: Fit | null = null;
    for (let tried = 0; tried < SIZES_TRIED; tried++) {
      const fit = at(least + ((most - least) * tried) / (SIZES_TRIED - 1));
      if (!best || fit.score < best.score) best = fit;
    }
    for (let round = 0; best && round < 2; round++) {
      const sizes = unit.flatMap((shift, index) => {
        const onset = near[best?.onsetOf[index] ?? -1];
        const time = anchorSeconds + (places[index]?.seconds ?? 0) + (lateness[index] ?? 0);
        return onset === undefined || Math.abs(shift) < 0.2 ? [] : [(onset - time) / shift];
      });
      if (sizes.length === 0) break;
      const fit = at(Math.min(most, Math.max(least, medianOf(sizes))));
      if (fit.score < best.score) best = fit;
    }
    return best ? [best] : [];
  }

  /** From a seam on the player is expected where its explanation has left them. */
  private draw(fit: Fit | undefined, from: number, lateness: readonly number[]): void {
    if (!fit) return;
    lateness.forEach((late, index) => (this.drawn[from + index] = late + (fit.shifts[index] || 0)));
    const end = from + lateness.length;
    const left = this.drawn[end - 1] ?? this.constant;
    for (let index = end; index < this.drawn.length; index++) this.drawn[index] = left;
  }
}

function placeAt({ seconds, wholes, beats }: ExpectedOnset, anchor: RunBar): PlaceAtSeam {
  return { seconds: seconds - anchor.seconds, wholes: wholes - anchor.wholes, beats: beats - anchor.beats };
}

function beatSeconds(proof: Proof, { performed, lengthSeconds, lengthWholes }: RunBar): readonly number[] {
  return pulseOf(writtenBar(proof, performed)).map(
    (beat) => (toNumber(beat.lengthWholes) * lengthSeconds) / lengthWholes,
  );
}

const PART = 48;

/** A long take is aligned part by part: no onset is matched farther than its own part. */
function alignedInParts(
  times: readonly number[],
  onsets: readonly number[],
  spread: number,
): readonly number[] {
  const onsetOf: number[] = [];
  let next = 0;
  for (let from = 0; from < times.length; from += PART) {
    const part = times.slice(from, from + PART);
    const after = times[from + PART];
    const until = after === undefined ? Infinity : ((part.at(-1) ?? 0) + after) / 2;
    let end = next;
    while (end < onsets.length && (onsets[end] as number) < until) end++;
    const offset = next;
    const { onsetOf: inPart } = aligned(part, onsets.slice(next, end), spread);
    for (const onset of inPart) onsetOf.push(onset < 0 ? -1 : onset + offset);
    next = end;
  }
  return onsetOf;
}

/** What some onsets have in common against what is asked: of several answers the one nearest to what is usual. */
function nearestConstant(asked: readonly number[], onsets: readonly number[], usual: number): number {
  const [first, last] = [asked[0] ?? 0, asked.at(-1) ?? 0];
  const near = onsets.filter((time) => time > first - 0.4 && time < last + 0.5);
  const timesAt = (constant: number) => asked.map((time) => time + constant);
  let best = { cost: Infinity, constant: usual };
  for (let constant = usual - 0.2; constant <= usual + 0.2; constant += 0.004) {
    const cost = aligned(timesAt(constant), near, PRIOR_SPREAD).cost + Math.abs(constant - usual) * 12;
    if (cost < best.cost) best = { cost, constant };
  }
  const times = timesAt(best.constant);
  return best.constant + middleMiss(times, near, aligned(times, near, PRIOR_SPREAD).onsetOf);
}

/** How late the onsets are that times were matched with; 0 where there are too few to tell. */
function middleMiss(times: readonly number[], onsets: readonly number[], onsetOf: Int32Array): number {
  const misses = times.flatMap((time, index) => {
    const onset = onsets[onsetOf[index] ?? -1];
    return onset === undefined ? [] : [onset - time];
  });
  return misses.length > 2 ? medianOf(misses) : 0;
}

/** The likeliest fit under each name, the likeliest of all first. */
function bestOfEach(fits: readonly Fit[]): readonly Fit[] {
  const best = new Map<Explanation, Fit>();
  for (const fit of fits) {
    const known = best.get(fit.shape.name);
    if (!known || fit.score < known.score) best.set(fit.shape.name, fit);
  }
  return [...best.values()].sort((a, b) => a.score - b.score);
}

/** Where two names mean the same times, the one that says more, and comes first among the explanations of a seam, is told. */
const TOLD_FIRST: readonly Explanation[] = [
  'held',
  'filled-up',
  'cut-short',
  'old-pulse',
  'turned-round',
  'old-small-note',
  'triplet',
  'lost-beat',
  'gained-beat',
  'followed',
  'late',
  'early',
  'settled-in',
  'dragged',
  'rushed',
];

function told(fits: readonly Fit[], spread: number): readonly Fit[] {
  const rank = ({ shape }: Fit) => TOLD_FIRST.indexOf(shape.name);
  const isAlike = (a: Fit, b: Fit) =>
    a.shifts.every((shift, index) => {
      const other = b.shifts[index] ?? 0;
      return Object.is(shift, other) || Math.abs(shift - other) < ALIKE_SPREADS * spread;
    });
  return fits.filter(
    (fit) =>
      !fits.some((other) => rank(other) < rank(fit) && other.score < fit.score + 6 && isAlike(other, fit)),
  );
}

function farthest(shifts: readonly number[]): number {
  return shifts.reduce((most, shift) => (Math.abs(shift) > Math.abs(most) ? shift : most), 0);
}

function spreadOf(residuals: readonly number[]): number {
  if (residuals.length < 6) return PRIOR_SPREAD;
  const middle = medianOf(residuals);
  const spread = 1.4826 * medianOf(residuals.map((miss) => Math.abs(miss - middle)));
  return Math.min(MOST_SPREAD, Math.max(LEAST_SPREAD, spread));
}

/** The slope of the line through how late each bar was (Theil–Sen over a sample of pairs). */
function driftOf(played: readonly PlayedOnset[], barCount: number): number {
  const known = played.filter(({ offMs }) => offMs !== null);
  const [first, last] = [known[0], known.at(-1)];
  if (!first || !last || barCount < 3) return 0;
  const bars =
    (last.asked.beats - first.asked.beats) / Math.max(1, (played.at(-1)?.asked.beats ?? 1) / barCount);
  const third = Math.ceil(known.length / 3);
  const middle = (part: readonly PlayedOnset[]) => medianOf(part.map(({ offMs }) => offMs ?? 0));
  return bars > 0 ? ((middle(known.slice(-third)) - middle(known.slice(0, third))) * 1.5) / bars : 0;
}
