import { differencesBetween } from '../difference/difference.ts';
import { MAX_CORRECTIONS, type LoggedCorrection, type Piece } from '../piece/piece.ts';
import { accepted, refused, type Result } from '../problem/problem.ts';
import type { Edit, Edited, EditKind } from './edit.ts';

/** Makes an edit, in the way that is given, and logs place by place what it put right. */
export const correctBy =
  (apply: (piece: Piece, edit: Edit) => Result<Edited>): EditKind<'correct'> =>
  (piece, { edit, log }) => {
    const edited = apply(piece, edit);
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
