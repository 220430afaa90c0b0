import { barName } from '../piece/labels.ts';
import { MAX_SECTIONS } from '../piece/piece.ts';
import type { Proof } from '../proof/proof.ts';
import { listed } from '../section/sections.ts';
import type { Explanation } from './names.ts';
import { EXPLANATION_WORDS } from './takeWords.ts';
import { takeBars, type TakeOnset, type TakeRecord, type TakeSeam } from './takeRecord.ts';

/** What one section played, held against the same run as the others. */
export interface SectionTake {
  readonly section: string;
  readonly take: TakeRecord;
}

/** No more onsets are kept of all sections' takes of one run: fifteen stands that play three beats a second for five minutes. */
const MOST_SECTION_ONSETS = 12_000;

/** Sections' takes as they are kept with their run: what would be too much keeps what was done at the seams, without its onsets. */
export function keptSectionTakes(takes: readonly SectionTake[]): readonly SectionTake[] {
  let kept = 0;
  return takes.slice(0, MAX_SECTIONS).map(({ section, take }) => {
    kept += take.onsets.length;
    return { section, take: kept > MOST_SECTION_ONSETS ? { ...take, onsets: [] } : take };
  });
}

/** How the sections passed one seam. */
export interface EnsembleSeam {
  readonly barIndex: number;
  /** Sections by what they did, the mistakes first. */
  readonly did: ReadonlyArray<{ readonly explanation: Explanation; readonly sections: readonly string[] }>;
  /** What the first of each section shows, for its size. */
  readonly shown: ReadonlyMap<string, TakeSeam>;
}

/** A bar that some sections played together, but not with the click. */
export interface TogetherOff {
  readonly performed: number;
  readonly sections: readonly string[];
  /** How late they are together, in milliseconds: early below zero. */
  readonly offMs: number;
}

/** A section whose onsets are drawn to where another's were a moment before. */
export interface Following {
  readonly follower: string;
  readonly leader: string;
  /** Share of the distance between them that is made good by the next onset. */
  readonly share: number;
}

/** Several sections' takes of one run, on one clock. */
export interface EnsembleTake {
  readonly seams: readonly EnsembleSeam[];
  readonly togetherOff: readonly TogetherOff[];
  readonly following: readonly Following[];
}

/** Sections this near to one another in a bar are together. */
const TOGETHER_MS = 30;
/** Off the click by at least this, and by three times what lies between them, they are off it together. */
const OFF_MS = 45;

/** How several sections played one run: which went wrong together, which agree though not with the click, who follows whom. */
export function ensembleTake(proof: Proof, takes: readonly SectionTake[]): EnsembleTake {
  return {
    seams: ensembleSeams(takes),
    togetherOff: barsTogetherOff(proof, takes),
    following: followings(takes),
  };
}

function ensembleSeams(takes: readonly SectionTake[]): readonly EnsembleSeam[] {
  const bars = new Set(takes.flatMap(({ take }) => take.seams.map(({ barIndex }) => barIndex)));
  return [...bars]
    .sort((a, b) => a - b)
    .map((barIndex) => {
      const shown = new Map<string, TakeSeam>();
      for (const { section, take } of takes) {
        const passings = take.seams.filter((seam) => seam.barIndex === barIndex);
        const seam = passings.find(({ explanation }) => isMistake(explanation)) ?? passings[0];
        if (seam) shown.set(section, seam);
      }
      const bySort = new Map<Explanation, string[]>();
      for (const [section, { explanation }] of shown)
        bySort.set(explanation, [...(bySort.get(explanation) ?? []), section]);
      const did = [...bySort].map(([explanation, sections]) => ({ explanation, sections }));
      return { barIndex, shown, did: did.sort((a, b) => order(a.explanation) - order(b.explanation)) };
    });
}

function isMistake(explanation: Explanation): boolean {
  return explanation !== 'held' && explanation !== 'too-few';
}

function order(explanation: Explanation): number {
  return isMistake(explanation) ? 0 : explanation === 'held' ? 1 : 2;
}

function barsTogetherOff(proof: Proof, takes: readonly SectionTake[]): readonly TogetherOff[] {
  const means = new Map<number, Array<{ readonly section: string; readonly offMs: number }>>();
  for (const { section, take } of takes)
    for (const { performed, meanMs } of takeBars(proof, take))
      if (meanMs !== null)
        means.set(performed, [...(means.get(performed) ?? []), { section, offMs: meanMs }]);
  return [...means]
    .sort(([a], [b]) => a - b)
    .flatMap(([performed, all]) => {
      const sorted = all.filter(({ offMs }) => Math.abs(offMs) >= OFF_MS).sort((a, b) => a.offMs - b.offMs);
      const group = nearestGroup(sorted);
      if (group.length < 2) return [];
      const offMs = group.reduce((sum, one) => sum + one.offMs, 0) / group.length;
      return [{ performed, sections: group.map(({ section }) => section), offMs }];
    });
}

/** The most of some sorted sections that lie together, on one side of the click. */
function nearestGroup<T extends { readonly offMs: number }>(sorted: readonly T[]): readonly T[] {
  let best: readonly T[] = [];
  for (const [from, first] of sorted.entries()) {
    const near = Math.min(TOGETHER_MS, Math.abs(first.offMs) / 3);
    const group = sorted
      .slice(from)
      .filter(({ offMs }) => offMs - first.offMs <= near && offMs * first.offMs > 0);
    if (group.length > best.length) best = group;
  }
  return best;
}

/** A pair is judged from so many onsets on. */
const LEAST_ONSETS = 12;
/** Standard errors that a share must be away from none. */
const SURE_ERRORS = 3;
const LEAST_SHARE = 0.15;

/**
 * Who follows whom, by linear phase correction as it is found among chamber players (Wing, Endo, Bradbury and Vorberg 2014,
 * "Optimal feedback correction in string quartet synchronization"): how much of its distance from the other a section makes
 * good by its next onset, beside what it makes good of its distance from the click.
 */
function followings(takes: readonly SectionTake[]): readonly Following[] {
  return takes.flatMap((follower) =>
    takes.flatMap((leader): Following[] => {
      if (follower === leader || follower.section === leader.section) return [];
      const share = followedShare(follower.take.onsets, leader.take.onsets);
      const back = followedShare(leader.take.onsets, follower.take.onsets);
      const isSure = share.value >= LEAST_SHARE && share.value > SURE_ERRORS * share.error;
      const isOneWay = share.value - back.value > Math.hypot(share.error, back.error);
      return isSure && isOneWay
        ? [{ follower: follower.section, leader: leader.section, share: share.value }]
        : [];
    }),
  );
}

interface Share {
  readonly value: number;
  readonly error: number;
}

/** Least squares of the next step of `own` on its distances from the click and from `other`: the second share and its error. */
function followedShare(own: readonly TakeOnset[], other: readonly TakeOnset[]): Share {
  const steps: Array<readonly [fromClick: number, fromOther: number, step: number]> = [];
  const places = new Map(other.map((onset, at) => [placeOf(onset, at), onset.offMs]));
  for (let at = 0; at + 1 < own.length; at++) {
    const [now, next] = [own[at]?.offMs ?? null, own[at + 1]?.offMs ?? null];
    const there = places.get(placeOf(own[at] as TakeOnset, at)) ?? null;
    if (now !== null && next !== null && there !== null) steps.push([-now, there - now, next - now]);
  }
  if (steps.length < LEAST_ONSETS) return { value: 0, error: Infinity };
  const sum = (pick: (step: (typeof steps)[number]) => number) =>
    steps.reduce((total, step) => total + pick(step), 0);
  const [cc, co, oo] = [sum(([c]) => c * c), sum(([c, o]) => c * o), sum(([, o]) => o * o)];
  const [cs, os] = [sum(([c, , s]) => c * s), sum(([, o, s]) => o * s)];
  const determinant = cc * oo - co * co;
  if (determinant < 1e-9 * cc * oo) return { value: 0, error: Infinity };
  const fromClick = (oo * cs - co * os) / determinant;
  const value = (cc * os - co * cs) / determinant;
  const rest = sum(([c, o, s]) => (s - fromClick * c - value * o) ** 2) / (steps.length - 2);
  return { value, error: Math.sqrt((rest * cc) / determinant) };
}

/** Loops pass a place more than once: which onset of the take it is belongs to it. */
function placeOf({ performed, atWholes }: TakeOnset, at: number): string {
  return `${at} ${performed} ${atWholes}`;
}

/** "Bars 11 and 12: reeds and brass are together, 90 ms late". */
export function togetherOffWords(
  { compiled }: Proof,
  togetherOff: readonly TogetherOff[],
): readonly string[] {
  return runsOf(togetherOff).map((bars) => {
    const [first, last] = [bars[0] as TogetherOff, bars.at(-1) as TogetherOff];
    const name = (performed: number) =>
      barName(compiled.labels, compiled.timeline.route.barIndex[performed] ?? 0);
    const mean = bars.reduce((sum, { offMs }) => sum + offMs, 0) / bars.length;
    const where =
      first === last ? name(first.performed) : `${name(first.performed)} to ${name(last.performed)}`;
    return `${where}: ${listed(first.sections)} are together, ${Math.round(Math.abs(mean))} ms ${mean < 0 ? 'ahead of' : 'behind'} the click`;
  });
}

/** Bars after one another in which the same sections are off to the same side. */
function runsOf(all: readonly TogetherOff[]): ReadonlyArray<readonly TogetherOff[]> {
  const runs: TogetherOff[][] = [];
  for (const one of all) {
    const last = runs.at(-1)?.at(-1);
    const goesOn =
      last?.performed === one.performed - 1 &&
      last.offMs * one.offMs > 0 &&
      last.sections.length === one.sections.length &&
      one.sections.every((section) => last.sections.includes(section));
    if (goesOn) runs.at(-1)?.push(one);
    else runs.push([one]);
  }
  return runs;
}

/** What went wrong, seam by seam: "bar 11: Reeds and Brass filled the bar up"; empty where every seam was held. */
export function ensembleSeamWords({ compiled }: Proof, seams: readonly EnsembleSeam[]): readonly string[] {
  return seams.flatMap(({ barIndex, did }) => {
    const wrong = did.filter(({ explanation }) => isMistake(explanation));
    if (wrong.length === 0) return [];
    const says = wrong.map(
      ({ explanation, sections }) => `${listed(sections)} ${EXPLANATION_WORDS[explanation].did}`,
    );
    return [`${barName(compiled.labels, barIndex)}: ${says.join('; ')}`];
  });
}

/** "Brass follow Reeds: by the next beat 40 % of what lies between them is made good". */
export function followingWords(following: readonly Following[]): readonly string[] {
  return following.map(
    ({ follower, leader, share }) =>
      `${follower} listen to ${leader}: by the next onset ${Math.round(100 * Math.min(1, share))} % of what lies between them is made good`,
  );
}
