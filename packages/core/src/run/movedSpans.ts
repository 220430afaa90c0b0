import { barsMovedIn } from '../difference/barsMoved.ts';
import type { Piece } from '../piece/piece.ts';
import { routeOf, type Route } from '../route/route.ts';
import type { PerformedSpan } from './settings.ts';

/** Where performed bars of one state of a piece are in another; null where they are not performed any more. */
export type PerformedMoved = readonly (number | null)[];

/** Follows performed bars from one state of a piece to another: each is the same time through the same written bar. */
export function performedMoved(before: Piece, after: Piece): PerformedMoved {
  const bars = barsMovedIn(before, after);
  const [was, is] = [routeOf(before), routeOf(after)];
  const now = new Map<string, number>();
  for (const [performed, bar] of is.barIndex.entries()) now.set(nameOf(is, performed, bar), performed);
  return Array.from(was.barIndex, (bar, performed) => {
    const moved = bars[bar] ?? null;
    return moved === null ? null : (now.get(nameOf(was, performed, moved)) ?? null);
  });
}

function nameOf({ pass }: Route, performed: number, bar: number): string {
  return `${bar} ${pass[performed]}`;
}

/** Spans where their bars are now, with those that came between them; without those of which nothing is performed any more. */
export function movedSpans<Span extends PerformedSpan>(
  spans: readonly Span[],
  moved: PerformedMoved,
): readonly Span[] {
  return spans.flatMap((span) => {
    let [from, to] = [Infinity, -Infinity];
    for (const performed of moved.slice(span.from, span.to)) {
      if (performed === null) continue;
      from = Math.min(from, performed);
      to = Math.max(to, performed + 1);
    }
    return from < to ? [{ ...span, from, to }] : [];
  });
}
