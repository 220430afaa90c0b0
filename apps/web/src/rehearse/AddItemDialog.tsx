import type { PlanChoice } from '@anchorbeat/core';
import { useState } from 'react';
import { DialogShell } from '../ui/DialogShell.tsx';
import { hasWords } from '../ui/hasWords.ts';
import { TextField } from '../ui/TextField.tsx';

interface AddItemDialogProps {
  /** What is not in the plan yet. */
  readonly choices: readonly PlanChoice[];
  readonly onChoose: (key: string) => void;
  readonly onClose: () => void;
}

/** Puts a place or a whole piece into the plan by hand: it is pinned, and the rest flows around it. */
export function AddItemDialog({ choices, onChoose, onClose }: AddItemDialogProps) {
  const [sought, setSought] = useState('');
  const found = choices.filter(({ title }) => hasWords(title, sought));
  const choose = (key: string) => {
    onChoose(key);
    onClose();
  };
  return (
    <DialogShell
      title="Put it into the plan"
      description="A place or a whole piece of the programme, whatever it would gain."
      width="middle"
      onClose={onClose}
    >
      <form
        className="mt-4"
        onSubmit={(event) => {
          event.preventDefault();
          const [first] = found;
          if (first) choose(first.key);
        }}
      >
        <TextField
          labelStands="above"
          label="Find: a piece, a bar"
          autoFocus
          value={sought}
          onText={setSought}
        />
      </form>
      <ul aria-label="What may be added" className="mt-3 max-h-[50vh] overflow-y-auto border-t border-faint">
        {found.map(({ key, title }) => (
          <li key={key} className="border-b border-faint">
            <button
              type="button"
              className="min-h-11 w-full px-2 py-1.5 text-left text-lg hover:bg-selection focus-visible:bg-selection"
              onClick={() => choose(key)}
            >
              {title}
            </button>
          </li>
        ))}
      </ul>
      {found.length === 0 && (
        <p className="mt-4 text-quiet">
          {choices.length === 0
            ? 'Everything of the programme is in the plan.'
            : 'Nothing has all of these words.'}
        </p>
      )}
    </DialogShell>
  );
}
