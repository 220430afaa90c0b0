import {
  landsTogether,
  performedGeometry,
  pulseOf,
  type BarGeometry,
  type LineScale,
  type Proof,
} from '@anchorbeat/core';
import { hopPathsOf } from '@anchorbeat/drawing';
import { memo, useMemo, useRef } from 'react';
import { beadPlace } from '../line/beadPlace.ts';
import { Landing, Numeral } from '../line/Landing.tsx';
import { useWidth } from '../line/useWidth.ts';
import { useEachFrame } from '../ui/useEachFrame.ts';
import type { StandSession } from './standSession.ts';

const ABOVE_PX = 66;
const BELOW_PX = 62;
const MAGNIFIED = 1.35;
const COUNT_Y = 22;
const SCALE: LineScale = { trueTo: 'time', pixelsPerSecond: 78, pixelsPerWhole: 200 };
/** The bar being played stands this far from the left, so that a little of what was stays in view. */
const INSET_PX = 8;

interface StandLineProps {
  readonly session: StandSession;
  readonly proof: Proof;
  readonly performed: number;
}

/** The same line, small: the bar being played and what follows, with the bead, counts and anchors. */
export function StandLine({ session, proof, performed }: StandLineProps) {
  const holder = useRef<HTMLDivElement>(null);
  const widthPx = useWidth(holder) / MAGNIFIED;
  const page = useMemo(() => pageFrom(proof, performed, widthPx), [proof, performed, widthPx]);
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
          <Bead session={session} proof={proof} bars={page} />
        </g>
      </svg>
    </div>
  );
}

/** Pages of whole bars: a bar is looked at where it was announced, and the page turns with the last bar that fits. */
function pageFrom(proof: Proof, performed: number, widthPx: number): readonly BarGeometry[] {
  if (widthPx <= 0) return [];
  return performedGeometry(proof, SCALE, { performed, widthPx });
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
          {bar.hops.map((hop, index) => (
            <g key={index}>
              <Landing x={hop.xPx} stress={hop.stress} isSmall={false} />
              <Numeral hop={hop} x={hop.xPx} y={COUNT_Y} />
            </g>
          ))}
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
      <Landing x={endPx} stress="downbeat" isSmall={false} />
    </g>
  );
});

function Bead({
  session,
  proof,
  bars,
}: {
  readonly session: StandSession;
  readonly proof: Proof;
  readonly bars: readonly BarGeometry[];
}) {
  const bead = useRef<SVGCircleElement>(null);
  useEachFrame(() => {
    const moment = session.momentMaybe();
    const bar = moment?.phase === 'bar' ? bars[moment.performed - (bars[0]?.performed ?? 0)] : undefined;
    const written = bar && proof.piece.bars[bar.barIndex];
    const point =
      moment?.phase === 'bar' && bar && written ? beadPlace(bar, moment, pulseOf(written).length) : null;
    bead.current?.setAttribute('visibility', point ? 'visible' : 'hidden');
    if (point) bead.current?.setAttribute('transform', `translate(${point.x} ${point.y - 6})`);
  });
  return <circle ref={bead} r={6.5} fill="var(--entry)" visibility="hidden" />;
}
