import type { LoggedCorrection } from '@anchorbeat/core';

/** Whether a later correction of the same place took over: players go by the last one. */
export function isSuperseded(corrections: readonly LoggedCorrection[], index: number): boolean {
  const place = corrections[index]?.place;
  return corrections.slice(index + 1).some((later) => later.place === place);
}
