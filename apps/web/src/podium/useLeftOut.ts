import type { PerformedSpan } from '@anchorbeat/core';
import { useAppSelector } from '../store/store.ts';
import { settingsNow } from '../store/transportSlice.ts';

/** What the run that sounds leaves out, or the next one will. */
export function useLeftOut(): readonly PerformedSpan[] {
  return useAppSelector(({ transport }) => settingsNow(transport).leftOut);
}
