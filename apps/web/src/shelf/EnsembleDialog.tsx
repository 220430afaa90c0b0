import type { EnsembleResponse } from '@anchorbeat/contract';
import { useState, type FormEvent } from 'react';
import { problemText, useUpdateEnsembleMutation } from '../store/api.ts';
import { Button } from '../ui/Button.tsx';
import { DialogShell } from '../ui/DialogShell.tsx';
import { TextField } from '../ui/TextField.tsx';

/** Name, place and sections of the ensemble; new pieces begin with its sections. */
export function EnsembleDialog({
  ensemble,
  onClose,
}: {
  readonly ensemble: EnsembleResponse;
  readonly onClose: () => void;
}) {
  const [update, { isLoading }] = useUpdateEnsembleMutation();
  const [name, setName] = useState(ensemble.name);
  const [place, setPlace] = useState(ensemble.place);
  const [sections, setSections] = useState(ensemble.sections.join(', '));
  const [problem, setProblem] = useState('');
  const submit = async (event: FormEvent) => {
    event.preventDefault();
    const named = [...new Set(sections.split(',').map((section) => section.trim()))].filter(Boolean);
    try {
      await update({ id: ensemble.id, name: name.trim(), place: place.trim(), sections: named }).unwrap();
      onClose();
    } catch (error) {
      setProblem(problemText(error));
    }
  };
  return (
    <DialogShell
      title="The ensemble"
      description="Sections, not names of people. New pieces begin with these sections; each piece may have others."
      width="narrow"
      onClose={onClose}
    >
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
        <p role="alert" className="min-h-6 text-problem">
          {problem}
        </p>
        <div className="flex justify-end gap-3">
          <Button onClick={onClose}>Leave it</Button>
          <Button filled type="submit" disabled={isLoading}>
            Keep it
          </Button>
        </div>
      </form>
    </DialogShell>
  );
}
