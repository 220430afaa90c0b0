import type { PieceResponse } from '@anchorbeat/contract';
import { useState } from 'react';
import { toast } from '../ui/toast.ts';
import { v4 as uuid } from 'uuid';
import {
  problemText,
  useCreatePieceMutation,
  useListPiecesQuery,
  useShelvePieceMutation,
} from '../store/api.ts';
import { DialogShell } from '../ui/DialogShell.tsx';

interface TidyDialogProps {
  readonly pieces: readonly PieceResponse[];
  readonly onClose: () => void;
}

/** The order of the shelf; pieces copied, set aside and brought back. Nothing is ever deleted. */
export function TidyDialog({ pieces, onClose }: TidyDialogProps) {
  const [shelve] = useShelvePieceMutation();
  const [create] = useCreatePieceMutation();
  const [isWorking, setWorking] = useState(false);
  // A place is counted in the list that is shown: until the new one has come, the next step waits.
  const { isFetching } = useListPiecesQuery();
  const isBusy = isWorking || isFetching;
  const done = async (work: Promise<unknown>) => {
    setWorking(true);
    await work.catch((error: unknown) => toast(problemText(error)));
    setWorking(false);
  };
  const place = (piece: PieceResponse, at: number, isSetAside: boolean) =>
    void done(shelve({ pieceId: piece.id, place: Math.max(0, at), isSetAside }).unwrap());
  const copied = async ({ ensembleId, piece }: PieceResponse, place: number) => {
    const id = uuid();
    await create({ id, ensembleId, piece: { ...piece, title: `${piece.title}, copy` } }).unwrap();
    await shelve({ pieceId: id, place, isSetAside: false }).unwrap();
  };
  const shown = pieces.filter(({ isSetAside }) => !isSetAside);
  const aside = pieces.filter(({ isSetAside }) => isSetAside);
  const button = (name: string, label: string, does: () => void, isOff = false) => (
    <button
      type="button"
      aria-label={label}
      disabled={isBusy || isOff}
      onClick={does}
      className="rounded-lg border-2 border-faint px-3 py-1 hover:border-ink disabled:opacity-45"
    >
      {name}
    </button>
  );
  return (
    <DialogShell
      title="Tidy the shelf"
      description="What is set aside is off the shelf and out of plans, with its log and every revision; it can be brought back."
      width="middle"
      onClose={onClose}
    >
      <ol aria-label="On the shelf" className="mt-4">
        {shown.map((piece, index) => (
          <li key={piece.id} className="flex flex-wrap items-center gap-2 border-b border-faint py-2">
            <b className="min-w-40 flex-1 text-lg">{piece.piece.title}</b>
            {button('↑', `${piece.piece.title}: earlier`, () => place(piece, index - 1, false), index === 0)}
            {button(
              '↓',
              `${piece.piece.title}: later`,
              () => place(piece, index + 1, false),
              index === shown.length - 1,
            )}
            {button('Copy', `${piece.piece.title}: copy`, () => void done(copied(piece, index + 1)))}
            {button('Set aside', `${piece.piece.title}: set aside`, () => place(piece, pieces.length, true))}
          </li>
        ))}
      </ol>
      {aside.length > 0 && (
        <section aria-label="Set aside">
          <h3 className="mt-5 font-bold">Set aside</h3>
          <ul>
            {aside.map((piece) => (
              <li key={piece.id} className="flex items-center gap-2 border-b border-faint py-2">
                <span className="flex-1 text-lg text-quiet">{piece.piece.title}</span>
                {button('Bring back', `${piece.piece.title}: bring back`, () =>
                  place(piece, shown.length, false),
                )}
              </li>
            ))}
          </ul>
        </section>
      )}
    </DialogShell>
  );
}
