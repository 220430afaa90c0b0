import { compare, equal, subtract } from '../../fraction/fraction.ts';
import { formatFraction } from '../../fraction/text.ts';
import { meterLength } from '../../meter/meter.ts';
import { barLength } from '../../piece/piece.ts';
import type { Check } from '../check.ts';

/** By custom a piece that begins with a pickup ends with a bar that the pickup completes. */
export const pickupAndLastBar: Check = {
  id: 'pickup-and-last-bar',
  severity: 'hint',
  name: 'Pickup and last bar',
  explains: 'When the piece or its section is repeated, the two halves make one bar.',
  looksAt: 'piece',
  find: ({ piece, nameOf }) => {
    const [first, last] = [piece.bars[0], piece.bars.at(-1)];
    if (first?.partial?.keeps !== 'end' || !last || piece.bars.length < 2) return [];
    const completes = subtract(meterLength(last.meter), first.partial.lengthWholes);
    if (completes.n <= 0 || equal(barLength(last), completes)) return [];
    const barIndex = piece.bars.length - 1;
    const isFull = compare(barLength(last), meterLength(last.meter)) === 0;
    return [
      {
        barIndex,
        says: `${isFull ? 'The last bar is full' : 'The last bar is cut'}, but the pickup leaves ${formatFraction(completes)} of a whole note for it`,
        correction: {
          label: `Cut ${nameOf(barIndex)} to ${formatFraction(completes)}`,
          edit: { kind: 'setPartial', bar: barIndex, partial: { keeps: 'start', lengthWholes: completes } },
        },
      },
    ];
  },
};
