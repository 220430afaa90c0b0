import type { Bar, Piece } from './piece.ts';

const LEADING_NUMBER = /^\d+/;

/**
 * The printed label of every bar, in written order; null where none is printed. Labels count on from
 * the last printed number; a pickup at the start has none.
 */
export function barLabels(piece: Piece): ReadonlyArray<string | null> {
  let next = 1;
  return piece.bars.map((bar, index) => {
    const label = bar.label === undefined ? impliedLabel(bar, index, next) : bar.label;
    const printed = label === null ? null : LEADING_NUMBER.exec(label);
    if (printed) next = Number(printed[0]) + 1;
    return label;
  });
}

function impliedLabel(bar: Bar, index: number, next: number): string | null {
  return index === 0 && bar.partial?.keeps === 'end' ? null : String(next);
}

/** How a bar is named in a sentence: "bar 12", "the pickup", "the bar after 12". */
export function barName(labels: ReadonlyArray<string | null>, barIndex: number): string {
  const label = labels[barIndex];
  if (label) return `bar ${label}`;
  if (barIndex === 0) return 'the pickup';
  return `the bar after ${labels.slice(0, barIndex).findLast((l) => l !== null) ?? 'the pickup'}`;
}
