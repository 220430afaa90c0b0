import type { BarGeometry, Piece } from '@anchorbeat/core';
import type { ReactNode } from 'react';

export const NOTES_LANE_PX = 18;
const LETTER_PX = 6.4;

interface EnsembleNotesProps {
  readonly piece: Piece;
  readonly bars: readonly BarGeometry[];
  readonly y: number;
}

/** Words to the ensemble, each from its bar on, as far as there is room. */
export function EnsembleNotes({ piece, bars, y }: EnsembleNotesProps): ReactNode {
  const noted = bars.filter(({ barIndex }) => piece.bars[barIndex]?.note !== undefined);
  const end = (bars.at(-1)?.xPx ?? 0) + (bars.at(-1)?.widthPx ?? 0);
  return noted.map((bar, index) => {
    const note = piece.bars[bar.barIndex]?.note ?? '';
    const room = (noted[index + 1]?.xPx ?? Math.max(end, bar.xPx + 200)) - bar.xPx - 14;
    const letters = Math.max(1, Math.floor(room / LETTER_PX));
    return (
      <g key={bar.barIndex} transform={`translate(${bar.xPx} ${y})`}>
        <path d="M0 -9V4" stroke="var(--ink)" strokeWidth={1.6} />
        <text x={6} y={2} fontSize={13} fontStyle="italic" fill="var(--ink)">
          {note.length > letters ? `${note.slice(0, letters - 1)}…` : note}
          <title>{note}</title>
        </text>
      </g>
    );
  });
}
