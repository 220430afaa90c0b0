import type { BarGeometry, Piece } from '@anchorbeat/core';
import { placeHolds } from '@anchorbeat/drawing';

interface HoldBowlsProps {
  readonly piece: Piece;
  readonly bars: readonly BarGeometry[];
}

/** Where a hold stands its landing opens into a bowl, with its length in words; a breath is a comma above. */
export function HoldBowls({ piece, bars }: HoldBowlsProps) {
  return placeHolds(piece, bars).map(({ kind, x, words }, index) =>
    kind === 'breath' ? <Breath key={index} x={x} /> : <Bowl key={index} x={x} words={words} />,
  );
}

function Bowl({ x, words }: { readonly x: number; readonly words: string }) {
  return (
    <g>
      <path d={`M${x - 11} -6Q${x} 14 ${x + 11} -6`} fill="none" stroke="var(--entry)" strokeWidth={2.6} />
      <text x={x + 12} y={48} fontSize={12.5} fontWeight={700} fill="var(--entry-text)">
        {words}
      </text>
    </g>
  );
}

function Breath({ x }: { readonly x: number }) {
  return (
    <text x={x} y={-56} fontSize={26} fontFamily="Bravura Music" fill="var(--ink)">
      {'\uE4CE'}
    </text>
  );
}
