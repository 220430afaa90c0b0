import type { DateResponse } from '@anchorbeat/contract';
import { useSearchParams } from 'react-router';
import { setPercentMaybe } from '../rehearse/season.ts';
import { useListPiecesQuery } from '../store/api.ts';
import { useListDatesQuery } from '../store/seasonApi.ts';
import { useAppSelector } from '../store/store.ts';

/** A programme that is played piece by piece, in its order. */
export interface PlayedSet {
  readonly title: string;
  /** Which of its pieces is open, from 0; −1 for one that is not on it. */
  readonly at: number;
  readonly pieceIds: readonly string[];
  /** The piece that comes next, with its address; null after the last. */
  readonly next: { readonly title: string; readonly address: string } | null;
  /** Until the next piece begins by itself; null where it waits for the key. */
  readonly pauseSeconds: number | null;
}

/** The address of a piece's podium, as part of a programme, at the tempo that its date has for it. */
export function setAddress(pieceId: string, date: DateResponse): string {
  const percent = setPercentMaybe(pieceId, date);
  return `/piece/${pieceId}/podium?set=${date.id}${percent === null ? '' : `&percent=${percent}`}`;
}

/** The same, and it begins there by itself. */
export function beginning(address: string): string {
  return `${address}&begin=1`;
}

/** The programme that is played, as the address names its date; null where a piece is played for itself. */
export function useSet(): PlayedSet | null {
  const [search] = useSearchParams();
  const dateId = search.get('set');
  const open = useAppSelector((state) => state.piece.open);
  const { data: dates } = useListDatesQuery(open?.ensembleId ?? '', { skip: !open || dateId === null });
  const { data: pieces } = useListPiecesQuery(undefined, { skip: dateId === null });
  const date = dates?.find(({ id }) => id === dateId);
  if (!date || !open || !pieces) return null;
  const shelf = pieces.filter(({ ensembleId, isSetAside }) => ensembleId === open.ensembleId && !isSetAside);
  const known = (id: string) => shelf.find((piece) => piece.id === id);
  const pieceIds = date.pieceIds.length > 0 ? date.pieceIds.filter(known) : shelf.map(({ id }) => id);
  const at = pieceIds.indexOf(open.id);
  const next = known(pieceIds[at + 1] ?? '');
  return {
    title: date.title || (date.kind === 'concert' ? 'Concert' : 'Rehearsal'),
    at,
    pieceIds,
    next: next ? { title: next.piece.title ?? 'Untitled', address: setAddress(next.id, date) } : null,
    pauseSeconds: date.pauseSeconds ?? null,
  };
}
