import { compare } from '../fraction/fraction.ts';
import { meterLength } from '../meter/meter.ts';
import { formatMeter } from '../meter/text.ts';
import { barLabels, barName } from '../piece/labels.ts';
import { refused } from '../problem/problem.ts';
import { lengthWords } from '../value/text.ts';
import { barAt, standsOutside, withBar } from './bars.ts';
import type { EditKind } from './edit.ts';

/** Makes a bar a pickup that keeps its last `lengthWholes`, or a full bar again with null. */
export const setPickup: EditKind<'setPickup'> = (piece, { bar: index, lengthWholes }) => {
  const { partial: _dropped, ...bar } = barAt(piece, index);
  const name = barName(barLabels(piece), index);
  if (lengthWholes === null)
    return withBar(piece, index, bar, `${name} is a full ${formatMeter(bar.meter)} bar`);
  if (lengthWholes.n <= 0 || compare(lengthWholes, meterLength(bar.meter)) >= 0) {
    return refused(`A pickup is shorter than its ${formatMeter(bar.meter)} bar and longer than nothing`, {
      bar: name,
    });
  }
  if (standsOutside(bar, lengthWholes)) {
    return refused(
      `The tempo mark or hold inside ${name} would fall outside the pickup: move or delete it first`,
    );
  }
  return withBar(
    piece,
    index,
    { ...bar, partial: { keeps: 'end', lengthWholes } },
    `${name} is a pickup of ${lengthWords(lengthWholes)}`,
  );
};
