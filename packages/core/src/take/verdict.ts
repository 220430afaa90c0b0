import { bestOfEach, farthest, told, type Fit } from './fits.ts';
import type { SeamVerdict } from './takeAnalysis.ts';

/** An effect under this many spreads is not told from chance. */
const LEAST_EFFECT_SPREADS = 1.6;
/** A mistake whose size nothing on paper gives is looked for from so many spreads on. */
const LEAST_SIZE_SPREADS = 2;
const LEAST_EFFECT_SECONDS = 0.012;

/** The least size at which a mistake that has none on paper is looked for, in seconds. */
export function leastEffect(spread: number): number {
  return Math.max(LEAST_EFFECT_SECONDS, LEAST_SIZE_SPREADS * spread);
}

/**
 * People do not play quite as is thought of them, so that one is a little less sure than the likelihoods say: they are taken to
 * a power under one. On simulated takes what is said with 0.75 is right in 0.85 then.
 */
const TEMPERED = 0.8;

/** How likely an explanation is against the best one, by how much worse its score is. */
function likelihood(worseBy: number): number {
  return Math.exp((-TEMPERED * worseBy) / 2);
}

type Said = Omit<SeamVerdict, 'performed' | 'atOnset'>;

const TOO_FEW: Said = {
  explanation: 'too-few',
  probability: 1,
  effectMs: 0,
  second: null,
  secondProbability: 0,
};

/**
 * What is said of a seam by the fits of its explanations, and the fit by which the player is followed on.
 *
 * @param spread The player's, in seconds.
 * @param isEnough Whether enough onsets were matched, before and after the anchor, for a fit to be spoken of.
 */
export function verdictOf(
  fits: readonly Fit[],
  spread: number,
  isEnough: (fit: Fit) => boolean,
): { readonly taken: Fit | null; readonly said: Said } {
  const named = bestOfEach(fits);
  const distinct = told(named, spread);
  const [best, second] = distinct;
  if (!best) return { taken: null, said: TOO_FEW };
  const likelihoods = new Map(distinct.map((fit) => [fit, likelihood(fit.score - best.score)]));
  const total = [...likelihoods.values()].reduce((sum, value) => sum + value, 0);
  const probability = (fit: Fit | undefined) => (fit ? (likelihoods.get(fit) ?? 0) / total : 0);
  const least = Math.max(LEAST_EFFECT_SECONDS, LEAST_EFFECT_SPREADS * spread);
  // What comes off by less than one can tell is held, whatever it might be called.
  const isHeld = ({ shape, shifts }: Fit) => shape.name === 'held' || Math.abs(farthest(shifts)) < least;
  const isSaid = !isHeld(best);
  const taken = isSaid ? best : (distinct.find(({ shape }) => shape.name === 'held') ?? best);
  if (!named.some(isEnough)) return { taken, said: TOO_FEW };
  const other = taken === best ? second : best;
  const asHeld = distinct.filter(isHeld).reduce((sum, fit) => sum + probability(fit), 0);
  const said = {
    explanation: taken.shape.name,
    probability: isSaid ? probability(taken) : asHeld,
    effectMs: taken.shape.name === 'held' ? 0 : 1000 * farthest(taken.shifts),
    second: other?.shape.name ?? null,
    secondProbability: probability(other),
  };
  return { taken, said };
}
