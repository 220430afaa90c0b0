import type { Remedy } from '@anchorbeat/core';
import { useNavigate } from 'react-router';
import { useAppSelector } from '../store/store.ts';

/** Goes to the drill that helps against a mistake, at the seam before a written bar. */
export function useRemedy(): (remedy: Remedy, barIndex: number) => void {
  const navigate = useNavigate();
  const pieceId = useAppSelector((state) => state.piece.open?.id ?? '');
  return (remedy, barIndex) => void navigate(`/piece/${pieceId}/seams?bars=${barIndex}&do=${remedy}`);
}
