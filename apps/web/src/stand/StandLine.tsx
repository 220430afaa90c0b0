import {
  landsTogether,
  performedGeometry,
  type BarGeometry,
  type LineScale,
  type Proof,
} from '@anchorbeat/core';
import { countShape, hopPathsOf, landingShape } from '@anchorbeat/drawing';
import { memo, useMemo, useRef } from 'react';
import type { FollowedRun } from '../room/followedRun.ts';
import { barPoint } from '../line/beadPlace.ts';
import { SvgBead } from '../line/SvgBead.tsx';
import { Shapes } from '../line/Shapes.tsx';
import { useWidth } from '../line/useWidth.ts';

const ABOVE_PX = 66;
const BELOW_PX = 62;
const MAGNIFIED = 1.35;
const COUNT_Y = 22;
const SCALE: LineScale = { trueTo: 'time', pixelsPerSecond: 78, pixelsPerWhole: 200 };
/** Room for half a landing left of the first bar. */
const INSET_PX = 8;

interface StandLineProps {
  readonly run: FollowedRun;
  readonly performed: number;
}

/** The same line, small: the bar being played and what follows, with the bead, counts and anchors. */
export function StandLine({ run, performed }: StandLineProps) {
  const { proof } = run;
  const holder = useRef<HTMLDivElement>(null);
  const widthPx = useWidth(holder) / MAGNIFIED;
  const page = useMemo(
    () => (widthPx > 0 ? performedGeometry(proof, SCALE, { performed, widthPx }) : []),
    [proof, performed, widthPx],
  );
  const pointNow = () => {
    const moment = run.momentMaybe();
    return moment?.phase === 'bar' ? barPoint(proof.piece, page, moment) : null;
  };
  return (
    <div ref={holder} className="stand-line min-w-0">
      <svg
        width="100%"
        height={(ABOVE_PX + BELOW_PX) * MAGNIFIED}
        className="block overflow-hidden"
        role="presentation"
      >
        <g transform={`translate(${INSET_PX} ${ABOVE_PX * MAGNIFIED}) scale(${MAGNIFIED})`}>
          <Bars proof={proof} bars={page} />
          <SvgBead radius={6.5} pointNow={pointNow} />
        </g>
      </svg>
    </div>
  );
}

const Bars = memo(function Bars({
  proof,
  bars,
}: {
  readonly proof: Proof;
  readonly bars: readonly BarGeometry[];
}) {
  const paths = hopPathsOf(bars);
  const endPx = (bars.at(-1)?.xPx ?? 0) + (bars.at(-1)?.widthPx ?? 0);
  const anchors = new Set(proof.compiled.seams.filter(landsTogether).map((seam) => seam.performed));
  return (
    <g>
      <path d={paths.fill} fill="var(--hop-fill)" />
      <path d={paths.subdivisions} fill="none" stroke="var(--quiet)" strokeOpacity={0.7} />
      <path d={paths.beats} fill="none" stroke="var(--ink)" strokeWidth={1.4} />
      <path d={paths.downbeats} fill="none" stroke="var(--ink)" strokeWidth={2.4} />
      <path d={`M0 0H${endPx}`} stroke="var(--ink)" strokeWidth={1.5} />
      {bars.map((bar) => (
        <g key={bar.performed}>
          <path d={`M${bar.xPx} 0V-50`} stroke="var(--quiet)" strokeOpacity={0.55} strokeWidth={1.1} />
          <Shapes
            shapes={bar.hops.flatMap(({ xPx, stress, word }) => [
              landingShape(xPx, stress, false),
              countShape(word, stress !== 'beat', xPx, COUNT_Y),
            ])}
          />
          <text x={bar.xPx + 6} y={-40} fontSize={12} fill="var(--quiet)" fontFamily="var(--font-display)">
            {proof.compiled.labels[bar.barIndex]}
          </text>
          {anchors.has(bar.performed) && (
            <path
              transform={`translate(${bar.xPx} 28)`}
              d="M0 0V14M-7 14H7L4 25H-4Z"
              fill="var(--seam)"
              stroke="var(--seam)"
              strokeWidth={1.6}
            />
          )}
        </g>
      ))}
      <Shapes shapes={[landingShape(endPx, 'downbeat', false)]} />
    </g>
  );
});
