import type { Piece } from '../piece/piece.ts';
import { readRepeats, type Repeat } from '../route/repeats.ts';
import { jumpsTaken, type Route } from '../route/route.ts';
import type { PerformedSpan } from './settings.ts';

/** An open repeat as performed: what goes round until somebody says go on, and the pass that leads out of it. */
export interface OpenRepeat {
  readonly round: PerformedSpan;
  /** The last pass on paper; the same as `round` where there are no endings. */
  readonly last: PerformedSpan;
}

/** Where the performance goes round until cued. A repeat that is only passed through after a jump is not among them. */
export function openRepeats(piece: Piece, route: Route): readonly OpenRepeat[] {
  const open = readRepeats(piece).repeats.filter(({ times }) => times === 'until cued');
  if (open.length === 0) return [];
  const jumps = piece.takesRepeatsAfterJump ? [] : jumpsTaken(piece);
  return open.flatMap((repeat) => {
    const end = route.barIndex.findIndex((bar) => repeat.ends.includes(bar));
    const jump = jumps.find(({ performed }) => performed >= end);
    return takingsOf(repeat, route).filter(({ round }) => !jump || round.from <= jump.performed);
  });
}

function takingsOf(repeat: Repeat, route: Route): OpenRepeat[] {
  const takings: OpenRepeat[] = [];
  for (let performed = 0; performed < route.barIndex.length; performed++) {
    if (route.barIndex[performed] !== repeat.start) continue;
    const pass = { from: performed, to: endOfPass(repeat, route, performed) };
    const before = takings.at(-1);
    if (before && before.last.to === pass.from) takings[takings.length - 1] = { ...before, last: pass };
    else takings.push({ round: pass, last: pass });
    performed = pass.to - 1;
  }
  return takings;
}

/** A pass ends where it goes back to its start, or leaves the bars of the repeat. */
function endOfPass({ start, ends, endings }: Repeat, { barIndex }: Route, from: number): number {
  const lastBar = Math.max(...ends, ...endings.map((ending) => ending.to));
  let performed = from + 1;
  while (performed < barIndex.length) {
    const bar = barIndex[performed] ?? -1;
    if (bar === start || bar < start || bar > lastBar) break;
    performed++;
  }
  return performed;
}

/**
 * Where to go on from a bar of a round, so that it becomes the last: the same written bar of the last pass; from an ending
 * that the last pass does not have, the start of that pass.
 */
export function wayOut({ round, last }: OpenRepeat, { barIndex }: Route, performed: number): number {
  if (round.from === last.from) return performed;
  for (let candidate = last.from; candidate < last.to; candidate++)
    if (barIndex[candidate] === barIndex[performed]) return candidate;
  return last.from;
}
