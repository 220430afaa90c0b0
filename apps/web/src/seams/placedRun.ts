import type { DrillResponse, RunResponse } from '@anchorbeat/contract';
import { howMany, type DrillPlace, type SeamReadiness } from '@anchorbeat/core';
import { dayText } from '../ui/dayText.ts';

/** A logged run as the core looks at it, where it is in the piece as it was saved last. */
export type PlacedRun = RunResponse & { readonly place: DrillPlace };

export function placedRun(run: RunResponse): PlacedRun {
  return { ...run, place: placeOf(run) };
}

/** A place whose bars were taken out: no piece is so long. */
const NOWHERE = { barIndex: Infinity, label: null };

/** Where a run or a kept drill is by now. */
export function placeOf({
  placeKind: kind,
  barIndex,
  label,
  bars,
  placeNow,
}: Pick<DrillResponse | RunResponse, 'placeKind' | 'barIndex' | 'label' | 'bars' | 'placeNow'>): DrillPlace {
  if (placeNow === null) return { kind, bars, ...NOWHERE };
  return { kind, barIndex, label, bars, ...placeNow };
}

/** How a seam stands, in a line. */
export function recordWords({ runs, lastAt, bestPercent, readiness }: SeamReadiness): string {
  if (runs === 0) return 'not yet rehearsed';
  return [
    howMany(runs, 'run'),
    lastAt && `last ${dayText(new Date(lastAt))}`,
    bestPercent !== null && `best ${Math.round(bestPercent)} %`,
    readiness !== null && `${Math.round(100 * readiness)} % ready`,
  ]
    .filter(Boolean)
    .join(' · ');
}
