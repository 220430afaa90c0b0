import type { BarGeometry, CompiledPiece } from '@anchorbeat/core';
import type { LineRows } from '@anchorbeat/drawing';
import type { ReactNode } from 'react';

/** A plum diamond by the number of every bar with something to look at; hints stay off the line. */
export function FindingMarks({
  compiled,
  bars,
  rows,
}: {
  readonly compiled: CompiledPiece;
  readonly bars: readonly BarGeometry[];
  readonly rows: LineRows;
}): ReactNode {
  const marked = new Set(openFindings(compiled).map((finding) => finding.barIndex));
  return bars.map(
    (bar, drawnAt) =>
      marked.has(bar.barIndex) && (
        <path
          key={drawnAt}
          d={`M${bar.xPx - 11} ${rows.labelY - 10}l6 6l-6 6l-6 -6Z`}
          fill="var(--problem)"
        />
      ),
  );
}

/** What still wants an answer: errors and questions; hints are told where they help, not counted. */
export function openFindings({ findings }: CompiledPiece) {
  return findings.filter((finding) => finding.answer === null && finding.severity !== 'hint');
}
