import {
  hopHeight,
  noteValueLength,
  performedGeometry,
  pulseOf,
  secondsOf,
  toNumber,
  type Bar,
  type BarGeometry,
  type Fraction,
  type LineScale,
  type Seam,
} from '@anchorbeat/core';
import { hopPath, NEAR_ROWS, noteShape, roomAbove } from '@anchorbeat/drawing';
import { useRef } from 'react';
import { useProof } from '../piece/PieceLayout.tsx';
import { Shapes } from '../line/Shapes.tsx';
import { SystemView } from '../line/SystemView.tsx';
import { useWidth } from '../line/useWidth.ts';
import { Bead } from '../line/BarsDrawing.tsx';

const MARGIN_PX = 18;
const MOST_PIXELS_PER_SECOND = 170;
/** From the upper line to the carry's band, and from there to the uppermost of what stands above the lower line. */
const BAND_BELOW_PX = 50;
const BELOW_BAND_PX = 36;
const BELOW_PX = 58;
const MIN_CARRY_PX = 7;

/**
 * Before and after on two lines of one time scale that meet at the anchor. Each line goes on past it, faintly, as it would
 * have gone; between them the carry runs through both in equal steps.
 */
export function SeamDrawing({ seam }: { readonly seam: Seam }) {
  const proof = useProof();
  const { piece, compiled } = proof;
  const holder = useRef<HTMLDivElement>(null);
  const width = useWidth(holder);
  const { barStartSeconds, route } = compiled.timeline;
  const start = (performed: number) => barStartSeconds[performed] ?? 0;
  const seconds = start(seam.performed + 1) - start(seam.performed - 1);
  const perSecond = Math.min(MOST_PIXELS_PER_SECOND, Math.max(10, (width - 2 * MARGIN_PX) / seconds));
  const scale: LineScale = { trueTo: 'time', pixelsPerSecond: perSecond, pixelsPerWhole: 250 };
  const barAt = (performed: number) => piece.bars[route.barIndex[performed] ?? 0] as Bar;
  const one = (performed: number) =>
    performedGeometry({ piece, compiled }, scale, { performed, widthPx: 1 }) as [BarGeometry];
  const [before, after] = [one(seam.performed - 1), one(seam.performed)];
  const anchorX = before[0].widthPx;
  const end = anchorX + after[0].widthPx;
  const upperY = roomAbove(proof, before, NEAR_ROWS);
  const bandY = upperY + BAND_BELOW_PX;
  const lowerY = bandY + BELOW_BAND_PX + roomAbove(proof, after, NEAR_ROWS);
  const isSeam = (bar: BarGeometry) => (bar.performed === seam.performed ? seam : undefined);
  return (
    <div ref={holder} className="mt-1">
      {width > 0 && (
        <svg
          width="100%"
          height={lowerY + BELOW_PX}
          className="block overflow-visible"
          role="img"
          aria-label="The bar before on the upper line, the bar after on the lower one, meeting at the anchor"
        >
          <g transform={`translate(${MARGIN_PX} 0)`}>
            <path
              d={`M${anchorX} ${upperY - 62}V${lowerY + 46}`}
              stroke="var(--seam)"
              strokeWidth={1.5}
              strokeDasharray="3 4"
            />
            <g transform={`translate(0 ${upperY})`}>
              <Onward
                bar={barAt(seam.performed - 1)}
                rate={seam.rateBefore}
                from={anchorX}
                to={end}
                perSecond={perSecond}
              />
              <SystemView piece={piece} compiled={compiled} bars={before} seamOf={isSeam} />
              <Bead proof={proof} bars={before} />
            </g>
            <g transform={`translate(0 ${bandY})`}>
              <CarryBand seam={seam} anchorX={anchorX} end={end} perSecond={perSecond} />
            </g>
            <g transform={`translate(${anchorX} ${lowerY})`}>
              <Onward
                bar={barAt(seam.performed)}
                rate={seam.rateAfter}
                from={0}
                to={-anchorX}
                perSecond={perSecond}
              />
              <SystemView piece={piece} compiled={compiled} bars={after} seamOf={isSeam} />
              <Bead proof={proof} bars={after} />
            </g>
          </g>
        </svg>
      )}
    </div>
  );
}

interface OnwardProps {
  readonly bar: Bar;
  readonly rate: Fraction;
  readonly from: number;
  /** Left of `from` the beats are drawn backwards, as a preparation. */
  readonly to: number;
  readonly perSecond: number;
}

/** The pulse of a bar as it would go on, or would have come: dashed, without a bar of its own. */
function Onward({ bar, rate, from, to, perSecond }: OnwardProps) {
  const isBack = to < from;
  const beats = pulseOf(bar).map(({ lengthWholes }) => secondsOf(lengthWholes, rate));
  const ordered = isBack ? [...beats].reverse() : beats;
  const hops: string[] = [];
  let x = from;
  for (let index = 0; hops.length < 64; index++) {
    const seconds = ordered[index % ordered.length] ?? 1;
    const next = x + (isBack ? -1 : 1) * seconds * perSecond;
    if (isBack ? next < to - 1 : next > to + 1) break;
    hops.push(hopPath({ xPx: Math.min(x, next), widthPx: Math.abs(next - x), heightPx: hopHeight(seconds) }));
    x = next;
  }
  return (
    <g stroke="var(--quiet)" fill="none" strokeDasharray="2 5" strokeOpacity={0.9}>
      <path d={`M${from} 0H${to}`} />
      <path d={hops.join('')} />
    </g>
  );
}

interface CarryBandProps {
  readonly seam: Seam;
  readonly anchorX: number;
  readonly end: number;
  readonly perSecond: number;
}

/** Equal steps of the carry, back from the anchor and on from it, with its note on either side. */
function CarryBand({ seam, anchorX, end, perSecond }: CarryBandProps) {
  if (!seam.carry) return null;
  const before = secondsOf(noteValueLength(seam.carry.before), seam.rateBefore) * perSecond;
  const after = secondsOf(noteValueLength(seam.carry.after), seam.rateAfter) * perSecond;
  if (Math.min(before, after) < MIN_CARRY_PX) return null;
  const ticks = [
    ...Array.from({ length: Math.floor(anchorX / before + 1e-6) + 1 }, (_, step) => anchorX - step * before),
    ...Array.from(
      { length: Math.floor((end - anchorX) / after + 1e-6) },
      (_, step) => anchorX + (step + 1) * after,
    ),
  ];
  const milliseconds = Math.round(
    (60_000 * toNumber(noteValueLength(seam.carry.before))) / toNumber(seam.rateBefore),
  );
  return (
    <>
      <rect x={0} y={-4} width={end} height={8} fill="var(--carry)" opacity={0.22} />
      <path d={ticks.map((x) => `M${x} -8V8`).join('')} stroke="var(--carry)" strokeWidth={2} />
      <Shapes
        shapes={[
          noteShape(seam.carry.before, { x: 2, y: 27, size: 15 }, 'carry'),
          noteShape(seam.carry.after, { x: anchorX + 9, y: 27, size: 15 }, 'carry'),
        ]}
      />
      <text x={anchorX + 46} y={26} fontSize={14} fontWeight={600} fill="var(--carry)">
        {milliseconds} ms on both sides
      </text>
    </>
  );
}
