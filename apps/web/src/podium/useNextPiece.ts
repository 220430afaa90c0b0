import { useNavigate, useParams } from 'react-router';
import { toast } from '../ui/toast.ts';
import { useShelfOf } from '../ensemble/useEnsemble.ts';
import { useSet } from './useSet.ts';

/**
 * Goes on to the podium of the piece that comes after this one, on the programme that is played or else on the shelf: all is
 * played through by one key. Each piece comes with its own click and count, as
 * they are kept with it, and at the tempo that the programme's date has for it, or else its own.
 */
export function useNextPiece(): () => Promise<void> {
  const { pieceId = '' } = useParams();
  const navigate = useNavigate();
  const shelfOf = useShelfOf();
  const set = useSet();
  return async () => {
    if (set) {
      if (set.next) void navigate(set.next.address);
      else toast('This is the last piece of the programme');
      return;
    }
    const shelf = await shelfOf(pieceId);
    const next = shelf?.[shelf.findIndex(({ id }) => id === pieceId) + 1];
    if (next) void navigate(`/piece/${next.id}/podium`);
    else
      toast(
        shelf
          ? 'This is the last piece of the shelf'
          : 'The shelf cannot be fetched: the server does not answer',
      );
  };
}
