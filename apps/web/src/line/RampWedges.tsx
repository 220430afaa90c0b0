import {
  barLength,
  lawRate,
  toNumber,
  type BarGeometry,
  type CompiledPiece,
  type Piece,
  type TempoLaw,
} from '@anchorbeat/core';
import type { ReactNode } from 'react';

const WEDGE_Y = -110;
const THINNEST_PX = 1.5;
const THICKEST_PX = 7;

interface WedgePart {
  readonly from: number;
  readonly to: number;
  readonly law: TempoLaw;
  readonly into: number;
}

/** A thin wedge over every ramp: thicker is faster. */
export function RampWedges({
  piece,
  compiled,
  bars,
}: {
  readonly piece: Piece;
  readonly compiled: CompiledPiece;
  readonly bars: readonly BarGeometry[];
}): ReactNode {
  return bars.flatMap((bar, drawnAt) => {
    const length = toNumber(barLength(piece.bars[bar.barIndex]!));
    return partsOf(compiled, bar.barIndex, length)
      .filter(({ law, to, from }) => law.kind === 'ramp' && to > from)
      .map((part) => <Wedge key={`${drawnAt} ${part.from}`} bar={bar} part={part} length={length} />);
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

function Wedge({
  bar,
  part,
  length,
}: {
  readonly bar: BarGeometry;
  readonly part: WedgePart;
  readonly length: number;
}) {
  const xOf = (at: number) => bar.xPx + (at / length) * bar.widthPx;
  const [x0, x1] = [xOf(part.from), xOf(part.to)];
  const h0 = thickness(part.law, part.into);
  const h1 = thickness(part.law, part.into + part.to - part.from);
  const d = `M${x0} ${WEDGE_Y - h0 / 2}L${x1} ${WEDGE_Y - h1 / 2}V${WEDGE_Y + h1 / 2}L${x0} ${WEDGE_Y + h0 / 2}Z`;
  return <path d={d} fill="var(--ink)" fillOpacity={0.75} />;
}

function thickness(law: TempoLaw, into: number): number {
  if (law.kind !== 'ramp') return 0;
  const rates = [toNumber(law.startRate), toNumber(law.endRate)];
  const [slow, fast] = [Math.min(...rates), Math.max(...rates)];
  const share = fast === slow ? 0.5 : (toNumber(lawRate(law, into)) - slow) / (fast - slow);
  return THINNEST_PX + (THICKEST_PX - THINNEST_PX) * share;
}
