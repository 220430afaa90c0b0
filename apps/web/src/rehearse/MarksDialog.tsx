import { useState, type FormEvent } from 'react';
import { useKept } from '../kept/kept.ts';
import { Button } from '../ui/Button.tsx';
import { DialogShell } from '../ui/DialogShell.tsx';
import { TextField } from '../ui/TextField.tsx';
import { keptOwnMarks, OWN_MARK_KEYS, ownMarks, USUAL_MARKS } from './ownMarks.ts';

/** The director's own words for what went wrong, each on a key of its own. */
export function MarksDialog({ onClose }: { readonly onClose: () => void }) {
  const [marks, setMarks] = useKept(keptOwnMarks);
  const [typed, setTyped] = useState<readonly string[]>(() => OWN_MARK_KEYS.map((_, at) => marks[at] ?? ''));
  const keep = (event: FormEvent) => {
    event.preventDefault();
    setMarks(ownMarks(typed));
    onClose();
  };
  return (
    <DialogShell
      title="Own marks"
      description={`A word that one key notes on the last run, beside ${USUAL_MARKS.join(', ')}.`}
      onClose={onClose}
    >
      <form className="mt-4 grid gap-3" onSubmit={keep}>
        {OWN_MARK_KEYS.map((key, at) => (
          <TextField
            key={key}
            label={key}
            placeholder={at === 0 ? 'too loud' : undefined}
            autoFocus={at === 0}
            value={typed[at] ?? ''}
            onText={(text) => setTyped(typed.map((one, index) => (index === at ? text : one)))}
          />
        ))}
        <div className="flex justify-end gap-3">
          <Button onClick={onClose}>Leave it</Button>
          <Button filled type="submit">
            Keep them
          </Button>
        </div>
      </form>
    </DialogShell>
  );
}
