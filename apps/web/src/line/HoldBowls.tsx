import { barLength, formatHoldLength, toNumber, type BarGeometry, type Piece } from '@anchorbeat/core';
import type { ReactNode } from 'react';

/** Where a hold stands its landing opens into a bowl, with its length in words; a breath is a comma above. */
export function HoldBowls({
  piece,
  bars,
}: {
  readonly piece: Piece;
  readonly bars: readonly BarGeometry[];
}): ReactNode {
  return bars.flatMap((drawn, drawnAt) => {
    const bar = piece.bars[drawn.barIndex]!;
    return (bar.holds ?? []).map((hold, index) => {
      const share = toNumber(hold.atWholes) / toNumber(barLength(bar));
      const hop = drawn.hops.findLast(
        (candidate) => candidate.xPx <= drawn.xPx + share * drawn.widthPx + 1e-6,
      );
      const x = hop?.xPx ?? drawn.xPx;
      const key = `${drawnAt} ${index}`;
      return hold.kind === 'breath' ? (
        <Breath key={key} x={drawn.xPx + drawn.widthPx - 10} />
      ) : (
        <Bowl key={key} x={x} words={formatHoldLength(hold.length)} />
      );
    });
  });
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
