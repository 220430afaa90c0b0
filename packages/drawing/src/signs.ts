import {
  isSameMeter,
  toNumber,
  barLength,
  type Bar,
  type BarGeometry,
  type Piece,
  type TempoMark,
} from '@anchorbeat/core';
import type { LineRows } from './lineRows.ts';
import { meterWidth, tempoMarkWidth } from './signShapes.ts';

const GAP_PX = 12;
const SIGN_INSET_PX = 6;
const MARK_GAP_PX = 5;
/** How far a mark may stand out over the end of its system. */
const OVERHANG_PX = 10;
/** A smaller meter could not be read, and is left out. */
const LEAST_SIGN_SIZE = 13;

interface PlacedTempo {
  readonly mark: TempoMark;
  readonly x: number;
  /** Whether it stands over everything else, having no room beside its meter. */
  readonly isUpper: boolean;
}

export interface PlacedMark {
  readonly text: string;
  readonly x: number;
  readonly widthPx: number;
  readonly fontSize: number;
}

export interface PlacedSigns {
  readonly barIndex: number;
  /** Place of the bar in what is drawn, from 0. */
  readonly drawnAt: number;
  /** Where the meter is drawn, or null where it stays as it was, or has no room. */
  readonly meterX: number | null;
  /** Smaller than usual where the next meter is close. */
  readonly meterSize: number;
  /** The rehearsal mark, in its box at the barline. */
  readonly mark: PlacedMark | null;
  readonly tempos: readonly PlacedTempo[];
}

/**
 * Rehearsal marks, meters and tempo marks of a system from left to right; a tempo mark without room beside its meter
 * goes one lane up.
 */
export function placeSigns(
  piece: Piece,
  bars: readonly BarGeometry[],
  { signSize, tempoSize }: Pick<LineRows, 'signSize' | 'tempoSize'>,
): readonly PlacedSigns[] {
  const meters = bars.filter((bar, index) => index === 0 || !printsSameMeter(piece, bars[index - 1], bar));
  const isMarked = (drawn: BarGeometry) => piece.bars[drawn.barIndex]?.rehearsalMark !== undefined;
  const starts = bars.filter((bar) => meters.includes(bar) || isMarked(bar)).map((bar) => bar.xPx);
  const lastBar = bars.at(-1);
  const systemEnd = lastBar ? lastBar.xPx + lastBar.widthPx + OVERHANG_PX : 0;
  let upperEnd = -Infinity;
  let lowerEnd = -Infinity;
  const placed: PlacedSigns[] = [];
  for (const [drawnAt, geometry] of bars.entries()) {
    const bar = piece.bars[geometry.barIndex] as Bar;
    const hasMeter = meters.includes(geometry);
    const mark = placedMark(bar, geometry.xPx, signSize);
    if (!hasMeter && !mark && bar.tempoMarks.length === 0) continue;
    const nextStart = starts.find((start) => start > geometry.xPx) ?? Infinity;
    const signX = mark ? mark.x + mark.widthPx + MARK_GAP_PX : geometry.xPx + SIGN_INSET_PX;
    const meterSize = fittingSize(bar, nextStart - signX, signSize);
    const meterEnd = hasMeter ? signX + meterWidth(bar.meter, meterSize) : mark ? signX : geometry.xPx;
    if (hasMeter || mark) lowerEnd = Math.max(lowerEnd, meterEnd);
    const tempos = bar.tempoMarks.filter(isPrinted).map((tempoMark) => {
      const at = geometry.xPx + markShare(tempoMark, bar) * geometry.widthPx;
      const isFirst = tempoMark.atWholes.n === 0;
      const x = isFirst ? Math.max(meterEnd + GAP_PX, at + SIGN_INSET_PX) : at;
      const end = x + tempoMarkWidth(tempoMark, tempoSize);
      const fits = end < nextStart && x > lowerEnd && end <= systemEnd;
      if (fits) lowerEnd = end + GAP_PX;
      const wished = isFirst ? geometry.xPx + SIGN_INSET_PX : at;
      // A mark that would run over the end of the system stands as far left as it must.
      const upperX = Math.max(
        Math.min(wished, systemEnd - tempoMarkWidth(tempoMark, tempoSize)),
        upperEnd,
        0,
      );
      if (!fits) upperEnd = upperX + tempoMarkWidth(tempoMark, tempoSize) + GAP_PX;
      return { mark: tempoMark, x: fits ? x : upperX, isUpper: !fits };
    });
    const meterX = hasMeter && meterSize >= LEAST_SIGN_SIZE ? signX : null;
    placed.push({ barIndex: geometry.barIndex, drawnAt, meterX, meterSize, mark, tempos });
  }
  return pushedInside(placed, systemEnd, tempoSize);
}

/** Marks of the upper lane that would run over the end of their system push those before them to the left. */
function pushedInside(
  placed: readonly PlacedSigns[],
  systemEnd: number,
  tempoSize: number,
): readonly PlacedSigns[] {
  let most = systemEnd;
  return [...placed]
    .reverse()
    .map((signs) => {
      const tempos = [...signs.tempos].reverse().map((tempo) => {
        if (!tempo.isUpper) return tempo;
        const x = Math.max(0, Math.min(tempo.x, most - tempoMarkWidth(tempo.mark, tempoSize)));
        most = x - GAP_PX;
        return { ...tempo, x };
      });
      return { ...signs, tempos: tempos.reverse() };
    })
    .reverse();
}

/** The box of a rehearsal mark: its first letters, as high as the meter beside it. */
function placedMark({ rehearsalMark }: Bar, xPx: number, signSize: number): PlacedMark | null {
  if (rehearsalMark === undefined) return null;
  const text = rehearsalMark.slice(0, 4);
  const fontSize = signSize * (text.length > 2 ? 0.42 : 0.52);
  return { text, x: xPx - 1, widthPx: Math.max(signSize * 0.8, 8 + text.length * fontSize * 0.66), fontSize };
}

/** As large as usual, or as the room before the next sign lets it be. */
function fittingSize({ meter }: Bar, roomPx: number, signSize: number): number {
  return signSize * Math.min(1, Math.max(0, roomPx - 3) / meterWidth(meter, signSize));
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
