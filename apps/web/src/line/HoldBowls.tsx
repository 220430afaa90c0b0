import type { BarGeometry, Piece } from '@anchorbeat/core';
import { placeHolds, type LineRows } from '@anchorbeat/drawing';

interface HoldBowlsProps {
  readonly piece: Piece;
  readonly bars: readonly BarGeometry[];
  readonly rows: LineRows;
}

/** Where a hold stands its landing opens into a bowl, with its length in words; a breath is a comma above. */
export function HoldBowls({ piece, bars, rows }: HoldBowlsProps) {
  return placeHolds(piece, bars).map(({ kind, x, words }, index) =>
    kind === 'breath' ? (
      <Breath key={index} x={x} y={rows.breathY} />
    ) : (
      <Bowl key={index} x={x} y={rows.holdWordsY} words={words} />
    ),
  );
}

function Bowl({ x, y, words }: { readonly x: number; readonly y: number; readonly words: string }) {
  return (
    <g>
      <path d={`M${x - 11} -6Q${x} 14 ${x + 11} -6`} fill="none" stroke="var(--entry)" strokeWidth={2.6} />
      <text x={x + 12} y={y} fontSize={12.5} fontWeight={700} fill="var(--entry-text)">
        {words}
      </text>
    </g>
  );
}

function Breath({ x, y }: { readonly x: number; readonly y: number }) {
  return (
    <text x={x} y={y} fontSize={26} fontFamily="Bravura Music" fill="var(--ink)">
      {'\uE4CE'}
    </text>
  );
}
