import type { Bar } from '../../piece/piece.ts';
import type { TempoMark } from '../../tempo/tempoMark.ts';
import type { Check, CheckContext } from '../check.ts';

/** A rit. or accel. that does not say how far it goes. */
export const rampTarget: Check = {
  id: 'ramp-target',
  severity: 'question',
  name: 'A ramp without a target',
  explains: 'Until it says where it arrives the click stays as it was.',
  looksAt: 'marks',
  find: (context) =>
    marksOf(context)
      .filter(({ mark }) => mark.ramp && !mark.ramp.target)
      .map(({ mark, barIndex }) => ({
        barIndex,
        says: `${mark.term ?? 'The ramp'} at ${context.nameOf(barIndex)} does not say what it arrives at: give it a tempo or “half as fast”`,
      })),
};

/** A ramp with its end marked, and another tempo on the way there. */
export const rampAcrossMark: Check = {
  id: 'ramp-across-mark',
  severity: 'error',
  name: 'A ramp across another tempo mark',
  explains: 'The mark in between ends the ramp; its end further on means nothing.',
  looksAt: 'marks',
  find: (context) => {
    let isOpen = false;
    let cutAt: number | null = null;
    return marksOf(context).flatMap(({ mark, barIndex }) => {
      const wasOpen = isOpen;
      const wasCutAt = cutAt;
      if (mark.ramp) [isOpen, cutAt] = [true, null];
      else if (mark.endsRamp) [isOpen, cutAt] = [false, null];
      else if (wasOpen && (mark.stated ?? mark.equivalence ?? mark.returns))
        [isOpen, cutAt] = [false, barIndex];
      if (!mark.endsRamp || wasOpen) return [];
      const where =
        wasCutAt === null
          ? 'no ramp is under way'
          : `the tempo at ${context.nameOf(wasCutAt)} has already ended it`;
      return [{ barIndex, says: `A ramp ends at ${context.nameOf(barIndex)}, but ${where}` }];
    });
  },
};

function marksOf({
  piece,
}: CheckContext): ReadonlyArray<{ readonly mark: TempoMark; readonly barIndex: number }> {
  return piece.bars.flatMap((bar: Bar, barIndex) =>
    bar.tempoMarks.length === 0 ? [] : bar.tempoMarks.map((mark) => ({ mark, barIndex })),
  );
}
