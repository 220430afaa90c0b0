import { add, equal } from '../../fraction/fraction.ts';
import { isSameMeter } from '../../meter/text.ts';
import { meterLength } from '../../meter/meter.ts';
import { barLength } from '../../piece/piece.ts';
import { capital } from '../../words/capital.ts';
import type { BarCheck } from '../check.ts';

/** A bar that a repeat or a double bar cuts in two is printed with one number: its second part has none of its own. */
export const numberOfParts: BarCheck = {
  id: 'number-of-parts',
  severity: 'question',
  name: 'One bar with two numbers',
  explains:
    'Parts number a bar that is cut in two once; counted twice, every number after it is one too high.',
  looksAt: 'bar',
  at: ({ piece, nameOf, labels }, bar, barIndex) => {
    const before = piece.bars[barIndex - 1];
    if (bar.partial?.keeps !== 'end' || before?.partial?.keeps !== 'start') return null;
    if (bar.label !== undefined || !labels[barIndex - 1] || !isSameMeter(before.meter, bar.meter))
      return null;
    if (!equal(add(barLength(before), barLength(bar)), meterLength(bar.meter))) return null;
    const [first, second] = [nameOf(barIndex - 1), nameOf(barIndex)];
    return {
      says: `${capital(first)} and ${second} are two parts of one bar: in print the second has no number`,
      correction: {
        label: `Leave the number of ${second} out`,
        edit: { kind: 'setLabel', bar: barIndex, label: null },
      },
    };
  },
};
