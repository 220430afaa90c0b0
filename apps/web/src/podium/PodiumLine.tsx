import { pulseOf, systemFrom, systemGeometry, type BarGeometry, type LineScale } from '@anchorbeat/core';
import { useEffect, useMemo, useRef } from 'react';
import { useProof } from '../app/PieceLayout.tsx';
import { beadPoint } from '../line/beadPlace.ts';
import { pointOnHop } from '../line/hopPaths.ts';
import { SystemView } from '../line/SystemView.tsx';
import { layoutLine } from '../line/useLine.ts';
import { useWidth } from '../line/useWidth.ts';
import { usePlayback } from '../sound/PlaybackContext.tsx';
import { barSelected } from '../store/mapSlice.ts';
import { useAppDispatch, useAppSelector } from '../store/store.ts';
import { LeadIn, leadInHops } from './LeadIn.tsx';

const MAGNIFIED = 1.85;
const PIXELS_PER_SECOND = 108;
const HEIGHT_PX = 340;
const BASE_Y = 200;
const SCALE: LineScale = { trueTo: 'time', pixelsPerSecond: PIXELS_PER_SECOND, pixelsPerWhole: 250 };

interface PodiumLineProps {
  readonly performed: number;
  readonly barIndex: number;
}

/** The same line, magnified: the bars from a page's first one on. The page turns when its last bar begins, so that what follows is always in view. */
export function PodiumLine({ performed, barIndex }: PodiumLineProps) {
  const proof = useProof();
  const holder = useRef<HTMLDivElement>(null);
  const widthPx = useWidth(holder) / MAGNIFIED;
  const playback = usePlayback();
  const status = useAppSelector((state) => state.transport.status);
  const entryPerformed = useAppSelector((state) => state.transport.entryPerformed);
  const leadIn = useMemo(
    () => (status === 'stopped' ? [] : leadInHops(playback.plan?.countOff ?? null, PIXELS_PER_SECOND)),
    [status, playback],
  );
  const leadInPx = leadIn.reduce((total, hop) => total + hop.widthPx, 0);
  const entryBar = proof.compiled.timeline.route.barIndex[entryPerformed] ?? 0;
  const firstBar = pageStart(proof, widthPx, {
    from: status === 'stopped' ? barIndex : entryBar,
    leadInPx: status === 'stopped' ? 0 : leadInPx,
    barIndex,
  });
  const showsLeadIn = status !== 'stopped' && firstBar === entryBar && performed === entryPerformed;
  const offsetPx = firstBar === entryBar && status !== 'stopped' ? leadInPx : 0;
  const bars = useMemo(() => pageBars(proof, widthPx - offsetPx, firstBar), [proof, widthPx, offsetPx, firstBar]);
  const seams = useMemo(() => layoutLine(proof, SCALE, 1000).seamsByBar, [proof]);
  const dispatch = useAppDispatch();
  return (
    <div ref={holder} className="-mr-10 shrink-0">
      <svg width="100%" height={HEIGHT_PX} className="block overflow-hidden" role="presentation">
        <g transform={`translate(14 ${BASE_Y}) scale(${MAGNIFIED})`}>
          {widthPx > 0 && (
            <g transform={`translate(${offsetPx} 0)`}>
              {offsetPx > 0 && <LeadIn hops={leadIn} isPast={!showsLeadIn} />}
              <SystemView piece={proof.piece} compiled={proof.compiled} bars={bars} seams={seams} />
              {status === 'stopped' &&
                bars.map((bar) => (
                  <rect
                    key={bar.barIndex}
                    x={bar.xPx}
                    y={-70}
                    width={bar.widthPx}
                    height={110}
                    fill="transparent"
                    onClick={() => dispatch(barSelected({ bar: bar.barIndex }))}
                  />
                ))}
              {status !== 'stopped' && <PodiumBead bars={bars} leadIn={leadIn} />}
            </g>
          )}
        </g>
      </svg>
    </div>
  );
}

interface PageQuestion {
  readonly from: number;
  readonly leadInPx: number;
  readonly barIndex: number;
}

/** First bar of the page on which `barIndex` is shown, turning pages from `from` on. */
function pageStart(proof: ReturnType<typeof useProof>, widthPx: number, { from, leadInPx, barIndex }: PageQuestion): number {
  const { piece, compiled } = proof;
  let firstBar = from;
  let room = widthPx - leadInPx;
  while (barIndex > firstBar && widthPx > 0) {
    const page = systemFrom(piece, compiled, SCALE, { firstBar, lastPossible: piece.bars.length, widthPx: Math.max(room, 40) });
    const isLastPage = page.endBar === piece.bars.length;
    if (isLastPage || barIndex < page.endBar - 1) return firstBar;
    firstBar = Math.max(page.endBar - 1, firstBar + 1);
    room = widthPx;
  }
  return firstBar;
}

/** The bars of a page, and one more that runs off its right edge. */
function pageBars(proof: ReturnType<typeof useProof>, widthPx: number, firstBar: number): readonly BarGeometry[] {
  if (widthPx <= 0) return [];
  const { piece, compiled } = proof;
  const system = systemFrom(piece, compiled, SCALE, { firstBar, lastPossible: piece.bars.length, widthPx });
  const endBar = Math.min(system.endBar + 1, piece.bars.length);
  return systemGeometry(piece, compiled, SCALE, { ...system, endBar });
}

interface PodiumBeadProps {
  readonly bars: readonly BarGeometry[];
  readonly leadIn: ReturnType<typeof leadInHops>;
}

/** The bead, on the count-off's hops and then on the line. */
function PodiumBead({ bars, leadIn }: PodiumBeadProps) {
  const { piece } = useProof();
  const playback = usePlayback();
  const bead = useRef<SVGCircleElement>(null);
  useEffect(() => {
    let frame = 0;
    const move = () => {
      frame = requestAnimationFrame(move);
      const moment = playback.momentMaybe();
      const bar = moment?.phase === 'bar' ? bars[moment.barIndex - (bars[0]?.barIndex ?? 0)] : undefined;
      const hop = moment?.phase === 'countOff' ? leadIn[moment.beatIndex] : undefined;
      const written = bar && piece.bars[bar.barIndex];
      const point =
        moment?.phase === 'bar' && bar && written
          ? beadPoint(bar, moment, pulseOf(written).length)
          : hop && moment && pointOnHop(hop, Math.max(0, moment.share));
      bead.current?.setAttribute('visibility', point ? 'visible' : 'hidden');
      if (point) bead.current?.setAttribute('transform', `translate(${point.x} ${point.y - 6})`);
    };
    move();
    return () => cancelAnimationFrame(frame);
  }, [bars, leadIn, piece, playback]);
  return <circle ref={bead} data-testid="bead" r={7} fill="var(--entry)" visibility="hidden" />;
}
