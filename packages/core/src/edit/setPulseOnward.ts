import { formatMeter } from '../meter/text.ts';
import { barAt } from './bars.ts';
import type { EditKind } from './edit.ts';
import { setPulse } from './setPulse.ts';

/** Has a bar and those after it beaten as chosen, as far as the meter lasts. */
export const setPulseOnward: EditKind<'setPulseOnward'> = (piece, { from, pulse }) => {
  const meter = formatMeter(barAt(piece, from).meter);
  const end = piece.bars.findIndex((bar, index) => index > from && formatMeter(bar.meter) !== meter);
  return setPulse(piece, {
    kind: 'setPulse',
    from,
    count: (end < 0 ? piece.bars.length : end) - from,
    pulse,
  });
};
