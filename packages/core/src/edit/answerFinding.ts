import { lookOf } from '../check/answers.ts';
import { barLabels, barName } from '../piece/labels.ts';
import { barAt, withBar } from './bars.ts';
import type { EditKind } from './edit.ts';

/** Notes that a finding at a bar is meant, with the reason; null takes the answer back. */
export const answerFinding: EditKind<'answerFinding'> = (piece, { bar: index, check, reason }) => {
  const { answers = [], ...bar } = barAt(piece, index);
  const name = barName(barLabels(piece), index);
  const others = answers.filter((answer) => answer.check !== check);
  const now = reason === null ? others : [...others, { check, reason, about: lookOf(piece, index) }];
  const says = reason === null ? `${name}: open again` : `${name} is meant so: ${reason}`;
  return withBar(piece, index, now.length > 0 ? { ...bar, answers: now } : bar, says);
};
