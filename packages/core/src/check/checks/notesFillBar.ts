import { rhythmFill } from '../../rhythm/fill.ts';
import { formatMeter } from '../../meter/text.ts';
import type { BarCheck } from '../check.ts';

/** The notes of a bar add up to its length. */
export const notesFillBar: BarCheck = {
  id: 'notes-fill-bar',
  severity: 'question',
  name: 'Notes that do not fill the bar',
  explains: 'Whoever counts the notes and whoever counts the meter arrive at different moments.',
  looksAt: 'bar',
  at: (context, bar, barIndex) => {
    if (!bar.rhythm) return null;
    const { missingWholes, says, fittingMeter: meter } = rhythmFill(bar, bar.rhythm);
    if (missingWholes.n === 0) return null;
    const correction = meter && {
      label: `Make it ${formatMeter(meter)}`,
      edit: { kind: 'setMeter' as const, from: barIndex, count: 1, meter },
    };
    return {
      says: `The notes of ${context.nameOf(barIndex)} ${says}`,
      ...(correction && !bar.partial && { correction }),
    };
  },
};
