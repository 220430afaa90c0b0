import type { BarGeometry, BarSpan } from '@anchorbeat/core';

const GRIP_ROOM_PX = 64;
const HANDLE_RADIUS_PX = 7;
/** A hand's breadth around the end of a selection takes hold of it. */
const HANDLE_REACH_PX = 22;

interface SelectionMarksProps {
  readonly bars: readonly BarGeometry[];
  readonly selection: BarSpan;
  /** Top and bottom of the band behind the line. */
  readonly topY: number;
  readonly bottomY: number;
  readonly canMove: boolean;
}

/**
 * The selection's ends, so that it is told by shape and not by tone alone: each can be drawn farther by hand. The six
 * dots take the bars elsewhere.
 */
export function SelectionMarks({ bars, selection, topY, bottomY, canMove }: SelectionMarksProps) {
  const endBar = selection.from + selection.count;
  const selected = bars.filter(({ barIndex }) => barIndex >= selection.from && barIndex < endBar);
  const [first, last] = [selected[0], selected.at(-1)];
  if (!first || !last) return null;
  const end = last.xPx + last.widthPx;
  const [beginsHere, endsHere] = [first.barIndex === selection.from, last.barIndex === endBar - 1];
  return (
    <g>
      <path
        d={`${beginsHere ? edge(first.xPx, 5, topY, bottomY) : ''}${endsHere ? edge(end, -5, topY, bottomY) : ''}`}
        fill="none"
        stroke="var(--selection-edge)"
        strokeWidth={2}
        pointerEvents="none"
      />
      {beginsHere && <Handle end="from" x={first.xPx} y={bottomY} />}
      {endsHere && <Handle end="to" x={end} y={bottomY} />}
      {canMove && endsHere && end - first.xPx >= GRIP_ROOM_PX && <Grip x={end - 30} y={topY + 1} />}
    </g>
  );
}

function edge(x: number, inwards: number, topY: number, bottomY: number): string {
  return `M${x + inwards} ${topY}H${x}V${bottomY}H${x + inwards}`;
}

/** Seen where a finger points; there it is wide enough for one. */
function Handle({ end, x, y }: { readonly end: 'from' | 'to'; readonly x: number; readonly y: number }) {
  return (
    <g className="hidden cursor-ew-resize touch-none pointer-coarse:inline" data-handle={end}>
      <rect
        x={x - HANDLE_REACH_PX}
        y={y - HANDLE_REACH_PX}
        width={2 * HANDLE_REACH_PX}
        height={2 * HANDLE_REACH_PX}
        fill="transparent"
        data-handle={end}
      />
      <circle cx={x} cy={y} r={HANDLE_RADIUS_PX} fill="var(--selection-edge)" data-handle={end} />
    </g>
  );
}

/** What the selected bars are taken by, to drag them elsewhere: six dots at their upper right. */
function Grip({ x, y }: { readonly x: number; readonly y: number }) {
  return (
    <g transform={`translate(${x} ${y})`} data-grip className="cursor-grab pointer-coarse:hidden">
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
  readonly bars: readonly BarGeometry[];
  readonly dropBefore: number | null;
  readonly isLast: boolean;
  readonly topY: number;
  readonly bottomY: number;
}

/** Where the bars that are being dragged would come to stand. */
export function DropMark({ bars, dropBefore, isLast, topY, bottomY }: DropMarkProps) {
  const last = bars.at(-1);
  if (dropBefore === null || !last) return null;
  const before = bars.find((bar) => bar.barIndex === dropBefore);
  const isAtEnd = isLast && dropBefore === last.barIndex + 1;
  if (!before && !isAtEnd) return null;
  const x = before ? before.xPx : last.xPx + last.widthPx;
  return (
    <path
      d={`M${x} ${topY - 8}V${bottomY + 8}`}
      stroke="var(--entry)"
      strokeWidth={4}
      strokeLinecap="round"
      pointerEvents="none"
    />
  );
}
