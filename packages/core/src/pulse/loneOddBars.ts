import { meterLength, type Meter } from '../meter/meter.ts';
import type { Piece } from '../piece/piece.ts';
import { groupsOfMaybe, lastBeatOdd } from './advice.ts';
import { neighbourBeatMaybe } from './adviceAt.ts';

/** A bar that was given groups, and which. */
interface GroupedBar {
  readonly barIndex: number;
  readonly groups: readonly number[];
}

/**
 * Gives every ungrouped bar that is a little shorter or longer than those on both sides of it their beat, with a short or
 * a long last one: 15/16 between bars of 4/4 is 4+4+4+3. For scores that do not say how their bars are grouped.
 */
export function withLoneOddBarsGrouped(piece: Piece): {
  readonly piece: Piece;
  readonly grouped: readonly GroupedBar[];
} {
  const grouped = piece.bars.flatMap(({ meter }, barIndex): readonly GroupedBar[] => {
    const groups = groupsOfLoneOddBarMaybe(piece, barIndex, meter);
    return groups ? [{ barIndex, groups }] : [];
  });
  if (grouped.length === 0) return { piece, grouped };
  const bars = [...piece.bars];
  for (const { barIndex, groups } of grouped) {
    const bar = bars[barIndex];
    const part = bar?.meter.parts[0];
    if (bar && part) bars[barIndex] = { ...bar, meter: { ...bar.meter, parts: [{ ...part, groups }] } };
  }
  return { piece: { ...piece, bars }, grouped };
}

function groupsOfLoneOddBarMaybe(piece: Piece, barIndex: number, meter: Meter): readonly number[] | null {
  const [part] = meter.parts;
  const isUngrouped = meter.parts.length === 1 && part?.groups.length === 1;
  const beat = isUngrouped && !piece.bars[barIndex]?.pulse ? neighbourBeatMaybe(piece, barIndex) : null;
  const lengths = beat && lastBeatOdd(meterLength(meter), beat);
  const groups = lengths && groupsOfMaybe(meter, lengths);
  return groups && groups.length > 1 ? groups : null;
}
