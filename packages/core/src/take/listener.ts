import type { Proof } from '../proof/proof.ts';
import { anchorIntoMaybe, type Seam } from '../seam/seam.ts';
import { firstAtOrAfter } from '../timeline/query.ts';
import { aligned } from './align.ts';
import type { Asked, ExpectedOnset, RunBar } from './expected.ts';
import type { Fit } from './fits.ts';
import { personOf, type Person } from './person.ts';
import { isPlain } from './plain.ts';
import { fitMaybe, type Heard } from './shapeFit.ts';
import { shapesOf, type PlaceAtSeam, type SeamFacts } from './shapes.ts';
import { factsAt, placeAt, stretchAt } from './stretch.ts';
import { surprises } from './surprise.ts';
import type { PlayedOnset, SeamVerdict, TakeAnalysis } from './takeAnalysis.ts';
import { leastEffect, verdictOf } from './verdict.ts';
import { alignedInParts, driftOf, middleMiss, nearestConstant } from './whereabouts.ts';

/** What device and person add, before anything is known of them. */
const USUAL_CONSTANT = 0.03;
/** Where fewer than this share of a player's last onsets can be matched, they are looked for anew. */
const LOST_SHARE = 0.6;
/** Where a player stands before a seam is told by more of them, since people wander. */
const BASE_ONSETS = 28;
const FEWEST = 5;

/** A seam as it is listened to. */
interface Scene {
  /** Index of the first asked onset of its stretch, and of the first after its anchor. */
  readonly from: number;
  readonly atOnset: number;
  readonly performed: number;
  readonly facts: SeamFacts;
  readonly places: readonly PlaceAtSeam[];
  /** How late the player is expected at each place, in seconds. */
  readonly lateness: readonly number[];
  readonly heard: Heard;
  /** Onsets that were matched before the anchor. */
  readonly matchedBefore: number;
}

/** Listens through a take, seam by seam, each from where the player stood before it. */
export class Listener {
  private readonly verdicts: SeamVerdict[] = [];
  /** How late each asked onset is expected by now: the constant, and what earlier seams have left. */
  private readonly drawn: number[];
  private readonly constant: number;

  constructor(
    private readonly proof: Proof,
    private readonly asked: Asked,
    private readonly onsets: readonly number[],
    private readonly person: Person,
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
    const onsetOf = alignedInParts(times, own, this.person.spread);
    const matched = onsetOf.filter((onset) => onset >= 0).length;
    const misses = times.map((time, index) => (own[onsetOf[index] ?? -1] ?? NaN) - time);
    const person = personOf(
      misses,
      this.verdicts.map(({ atOnset }) => atOnset),
    );
    const played = this.asked.onsets.map((onset, index): PlayedOnset => {
      const at = onsetOf[index] ?? -1;
      return { asked: onset, offMs: at < 0 ? null : 1000 * ((own[at] ?? 0) - onset.seconds - this.constant) };
    });
    const last = onsetOf.findLastIndex((onset) => onset >= 0);
    return {
      constantMs: 1000 * this.constant,
      spreadMs: 1000 * person.spread,
      carriedShare: person.carried,
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
    const scene = this.sceneAt(seam, bar);
    const { from, atOnset, performed, lateness, places, matchedBefore } = scene;
    const isEnough = ({ onsetOf }: Fit) =>
      matchedBefore >= FEWEST &&
      onsetOf.slice(atOnset - from, places.length).filter((onset) => onset >= 0).length >= FEWEST;
    const { taken, said } = verdictOf(this.fitsIn(scene), this.person.spread, isEnough);
    if (taken) this.draw(taken, from, lateness);
    this.verdicts.push({ performed, atOnset, ...said });
  }

  private sceneAt(seam: Seam, bar: number): Scene {
    const { before, after, anchorSeconds } = stretchAt(this.proof, this.asked, bar);
    const anchor = this.asked.bars[bar] as RunBar;
    const facts = factsAt(this.proof, this.asked, seam, bar);
    const from = this.asked.onsets.indexOf(before[0] ?? (after[0] as ExpectedOnset));
    const atOnset = from + before.length;
    const { late, matched, state } = this.knownBefore(atOnset, before.length);
    const places = [...before, ...after].map((onset) => placeAt(onset, anchor));
    const lateness = places.map((_, index) =>
      index < before.length ? (this.drawn[from + index] ?? late) : late,
    );
    const reach = 1.2 * Math.max(facts.oldBeatSeconds, facts.newBeatSeconds);
    const times = places.map(({ seconds }, index) => anchorSeconds + seconds + (lateness[index] ?? 0));
    const [first, last] = [(times[0] ?? 0) - 0.3 * reach, (times.at(-1) ?? 0) + reach];
    const near = this.onsetsBetween(first, last);
    const heard = { times, near, ...this.person, before: state };
    const { performed } = anchor;
    return { from, atOnset, performed, facts, places, lateness, heard, matchedBefore: matched };
  }

  /** Every explanation that fits at all; as written alone where nothing speaks for another. */
  private fitsIn({ facts, places, heard }: Scene): readonly Fit[] {
    const [asWritten, ...others] = shapesOf(facts, leastEffect(heard.spread));
    const plain = asWritten ? fitMaybe(asWritten, places, heard) : null;
    if (plain && isPlain(plain, places, heard)) return [plain];
    const fits = others.flatMap((shape) => fitMaybe(shape, places, heard) ?? []);
    return plain ? [plain, ...fits] : fits;
  }

  /** How late the player was just before the onset at an index, as the last ones before it say; their state `inside` ones earlier. */
  private knownBefore(to: number, inside: number) {
    const from = Math.max(0, to - BASE_ONSETS);
    const asked = this.asked.onsets.slice(from, to).map(({ seconds }) => seconds);
    const matchedNow = () => {
      const times = asked.map((time, index) => time + (this.drawn[from + index] ?? 0));
      const near = this.onsetsBetween((times[0] ?? 0) - 0.3, (times.at(-1) ?? 0) + 0.3);
      return { times, near, ...aligned(times, near, this.person.spread) };
    };
    let now = matchedNow();
    if (now.matched < LOST_SHARE * Math.min(asked.length, now.near.length)) {
      // Nobody is where they were thought to be: they are looked for around the beat, as at the beginning.
      const found = nearestConstant(asked.slice(-10), this.onsets, this.constant);
      for (let index = from; index < to; index++) this.drawn[index] = found;
      now = matchedNow();
    }
    const { times, near, onsetOf, matched } = now;
    const miss = middleMiss(times, near, onsetOf);
    for (let index = from; index < to; index++) this.drawn[index] = (this.drawn[index] ?? 0) + miss;
    const misses = times
      .slice(0, times.length - inside)
      .map((time, index) => ((near[onsetOf[index] ?? -1] ?? NaN) - time - miss) / this.person.spread);
    const { after: state } = surprises([Float64Array.from(misses)], this.person.carried);
    return { late: this.drawn[to - 1] ?? this.constant, matched, state };
  }

  private onsetsBetween(from: number, to: number): readonly number[] {
    return this.onsets.slice(firstAtOrAfter(this.onsets, from), firstAtOrAfter(this.onsets, to));
  }

  /** From a seam on the player is expected where its explanation has left them. */
  private draw(fit: Fit, from: number, lateness: readonly number[]): void {
    lateness.forEach((late, index) => (this.drawn[from + index] = late + (fit.shifts[index] || 0)));
    const end = from + lateness.length;
    const left = this.drawn[end - 1] ?? this.constant;
    for (let index = end; index < this.drawn.length; index++) this.drawn[index] = left;
  }
}
