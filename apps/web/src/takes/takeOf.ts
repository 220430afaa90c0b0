import type { RunResponse } from '@anchorbeat/contract';
import type { TakeRecord } from '@anchorbeat/core';

/** What was played along with a run: at a section's stand, or at the podium where `section` is null; null where nothing was. */
export function takeOf(
  run: Pick<RunResponse, 'take' | 'sectionTakes'>,
  section: string | null,
): TakeRecord | null {
  if (section === null) return run.take ?? null;
  return run.sectionTakes?.find((one) => one.section === section)?.take ?? null;
}
