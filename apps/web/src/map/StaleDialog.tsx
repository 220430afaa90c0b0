import { writePiece, type Preferred } from '@anchorbeat/core';
import { useState } from 'react';
import { useStore } from 'react-redux';
import { useNavigate } from 'react-router';
import { problemText, useCreatePieceMutation } from '../store/api.ts';
import { pageDrafts } from '../store/draftStore.ts';
import { closed, type OpenPiece, type SaveState } from '../store/pieceSlice.ts';
import { settleStale } from '../store/autosave.ts';
import { useAppDispatch, useAppSelector, type RootState } from '../store/store.ts';
import { v4 as uuid } from 'uuid';
import { Button } from '../ui/Button.tsx';
import { DialogShell } from '../ui/DialogShell.tsx';

const SHOWN_DIFFERENCES = 8;
const OBSTACLES = {
  'not answered': 'What the other window saved cannot be fetched: the server does not answer',
  'not together': 'The two do not go together in one bar: take one of them, or keep mine as a copy',
} as const;

/** Two windows changed the same piece: says what the other did and lets the director choose. Either way both are kept. */
export function StaleDialog() {
  const open = useAppSelector((state) => state.piece.open);
  if (!open || open.save.kind !== 'stale') return null;
  return <StaleChoice open={open} stale={open.save} />;
}

interface StaleChoiceProps {
  readonly open: OpenPiece;
  readonly stale: Extract<SaveState, { kind: 'stale' }>;
}

function StaleChoice({ open, stale }: StaleChoiceProps) {
  const dispatch = useAppDispatch();
  const navigate = useNavigate();
  const [create, { isLoading }] = useCreatePieceMutation();
  const [problem, setProblem] = useState('');
  const [isSettling, setSettling] = useState(false);
  const { isBaseGone } = stale;
  const store = useStore<RootState>();
  const settle = async (preferred: Preferred) => {
    setSettling(true);
    const obstacle = await settleStale(preferred, store.getState, dispatch);
    if (obstacle === null) return;
    setSettling(false);
    setProblem(OBSTACLES[obstacle]);
  };
  const keepBoth = async () => {
    const copy = { ...open.present, title: `${open.present.title} (my copy)` };
    try {
      const made = await create({
        id: uuid(),
        ensembleId: open.ensembleId,
        piece: writePiece(copy),
      }).unwrap();
      await pageDrafts().drop(open.id);
      dispatch(closed());
      await navigate(`/piece/${made.id}/map`);
    } catch (error) {
      setProblem(problemText(error));
    }
  };
  return (
    <DialogShell
      title={isBaseGone ? 'A backup was brought back' : 'This piece was changed in another window too'}
      description={
        isBaseGone
          ? 'What was done here since grew from a state that is no longer there. Nothing of either is lost; choose what to go on with.'
          : 'The other window saved first. Nothing of either is lost; choose what to go on with here.'
      }
      width="narrow"
    >
      <Changes title="There" lines={stale.differences} />
      <Changes title="Here" lines={open.unsavedEdits} />
      <p role="alert" className="min-h-6 text-problem">
        {problem}
      </p>
      <div className="mt-2 flex flex-wrap justify-end gap-3">
        <Button disabled={isLoading} onClick={() => void keepBoth()}>
          Keep mine as a copy
        </Button>
        <Button disabled={isSettling} onClick={() => void settle('theirs')}>
          {isBaseGone ? 'Take the backup’s' : 'Take theirs'}
        </Button>
        {!isBaseGone && (
          <Button disabled={isSettling} onClick={() => void settle('both')}>
            Take both
          </Button>
        )}
        <Button filled disabled={isSettling} onClick={() => void settle('mine')}>
          Take mine
        </Button>
      </div>
      <p className="mt-3 text-sm text-quiet">
        {isBaseGone
          ? 'Each as a whole.'
          : 'Of what both changed; taking both, mine only where it is the very same thing. Everything else stays as whoever changed it left it.'}{' '}
        Theirs is kept as revision {stale.currentRevision}, and what is chosen here can be undone.
      </p>
    </DialogShell>
  );
}

function Changes({ title, lines }: { readonly title: string; readonly lines: readonly string[] }) {
  const more = lines.length - SHOWN_DIFFERENCES;
  return (
    <section className="mt-4">
      <h3 className="font-display font-bold">{title}</h3>
      <ul className="mt-1 list-disc pl-5">
        {lines.slice(0, SHOWN_DIFFERENCES).map((line, index) => (
          <li key={index}>{line}</li>
        ))}
      </ul>
      {lines.length === 0 && <p className="text-quiet">Only small things</p>}
      {more > 0 && <p className="text-quiet">and {more} more</p>}
    </section>
  );
}
