import type { EnsembleResponse } from '@anchorbeat/contract';
import type { NoteNames } from '@anchorbeat/core';
import { useState, type FormEvent } from 'react';
import { v4 as uuid } from 'uuid';
import { problemText, useCreateEnsembleMutation, useUpdateEnsembleMutation } from '../store/api.ts';
import { Button } from '../ui/Button.tsx';
import { DialogShell } from '../ui/DialogShell.tsx';
import { TextField } from '../ui/TextField.tsx';
import { ToggleGroup } from '../ui/ToggleGroup.tsx';

const NAMED_NOTES = [
  { value: 'quarter', name: 'half, quarter, eighth' },
  { value: 'crotchet', name: 'minim, crotchet, quaver' },
] as const;

interface EnsembleDialogProps {
  readonly ensemble: EnsembleResponse;
  /** Called with the ensemble that was made, if one was. */
  readonly onMade: (ensembleId: string) => void;
  readonly onClose: () => void;
}

/** Name, place, sections and note names of the ensemble, or of a further one; new pieces begin with its sections. */
export function EnsembleDialog({ ensemble, onMade, onClose }: EnsembleDialogProps) {
  const [isFurther, setFurther] = useState(false);
  return (
    <DialogShell
      title={isFurther ? 'A further ensemble' : 'The ensemble'}
      description={
        isFurther
          ? 'With a shelf, a season and sections of its own. You direct it.'
          : 'Sections, not names of people. New pieces begin with these sections; each piece may have others.'
      }
      width="narrow"
      onClose={onClose}
      aside={!isFurther && <Button onClick={() => setFurther(true)}>A further one</Button>}
    >
      {isFurther ? (
        <EnsembleForm key="further" ensemble={null} onMade={onMade} onClose={onClose} />
      ) : (
        <EnsembleForm key="this" ensemble={ensemble} onMade={onMade} onClose={onClose} />
      )}
    </DialogShell>
  );
}

type EnsembleFormProps = Omit<EnsembleDialogProps, 'ensemble'> & {
  readonly ensemble: EnsembleResponse | null;
};

function EnsembleForm({ ensemble, onMade, onClose }: EnsembleFormProps) {
  const [update, { isLoading: isUpdating }] = useUpdateEnsembleMutation();
  const [create, { isLoading: isCreating }] = useCreateEnsembleMutation();
  const [name, setName] = useState(ensemble?.name ?? '');
  const [place, setPlace] = useState(ensemble?.place ?? '');
  const [sections, setSections] = useState(ensemble?.sections.join(', ') ?? '');
  const [noteNames, setNoteNames] = useState<NoteNames>(ensemble?.noteNames ?? 'quarter');
  const [problem, setProblem] = useState('');
  const submit = async (event: FormEvent) => {
    event.preventDefault();
    const named = [...new Set(sections.split(',').map((section) => section.trim()))].filter(Boolean);
    try {
      const said = { name: name.trim(), place: place.trim(), sections: named, noteNames };
      if (ensemble) await update({ id: ensemble.id, ...said }).unwrap();
      else onMade((await create({ id: uuid(), ...said }).unwrap()).id);
      onClose();
    } catch (error) {
      setProblem(problemText(error));
    }
  };
  return (
    <form className="mt-4 grid gap-3" onSubmit={(event) => void submit(event)}>
      <TextField labelStands="above" label="Name" value={name} onText={setName} autoFocus />
      <TextField labelStands="above" label="Place" value={place} onText={setPlace} />
      <TextField
        labelStands="above"
        label="Sections, with commas between"
        value={sections}
        onText={setSections}
        placeholder="Bells, Reeds, Drums"
      />
      <ToggleGroup
        label="Notes are called"
        options={NAMED_NOTES}
        isOn={(names) => names === noteNames}
        onToggle={setNoteNames}
      />
      <p role="alert" className="min-h-6 text-problem">
        {problem}
      </p>
      <div className="flex justify-end gap-3">
        <Button onClick={onClose}>Leave it</Button>
        <Button filled type="submit" disabled={isUpdating || isCreating}>
          Keep it
        </Button>
      </div>
    </form>
  );
}
