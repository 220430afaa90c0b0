import { accepted, refused } from '../problem/problem.ts';
import type { EditKind } from './edit.ts';

/** Renames the piece. */
export const setTitle: EditKind<'setTitle'> = (piece, { title }) => {
  const trimmed = title.trim();
  if (trimmed === '') return refused('Give the piece a title');
  return accepted({ piece: { ...piece, title: trimmed }, says: `Title is now ${trimmed}` });
};
