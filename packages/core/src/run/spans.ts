import type { ClickChoice, ClickSpan, PerformedSpan } from './settings.ts';

/** What the click falls on in a performed bar. */
export function clickOnAt(
  { clickOn, clickSpans }: { readonly clickOn: ClickChoice; readonly clickSpans: readonly ClickSpan[] },
  performed: number,
): ClickChoice {
  const own = clickSpans.findLast(({ from, to }) => performed >= from && performed < to);
  return own?.clickOn ?? clickOn;
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
