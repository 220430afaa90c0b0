import {
  isSameMeter,
  toNumber,
  barLength,
  type Bar,
  type BarGeometry,
  type Piece,
  type TempoMark,
} from '@anchorbeat/core';
import { meterWidth, tempoMarkWidth } from './signShapes.ts';

const SIGN_SIZE = 30;
export const TEMPO_SIZE = 15;
export const SIGN_LANE_Y = -90;
const UPPER_LANE_Y = -114;
const LOWER_TEMPO_Y = -84;
const GAP_PX = 12;
/** A smaller meter could not be read, and is left out. */
const LEAST_SIGN_SIZE = 13;

interface PlacedTempo {
  readonly mark: TempoMark;
  readonly x: number;
  readonly y: number;
}

interface PlacedSigns {
  readonly barIndex: number;
  /** Place of the bar in what is drawn, from 0. */
  readonly drawnAt: number;
  /** Where the meter is drawn, or null where it stays as it was, or has no room. */
  readonly meterX: number | null;
  /** Smaller than usual where the next meter is close. */
  readonly meterSize: number;
  readonly tempos: readonly PlacedTempo[];
}

/** Meters and tempo marks of a system from left to right; a tempo mark without room beside its meter goes one lane up. */
export function placeSigns(piece: Piece, bars: readonly BarGeometry[]): readonly PlacedSigns[] {
  const meters = bars.filter((bar, index) => index === 0 || !printsSameMeter(piece, bars[index - 1], bar));
  const starts = meters.map((bar) => bar.xPx);
  let upperEnd = -Infinity;
  let lowerEnd = -Infinity;
  const placed: PlacedSigns[] = [];
  for (const [drawnAt, geometry] of bars.entries()) {
    const bar = piece.bars[geometry.barIndex] as Bar;
    const hasMeter = meters.includes(geometry);
    const nextMeter = starts.find((start) => start > geometry.xPx) ?? Infinity;
    const meterSize = fittingSize(bar, nextMeter - geometry.xPx);
    const meterEnd = hasMeter ? geometry.xPx + 6 + meterWidth(bar.meter, meterSize) : geometry.xPx;
    if (!hasMeter && bar.tempoMarks.length === 0) continue;
    const tempos = bar.tempoMarks.filter(isPrinted).map((mark) => {
      const at = geometry.xPx + markShare(mark, bar) * geometry.widthPx;
      const x = mark.atWholes.n === 0 ? Math.max(meterEnd + GAP_PX, at + 6) : at;
      const end = x + tempoMarkWidth(mark, TEMPO_SIZE);
      const fits = end < nextMeter && x > lowerEnd;
      if (fits) lowerEnd = end + GAP_PX;
      const upperX = Math.max(mark.atWholes.n === 0 ? geometry.xPx + 6 : at, upperEnd);
      if (!fits) upperEnd = upperX + tempoMarkWidth(mark, TEMPO_SIZE) + GAP_PX;
      return { mark, x: fits ? x : upperX, y: fits ? LOWER_TEMPO_Y : UPPER_LANE_Y };
    });
    const meterX = hasMeter && meterSize >= LEAST_SIGN_SIZE ? geometry.xPx + 6 : null;
    placed.push({ barIndex: geometry.barIndex, drawnAt, meterX, meterSize, tempos });
  }
  return placed;
}

/** As large as usual, or as the room before the next meter lets it be. */
function fittingSize({ meter }: Bar, roomPx: number): number {
  return SIGN_SIZE * Math.min(1, Math.max(0, roomPx - 9) / meterWidth(meter, SIGN_SIZE));
}

/** A mark that only ends a ramp prints nothing. */
function isPrinted(mark: TempoMark): boolean {
  return Boolean(mark.term ?? mark.stated ?? mark.equivalence ?? mark.returns ?? mark.ramp);
}

/** How far into its bar a mark stands, by written length. */
function markShare(mark: TempoMark, bar: Bar): number {
  return toNumber(mark.atWholes) / toNumber(barLength(bar));
}

function printsSameMeter({ bars }: Piece, drawnBefore: BarGeometry | undefined, drawn: BarGeometry): boolean {
  const [before, bar] = [bars[drawnBefore?.barIndex ?? -1], bars[drawn.barIndex]];
  return before !== undefined && bar !== undefined && isSameMeter(before.meter, bar.meter);
}
