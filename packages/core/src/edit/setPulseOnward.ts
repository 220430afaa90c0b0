import { meterRun } from './bars.ts';
import type { EditKind } from './edit.ts';
import { setPulse } from './setPulse.ts';

/** Has a bar and those after it beaten as chosen, as far as the meter lasts. */
export const setPulseOnward: EditKind<'setPulseOnward'> = (piece, { from, pulse }) =>
  setPulse(piece, { kind: 'setPulse', ...meterRun(piece, from), pulse });
