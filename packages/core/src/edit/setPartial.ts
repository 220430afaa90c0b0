import { compare } from '../fraction/fraction.ts';
import { meterLength } from '../meter/meter.ts';
import { formatMeter } from '../meter/text.ts';
import { barLabels, barName } from '../piece/labels.ts';
import { refused } from '../problem/problem.ts';
import { ofAWhole } from '../value/text.ts';
import { barAt, standsOutside, withBar } from './bars.ts';
import type { EditKind } from './edit.ts';

/** Cuts a bar to its beginning or its end, or makes it full again with undefined. */
export const setPartial: EditKind<'setPartial'> = (piece, { bar: index, partial }) => {
  const { partial: _was, ...bar } = barAt(piece, index);
  const name = barName(barLabels(piece), index);
  if (!partial) return withBar(piece, index, bar, `${name} is a full ${formatMeter(bar.meter)} bar`);
  if (partial.lengthWholes.n <= 0 || compare(partial.lengthWholes, meterLength(bar.meter)) >= 0) {
    return refused(
      `A part of ${name} is shorter than its ${formatMeter(bar.meter)} bar and longer than nothing`,
    );
  }
  if (standsOutside(bar, partial.lengthWholes)) {
    return refused(`The tempo mark or hold inside ${name} would fall outside it: move or delete it first`);
  }
  return withBar(piece, index, { ...bar, partial }, `${name} is cut to ${ofAWhole(partial.lengthWholes)}`);
};
