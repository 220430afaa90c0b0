import { eachBar, type Check } from '../check.ts';

/** A printed number that comes twice, or that jumps. */
export const labels: Check = {
  id: 'labels',
  severity: 'question',
  name: 'Bar numbers doubled or skipped',
  explains: '“From 31” must mean one place. Parts that number differently send players to different bars.',
  looksAt: 'marks',
  find: (context) => {
    const first = new Map<string, number>();
    return eachBar(context, (_context, bar, barIndex) => {
      const label = context.labels[barIndex];
      if (!label) return null;
      const before = first.get(label);
      if (before === undefined) first.set(label, barIndex);
      const correction = {
        label: 'Let it count on',
        edit: { kind: 'setLabel', bar: barIndex, label: undefined },
      } as const;
      if (before !== undefined) {
        return {
          says: `The number ${label} is printed on two bars`,
          ...(bar.label != null && { correction }),
        };
      }
      const [was, is] = [Number(lastNumber(context.labels, barIndex)), Number(label)];
      if (bar.label == null || Number.isNaN(is) || Number.isNaN(was) || is === was + 1 || barIndex === 0)
        return null;
      return { says: `The bar numbers jump from ${was} to ${is}`, correction };
    });
  },
};

function lastNumber(all: ReadonlyArray<string | null>, before: number): string {
  for (let index = before - 1; index >= 0; index--) {
    const number = /^\d+/.exec(all[index] ?? '')?.[0];
    if (number) return number;
  }
  return 'none';
}
