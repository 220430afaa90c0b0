import type { Bar, Piece } from '../piece/piece.ts';
import type { TempoMap } from '../tempo/tempoMap.ts';

/** Bars `from` up to `to` (exclusive) are not what they were; all others are the very same. */
export interface LocalChange {
  readonly from: number;
  readonly to: number;
}

/**
 * What lies between two pieces where it is a matter of a few bars' meters, pulses, notes, holds or answers: tempo map,
 * route and labels are then as before. Null where it is more than that.
 */
export function localChangeMaybe(before: Piece, after: Piece, tempoMap: TempoMap): LocalChange | null {
  const isSameShape =
    before.bars.length === after.bars.length && before.takesRepeatsAfterJump === after.takesRepeatsAfterJump;
  if (!isSameShape) return null;
  const from = before.bars.findIndex((bar, index) => bar !== after.bars[index]);
  if (from < 0) return { from: 0, to: 0 };
  const to = before.bars.findLastIndex((bar, index) => bar !== after.bars[index]) + 1;
  for (let index = from; index < to; index++) {
    const [was, is] = [before.bars[index] as Bar, after.bars[index] as Bar];
    if (was !== is && (!keepsItsMarks(was, is) || isInRamp(tempoMap, index))) return null;
  }
  return { from, to };
}

const MARKS = [
  'tempoMarks',
  'label',
  'rehearsalMark',
  'startsRepeat',
  'endsRepeat',
  'ending',
  'navigation',
] as const satisfies ReadonlyArray<keyof Bar>;

function keepsItsMarks(was: Bar, is: Bar): boolean {
  return MARKS.every((name) => isAlike(was[name], is[name])) && was.partial?.keeps === is.partial?.keeps;
}

/** By content: a bar that came from another thread shares nothing with the one it replaces. */
function isAlike(a: unknown, b: unknown): boolean {
  return a === b || JSON.stringify(a) === JSON.stringify(b);
}

/** The length of a bar inside a ramp shapes the whole ramp. */
function isInRamp({ changes, atBar }: TempoMap, barIndex: number): boolean {
  for (let index = atBar[barIndex] ?? 0; index < changes.length; index++) {
    const change = changes[index];
    if (!change || (change.barIndex > barIndex && index > (atBar[barIndex] ?? 0))) return false;
    if (change.law.kind === 'ramp') return true;
  }
  return false;
}
