import { pulseOf, type BarSpan, type LineScale } from '@anchorbeat/core';
import { useVirtualizer } from '@tanstack/react-virtual';
import { useEffect, useRef, type PointerEvent, type RefObject } from 'react';
import type { Proof } from '../compiled/useCompiled.ts';
import { beadPoint, type BeatShare } from './beadPlace.ts';
import { barDescription, SystemView } from './SystemView.tsx';
import { useLine, type LineLayout } from './useLine.ts';
import { useWidth } from './useWidth.ts';

const SYSTEM_HEIGHT_PX = 200;
const BASE_Y = 132;
const GUTTER_PX = 46;
const RIGHT_PX = 16;

export interface LineProps {
  readonly proof: Proof;
  readonly scale: LineScale;
  readonly selection: BarSpan;
  readonly focusBar: number;
  readonly onSelect: (barIndex: number, extend: boolean) => void;
  /** What the bead is on, asked every frame while `isMoving`; null hides it. */
  readonly beatNow: () => BeatShare | null;
  readonly isMoving: boolean;
}

/** The whole piece as systems of the line. Only the systems in view are drawn. */
export function Line({ proof, scale, selection, focusBar, onSelect, beatNow, isMoving }: LineProps) {
  const scroller = useRef<HTMLDivElement>(null);
  const width = useWidth(scroller);
  const layout = useLine(proof, scale, width - GUTTER_PX - RIGHT_PX);
  const rows = useVirtualizer({
    count: layout.systems.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => SYSTEM_HEIGHT_PX,
    overscan: 1,
  });
  const focusSystem = layout.systemOfBar(focusBar);
  useEffect(() => {
    if (width > 0) rows.scrollToIndex(focusSystem, { align: 'auto' });
  }, [focusSystem, rows, width]);
  const drag = useBarDrag(onSelect);
  return (
    <div
      ref={scroller}
      className="relative h-full overflow-y-auto overflow-x-hidden"
      role="listbox"
      aria-label="Bars of the piece"
      aria-multiselectable
      aria-activedescendant={`bar-${focusBar}`}
      tabIndex={0}
      {...drag}
    >
      <div style={{ height: rows.getTotalSize(), position: 'relative' }}>
        {width > 0 &&
          rows
            .getVirtualItems()
            .map((row) => (
              <SystemRow
                key={row.key}
                layout={layout}
                index={row.index}
                topPx={row.start}
                width={width}
                selection={selection}
              />
            ))}
        {isMoving && <Bead layout={layout} beatNow={beatNow} scroller={scroller} />}
      </div>
    </div>
  );
}

interface SystemRowProps {
  readonly layout: LineLayout;
  readonly index: number;
  readonly topPx: number;
  readonly width: number;
  readonly selection: BarSpan;
}

function SystemRow({ layout, index, topPx, width, selection }: SystemRowProps) {
  const { piece, compiled } = layout.proof;
  const bars = layout.geometryOf(index);
  const first = bars[0];
  const mark = first && piece.bars[first.barIndex]?.rehearsalMark;
  const isSelected = (bar: number) => bar >= selection.from && bar < selection.from + selection.count;
  return (
    <svg
      width={width}
      height={SYSTEM_HEIGHT_PX}
      className="absolute left-0 block select-none"
      style={{ top: topPx }}
      role="presentation"
    >
      <g transform={`translate(${GUTTER_PX} ${BASE_Y})`}>
        {bars.map((bar) => (
          <rect
            key={bar.barIndex}
            id={`bar-${bar.barIndex}`}
            data-bar={bar.barIndex}
            role="option"
            aria-selected={isSelected(bar.barIndex)}
            aria-label={barDescription(piece, compiled, bar.barIndex, layout.seamsByBar.get(bar.barIndex))}
            x={bar.xPx}
            y={-80}
            width={bar.widthPx}
            height={106}
            fill={isSelected(bar.barIndex) ? 'var(--selection)' : 'transparent'}
          />
        ))}
        <SelectionEdges bars={bars} selection={selection} />
        <g pointerEvents="none">
          <SystemView
            piece={piece}
            compiled={compiled}
            bars={bars}
            seamOf={(drawn) => layout.seamsByBar.get(drawn.barIndex)}
            hasFindings
          />
        </g>
      </g>
      {mark && <RehearsalMark mark={mark} />}
    </svg>
  );
}

/** The selection's ends, so that it is told by shape and not by tone alone. */
function SelectionEdges({
  bars,
  selection,
}: {
  readonly bars: ReturnType<LineLayout['geometryOf']>;
  readonly selection: BarSpan;
}) {
  const selected = bars.filter(
    (bar) => bar.barIndex >= selection.from && bar.barIndex < selection.from + selection.count,
  );
  const [first, last] = [selected[0], selected.at(-1)];
  if (!first || !last) return null;
  const end = last.xPx + last.widthPx;
  return (
    <path
      d={`M${first.xPx + 5} -80H${first.xPx}V26H${first.xPx + 5}M${end - 5} -80H${end}V26H${end - 5}`}
      fill="none"
      stroke="var(--selection-edge)"
      strokeWidth={2}
      pointerEvents="none"
    />
  );
}

function RehearsalMark({ mark }: { readonly mark: string }) {
  const shown = mark.slice(0, 4);
  const fontSize = shown.length > 2 ? 12 : 15;
  const width = Math.max(24, 8 + shown.length * fontSize * 0.66);
  return (
    <g transform={`translate(${Math.max(2, GUTTER_PX - width - 8)} ${BASE_Y - 12})`} pointerEvents="none">
      <rect width={width} height={24} rx={3} fill="var(--ink)" />
      <text
        x={width / 2}
        y={17}
        textAnchor="middle"
        fontSize={fontSize}
        fontWeight={800}
        fill="var(--ground)"
        className="numeral"
      >
        {shown}
      </text>
    </g>
  );
}

interface BeadProps {
  readonly layout: LineLayout;
  readonly beatNow: () => BeatShare | null;
  readonly scroller: RefObject<HTMLDivElement | null>;
}

/** The bead, moved frame by frame without React; the view follows it from system to system. */
function Bead({ layout, beatNow, scroller }: BeadProps) {
  const bead = useRef<HTMLDivElement>(null);
  useEffect(() => {
    let frame = 0;
    const move = () => {
      frame = requestAnimationFrame(move);
      const beat = beatNow();
      const element = bead.current;
      if (!element) return;
      element.style.visibility = beat ? 'visible' : 'hidden';
      if (!beat) return;
      const place = beadPlaceOf(layout, beat);
      element.style.transform = `translate(${place.x}px, ${place.y}px)`;
      followSystem(scroller.current, place.systemTop);
    };
    move();
    return () => cancelAnimationFrame(frame);
  }, [layout, beatNow, scroller]);
  return (
    <div
      ref={bead}
      data-testid="bead"
      className="pointer-events-none absolute -left-2.5 -top-2.5 size-5 rounded-full bg-entry shadow-sm"
      style={{ visibility: 'hidden' }}
    />
  );
}

function beadPlaceOf(layout: LineLayout, beat: BeatShare) {
  const system = layout.systemOfBar(beat.barIndex);
  const bars = layout.geometryOf(system);
  const bar = bars[beat.barIndex - (bars[0]?.barIndex ?? 0)];
  const written = layout.proof.piece.bars[beat.barIndex];
  if (!bar || !written) throw new RangeError(`bar ${beat.barIndex} is not on the line`);
  const point = beadPoint(bar, beat, pulseOf(written).length);
  const systemTop = system * SYSTEM_HEIGHT_PX;
  return { x: GUTTER_PX + point.x, y: systemTop + BASE_Y + point.y - 10, systemTop };
}

function followSystem(scroller: HTMLDivElement | null, systemTop: number): void {
  if (!scroller) return;
  const { scrollTop, clientHeight } = scroller;
  if (systemTop < scrollTop || systemTop + SYSTEM_HEIGHT_PX > scrollTop + clientHeight) {
    scroller.scrollTop = systemTop;
  }
}

/** Selecting with the pointer: press a bar, drag to another, or hold shift. */
function useBarDrag(onSelect: LineProps['onSelect']) {
  const isDragging = useRef(false);
  const barUnder = (event: PointerEvent) => {
    const bar = document.elementFromPoint(event.clientX, event.clientY)?.getAttribute('data-bar');
    return bar === null || bar === undefined ? null : Number(bar);
  };
  return {
    onPointerDown: (event: PointerEvent<HTMLDivElement>) => {
      const bar = barUnder(event);
      if (bar === null || event.button !== 0) return;
      isDragging.current = true;
      onSelect(bar, event.shiftKey);
    },
    onPointerMove: (event: PointerEvent<HTMLDivElement>) => {
      if (!isDragging.current) return;
      const bar = barUnder(event);
      if (bar !== null) onSelect(bar, true);
    },
    onPointerUp: () => {
      isDragging.current = false;
    },
    onPointerCancel: () => {
      isDragging.current = false;
    },
  };
}
