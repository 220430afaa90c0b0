import {
  asOneHop,
  landsTogether,
  systemGeometry,
  type BarGeometry,
  type CompiledPiece,
  type Proof,
} from '@anchorbeat/core';
import { writtenBarSeconds } from './barPlaces.ts';

/** A whole piece on one line of this width, true to time: a hop a bar, as high as `heightOf` says for its seconds. */
export function barsInMiniature(
  proof: Proof,
  widthPx: number,
  heightOf: (seconds: number) => number,
): readonly BarGeometry[] {
  const pixelsPerSecond = widthPx / writtenBarSeconds(proof).reduce((total, seconds) => total + seconds, 0);
  const scale = { trueTo: 'time', pixelsPerSecond, pixelsPerWhole: 1 } as const;
  const system = { firstBar: 0, endBar: proof.piece.bars.length, widthPx, shrink: 1 };
  return systemGeometry(proof, scale, system).map((bar) =>
    asOneHop(bar, heightOf(bar.widthPx / pixelsPerSecond)),
  );
}

/** Written bars whose downbeat is an anchor. */
export function anchoredBars({ seams, timeline }: CompiledPiece): ReadonlySet<number> {
  return new Set(seams.filter(landsTogether).map(({ performed }) => timeline.route.barIndex[performed] ?? 0));
}
