import { useEffect } from 'react';
import { useLocation, useNavigate } from 'react-router';
import { toast } from '../ui/toast.ts';
import { carriedFileMaybe, isCarryingLink } from '../piece/pieceLink.ts';

/** A piece that the address carries is opened as a file would be; the address is a plain one afterwards. */
export function useCarriedPiece(open: (file: File) => void): void {
  const { hash } = useLocation();
  const navigate = useNavigate();
  useEffect(() => {
    if (!isCarryingLink(hash)) return;
    void navigate('/', { replace: true });
    void carriedFileMaybe(hash).then((file) => {
      if (file) open(file);
      else toast('This link is not whole: ask for it once more, or for the piece as a file');
    });
  }, [hash, navigate, open]);
}
