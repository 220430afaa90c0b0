import type { BarSpan } from '@anchorbeat/core';
import { ensembleNoteShapes, hasNotes, LANE_PX, laneShapes, type LineLayout } from '@anchorbeat/drawing';
import { memo } from 'react';
import { Shapes } from './Shapes.tsx';
import { DropMark, SelectionMarks } from './SelectionMarks.tsx';
import { barDescription, SystemView } from './SystemView.tsx';

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

/** One system of the map with its selection and its lanes. Drawn anew only when it changes: scrolling moves what is there. */
export const SystemRow = memo(function SystemRow(props: SystemRowProps) {
  const { layout, index, topPx, width, selection, canMove, dropBefore } = props;
  const { piece, compiled } = layout.proof;
  const bars = layout.geometryOf(index);
  const { rows, abovePx, belowPx } = layout.rowsOf(index);
  const lanes = layout.lanesOf(index);
  const band = { topY: rows.barlineY - 8, bottomY: Math.min(belowPx - 2, 26) };
  const isSelected = (bar: number) => bar >= selection.from && bar < selection.from + selection.count;
  const lanesY = belowPx + 8;
  return (
    <svg
      width={width}
      height={layout.heightOf(index)}
      className="absolute left-0 block select-none"
      style={{ top: topPx }}
      role="presentation"
    >
      <g transform={`translate(${layout.gutterPx} ${abovePx})`}>
        {bars.map((bar) => (
          <rect
            key={bar.barIndex}
            id={`bar-${bar.barIndex}`}
            data-bar={bar.barIndex}
            role="option"
            aria-selected={isSelected(bar.barIndex)}
            aria-label={barDescription(piece, compiled, bar.barIndex, layout.seamsByBar.get(bar.barIndex))}
            x={bar.xPx}
            y={band.topY}
            width={bar.widthPx}
            height={band.bottomY - band.topY}
            fill={isSelected(bar.barIndex) ? 'var(--selection)' : 'transparent'}
          />
        ))}
        <g pointerEvents="none">
          <SystemView
            piece={piece}
            compiled={compiled}
            bars={bars}
            seamOf={layout.seamOf}
            rows={rows}
            isCounted={(bar) => isSelected(bar.barIndex)}
            hasFindings
          />
          <Shapes
            shapes={laneShapes(piece, bars, {
              sections: lanes,
              spans: layout.sectionSpans,
              y: lanesY,
              gutterPx: layout.gutterPx,
            })}
          />
          {hasNotes(layout.proof, layout.systems[index]!, layout.detail) && (
            <Shapes shapes={ensembleNoteShapes(piece, bars, lanesY + lanes.length * LANE_PX + 4)} />
          )}
        </g>
        <SelectionMarks bars={bars} selection={selection} canMove={canMove} {...band} />
        <DropMark
          bars={bars}
          dropBefore={dropBefore}
          isLast={index === layout.systems.length - 1}
          {...band}
        />
      </g>
    </svg>
  );
});
