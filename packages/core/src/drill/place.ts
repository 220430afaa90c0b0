import type { CompiledPiece } from '../compile/compile.ts';
import type { BarsMoved } from '../difference/barsMoved.ts';
import { writtenBar, type Proof } from '../proof/proof.ts';
import type { PerformedSpan } from '../run/settings.ts';
import { performedCount } from '../timeline/query.ts';

/**
 * What is drilled: the seam before a written bar, or a span of bars. `label` is the printed number of that bar when it was
 * noted, so that the place is found again after bars were put in or taken out before it.
 */
export interface DrillPlace {
  readonly kind: 'seam' | 'bars';
  readonly barIndex: number;
  readonly label: string | null;
  /** How many bars a span has; 0 for a seam, which lies between two. */
  readonly bars: number;
}

/** Bars played before and after what is drilled. For a seam both are at least 1. */
export interface DrillContext {
  readonly before: number;
  readonly after: number;
}

export function seamPlace({ labels }: Pick<CompiledPiece, 'labels'>, barIndex: number): DrillPlace {
  return { kind: 'seam', barIndex, label: labels[barIndex] ?? null, bars: 0 };
}

export function barsPlace(
  { labels }: Pick<CompiledPiece, 'labels'>,
  barIndex: number,
  bars: number,
): DrillPlace {
  return { kind: 'bars', barIndex, label: labels[barIndex] ?? null, bars };
}

/**
 * The written bar a noted place is at now: the bar with its printed number, the nearest where several have it; the same
 * index where no bar has a number like it. Null where the piece has become too short.
 */
export function barOfPlaceMaybe(labels: ReadonlyArray<string | null>, place: DrillPlace): number | null {
  let nearest: number | null = null;
  if (place.label !== null && labels[place.barIndex] !== place.label) {
    labels.forEach((label, index) => {
      if (label !== place.label) return;
      if (nearest === null || Math.abs(index - place.barIndex) < Math.abs(nearest - place.barIndex))
        nearest = index;
    });
  }
  return nearest ?? (place.barIndex < labels.length ? place.barIndex : null);
}

/** Where a place is after the bars have moved, its first bar and how many it has; null where nothing is left of it. */
export function movedPlaceMaybe(
  { kind, barIndex, bars }: Omit<DrillPlace, 'label'>,
  moved: BarsMoved,
): Pick<DrillPlace, 'barIndex' | 'bars'> | null {
  const left = moved.slice(barIndex, barIndex + Math.max(1, bars)).filter((bar) => bar !== null);
  const [first, last] = [left[0], left.at(-1)];
  if (first === undefined || last === undefined) return null;
  return { barIndex: first, bars: kind === 'seam' ? 0 : last - first + 1 };
}

/** Whether running a place goes over the seam before a written bar; both as they are now. */
export function goesOver(labels: ReadonlyArray<string | null>, place: DrillPlace, seamBar: number): boolean {
  const bar = barOfPlaceMaybe(labels, place);
  if (bar === null) return false;
  return place.kind === 'seam' ? bar === seamBar : seamBar > bar && seamBar < bar + place.bars;
}

/** The performed bars of a drill, or null where its place is never performed. */
export function drillSpanMaybe(
  compiled: CompiledPiece,
  place: DrillPlace,
  context: DrillContext,
): PerformedSpan | null {
  const performed = performedOfPlaceMaybe(compiled, place);
  if (performed === null) return null;
  const count = performedCount(compiled.timeline);
  const from = Math.max(0, performed - context.before);
  return { from, to: Math.min(count, Math.max(from + 1, performed + place.bars + context.after)) };
}

/** The performed bar at which a place is first heard: for a seam, the bar after it. */
export function performedOfPlaceMaybe(compiled: CompiledPiece, place: DrillPlace): number | null {
  const bar = barOfPlaceMaybe(compiled.labels, place);
  if (bar === null) return null;
  if (place.kind === 'seam') {
    const seam = compiled.seams.find(({ performed }) => compiled.timeline.route.barIndex[performed] === bar);
    if (seam) return seam.performed;
  }
  const performed = compiled.firstPerformed[bar] ?? -1;
  return performed < 0 ? null : performed;
}

/** Bars to the nearest rehearsal mark on either side: how far the phrase around a performed bar is taken to reach. */
export function phraseAround(proof: Proof, performed: number): DrillContext {
  const count = performedCount(proof.compiled.timeline);
  const isMarked = (at: number) => writtenBar(proof, at).rehearsalMark !== undefined;
  let before = 1;
  while (before < MOST_PHRASE_BARS && before < performed && !isMarked(performed - before)) before++;
  let after = 1;
  while (after < MOST_PHRASE_BARS && performed + after < count && !isMarked(performed + after)) after++;
  return { before, after };
}

const MOST_PHRASE_BARS = 8;
