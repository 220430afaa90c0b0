import type { BarSpan } from '@anchorbeat/core';
import type { BeatShare } from '@anchorbeat/drawing';
import { useVirtualizer } from '@tanstack/react-virtual';
import { useEffect, type RefObject } from 'react';
import { LineBead } from './LineBead.tsx';
import type { LineLayout } from '@anchorbeat/drawing';
import { SystemRow } from './SystemRow.tsx';
import { useBarPointer, useWheelZoom, type BarPointerWish } from './useBarPointer.ts';

export interface LineProps extends BarPointerWish {
  readonly layout: LineLayout;
  /** The element that scrolls, whose page the layout is made for. */
  readonly scroller: RefObject<HTMLDivElement | null>;
  readonly widthPx: number;
  readonly selection: BarSpan;
  readonly focusBar: number;
  /** What the bead is on, asked every frame while `isMoving`; null hides it. */
  readonly beatNow: () => BeatShare | null;
  readonly isMoving: boolean;
  /** Told which bars have come onto the screen. */
  readonly onView: (bars: BarSpan) => void;
}

/** The whole piece as systems of the line. Only the systems in view are drawn. */
export function Line(props: LineProps) {
  const { layout, scroller, widthPx, selection, focusBar, beatNow, isMoving, onView } = props;
  const rows = useVirtualizer({
    count: layout.systems.length,
    getScrollElement: () => scroller.current,
    estimateSize: layout.heightOf,
    overscan: 1,
  });
  useEffect(() => rows.measure(), [rows, layout]);
  const { startIndex, endIndex } = rows.range ?? { startIndex: 0, endIndex: 0 };
  const focusSystem = layout.systemOfBar(focusBar);
  useEffect(() => {
    rows.scrollToIndex(focusSystem, { align: 'auto' });
  }, [focusSystem, rows]);
  useEffect(() => {
    const [first, last] = [layout.systems[startIndex], layout.systems[endIndex]];
    if (first && last) onView({ from: first.firstBar, count: last.endBar - first.firstBar });
  }, [layout, startIndex, endIndex, onView]);
  useWheelZoom(scroller, props.onZoom);
  const { dropBefore, ...pointer } = useBarPointer(props);
  return (
    <div
      className="relative touch-pan-y outline-none"
      style={{ height: rows.getTotalSize() }}
      role="listbox"
      aria-label="Bars of the piece"
      aria-multiselectable
      aria-activedescendant={`bar-${focusBar}`}
      tabIndex={0}
      {...pointer}
    >
      {rows.getVirtualItems().map((row) => (
        <SystemRow
          key={row.key}
          layout={layout}
          index={row.index}
          topPx={row.start}
          width={widthPx}
          selection={selection}
          canMove={props.onMove !== null}
          dropBefore={dropBefore}
        />
      ))}
      {isMoving && <LineBead layout={layout} beatNow={beatNow} scroller={scroller} />}
    </div>
  );
}
