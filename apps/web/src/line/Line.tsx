import { pulseOf, type BarSpan, type LineScale } from '@anchorbeat/core';
import { useVirtualizer } from '@tanstack/react-virtual';
import { memo, useEffect, useRef, useState, type PointerEvent, type RefObject } from 'react';
import type { Proof } from '@anchorbeat/core';
import { useEachFrame } from '../ui/useEachFrame.ts';
import type { BeatShare } from '@anchorbeat/drawing';
import { beadPlace } from './beadPlace.ts';
import { barDescription, SystemView } from './SystemView.tsx';
import { EnsembleNotes, NOTES_LANE_PX } from './EnsembleNotes.tsx';
import { LANE_PX, SectionLanes } from './SectionLanes.tsx';
import { useLine, type LineLayout } from './useLine.ts';
import { useWidth } from './useWidth.ts';

const PLAIN_HEIGHT_PX = 200;
const BASE_Y = 132;
/** Below the carry: where sections and notes begin. */
const LANES_Y = 74;
const PLAIN_GUTTER_PX = 46;
const LANES_GUTTER_PX = 76;
const RIGHT_PX = 16;
const GRIP_ROOM_PX = 64;

export interface LineProps {
  readonly proof: Proof;
  readonly scale: LineScale;
  readonly selection: BarSpan;
  readonly focusBar: number;
  readonly onSelect: (barIndex: number, extend: boolean) => void;
  /** Moves the selected bars before another one; null where they cannot be moved. */
  readonly onMove: ((before: number) => void) | null;
  /** What the bead is on, asked every frame while `isMoving`; null hides it. */
  readonly beatNow: () => BeatShare | null;
  readonly isMoving: boolean;
}

/** The whole piece as systems of the line. Only the systems in view are drawn. */
export function Line(props: LineProps) {
  const { proof, scale, selection, focusBar, beatNow, isMoving } = props;
  const scroller = useRef<HTMLDivElement>(null);
  const width = useWidth(scroller);
  const layout = useLine(proof, scale, width - gutterOf(proof) - RIGHT_PX);
  const heightPx = systemHeight(layout);
  const rows = useVirtualizer({
    count: layout.systems.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => heightPx,
    overscan: 1,
  });
  useEffect(() => rows.measure(), [rows, heightPx]);
  const focusSystem = layout.systemOfBar(focusBar);
  useEffect(() => {
    if (width > 0) rows.scrollToIndex(focusSystem, { align: 'auto' });
  }, [focusSystem, rows, width]);
  const { dropBefore, ...drag } = useBarDrag(props);
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
                canMove={props.onMove !== null}
                dropBefore={dropBefore}
              />
            ))}
        {isMoving && <Bead layout={layout} beatNow={beatNow} scroller={scroller} />}
      </div>
    </div>
  );
}

/** Sections need room for their names before the line. */
function gutterOf({ piece }: Proof): number {
  return piece.bars.some((bar) => bar.sectionMarks) ? LANES_GUTTER_PX : PLAIN_GUTTER_PX;
}

function systemHeight({ sections, hasNotes }: LineLayout): number {
  const lanes = sections.length * LANE_PX + (hasNotes ? NOTES_LANE_PX : 0);
  return PLAIN_HEIGHT_PX + (lanes > 0 ? lanes + 8 : 0);
}

interface SystemRowProps {
  readonly layout: LineLayout;
  readonly index: number;
  readonly topPx: number;
  readonly width: number;
  readonly selection: BarSpan;
  readonly canMove: boolean;
  /** While bars are being moved: the bar they would come before. */
  readonly dropBefore: number | null;
}

/** Drawn anew only when it changes: scrolling moves what is there. */
const SystemRow = memo(function SystemRow(props: SystemRowProps) {
  const { layout, index, topPx, width, selection, canMove, dropBefore } = props;
  const { piece, compiled } = layout.proof;
  const bars = layout.geometryOf(index);
  const first = bars[0];
  const mark = first && piece.bars[first.barIndex]?.rehearsalMark;
  const isSelected = (bar: number) => bar >= selection.from && bar < selection.from + selection.count;
  return (
    <svg
      width={width}
      height={systemHeight(layout)}
      className="absolute left-0 block select-none"
      style={{ top: topPx }}
      role="presentation"
    >
      <g transform={`translate(${gutterOf(layout.proof)} ${BASE_Y})`}>
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
        {canMove && <Grip bars={bars} selection={selection} />}
        <DropMark bars={bars} dropBefore={dropBefore} isLast={index === layout.systems.length - 1} />
        <g pointerEvents="none">
          <SystemView piece={piece} compiled={compiled} bars={bars} seamOf={layout.seamOf} hasFindings />
          <SectionLanes
            piece={piece}
            bars={bars}
            sections={layout.sections}
            spans={layout.sectionSpans}
            y={LANES_Y}
          />
          {layout.hasNotes && (
            <EnsembleNotes piece={piece} bars={bars} y={LANES_Y + layout.sections.length * LANE_PX + 4} />
          )}
        </g>
      </g>
      {mark && <RehearsalMark mark={mark} gutterPx={gutterOf(layout.proof)} />}
    </svg>
  );
});

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

/** What the selected bars are taken by, to drag them elsewhere: six dots at their upper right. */
function Grip({ bars, selection }: Pick<Parameters<typeof SelectionEdges>[0], 'bars' | 'selection'>) {
  const last = bars.find((bar) => bar.barIndex === selection.from + selection.count - 1);
  const shown = bars.filter(
    (bar) => bar.barIndex >= selection.from && bar.barIndex < selection.from + selection.count,
  );
  const room = shown.reduce((total, bar) => total + bar.widthPx, 0);
  if (!last || room < GRIP_ROOM_PX) return null;
  return (
    <g transform={`translate(${last.xPx + last.widthPx - 30} -79)`} data-grip className="cursor-grab">
      <title>Drag the selected bars elsewhere</title>
      <rect width={28} height={16} rx={3} fill="var(--selection)" data-grip />
      {[0, 1, 2].map((column) =>
        [0, 1].map((row) => (
          <circle
            key={`${row} ${column}`}
            cx={8 + column * 6}
            cy={5 + row * 6}
            r={1.7}
            fill="var(--selection-edge)"
            data-grip
          />
        )),
      )}
    </g>
  );
}

interface DropMarkProps {
  readonly bars: ReturnType<LineLayout['geometryOf']>;
  readonly dropBefore: number | null;
  readonly isLast: boolean;
}

/** Where the bars that are being dragged would come to stand. */
function DropMark({ bars, dropBefore, isLast }: DropMarkProps) {
  const last = bars.at(-1);
  if (dropBefore === null || !last) return null;
  const before = bars.find((bar) => bar.barIndex === dropBefore);
  const isAtEnd = isLast && dropBefore === last.barIndex + 1;
  if (!before && !isAtEnd) return null;
  const x = before ? before.xPx : last.xPx + last.widthPx;
  return (
    <path
      d={`M${x} -92V36`}
      stroke="var(--entry)"
      strokeWidth={4}
      strokeLinecap="round"
      pointerEvents="none"
    />
  );
}

function RehearsalMark({ mark, gutterPx }: { readonly mark: string; readonly gutterPx: number }) {
  const shown = mark.slice(0, 4);
  const fontSize = shown.length > 2 ? 12 : 15;
  const width = Math.max(24, 8 + shown.length * fontSize * 0.66);
  return (
    <g transform={`translate(${Math.max(2, gutterPx - width - 8)} ${BASE_Y - 12})`} pointerEvents="none">
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
  useEachFrame(() => {
    const beat = beatNow();
    const element = bead.current;
    if (!element) return;
    element.style.visibility = beat ? 'visible' : 'hidden';
    if (!beat) return;
    const place = beadPlaceOf(layout, beat);
    element.style.transform = `translate(${place.x}px, ${place.y}px)`;
    followSystem(scroller.current, place.systemTop, systemHeight(layout));
  });
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
  const point = beadPlace(bar, beat, pulseOf(written).length);
  const systemTop = system * systemHeight(layout);
  return { x: gutterOf(layout.proof) + point.x, y: systemTop + BASE_Y + point.y - 10, systemTop };
}

function followSystem(scroller: HTMLDivElement | null, systemTop: number, heightPx: number): void {
  if (!scroller) return;
  const { scrollTop, clientHeight } = scroller;
  if (systemTop < scrollTop || systemTop + heightPx > scrollTop + clientHeight) {
    scroller.scrollTop = systemTop;
  }
}

/** The pointer on the line: press a bar, drag to another, or hold shift; drag the grip to move what is selected. */
function useBarDrag({ onSelect, onMove }: Pick<LineProps, 'onSelect' | 'onMove'>) {
  const doing = useRef<'nothing' | 'selecting' | 'moving'>('nothing');
  const [dropBefore, setDropBefore] = useState<number | null>(null);
  const done = () => {
    doing.current = 'nothing';
    setDropBefore(null);
  };
  return {
    dropBefore,
    onPointerDown: (event: PointerEvent<HTMLDivElement>) => {
      if (event.button !== 0) return;
      const under = elementUnder(event);
      if (onMove && under?.hasAttribute('data-grip')) {
        doing.current = 'moving';
        event.preventDefault();
        return;
      }
      const bar = barOf(under);
      if (bar === null) return;
      doing.current = 'selecting';
      onSelect(bar, event.shiftKey);
    },
    onPointerMove: (event: PointerEvent<HTMLDivElement>) => {
      if (doing.current === 'nothing') return;
      const under = elementUnder(event);
      const bar = barOf(under);
      if (bar === null) return;
      if (doing.current === 'selecting') onSelect(bar, true);
      else setDropBefore(bar + (isInRightHalf(under as Element, event.clientX) ? 1 : 0));
    },
    onPointerUp: () => {
      if (doing.current === 'moving' && dropBefore !== null) onMove?.(dropBefore);
      done();
    },
    onPointerCancel: done,
  };
}

function elementUnder({ clientX, clientY }: PointerEvent): Element | null {
  return document.elementFromPoint(clientX, clientY);
}

function barOf(element: Element | null): number | null {
  const bar = element?.getAttribute('data-bar');
  return bar === null || bar === undefined ? null : Number(bar);
}

function isInRightHalf(element: Element, clientX: number): boolean {
  const { left, width } = element.getBoundingClientRect();
  return clientX > left + width / 2;
}
