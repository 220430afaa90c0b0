import {
  barLength,
  lawRate,
  toNumber,
  type BarGeometry,
  type CompiledPiece,
  type Piece,
  type TempoLaw,
} from '@anchorbeat/core';

const THINNEST_PX = 1.5;
export const THICKEST_PX = 7;

/** A stretch of a bar in a ramp, in pixels along the line, with how thick it is drawn at either end: thicker is faster. */
export interface RampWedge {
  readonly fromX: number;
  readonly toX: number;
  readonly fromPx: number;
  readonly toPx: number;
}

/** The part of a bar over which one tempo law holds, in wholes from the barline. */
interface WedgePart {
  readonly from: number;
  readonly to: number;
  readonly law: TempoLaw;
  /** How far the law has come already at its start, in wholes. */
  readonly into: number;
}

/** Every part of a bar that lies in a ramp. */
export function rampWedges(
  piece: Piece,
  compiled: CompiledPiece,
  bars: readonly BarGeometry[],
): readonly RampWedge[] {
  return bars.flatMap((bar) => {
    const written = piece.bars[bar.barIndex];
    if (!written) return [];
    const length = toNumber(barLength(written));
    return partsOf(compiled, bar.barIndex, length)
      .filter(({ law, to, from }) => law.kind === 'ramp' && to > from)
      .map((part) => wedgeOver(bar, part, length));
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

function wedgeOver(bar: BarGeometry, part: WedgePart, length: number): RampWedge {
  const xOf = (at: number) => bar.xPx + (at / length) * bar.widthPx;
  return {
    fromX: xOf(part.from),
    toX: xOf(part.to),
    fromPx: thickness(part.law, part.into),
    toPx: thickness(part.law, part.into + part.to - part.from),
  };
}

/** A wedge about a height of its own, as path data. */
export function wedgePath({ fromX, toX, fromPx, toPx }: RampWedge, y: number): string {
  return `M${fromX} ${y - fromPx / 2}L${toX} ${y - toPx / 2}V${y + toPx / 2}L${fromX} ${y + fromPx / 2}Z`;
}

function thickness(law: TempoLaw, into: number): number {
  if (law.kind !== 'ramp') return 0;
  const rates = [toNumber(law.startRate), toNumber(law.endRate)];
  const [slow, fast] = [Math.min(...rates), Math.max(...rates)];
  const share = fast === slow ? 0.5 : (toNumber(lawRate(law, into)) - slow) / (fast - slow);
  return THINNEST_PX + (THICKEST_PX - THINNEST_PX) * share;
}
