import { useRoomView } from '../room/RoomContext.tsx';
import { useListPiecesQuery } from '../store/api.ts';
import { useAppSelector } from '../store/store.ts';

/** The piece that the stands have open where it is not the one that is open here; else null. */
export function useStandsElsewhere(): { readonly pieceId: string; readonly title: string } | null {
  const { view } = useRoomView();
  const openId = useAppSelector((state) => state.piece.open?.id);
  const pieceId = view?.room?.open?.pieceId ?? openId;
  const isElsewhere = pieceId !== undefined && openId !== undefined && pieceId !== openId;
  const { data: pieces = [] } = useListPiecesQuery(undefined, { skip: !isElsewhere });
  if (!isElsewhere) return null;
  const title = pieces.find(({ id }) => id === pieceId)?.piece.title ?? 'another piece';
  return { pieceId, title };
}
