import { readPcmMaybe, withOwnWords, type RecordedWords } from '@anchorbeat/audio';
import { readPiece, type Piece } from '@anchorbeat/core';
import { fileNameOf } from '@anchorbeat/formats';
import { useParams } from 'react-router';
import { toast } from '../ui/toast.ts';
import { useShelfOf } from '../ensemble/useEnsemble.ts';
import type { FileWork } from '../files/fileWork.ts';
import { useProof } from '../piece/PieceLayout.tsx';
import { fetchWholeWords } from '../sound/fetchWords.ts';
import { orderName, soundOrders, type SoundChoice } from './soundChoice.ts';

const MEDIA_TYPES = { wav: 'audio/wav', flac: 'audio/flac', mp3: 'audio/mpeg' } as const;

/** Makes the sound that is chosen, with whatever has to be fetched for it. */
export function useSoundFile(
  make: (work: FileWork, fileName: string, mediaType: string) => Promise<void>,
): (choice: SoundChoice) => Promise<void> {
  const proof = useProof();
  const piecesOfShelf = useShelf();
  return async (choice) => {
    const { format, spoken } = choice.wishes;
    const pieces = choice.extent === 'all pieces' ? await piecesOfShelf() : [];
    if (choice.extent === 'all pieces' && pieces.length === 0) {
      toast('The other pieces cannot be fetched: the server does not answer');
      return;
    }
    const words = spoken === 'nothing' ? null : await recordedWords();
    const orders = soundOrders(proof, pieces, choice);
    const isOne = orders.length === 1;
    await make(
      { kind: 'render', orders, words },
      `${fileNameOf(orderName(proof, choice))}.${isOne ? format : 'zip'}`,
      isOne ? MEDIA_TYPES[format] : 'application/zip',
    );
  };
}

/** The pieces of the shelf in their order, the one that is open as it is here; none where they cannot be had. */
function useShelf(): () => Promise<readonly Piece[]> {
  const { piece } = useProof();
  const { pieceId = '' } = useParams();
  const shelfOf = useShelfOf();
  return async () =>
    ((await shelfOf(pieceId)) ?? []).flatMap(({ id, piece: document }) => {
      if (id === pieceId) return [piece];
      const reading = readPiece(document);
      return reading.ok ? [reading.piece] : [];
    });
}

/** The spoken counts as samples; null where they cannot be had, and clicks stand for them. */
async function recordedWords(): Promise<RecordedWords | null> {
  const words = await fetchWholeWords();
  const pcm = words && readPcmMaybe(new Uint8Array(words.file));
  const shipped = pcm && { ...pcm, index: words.index };
  return shipped && words.own ? withOwnWords(shipped, words.own) : shipped;
}
