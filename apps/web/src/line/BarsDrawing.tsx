import { performedGeometry, type BarGeometry, type LineScale, type Seam } from '@anchorbeat/core';
import { NEAR_ROWS, roomAbove } from '@anchorbeat/drawing';
import { useRef, type ReactNode } from 'react';
import type { Proof } from '@anchorbeat/core';
import { barPoint } from './beadPlace.ts';
import { SvgBead } from './SvgBead.tsx';
import { SystemView } from './SystemView.tsx';
import { useWidth } from './useWidth.ts';
import { usePlayback } from '../sound/PlaybackContext.tsx';
import { useIsSounding } from '../sound/useIsSounding.ts';

const BOTTOM_PX = 46;
const UNDER_PX = 36;
const MARGIN_PX = 16;
const FEWEST_PIXELS_PER_SECOND = 24;
const MOST_PIXELS_PER_SECOND = 260;

interface BarsDrawingProps {
  readonly proof: Proof;
  readonly from: number;
  readonly to: number;
  readonly seamOf?: (bar: BarGeometry) => Seam | undefined;
  /** Drawn under each bar, by its place from 0. */
  readonly under?: (place: number) => ReactNode;
  /** Drawn under the whole of them, so many pixels high. */
  readonly beneath?: {
    readonly heightPx: number;
    readonly draw: (bars: readonly BarGeometry[], pixelsPerSecond: number) => ReactNode;
  };
}

const NO_SEAM = () => undefined;

/** Performed bars on one line, as wide as there is room, with the bead while they sound. */
export function BarsDrawing({ proof, from, to, seamOf = NO_SEAM, under, beneath }: BarsDrawingProps) {
  const holder = useRef<HTMLDivElement>(null);
  const width = useWidth(holder);
  const { barStartSeconds } = proof.compiled.timeline;
  const seconds = Math.max(0.1, (barStartSeconds[to] ?? 0) - (barStartSeconds[from] ?? 0));
  const room = width - 2 * MARGIN_PX;
  const pixelsPerSecond = Math.min(
    Math.max(room / seconds, FEWEST_PIXELS_PER_SECOND),
    MOST_PIXELS_PER_SECOND,
  );
  const shrunk = Math.min(1, Math.max(0.3, room / (seconds * pixelsPerSecond)));
  const scale: LineScale = { trueTo: 'time', pixelsPerSecond, pixelsPerWhole: 250 };
  const bars = performedGeometry(proof, scale, {
    performed: from,
    widthPx: seconds * pixelsPerSecond - 1,
  });
  const top = roomAbove(proof, bars, NEAR_ROWS);
  const height = top + BOTTOM_PX + (under ? UNDER_PX : 0) + (beneath?.heightPx ?? 0);
  return (
    <div ref={holder}>
      {width > 0 && (
        <svg width="100%" height={height * shrunk} className="block overflow-visible">
          <g transform={`translate(${MARGIN_PX} ${top * shrunk}) scale(${shrunk})`}>
            <SystemView piece={proof.piece} compiled={proof.compiled} bars={bars} seamOf={seamOf} />
            {under &&
              bars.map((bar, place) => (
                <g key={bar.performed} transform={`translate(${bar.xPx} 0)`}>
                  {under(place)}
                </g>
              ))}
            {beneath?.draw(bars, pixelsPerSecond)}
            <Bead proof={proof} bars={bars} />
          </g>
        </svg>
      )}
    </div>
  );
}

/** The bead on bars that are drawn somewhere; it is there while just these bars sound. */
export function Bead({ proof, bars }: { readonly proof: Proof; readonly bars: readonly BarGeometry[] }) {
  const playback = usePlayback();
  const isSounding = useIsSounding();
  const pointNow = () => {
    const moment = playback.plays(proof) ? playback.momentMaybe() : null;
    return moment?.phase === 'bar' ? barPoint(proof.piece, bars, moment) : null;
  };
  return <SvgBead radius={7} isMoving={isSounding} pointNow={pointNow} />;
}
