import type { Proof } from '../proof/proof.ts';
import { anchorIntoMaybe, type Seam } from '../seam/seam.ts';
import { aligned } from './align.ts';
import type { Asked, ExpectedOnset, RunBar } from './expected.ts';
import { bestOfEach, farthest, told, type Fit } from './fits.ts';
import { fitMaybe } from './shapeFit.ts';
import { shapesOf, type Shape } from './shapes.ts';
import { factsAt, placeAt, stretchAt } from './stretch.ts';
import type { PlayedOnset, SeamVerdict, TakeAnalysis } from './takeAnalysis.ts';
import { carriedOf } from './surprise.ts';
import { alignedInParts, driftOf, middleMiss, nearestConstant, spreadOf } from './whereabouts.ts';

/** What device and person add, before anything is known of them. */
const USUAL_CONSTANT = 0.03;
/** Where fewer than this share of a player's last onsets can be matched, they are looked for anew. */
const LOST_SHARE = 0.6;
/** Where a player stands before a seam is told by more of them, since people wander. */
const BASE_ONSETS = 28;
const FEWEST = 5;
/** An effect under this many spreads is not told from chance. */
const LEAST_EFFECT_SPREADS = 1.6;
const LEAST_EFFECT_SECONDS = 0.012;

/**
 * Neighbouring onsets go together, so that they say less than as many single ones: likelihoods are taken to a power under one
 * (as composite likelihoods are; Pauli, Racugno and Ventura 2011), found on simulated takes.
 */
const TEMPERED = 0.5;

/** How likely an explanation is against the best one, by how much worse its score is. */
function likelihood(worseBy: number): number {
  return Math.exp((-TEMPERED * worseBy) / 2);
}

/** Listens through a take, seam by seam, each from where the player stood before it. */
export class Listener {
  private readonly verdicts: SeamVerdict[] = [];
  /** How late each asked onset is expected by now: the constant, and what earlier seams have left. */
  private readonly drawn: number[];
  private constant = 0;

  constructor(
    private readonly proof: Proof,
    private readonly asked: Asked,
    private readonly onsets: readonly number[],
    private readonly spread: number,
    private readonly carried: number,
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
      carriedShare: carriedOf(residuals),
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
      const seam = anchorIntoMaybe(this.proof.compiled.seams, performed);
      const follows = bar > 0 && bars[bar - 1]?.performed === performed - 1;
      return seam && follows && seconds < until ? [{ seam, bar }] : [];
    });
  }

  private listenAt({ seam, bar }: { readonly seam: Seam; readonly bar: number }): void {
    const stretch = stretchAt(this.proof, this.asked, bar);
    const facts = factsAt(this.proof, this.asked, seam, bar);
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
    const times = places.map(({ seconds }, index) => anchorSeconds + seconds + (lateness[index] ?? 0));
    const heard = { times, near, spread: this.spread, carried: this.carried };
    const fitsOf = (shape: Shape) => {
      const fit = fitMaybe(shape, places, heard);
      return fit ? [fit] : [];
    };
    const plain = asWritten ? fitsOf(asWritten) : [];
    const isPlain = plain.some((fit) => this.isPlain(fit, times.slice(before.length), near, before.length));
    const fits = isPlain ? plain : [...plain, ...others.flatMap(fitsOf)];
    const named = bestOfEach(fits);
    const distinct = told(named, this.spread);
    const total = distinct.reduce((sum, fit) => sum + likelihood(fit.score - (distinct[0]?.score ?? 0)), 0);
    const probability = (fit: Fit | undefined) =>
      fit ? likelihood(fit.score - (distinct[0]?.score ?? 0)) / total : 0;
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
    const { performed } = this.asked.bars[bar] as RunBar;
    const atOnset = from + before.length;
    if (isFew || !best || !taken) {
      const none = {
        explanation: 'too-few' as const,
        probability: 1,
        effectMs: 0,
        second: null,
        secondProbability: 0,
      };
      this.verdicts.push({ performed, atOnset, ...none });
      return;
    }
    const other = taken === best ? second : best;
    // What comes off by less than one can tell is held, whatever it might be called.
    const asHeld = distinct.filter(({ shifts }) => Math.abs(farthest(shifts)) < least);
    this.verdicts.push({
      performed,
      atOnset,
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
      misses.length === after.length &&
      misses.length > FEWEST &&
      misses.every((miss) => Math.abs(miss) < 2.2) &&
      [misses.slice(0, 3), misses, misses.slice(-4)].every((part) => Math.abs(mean(part)) < 0.8)
    );
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

  /** From a seam on the player is expected where its explanation has left them. */
  private draw(fit: Fit | undefined, from: number, lateness: readonly number[]): void {
    if (!fit) return;
    lateness.forEach((late, index) => (this.drawn[from + index] = late + (fit.shifts[index] || 0)));
    const end = from + lateness.length;
    const left = this.drawn[end - 1] ?? this.constant;
    for (let index = end; index < this.drawn.length; index++) this.drawn[index] = left;
  }
}
