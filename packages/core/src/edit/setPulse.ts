import { accepted, refused } from '../problem/problem.ts';
import { pulseChoiceProblemMaybe } from '../pulse/choice.ts';
import { formatPulseChoice } from '../pulse/text.ts';
import { barAt, spanName } from './bars.ts';
import type { EditKind } from './edit.ts';

/** Has bars beaten as chosen, or as usual with undefined. */
export const setPulse: EditKind<'setPulse'> = (piece, { from, count, pulse }) => {
  const bars = [...piece.bars];
  for (let index = from; index < from + count; index++) {
    const bar = barAt(piece, index);
    const problem = pulse && pulseChoiceProblemMaybe(bar, pulse);
    if (problem) return refused(problem);
    bars[index] = { ...bar, pulse };
  }
  const how = pulse ? formatPulseChoice(pulse) : 'as usual';
  return accepted({ piece: { ...piece, bars }, says: `${spanName(piece, { from, count })} beaten ${how}` });
};
