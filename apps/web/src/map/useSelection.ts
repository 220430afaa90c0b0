import type { BarSpan, Piece } from '@anchorbeat/core';
import { useAppSelector } from '../store/store.ts';

/** The selected bars, held inside the piece as it now is. */
export function useSelection(piece: Piece): { readonly focusBar: number; readonly span: BarSpan } {
  const { anchorBar, focusBar } = useAppSelector((state) => state.map);
  const inside = (bar: number) => Math.min(bar, piece.bars.length - 1);
  const [a, b] = [inside(anchorBar), inside(focusBar)];
  return { focusBar: b, span: { from: Math.min(a, b), count: Math.abs(a - b) + 1 } };
}
