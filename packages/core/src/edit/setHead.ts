import { MAX_SECTIONS, type Piece } from '../piece/piece.ts';
import { accepted, refused } from '../problem/problem.ts';
import type { EditKind } from './edit.ts';
import { capital } from '../words/capital.ts';

/** Sets what stands at the head of the piece; what is not named stays. */
export const setHead: EditKind<'setHead'> = (piece, { head }) => {
  const { title = piece.title, subtitle = piece.subtitle, composer = piece.composer } = head;
  if (title.trim() === '') return refused('Give the piece a title');
  const { key = piece.key, style = piece.style, sections = piece.sections } = head;
  const names = [...new Set((sections ?? []).map((name) => name.trim()).filter(Boolean))];
  if (names.length > MAX_SECTIONS) return refused(`A piece has at most ${MAX_SECTIONS} sections`);
  const { key: _key, style: _style, sections: _sections, ...rest } = piece;
  const changed: Piece = {
    ...rest,
    title: title.trim(),
    subtitle: subtitle.trim(),
    composer: composer.trim(),
    ...(key?.trim() && { key: key.trim() }),
    ...(style?.trim() && { style: style.trim() }),
    ...(names.length > 0 && { sections: names }),
  };
  return accepted({ piece: changed, says: `${headWords(Object.keys(head))} of the piece set` });
};

function headWords(names: readonly string[]): string {
  return capital(names.join(', '));
}
