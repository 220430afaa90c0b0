import type { RunResponse } from '@anchorbeat/contract';
import { howMany, type DrillPlace, type SeamReadiness } from '@anchorbeat/core';
import { dayText } from '../ui/dayText.ts';

/** A logged run as the core looks at it. */
export type PlacedRun = RunResponse & { readonly place: DrillPlace };

export function placedRun(run: RunResponse): PlacedRun {
  const { placeKind, barIndex, label, bars } = run;
  return { ...run, place: { kind: placeKind, barIndex, label, bars } };
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
