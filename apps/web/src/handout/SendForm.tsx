import { useEffect, useState } from 'react';
import { useParams } from 'react-router';
import { toast } from '../ui/toast.ts';
import type { Act } from '../acts/act.ts';
import { ActButton } from '../acts/ActButton.tsx';
import { useActs } from '../acts/ActsContext.tsx';
import { carryingLink } from '../piece/pieceLink.ts';
import { useProof } from '../piece/PieceLayout.tsx';
import { copyWords } from '../ui/copyWords.ts';
import { QrCode } from '../ui/QrCode.tsx';

/** What a phone's camera still reads from a sheet of paper or a screen. */
const MOST_QR_LETTERS = 1400;

/** The piece as a link: to itself on this server, or with everything in it. */
export function SendForm() {
  const { piece } = useProof();
  const { pieceId = '' } = useParams();
  const [carrying, setCarrying] = useState<string | null>(null);
  useEffect(() => {
    let isWanted = true;
    void carryingLink(piece, location.origin).then((link) => isWanted && setCarrying(link));
    return () => {
      isWanted = false;
    };
  }, [piece]);
  const copy = async (link: string, says: string) =>
    toast((await copyWords(link)) ? says : 'This browser does not let a page copy');
  const acts: readonly Act[] = [
    {
      id: 'handout.linkHere',
      key: 'k',
      name: 'copy the link to it on this server',
      label: 'Copy its link here',
      group: 'Hand out',
      does: () =>
        void copy(`${location.origin}/piece/${pieceId}/map`, 'Copied: for who leads this ensemble too'),
    },
    {
      id: 'handout.linkCarrying',
      key: 'l',
      name: 'copy a link with the whole piece in it',
      label: 'Copy a link that carries it',
      group: 'Hand out',
      may: carrying !== null,
      does: () => void copy(carrying ?? '', 'Copied: opened here, it is shown before anything is kept'),
    },
  ];
  useActs('view', acts);
  const fits = carrying !== null && carrying.length <= MOST_QR_LETTERS;
  return (
    <section aria-label="The piece as a link" className="mt-8 max-w-4xl">
      <h2 className="text-2xl font-bold">The piece as a link</h2>
      <p className="mt-1 text-quiet">
        To itself on this server, for who leads this ensemble; or with the whole piece in it, which anybody
        opens who has an Anchorbeat at this address.
      </p>
      <div className="mt-3 flex flex-wrap items-start gap-x-6 gap-y-3">
        {acts.map((act) => (
          <ActButton key={act.id} act={act} />
        ))}
      </div>
      {carrying !== null && (
        <div className="mt-4">
          {fits ? (
            <QrCode text={carrying} correction="L" className="w-72 max-w-full" />
          ) : (
            <p className="text-quiet">
              With {carrying.length} letters it is too long for a picture that a camera reads; the link itself
              is not.
            </p>
          )}
        </div>
      )}
    </section>
  );
}
