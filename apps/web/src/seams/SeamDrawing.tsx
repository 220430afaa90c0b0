import {
  noteValueLength,
  performedGeometry,
  pulseOf,
  secondsOf,
  type BarGeometry,
  type LineScale,
  type Seam,
} from '@anchorbeat/core';
import { useRef } from 'react';
import { useProof } from '../app/PieceLayout.tsx';
import { beadPoint } from '../line/beadPlace.ts';
import { SystemView } from '../line/SystemView.tsx';
import { useWidth } from '../line/useWidth.ts';
import { usePlayback } from '../sound/PlaybackContext.tsx';
import { useEachFrame } from '../ui/useEachFrame.ts';

const HEIGHT_PX = 250;
const BASE_Y = 150;
const MARGIN_PX = 24;
const BAND_Y = 78;
const MOST_MAGNIFIED = 1.5;
const PIXELS_PER_SECOND = 130;
const MIN_CARRY_PX = 7;

/** The bar before and the bar after on one line, true to time; the carry runs through both as a band of equal steps. */
export function SeamDrawing({ seam }: { readonly seam: Seam }) {
  const { piece, compiled } = useProof();
  const holder = useRef<HTMLDivElement>(null);
  const width = useWidth(holder);
  const { barStartSeconds } = compiled.timeline;
  const from = seam.performed - 1;
  const seconds = (barStartSeconds[seam.performed + 1] ?? 0) - (barStartSeconds[from] ?? 0);
  const magnified = Math.min(
    MOST_MAGNIFIED,
    Math.max(0.4, (width - 2 * MARGIN_PX) / (seconds * PIXELS_PER_SECOND)),
  );
  const scale: LineScale = { trueTo: 'time', pixelsPerSecond: PIXELS_PER_SECOND, pixelsPerWhole: 250 };
  const bars = performedGeometry(piece, compiled, scale, {
    performed: from,
    widthPx: seconds * PIXELS_PER_SECOND - 1,
  });
  const anchorX = bars[1]?.xPx ?? 0;
  return (
    <div ref={holder} className="mt-2">
      {width > 0 && (
        <svg
          width="100%"
          height={HEIGHT_PX * Math.min(1.25, Math.max(0.8, magnified))}
          className="block overflow-visible"
        >
          <g
            transform={`translate(${MARGIN_PX} ${BASE_Y * Math.min(1.25, Math.max(0.8, magnified))}) scale(${magnified})`}
          >
            <SystemView
              piece={piece}
              compiled={compiled}
              bars={bars}
              seamOf={(bar) => (bar.performed === seam.performed ? seam : undefined)}
            />
            <CarryBand seam={seam} bars={bars} anchorX={anchorX} />
            <SeamBead bars={bars} />
          </g>
        </svg>
      )}
    </div>
  );
}

/** Equal steps of the carry, back from the anchor and on from it. */
function CarryBand({
  seam,
  bars,
  anchorX,
}: {
  readonly seam: Seam;
  readonly bars: readonly BarGeometry[];
  readonly anchorX: number;
}) {
  const end = (bars.at(-1)?.xPx ?? 0) + (bars.at(-1)?.widthPx ?? 0);
  if (!seam.carry) return null;
  const before = secondsOf(noteValueLength(seam.carry.before), seam.rateBefore) * PIXELS_PER_SECOND;
  const after = secondsOf(noteValueLength(seam.carry.after), seam.rateAfter) * PIXELS_PER_SECOND;
  if (Math.min(before, after) < MIN_CARRY_PX) return null;
  const ticks = [
    ...Array.from({ length: Math.floor(anchorX / before + 1e-6) + 1 }, (_, step) => anchorX - step * before),
    ...Array.from(
      { length: Math.floor((end - anchorX) / after + 1e-6) },
      (_, step) => anchorX + (step + 1) * after,
    ),
  ];
  return (
    <g>
      <rect x={0} y={BAND_Y - 4} width={end} height={8} fill="var(--carry)" opacity={0.22} />
      <path
        d={ticks.map((x) => `M${x} ${BAND_Y - 8}V${BAND_Y + 8}`).join('')}
        stroke="var(--carry)"
        strokeWidth={2}
      />
    </g>
  );
}

function SeamBead({ bars }: { readonly bars: readonly BarGeometry[] }) {
  const proof = useProof();
  const playback = usePlayback();
  const bead = useRef<SVGCircleElement>(null);
  useEachFrame(() => {
    const moment = playback.momentMaybe();
    const bar =
      moment?.phase === 'bar' ? bars.find(({ performed }) => performed === moment.performed) : undefined;
    const written = bar && proof.piece.bars[bar.barIndex];
    const point =
      moment?.phase === 'bar' && bar && written ? beadPoint(bar, moment, pulseOf(written).length) : null;
    bead.current?.setAttribute('visibility', point ? 'visible' : 'hidden');
    if (point) bead.current?.setAttribute('transform', `translate(${point.x} ${point.y - 6})`);
  });
  return <circle ref={bead} r={7} fill="var(--entry)" visibility="hidden" />;
}
