import {
  pulseOf,
  systemFrom,
  systemGeometry,
  type BarGeometry,
  type CountOff,
  type LineScale,
} from '@anchorbeat/core';
import { useEffect, useMemo, useRef } from 'react';
import { useProof } from '../app/PieceLayout.tsx';
import type { Proof } from '../compiled/useCompiled.ts';
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
const EDGE_PX = 16;
const HEIGHT_PX = 340;
const BASE_Y = 200;
const SCALE: LineScale = { trueTo: 'time', pixelsPerSecond: PIXELS_PER_SECOND, pixelsPerWhole: 250 };

interface PodiumLineProps {
  readonly performed: number;
  readonly barIndex: number;
}

/**
 * The same line, magnified: the bars from a page's first one on. The page turns when its last bar begins, so that what
 * follows is always in view.
 */
export function PodiumLine({ performed, barIndex }: PodiumLineProps) {
  const proof = useProof();
  const holder = useRef<HTMLDivElement>(null);
  const widthPx = useWidth(holder) / MAGNIFIED;
  const page = usePage(proof, widthPx, barIndex);
  const seams = useMemo(() => layoutLine(proof, SCALE, 1000).seamsByBar, [proof]);
  const isRunning = useAppSelector((state) => state.transport.status !== 'stopped');
  const isCounting = useAppSelector((state) => performed === state.transport.entryPerformed);
  return (
    <div ref={holder} className="-mr-10 shrink-0">
      <svg width="100%" height={HEIGHT_PX} className="block overflow-hidden" role="presentation">
        <g transform={`translate(14 ${BASE_Y}) scale(${MAGNIFIED})`}>
          <g transform={`translate(${page.offsetPx} 0)`}>
            {page.offsetPx > 0 && <LeadIn hops={page.leadIn} isPast={!isCounting} />}
            <SystemView piece={proof.piece} compiled={proof.compiled} bars={page.bars} seams={seams} />
            {isRunning ? (
              <PodiumBead bars={page.bars} leadIn={page.leadIn} />
            ) : (
              <EntryTargets bars={page.bars} />
            )}
          </g>
        </g>
      </svg>
    </div>
  );
}

/** While nothing runs, a pressed bar becomes the entry. */
function EntryTargets({ bars }: { readonly bars: readonly BarGeometry[] }) {
  const dispatch = useAppDispatch();
  return bars.map((bar) => (
    <rect
      key={bar.barIndex}
      x={bar.xPx}
      y={-70}
      width={bar.widthPx}
      height={110}
      fill="transparent"
      onClick={() => dispatch(barSelected({ bar: bar.barIndex }))}
    />
  ));
}

interface Page {
  readonly bars: readonly BarGeometry[];
  readonly leadIn: ReturnType<typeof leadInHops>;
  /** Room left of the first bar for the count-off. */
  readonly offsetPx: number;
}

/** The page that shows a bar: counted from the entry while running, beginning with the bar itself while not. */
function usePage(proof: Proof, widthPx: number, barIndex: number): Page {
  const playback = usePlayback();
  const isRunning = useAppSelector((state) => state.transport.status !== 'stopped');
  const entryPerformed = useAppSelector((state) => state.transport.entryPerformed);
  return useMemo(() => {
    if (widthPx <= 0) return { bars: [], leadIn: [], offsetPx: 0 };
    const countOff = isRunning ? (playback.plan?.countOff ?? null) : null;
    if (!countOff) return { bars: pageBars(proof, SCALE, widthPx, barIndex), leadIn: [], offsetPx: 0 };
    const entryBar = proof.compiled.timeline.route.barIndex[entryPerformed] ?? 0;
    const scale = runScale(proof, countOff, entryPerformed, widthPx);
    const leadIn = leadInHops(countOff, scale.pixelsPerSecond);
    const leadInPx = countOff.lengthSeconds * scale.pixelsPerSecond;
    const firstBar = pageStart(proof, scale, { from: entryBar, leadInPx, widthPx, barIndex });
    const offsetPx = firstBar === entryBar ? leadInPx : 0;
    return { bars: pageBars(proof, scale, widthPx - offsetPx, firstBar), leadIn, offsetPx };
  }, [proof, widthPx, barIndex, isRunning, entryPerformed, playback]);
}

/** One scale for a whole run, at which the count-off and the bar it leads into fit side by side. */
function runScale({ compiled }: Proof, countOff: CountOff, performed: number, widthPx: number): LineScale {
  const { barStartSeconds } = compiled.timeline;
  const barSeconds = (barStartSeconds[performed + 1] ?? 0) - (barStartSeconds[performed] ?? 0);
  const fitting = (widthPx - EDGE_PX) / (countOff.lengthSeconds + barSeconds);
  return { ...SCALE, pixelsPerSecond: Math.min(PIXELS_PER_SECOND, fitting) };
}

interface PageQuestion {
  readonly from: number;
  readonly leadInPx: number;
  readonly widthPx: number;
  readonly barIndex: number;
}

/** First bar of the page on which `barIndex` is shown, turning pages from `from` on. */
function pageStart(
  proof: Proof,
  scale: LineScale,
  { from, leadInPx, widthPx, barIndex }: PageQuestion,
): number {
  const { piece, compiled } = proof;
  let firstBar = from;
  let room = widthPx - leadInPx;
  while (barIndex > firstBar) {
    const page = systemFrom(piece, compiled, scale, { firstBar, widthPx: room });
    const isLastPage = page.endBar === piece.bars.length;
    if (isLastPage || barIndex < page.endBar - 1) return firstBar;
    firstBar = Math.max(page.endBar - 1, firstBar + 1);
    room = widthPx;
  }
  return firstBar;
}

/** The bars of a page, and one more that runs off its right edge. */
function pageBars(
  { piece, compiled }: Proof,
  scale: LineScale,
  widthPx: number,
  firstBar: number,
): readonly BarGeometry[] {
  const system = systemFrom(piece, compiled, scale, { firstBar, widthPx });
  const endBar = Math.min(system.endBar + 1, piece.bars.length);
  return systemGeometry(piece, compiled, scale, { ...system, endBar });
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
