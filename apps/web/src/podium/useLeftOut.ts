import type { PerformedSpan } from '@anchorbeat/core';
import { useAppSelector } from '../store/store.ts';

/** What the run that sounds leaves out, or the next one will. */
export function useLeftOut(): readonly PerformedSpan[] {
  return useAppSelector(({ transport }) => (transport.run?.settings ?? transport.settings).leftOut);
}
