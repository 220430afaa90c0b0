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
  const isSame = (was: number, is: number) => before.whole[was] === after.whole[is];
  return followed([before.whole.length, after.whole.length], isSame, (start, end) => {
    const [was, is] = [slice(before, start, end), slice(after, start, end)];
    const moved = was.whole.map((): number | null => null);
    for (const stretch of stretchesOf(alignBars(was.whole, is.whole)))
      for (const [bar, now] of matched(stretch, was.besides, is.besides)) moved[bar] = now;
    return moved;
  });
}

/** The same of two states of an open piece, which mostly share what an edit has left alone. */
export function barsMovedIn({ bars: before }: Piece, { bars: after }: Piece): BarsMoved {
  const isSame = (was: number, is: number) => before[was] === after[is];
  return followed([before.length, after.length], isSame, (start, end) => {
    const texts = (bars: readonly Bar[]) => barTexts(bars.slice(start, bars.length - end).map(writeBar));
    return barsMoved(texts(before), texts(after));
  });
}

/**
 * The same of several states of a piece, the oldest first: where the bars of each are in the last. They are followed from state to
 * state; what went on the way and stands in its place again in the last has come back.
 */
export function barsMovedToLast(states: readonly BarTexts[]): readonly BarsMoved[] {
  const last = states.at(-1);
  if (!last) return [];
  const all: BarsMoved[] = [];
  let [next, moved] = [last, [...last.whole.keys()] as BarsMoved];
  for (const state of [...states].reverse()) {
    const onward = barsMoved(state, next).map((bar) => (bar === null ? null : (moved[bar] ?? null)));
    moved = withThoseBack(state, onward, last);
    next = state;
    all.push(moved);
  }
  return all.reverse();
}

/** Bars that are found nowhere, between their neighbours that are: just like one that no bar has become there, they are that one. */
function withThoseBack({ whole }: BarTexts, moved: BarsMoved, last: BarTexts): BarsMoved {
  const found = [...moved];
  for (let from = moved.indexOf(null); from >= 0;) {
    const kept = moved.findIndex((bar, was) => was > from && bar !== null);
    const to = kept < 0 ? moved.length : kept;
    const after = (moved[from - 1] ?? -1) + 1;
    const there = last.whole.slice(after, moved[to] ?? last.whole.length);
    for (const step of alignBars(whole.slice(from, to), there))
      if (step.kind === 'kept') found[from + step.before] = after + step.after;
    from = moved.indexOf(null, to);
  }
  return found;
}

/** What is the same at the start and at the end of two lists stays where it is; what lies between is asked for. */
function followed(
  [before, after]: readonly [before: number, after: number],
  isSame: (was: number, is: number) => boolean,
  between: (start: number, end: number) => BarsMoved,
): BarsMoved {
  const shorter = Math.min(before, after);
  let start = 0;
  while (start < shorter && isSame(start, start)) start++;
  let end = 0;
  while (end < shorter - start && isSame(before - 1 - end, after - 1 - end)) end++;
  const moved = between(start, end).map((bar) => (bar === null ? null : bar + start));
  const [head, tail] = [Array.from({ length: start }), Array.from({ length: end })];
  return [...head.keys(), ...moved, ...tail.map((_, index) => after - end + index)];
}

function slice({ whole, besides }: BarTexts, start: number, end: number): BarTexts {
  return {
    whole: whole.slice(start, whole.length - end),
    besides: besides.slice(start, besides.length - end),
  };
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
