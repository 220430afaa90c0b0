import { ofOneShape, type Bar } from '../piece/piece.ts';
import { accepted } from '../problem/problem.ts';
import { barAt, spanName } from './bars.ts';
import type { EditKind } from './edit.ts';
import { withSectionMark } from './markSection.ts';

/** A section rests in these bars; whatever was said of it inside them goes. It enters in the bar after, unless that says otherwise. */
export const restSection: EditKind<'restSection'> = (piece, { section, from, count }) => {
  const bars = [...piece.bars];
  for (let index = from; index < from + count; index++) {
    const mark = index === from ? ({ section, does: 'rests' } as const) : null;
    bars[index] = ofOneShape(withSectionMark(barAt(piece, index), section, mark));
  }
  const after = bars[from + count];
  if (after && !says(after, section))
    bars[from + count] = ofOneShape(withSectionMark(after, section, { section, does: 'enters' }));
  return accepted({
    piece: { ...piece, bars },
    says: `${section} rests in ${spanName(piece, { from, count })}`,
  });
};

function says({ sectionMarks }: Bar, section: string): boolean {
  return sectionMarks?.some((mark) => mark.section === section) ?? false;
}
