import {
  barLength,
  lawRate,
  toNumber,
  type BarGeometry,
  type CompiledPiece,
  type Piece,
  type TempoLaw,
} from '@anchorbeat/core';
import type { LineRows } from './lineRows.ts';

const THINNEST_PX = 1.5;
const THICKEST_PX = 7;

/** The part of a bar over which one tempo law holds, in wholes from the barline. */
interface WedgePart {
  readonly from: number;
  readonly to: number;
  readonly law: TempoLaw;
  /** How far the law has come already at its start, in wholes. */
  readonly into: number;
}

/** A thin wedge over every part of a bar that lies in a ramp, as path data: thicker is faster. */
export function rampWedgePaths(
  piece: Piece,
  compiled: CompiledPiece,
  bars: readonly BarGeometry[],
  { upperY }: Pick<LineRows, 'upperY'>,
): readonly string[] {
  return bars.flatMap((bar) => {
    const written = piece.bars[bar.barIndex];
    if (!written) return [];
    const length = toNumber(barLength(written));
    return partsOf(compiled, bar.barIndex, length)
      .filter(({ law, to, from }) => law.kind === 'ramp' && to > from)
      .map((part) => wedgePath(bar, part, length, upperY - 2));
  });
}

function partsOf({ tempoMap }: CompiledPiece, barIndex: number, length: number): readonly WedgePart[] {
  const first = tempoMap.atBar[barIndex] ?? 0;
  const starts = [{ at: 0, index: first, into: tempoMap.intoChange[barIndex] ?? 0 }];
  for (let index = first + 1; tempoMap.changes[index]?.barIndex === barIndex; index++) {
    starts.push({ at: toNumber(tempoMap.changes[index]!.atWholes), index, into: 0 });
  }
  return starts.map(({ at, index, into }, order) => ({
    from: at,
    to: starts[order + 1]?.at ?? length,
    law: tempoMap.changes[index]!.law,
    into,
  }));
}

function wedgePath(bar: BarGeometry, part: WedgePart, length: number, y: number): string {
  const xOf = (at: number) => bar.xPx + (at / length) * bar.widthPx;
  const [x0, x1] = [xOf(part.from), xOf(part.to)];
  const h0 = thickness(part.law, part.into);
  const h1 = thickness(part.law, part.into + part.to - part.from);
  return `M${x0} ${y - h0 / 2}L${x1} ${y - h1 / 2}V${y + h1 / 2}L${x0} ${y + h0 / 2}Z`;
}

function thickness(law: TempoLaw, into: number): number {
  if (law.kind !== 'ramp') return 0;
  const rates = [toNumber(law.startRate), toNumber(law.endRate)];
  const [slow, fast] = [Math.min(...rates), Math.max(...rates)];
  const share = fast === slow ? 0.5 : (toNumber(lawRate(law, into)) - slow) / (fast - slow);
  return THINNEST_PX + (THICKEST_PX - THINNEST_PX) * share;
}
