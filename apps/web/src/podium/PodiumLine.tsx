import {
  landsTogether,
  performedGeometry,
  type BarGeometry,
  type CountOff,
  type LineScale,
} from '@anchorbeat/core';
import { leadInHops, NEAR_ROWS, pointOnHop, roomAbove, TWO_ROWS_PX } from '@anchorbeat/drawing';
import { useMemo, useRef, useSyncExternalStore } from 'react';
import { useProof } from '../piece/PieceLayout.tsx';
import type { Proof } from '@anchorbeat/core';
import { barPoint } from '../line/beadPlace.ts';
import { SvgBead } from '../line/SvgBead.tsx';
import { SystemView } from '../line/SystemView.tsx';
import { useWidth } from '../line/useWidth.ts';
import { usePlayback } from '../sound/PlaybackContext.tsx';
import { useIsSounding } from '../sound/useIsSounding.ts';
import { barSelected } from '../store/mapSlice.ts';
import { useAppDispatch, useAppSelector } from '../store/store.ts';
import { LeadIn } from '../line/LeadIn.tsx';

/** The line is drawn as large as the screen lets it be. */
const MOST_MAGNIFIED = 1.85;
const LEAST_MAGNIFIED = 0.85;
/** The share of the screen's height that it may take, and the width that it wants to show. */
const HEIGHT_SHARE = 0.41;
const WANTED_WIDTH_PX = 380;
const PIXELS_PER_SECOND = 108;
const EDGE_PX = 16;
/** Above and below the line, before it is magnified. A page with more above it is drawn a little smaller. */
const ABOVE_PX = TWO_ROWS_PX;
const BELOW_PX = 66;
const SCALE: LineScale = { trueTo: 'time', pixelsPerSecond: PIXELS_PER_SECOND, pixelsPerWhole: 250 };

/**
 * The same line, magnified: the bars from a page's first one on. The page turns when its last bar begins, so that what
 * follows is always in view.
 */
export function PodiumLine({ performed }: { readonly performed: number }) {
  const proof = useProof();
  const holder = useRef<HTMLDivElement>(null);
  const screenWidthPx = useWidth(holder);
  const magnified = useMagnified(screenWidthPx);
  const widthPx = screenWidthPx / magnified;
  const page = usePage(proof, widthPx, performed);
  const seamOf = useMemo(() => {
    const seams = new Map(proof.compiled.seams.filter(landsTogether).map((seam) => [seam.performed, seam]));
    return (bar: BarGeometry) => seams.get(bar.performed);
  }, [proof]);
  const abovePx = useMemo(
    () => Math.max(ABOVE_PX, roomAbove(proof, page.bars, NEAR_ROWS)),
    [proof, page.bars],
  );
  const drawn = (magnified * (ABOVE_PX + BELOW_PX)) / (abovePx + BELOW_PX);
  const isRunning = useIsSounding();
  const isCounting = useAppSelector((state) => performed === state.transport.entryPerformed);
  return (
    <div ref={holder} className="podium-line min-w-0">
      <svg
        width="100%"
        height={(ABOVE_PX + BELOW_PX) * magnified}
        className="block overflow-hidden"
        role="presentation"
      >
        <g transform={`translate(14 ${abovePx * drawn}) scale(${drawn})`}>
          <g transform={`translate(${page.offsetPx} 0)`}>
            {page.offsetPx > 0 && <LeadIn hops={page.leadIn} isPast={!isCounting} />}
            <SystemView piece={proof.piece} compiled={proof.compiled} bars={page.bars} seamOf={seamOf} />
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

/** How large the line is drawn on a screen of this width and of the window's height. */
function useMagnified(screenWidthPx: number): number {
  const heightPx = useWindowHeight();
  const byHeight = (heightPx * HEIGHT_SHARE) / (ABOVE_PX + BELOW_PX);
  const byWidth = screenWidthPx / WANTED_WIDTH_PX;
  return Math.min(MOST_MAGNIFIED, Math.max(LEAST_MAGNIFIED, Math.min(byHeight, byWidth)));
}

function useWindowHeight(): number {
  return useSyncExternalStore(
    (tell) => {
      window.addEventListener('resize', tell);
      return () => window.removeEventListener('resize', tell);
    },
    () => window.innerHeight,
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

/**
 * The page that shows a performed bar: counted from the entry while running, beginning with the bar itself while not. It
 * stays the same until it turns.
 */
function usePage(proof: Proof, widthPx: number, performed: number): Page {
  const playback = usePlayback();
  const isRunning = useIsSounding();
  const entry = useAppSelector((state) => state.transport.entryPerformed);
  const countOff = isRunning ? (playback.plan?.countOff ?? null) : null;
  const run = useMemo(() => {
    if (!countOff || widthPx <= 0) return null;
    const scale = runScale(proof, countOff, entry, widthPx);
    const leadInPx = countOff.lengthSeconds * scale.pixelsPerSecond;
    return { scale, leadInPx, leadIn: leadInHops(countOff, scale.pixelsPerSecond) };
  }, [proof, countOff, entry, widthPx]);
  const first = run
    ? pageStart(proof, run.scale, { entry, leadInPx: run.leadInPx, widthPx, performed })
    : performed;
  return useMemo(() => {
    if (widthPx <= 0) return { bars: [], leadIn: [], offsetPx: 0 };
    const offsetPx = run && first === entry ? run.leadInPx : 0;
    const wanted = { performed: first, widthPx: widthPx - offsetPx };
    return {
      bars: performedGeometry(proof, run?.scale ?? SCALE, wanted),
      leadIn: run?.leadIn ?? [],
      offsetPx,
    };
  }, [proof, run, first, entry, widthPx]);
}

/** One scale for a whole run, at which the count-off and the bar it leads into fit side by side. */
function runScale({ compiled }: Proof, countOff: CountOff, performed: number, widthPx: number): LineScale {
  const { barStartSeconds } = compiled.timeline;
  const barSeconds = (barStartSeconds[performed + 1] ?? 0) - (barStartSeconds[performed] ?? 0);
  const fitting = (widthPx - EDGE_PX) / (countOff.lengthSeconds + barSeconds);
  return { ...SCALE, pixelsPerSecond: Math.min(PIXELS_PER_SECOND, fitting) };
}

interface PageQuestion {
  readonly entry: number;
  readonly leadInPx: number;
  readonly widthPx: number;
  readonly performed: number;
}

/** First performed bar of the page on which `performed` is shown, turning pages from the entry on. */
function pageStart(
  { compiled }: Proof,
  scale: LineScale,
  { entry, leadInPx, widthPx, performed }: PageQuestion,
): number {
  const { barStartSeconds } = compiled.timeline;
  const xOf = (bar: number, from: number) =>
    ((barStartSeconds[bar] ?? 0) - (barStartSeconds[from] ?? 0)) * scale.pixelsPerSecond;
  const end = barStartSeconds.length - 1;
  let first = entry;
  let room = widthPx - leadInPx;
  for (let bar = entry; bar < performed; bar++) {
    // The page turns with the last bar that it shows whole, unless it shows the end of the piece.
    const showsTheNext = xOf(Math.min(bar + 2, end), first) <= room;
    if (!showsTheNext && bar + 1 > first && xOf(end, first) > room) [first, room] = [bar + 1, widthPx];
  }
  return first;
}

interface PodiumBeadProps {
  readonly bars: readonly BarGeometry[];
  readonly leadIn: ReturnType<typeof leadInHops>;
}

/** The bead, on the count-off's hops and then on the line. */
function PodiumBead({ bars, leadIn }: PodiumBeadProps) {
  const { piece } = useProof();
  const playback = usePlayback();
  const pointNow = () => {
    const moment = playback.momentMaybe();
    if (moment?.phase === 'bar') return barPoint(piece, bars, moment);
    const hop = moment && leadIn[moment.beatIndex];
    return hop ? pointOnHop(hop, Math.max(0, moment.share)) : null;
  };
  return <SvgBead radius={7} pointNow={pointNow} />;
}
