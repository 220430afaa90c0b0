import { formatMeter } from '../../meter/text.ts';
import { oddBarMaybe } from '../../seam/oddBar.ts';
import type { BarCheck } from '../check.ts';

/** A single bar that is a fraction of a beat shorter or longer than its neighbours. */
export const oddBar: BarCheck = {
  id: 'odd-bar',
  severity: 'question',
  name: 'A bar a little shorter or longer than its neighbours',
  explains:
    'It may be meant, or a misprint. If it is meant, it is where everyone will round up to a full bar.',
  looksAt: 'bar',
  at: (context, bar, barIndex) => {
    const odd = oddBarMaybe(context.piece, barIndex);
    const neighbour = context.piece.bars[barIndex - 1];
    if (!odd || !neighbour) return null;
    const meter = formatMeter(neighbour.meter);
    return {
      says: `${upper(context.nameOf(barIndex))} is ${formatMeter(bar.meter)}, ${odd.words} between bars of ${meter}: on purpose?`,
      correction: {
        label: `Make it ${meter}`,
        edit: { kind: 'setMeter', from: barIndex, count: 1, meter: neighbour.meter },
      },
    };
  },
};

export function upper(text: string): string {
  return text.charAt(0).toUpperCase() + text.slice(1);
}
