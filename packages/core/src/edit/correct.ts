import { differencesBetween } from '../difference/difference.ts';
import { MAX_CORRECTIONS, type LoggedCorrection } from '../piece/piece.ts';
import { accepted, refused } from '../problem/problem.ts';
import { applyEdit } from './applyEdit.ts';
import type { EditKind } from './edit.ts';

/** Makes an edit and logs, place by place, what it put right. */
export const correct: EditKind<'correct'> = (piece, { edit, log }) => {
  const edited = applyEdit(piece, edit);
  if (!edited.ok) return edited;
  const logged = differencesBetween(piece, edited.value.piece).map(
    ({ place, was, is }): LoggedCorrection => ({ place, was, is, ...log }),
  );
  if (logged.length === 0) return refused('That changes nothing, so there is nothing to log');
  const corrections = [...(piece.corrections ?? []), ...logged].slice(-MAX_CORRECTIONS);
  const seen = log.spottedBy ? `, spotted by ${log.spottedBy}` : '';
  return accepted({
    piece: { ...edited.value.piece, corrections },
    says: `Corrected: ${edited.value.says}${seen}`,
  });
};
