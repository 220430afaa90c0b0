import type { BarGeometry, RestRun } from '@anchorbeat/core';

/** A stretch of a rest of several bars as it is drawn. */
interface DrawnRest {
  readonly run: RestRun;
  readonly xPx: number;
  readonly widthPx: number;
  readonly firstBar: number;
}

/** The stretches of each long rest that stand next to each other in what is drawn. */
export function drawnRests(bars: readonly BarGeometry[]): readonly DrawnRest[] {
  const drawn: DrawnRest[] = [];
  let before: BarGeometry | undefined;
  for (const bar of bars) {
    const last = drawn.at(-1);
    const goesOn = bar.restRun && before?.restRun === bar.restRun && before.barIndex + 1 === bar.barIndex;
    if (last && goesOn) drawn[drawn.length - 1] = { ...last, widthPx: bar.xPx + bar.widthPx - last.xPx };
    else if (bar.restRun)
      drawn.push({ run: bar.restRun, xPx: bar.xPx, widthPx: bar.widthPx, firstBar: bar.barIndex });
    before = bar;
  }
  return drawn;
}
