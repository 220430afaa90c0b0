import { differencesBetween } from '../difference/difference.ts';
import { accepted, refused } from '../problem/problem.ts';
import { howMany } from '../words/howMany.ts';
import type { EditKind } from './edit.ts';

const TOLD = 3;

/** Puts another piece in the place of this one, and says what that changes. */
export const replacePiece: EditKind<'replacePiece'> = (piece, { piece: other, how }) => {
  const differences = differencesBetween(piece, other);
  if (differences.length === 0) return refused('Nothing changes');
  const told = differences.slice(0, TOLD).map(({ says }) => says);
  const more = differences.length - told.length;
  const rest = more > 0 ? `; and ${howMany(more, 'more change')}` : '';
  return accepted({ piece: other, says: `${how}: ${told.join('; ')}${rest}` });
};
