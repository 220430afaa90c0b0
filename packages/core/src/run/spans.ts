import type { ClickChoice, ClickSpan, PerformedSpan } from './settings.ts';

/** What the click falls on in a performed bar. */
export function clickOnAt(
  { clickOn, clickSpans }: { readonly clickOn: ClickChoice; readonly clickSpans: readonly ClickSpan[] },
  performed: number,
): ClickChoice {
  const own = clickSpans.findLast(({ from, to }) => performed >= from && performed < to);
  return own?.clickOn ?? clickOn;
}

/** In how many bars a later one comes, where some are left out today: 1 is the next bar; null for one that is left out itself. */
export function barsUntilMaybe(
  leftOut: readonly PerformedSpan[],
  performed: number,
  to: number,
): number | null {
  if (leftOut.some((span) => span.from <= to && to < span.to)) return null;
  const skipped = leftOut.reduce(
    (sum, span) => sum + Math.max(0, Math.min(span.to, to) - Math.max(span.from, performed + 1)),
    0,
  );
  return to - performed - skipped;
}

/** Spans with a further one left out; where it was left out as a whole it is taken in again. In order, and apart. */
export function leftOutToggled(
  spans: readonly PerformedSpan[],
  { from, to }: PerformedSpan,
): readonly PerformedSpan[] {
  const isOut = spans.some((span) => span.from <= from && to <= span.to);
  if (isOut)
    return spans.flatMap((span) =>
      [
        { from: span.from, to: Math.min(span.to, from) },
        { from: Math.max(span.from, to), to: span.to },
      ].filter((rest) => rest.from < rest.to),
    );
  const joined: { from: number; to: number }[] = [];
  for (const span of [...spans, { from, to }].sort((a, b) => a.from - b.from)) {
    const last = joined.at(-1);
    if (last && span.from <= last.to) last.to = Math.max(last.to, span.to);
    else joined.push({ ...span });
  }
  return joined;
}

/** Spans with another click for one of them; null for the click of all the others. */
export function clickSpanSet(
  spans: readonly ClickSpan[],
  { from, to }: PerformedSpan,
  clickOn: ClickChoice | null,
): readonly ClickSpan[] {
  const others = spans.filter((span) => span.from !== from || span.to !== to);
  return clickOn === null ? others : [...others, { from, to, clickOn }];
}
