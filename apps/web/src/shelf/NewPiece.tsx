import { applyEdit, inWords, pulseAdvice, pulseChoiceMaybe, type Piece } from '@anchorbeat/core';
import { useMemo, useState, type FormEvent, type ReactNode } from 'react';
import type { EnsembleResponse } from '@anchorbeat/contract';
import { Button } from '../ui/Button.tsx';
import { DialogShell } from '../ui/DialogShell.tsx';
import { PulseAdviceText } from '../ui/PulseAdviceText.tsx';
import { TextField } from '../ui/TextField.tsx';
import { useKeepPiece } from '../piece/useKeepPiece.ts';
import { BLANK_INTAKE, COUNTED_IN, meterAndRateMaybe, pieceFromIntake, type Intake } from './intake.ts';

interface NewPieceProps {
  readonly ensemble: EnsembleResponse;
  readonly onClose: () => void;
}

/** The first look at a piece: what the title page says, and how it will be beaten. Nothing has to be answered now. */
export function NewPiece({ ensemble, onClose }: NewPieceProps) {
  return (
    <DialogShell
      title="New piece"
      description="What the first page says. Leave for later what you like: all of it can be changed on the map."
      width="wide"
      onClose={onClose}
    >
      <IntakeForm ensemble={ensemble} onClose={onClose} />
    </DialogShell>
  );
}

function IntakeForm({ ensemble, onClose }: NewPieceProps) {
  const { keep, isLoading } = useKeepPiece(ensemble, onClose);
  const [intake, setIntake] = useState(BLANK_INTAKE);
  const [problem, setProblem] = useState('');
  const field = (name: keyof Intake) => ({
    value: intake[name],
    onText: (value: string) => setIntake({ ...intake, [name]: value }),
    labelStands: 'above' as const,
  });
  const submit = async (event: FormEvent<HTMLFormElement>) => {
    event.preventDefault();
    const piece = checkedPiece(intake, ensemble.sections);
    if (typeof piece === 'string') return setProblem(piece);
    setProblem((await keep(piece)) ?? '');
  };
  return (
    <form className="mt-4 flex flex-wrap gap-6" onSubmit={(event) => void submit(event)}>
      <div className="grid flex-[2_1_22rem] content-start gap-3">
        <TextField label="Title" autoFocus {...field('title')} />
        <div className="grid grid-cols-[repeat(auto-fit,minmax(min(7rem,100%),1fr))] gap-3">
          <TextField label="Composer" {...field('composer')} />
          <TextField label="Period or style" {...field('style')} />
          <TextField label="Key" {...field('key')} />
        </div>
        <div className="grid grid-cols-[repeat(auto-fit,minmax(min(6rem,100%),1fr))] gap-3">
          <TextField label="Meter" {...field('meter')} />
          <TextField label="Tempo word" {...field('term')} />
          <TextField label="Printed tempo" {...field('tempo')} />
          <TextField label="Bars" {...field('bars')} />
        </div>
        <div className="grid grid-cols-[repeat(auto-fit,minmax(min(10rem,100%),1fr))] gap-3">
          <TextField label="Pickup" placeholder="e, q. or 3/8" {...field('pickup')} />
          <label className="grid min-w-0 content-start gap-1 text-sm text-quiet">
            Counted in by
            <select
              value={intake.countedIn}
              onChange={({ target }) => setIntake({ ...intake, countedIn: target.value })}
              className="w-full min-w-0 rounded-lg border-2 border-faint bg-ground px-3 py-2.5 text-base text-ink focus:border-ink"
            >
              {COUNTED_IN.map(({ id, name }) => (
                <option key={id} value={id}>
                  {name}
                </option>
              ))}
            </select>
          </label>
        </div>
      </div>
      <Advice intake={intake} onBeatenIn={field('beatenIn').onText} />
      <div className="flex basis-full flex-wrap items-center gap-3">
        <p role="alert" className="min-h-6 flex-1 text-problem">
          {problem}
        </p>
        <Button onClick={onClose}>Leave it</Button>
        <Button filled type="submit" disabled={isLoading}>
          Make it
        </Button>
      </div>
    </form>
  );
}

/** The core has the last word: the title is set as any edit would set it, so that what is too long is told. */
function checkedPiece(intake: Intake, sections: readonly string[]): Piece | string {
  const piece = pieceFromIntake(intake, sections);
  if (!piece.ok) return piece.problem.message;
  const { title, composer, key = '', style = '' } = piece.value;
  const set = applyEdit(piece.value, { kind: 'setHead', head: { title, composer, key, style } });
  return set.ok ? set.value.piece : set.problem.message;
}

interface AdviceProps {
  readonly intake: Intake;
  readonly onBeatenIn: (beats: string) => void;
}

/** How it is best beaten, and the choice. */
function Advice({ intake, onBeatenIn }: AdviceProps) {
  const read = useMemo(() => meterAndRateMaybe(intake), [intake]);
  if (!read) return <AdviceBox>Give a meter and a tempo, and this says how it is best beaten.</AdviceBox>;
  // A beat finer than the meter's units is written on the map, as notes.
  const options = pulseAdvice(read, read.rate).options.filter(
    (option) => pulseChoiceMaybe(read.meter, option)?.kind === 'in',
  );
  return (
    <AdviceBox>
      <PulseAdviceText bar={read} rate={read.rate} />
      <label className="mt-3 grid gap-1 text-sm text-quiet">
        Beaten
        <select
          value={options.some(({ beats }) => String(beats) === intake.beatenIn) ? intake.beatenIn : ''}
          onChange={({ target }) => onBeatenIn(target.value)}
          className="rounded-lg border-2 border-faint bg-ground px-3 py-2 text-base text-ink focus:border-ink"
        >
          <option value="">as its meter is</option>
          {options.map(({ beats }) => (
            <option key={beats} value={beats}>
              {inWords(beats)}
            </option>
          ))}
        </select>
      </label>
    </AdviceBox>
  );
}

function AdviceBox({ children }: { readonly children: ReactNode }) {
  return (
    <section aria-label="How to beat it" className="min-w-0 flex-[1_1_17rem] border-l-2 border-faint pl-5">
      <h3 className="mb-1 font-display text-lg font-bold">How to beat it</h3>
      {children}
    </section>
  );
}
