import { barLabels, barName } from '../piece/labels.ts';
import { accepted, refused } from '../problem/problem.ts';
import { barAt, spanName } from './bars.ts';
import type { EditKind } from './edit.ts';

/** Takes a run of bars, with all that stands in them, to another place. */
export const moveBars: EditKind<'moveBars'> = (piece, { from, count, before }) => {
  const { bars } = piece;
  barAt(piece, from);
  barAt(piece, from + count - 1);
  if (before < 0 || before > bars.length) return refused('There is no such place in the piece');
  if (before >= from && before <= from + count)
    return refused(`${spanName(piece, { from, count })} already stand there`);
  const moved = bars.slice(from, from + count);
  const rest = [...bars.slice(0, from), ...bars.slice(from + count)];
  const at = before > from ? before - count : before;
  const where = before === bars.length ? 'to the end' : `before ${barName(barLabels(piece), before)}`;
  return accepted({
    piece: { ...piece, bars: [...rest.slice(0, at), ...moved, ...rest.slice(at)] },
    says: `${spanName(piece, { from, count })} moved ${where}`,
  });
};
