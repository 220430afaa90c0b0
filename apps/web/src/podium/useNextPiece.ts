import { useNavigate, useParams } from 'react-router';
import { toast } from 'sonner';
import { useLazyListPiecesQuery } from '../store/api.ts';

/**
 * Goes on to the podium of the piece that comes after this one on the shelf: a programme is played through by one key. Each
 * piece comes with its own tempo, click and count, as they are kept with it.
 */
export function useNextPiece(): () => Promise<void> {
  const { pieceId } = useParams();
  const navigate = useNavigate();
  const [listPieces] = useLazyListPiecesQuery();
  return async () => {
    const { data } = await listPieces(undefined, true);
    const ensembleId = data?.find(({ id }) => id === pieceId)?.ensembleId;
    const shelf = (data ?? []).filter((piece) => piece.ensembleId === ensembleId && !piece.isSetAside);
    const next = shelf[shelf.findIndex(({ id }) => id === pieceId) + 1];
    if (!data) toast('The shelf cannot be fetched: the server does not answer');
    else if (!next) toast('This is the last piece of the shelf');
    else void navigate(`/piece/${next.id}/podium`);
  };
}
