import type { BarDocument } from '../document/document.ts';
import { writeBar } from '../document/barFields.ts';
import type { Bar, Piece } from '../piece/piece.ts';
import { alignBars, type Alignment } from './alignBars.ts';

/** Where each bar of one state of a piece is in another: its index there, rising, or null where it was taken out. */
export type BarsMoved = readonly (number | null)[];

/** The bars of a state of a piece, each as two texts by which it is known again. */
export interface BarTexts {
  /** All it holds, with the meter that is written in it or goes on in it. */
  readonly whole: readonly string[];
  /** What it holds besides a meter. */
  readonly besides: readonly string[];
}

export function barTexts(bars: readonly BarDocument[]): BarTexts {
  let going: string | undefined;
  const whole: string[] = [];
  const besides: string[] = [];
  for (const { meter, ...bar } of bars) {
    going = meter ?? going;
    const text = JSON.stringify(bar);
    besides.push(text);
    whole.push(`${going} ${text}`);
  }
  return { whole, besides };
}

/**
 * Follows the bars of a piece from one state of it to another. Bars are matched by all they hold; where more or fewer stand in the
 * place of some that changed, by what they hold besides a meter, and what is left in order.
 */
export function barsMoved(before: BarTexts, after: BarTexts): BarsMoved {
  const moved = before.whole.map((): number | null => null);
  for (const stretch of stretchesOf(alignBars(before.whole, after.whole)))
    for (const [was, is] of matched(stretch, before.besides, after.besides)) moved[was] = is;
  return moved;
}

/** The same of two states of an open piece, which mostly share what an edit has left alone. */
export function barsMovedIn({ bars: before }: Piece, { bars: after }: Piece): BarsMoved {
  const shorter = Math.min(before.length, after.length);
  let start = 0;
  while (start < shorter && before[start] === after[start]) start++;
  let end = 0;
  while (end < shorter - start && before.at(-1 - end) === after.at(-1 - end)) end++;
  const middle = (bars: readonly Bar[]) => barTexts(bars.slice(start, bars.length - end).map(writeBar));
  return [
    ...before.slice(0, start).keys(),
    ...barsMoved(middle(before), middle(after)).map((bar) => (bar === null ? null : bar + start)),
    ...Array.from({ length: end }, (_, index) => after.length - end + index),
  ];
}

/** Neighbouring bars before and after that stand for each other: one of each where a bar was kept. */
interface Stretch {
  readonly before: readonly number[];
  readonly after: readonly number[];
}

function stretchesOf(steps: readonly Alignment[]): readonly Stretch[] {
  const stretches: Stretch[] = [];
  let changed: { before: number[]; after: number[] } = { before: [], after: [] };
  for (const step of steps) {
    if (step.kind === 'kept') {
      stretches.push(changed, { before: [step.before], after: [step.after] });
      changed = { before: [], after: [] };
      continue;
    }
    if (step.kind !== 'added') changed.before.push(step.before);
    if (step.kind !== 'removed') changed.after.push(step.after);
  }
  return [...stretches, changed];
}

function matched(
  { before, after }: Stretch,
  textsBefore: readonly string[],
  textsAfter: readonly string[],
): readonly (readonly [number, number])[] {
  if (before.length === after.length) return before.map((was, at) => [was, after[at] as number] as const);
  const textsOf = (texts: readonly string[], bars: readonly number[]) => bars.map((bar) => texts[bar] ?? '');
  const steps = alignBars(textsOf(textsBefore, before), textsOf(textsAfter, after));
  return steps.flatMap((step) =>
    step.kind === 'kept' || step.kind === 'changed'
      ? [[before[step.before] as number, after[step.after] as number] as const]
      : [],
  );
}
