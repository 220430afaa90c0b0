import { type BarSpan, type Piece, type Proof } from '@anchorbeat/core';
import { anchoredBars, barsInMiniature, hopPathsOf, type BeatShare } from '@anchorbeat/drawing';
import { memo, useMemo, useRef, type PointerEvent } from 'react';
import { openFindings } from '../line/FindingMarks.tsx';
import { MOVING, placeAt } from '../ui/placeAt.ts';
import { useWidth } from '../line/useWidth.ts';
import { useEachFrame } from '../ui/useEachFrame.ts';

const HEIGHT_PX = 34;
const BASE_Y = 20;
const MAX_HOP_PX = 15;
/** Marks closer than this to the one before are left out. */
const MARK_ROOM_PX = 16;

interface OverviewProps {
  readonly proof: Proof;
  /** Bars that are on the screen. */
  readonly inView: BarSpan | null;
  readonly selection: BarSpan;
  readonly beatNow: () => BeatShare | null;
  readonly isMoving: boolean;
  /** Brings a bar onto the screen. */
  readonly onShow: (barIndex: number) => void;
}

/** The whole piece along the top: seams, marks and findings, what is on the screen, where it sounds. Drawn along it the page follows. */
export function Overview({ proof, inView, selection, beatNow, isMoving, onShow }: OverviewProps) {
  const holder = useRef<HTMLDivElement>(null);
  const width = useWidth(holder);
  const strip = useMemo(() => (width > 0 ? stripOf(proof, width) : null), [proof, width]);
  const show = (event: PointerEvent<HTMLDivElement>) => {
    if (!strip || !holder.current) return;
    const x = event.clientX - holder.current.getBoundingClientRect().left;
    onShow(
      Math.max(
        0,
        strip.starts.findLastIndex((start) => start <= x),
      ),
    );
  };
  return (
    <div
      ref={holder}
      data-testid="overview"
      aria-hidden
      className="relative shrink-0 cursor-pointer touch-none overflow-hidden rounded-md bg-[var(--strip)]"
      style={{ height: HEIGHT_PX }}
      onPointerDown={(event) => {
        event.currentTarget.setPointerCapture(event.pointerId);
        show(event);
      }}
      onPointerMove={(event) => event.currentTarget.hasPointerCapture(event.pointerId) && show(event)}
    >
      {strip && (
        <>
          <svg width={width} height={HEIGHT_PX} className="absolute inset-0">
            <Span strip={strip} span={selection} y={0} height={HEIGHT_PX} fill="var(--selection)" />
            <Strip strip={strip} proof={proof} width={width} />
            {inView && inView.count < proof.piece.bars.length && (
              <Span
                strip={strip}
                span={inView}
                y={1}
                height={HEIGHT_PX - 2}
                fill="none"
                stroke="var(--ink)"
              />
            )}
          </svg>
          {isMoving && <Sounding strip={strip} beatNow={beatNow} />}
        </>
      )}
    </div>
  );
}

interface DrawnStrip {
  /** Where each bar begins, and the end of the last, in pixels. */
  readonly starts: readonly number[];
  readonly paths: ReturnType<typeof hopPathsOf>;
}

function stripOf(proof: Proof, width: number): DrawnStrip {
  const bars = barsInMiniature(proof, width, (seconds) => Math.min(2 + 4 * seconds ** 1.25, MAX_HOP_PX));
  return { starts: [...bars.map((bar) => bar.xPx), width], paths: hopPathsOf(bars) };
}

const Strip = memo(function Strip({
  strip: { starts, paths },
  proof: { piece, compiled },
  width,
}: {
  readonly strip: DrawnStrip;
  readonly proof: Proof;
  readonly width: number;
}) {
  const xOf = (bar: number) => starts[bar] ?? 0;
  const seams = anchoredBars(compiled);
  const findings = new Set(openFindings(compiled).map((finding) => finding.barIndex));
  const marks = shownMarks(piece, xOf);
  return (
    <g>
      <g transform={`translate(0 ${BASE_Y})`}>
        <path d={paths.fill} fill="var(--hop-fill)" />
        <path d={`${paths.downbeats}${paths.subdivisions}`} fill="none" stroke="var(--ink)" strokeWidth={1} />
        <path d={`M0 0H${width}`} stroke="var(--ink)" />
        <path d={[...seams].map((bar) => `M${xOf(bar) - 1.5} 3h3v5h-3Z`).join('')} fill="var(--seam)" />
        <path
          d={[...findings].map((bar) => `M${xOf(bar)} 5l3.5 3.5l-3.5 3.5l-3.5 -3.5Z`).join('')}
          fill="var(--problem)"
        />
      </g>
      {marks.map(({ bar, text }) => (
        <text
          key={bar}
          x={xOf(bar) + 2}
          y={HEIGHT_PX - 2}
          fontSize={10}
          fontWeight={700}
          fill="var(--ink)"
          className="numeral"
        >
          {text}
        </text>
      ))}
    </g>
  );
});

/** Rehearsal marks from left to right, as many as there is room for. */
function shownMarks({ bars }: Piece, xOf: (bar: number) => number) {
  const shown: Array<{ readonly bar: number; readonly text: string }> = [];
  for (const [bar, { rehearsalMark }] of bars.entries()) {
    const last = shown.at(-1);
    if (rehearsalMark === undefined || (last && xOf(bar) - xOf(last.bar) < MARK_ROOM_PX)) continue;
    shown.push({ bar, text: rehearsalMark.slice(0, 3) });
  }
  return shown;
}

interface SpanProps {
  readonly strip: DrawnStrip;
  readonly span: BarSpan;
  readonly y: number;
  readonly height: number;
  readonly fill: string;
  readonly stroke?: string;
}

function Span({ strip: { starts }, span, y, height, fill, stroke }: SpanProps) {
  const from = starts[span.from] ?? 0;
  const to = starts[span.from + span.count] ?? starts.at(-1) ?? 0;
  return (
    <rect x={from} y={y} width={Math.max(3, to - from)} height={height} rx={3} fill={fill} stroke={stroke} />
  );
}

/** Where it sounds, moved frame by frame without React. */
function Sounding({
  strip: { starts },
  beatNow,
}: {
  readonly strip: DrawnStrip;
  readonly beatNow: OverviewProps['beatNow'];
}) {
  const mark = useRef<HTMLDivElement>(null);
  useEachFrame(() => {
    const beat = beatNow();
    placeAt(mark.current, beat && { x: starts[beat.barIndex] ?? 0, y: 0 });
  });
  return (
    <div
      ref={mark}
      className={`absolute inset-y-0 -left-px w-1 bg-entry ${MOVING}`}
      style={{ visibility: 'hidden' }}
    />
  );
}
