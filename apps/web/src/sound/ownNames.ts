import { Kept } from '../kept/kept.ts';

/** The words that were recorded in this browser in somebody's own voice, by what is shown for them. */
export const keptOwnNames = new Kept<readonly string[]>('anchorbeat.ownWords', (stored) =>
  Array.isArray(stored) ? stored.filter((name): name is string => typeof name === 'string') : [],
);
