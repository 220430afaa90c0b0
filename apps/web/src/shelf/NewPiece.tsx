import { parseMeter, parseStatedTempo, writePiece, ZERO, type Piece } from '@anchorbeat/core';
import { Dialog } from 'radix-ui';
import { useState, type FormEvent } from 'react';
import { useNavigate } from 'react-router';
import { problemText, useCreatePieceMutation } from '../store/api.ts';
import { uuid } from '../store/uuid.ts';
import { Button } from '../ui/Button.tsx';

interface NewPieceProps {
  readonly ensembleId: string;
  readonly isOpen: boolean;
  readonly onClose: () => void;
}

const MOST_BARS_AT_ONCE = 2000;

/** Asks for what a map starts from; everything can be changed on the map. */
export function NewPiece({ ensembleId, isOpen, onClose }: NewPieceProps) {
  const navigate = useNavigate();
  const [create, { isLoading }] = useCreatePieceMutation();
  const [problem, setProblem] = useState('');
  const submit = async (event: FormEvent<HTMLFormElement>) => {
    event.preventDefault();
    const piece = pieceFromForm(new FormData(event.currentTarget));
    if (typeof piece === 'string') return setProblem(piece);
    try {
      const made = await create({ id: uuid(), ensembleId, piece: writePiece(piece) }).unwrap();
      onClose();
      await navigate(`/piece/${made.id}/map`);
    } catch (error) {
      setProblem(problemText(error));
    }
  };
  return (
    <Dialog.Root open={isOpen} onOpenChange={(open) => !open && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 bg-black/40" />
        <Dialog.Content className="fixed left-1/2 top-24 w-[30rem] -translate-x-1/2 rounded-2xl bg-raised p-7 shadow-xl">
          <Dialog.Title className="text-2xl font-bold">New piece</Dialog.Title>
          <Dialog.Description className="mt-1 text-quiet">
            All of it can be changed on the map.
          </Dialog.Description>
          <form className="mt-5 grid gap-4" onSubmit={(event) => void submit(event)}>
            <Field name="title" label="Title" initial="" />
            <div className="grid grid-cols-3 gap-4">
              <Field name="meter" label="Meter" initial="4/4" />
              <Field name="tempo" label="Tempo" initial="q = 96" />
              <Field name="bars" label="Bars" initial="16" />
            </div>
            <p role="alert" className="min-h-6 text-problem">
              {problem}
            </p>
            <div className="flex justify-end gap-3">
              <Button onClick={onClose}>Leave it</Button>
              <Button filled type="submit" disabled={isLoading}>
                Make it
              </Button>
            </div>
          </form>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

function Field({
  name,
  label,
  initial,
}: {
  readonly name: string;
  readonly label: string;
  readonly initial: string;
}) {
  return (
    <label className="grid min-w-0 gap-1 text-sm text-quiet">
      {label}
      <input
        name={name}
        defaultValue={initial}
        autoComplete="off"
        className="w-full min-w-0 rounded-lg border-2 border-faint bg-ground px-3 py-2 text-base text-ink focus:border-ink"
      />
    </label>
  );
}

/** The piece a form describes, or what is wrong with it. */
function pieceFromForm(form: FormData): Piece | string {
  const text = (name: string) => ((form.get(name) as string | null) ?? '').trim();
  if (!text('title')) return 'Give the piece a title';
  const meter = parseMeter(text('meter'));
  if (!meter.ok) return meter.problem.message;
  const tempo = parseStatedTempo(text('tempo'));
  if (!tempo.ok) return tempo.problem.message;
  const count = Number(text('bars'));
  if (!Number.isInteger(count) || count < 1 || count > MOST_BARS_AT_ONCE) {
    return `Start with 1 to ${MOST_BARS_AT_ONCE} bars; more can be added on the map`;
  }
  const bar = { meter: meter.value, tempoMarks: [] };
  const first = { ...bar, tempoMarks: [{ atWholes: ZERO, stated: tempo.value }] };
  return {
    title: text('title'),
    subtitle: '',
    composer: '',
    bars: [first, ...Array.from({ length: count - 1 }, () => bar)],
  };
}
