import { sectionsOf, type CorrectionNote } from '@anchorbeat/core';
import { useId, type FormEvent, type KeyboardEvent, type ReactNode } from 'react';
import { Button } from '../../ui/Button.tsx';
import { TextField } from '../../ui/TextField.tsx';
import { usePresent } from '../usePresent.ts';

interface FormProps<T> {
  readonly onDone: (value: T) => void;
  readonly onLeave: () => void;
}

/** Why it was wrong and who saw it: kept with the piece. Both may stay empty. */
export function CorrectionForm({
  label,
  onDone,
  onLeave,
}: FormProps<CorrectionNote> & { readonly label: string }) {
  const sections = sectionsOf(usePresent());
  const listId = useId();
  return (
    <ShortForm
      onLeave={onLeave}
      onSubmit={(form) => {
        onDone({ on: today(), why: textOf(form, 'why'), spottedBy: textOf(form, 'spottedBy') });
      }}
      does={label}
    >
      <TextField name="why" label="Why" placeholder="the parts have a beat more" autoFocus />
      <TextField name="spottedBy" label="Spotted by" placeholder={sections[0] ?? 'a section'} list={listId} />
      <datalist id={listId}>
        {sections.map((section) => (
          <option key={section} value={section} />
        ))}
      </datalist>
    </ShortForm>
  );
}

/** Why it is meant as it stands. */
export function ReasonForm({ onDone, onLeave }: FormProps<string>) {
  return (
    <ShortForm
      onLeave={onLeave}
      onSubmit={(form) => onDone(textOf(form, 'reason') || 'as it is in the score')}
      does="It is meant so"
    >
      <TextField name="reason" label="Reason" placeholder="as it is in the score" autoFocus />
    </ShortForm>
  );
}

interface ShortFormProps {
  readonly does: string;
  readonly onSubmit: (form: FormData) => void;
  readonly onLeave: () => void;
  readonly children: ReactNode;
}

function ShortForm({ does, onSubmit, onLeave, children }: ShortFormProps) {
  const submit = (event: FormEvent<HTMLFormElement>) => {
    event.preventDefault();
    onSubmit(new FormData(event.currentTarget));
  };
  const leave = (event: KeyboardEvent) => {
    if (event.key !== 'Escape') return;
    event.preventDefault();
    onLeave();
  };
  return (
    <form className="grid gap-2" onSubmit={submit} onKeyDown={leave}>
      {children}
      <div className="flex gap-3">
        <Button type="submit">
          {does} <kbd className="ml-1 font-text text-sm font-normal text-quiet">Enter</kbd>
        </Button>
        <button type="button" className="text-[0.9rem] text-quiet underline" onClick={onLeave}>
          Leave it
        </button>
      </div>
    </form>
  );
}

function textOf(form: FormData, name: string): string {
  return ((form.get(name) as string | null) ?? '').trim();
}

/** The calendar day here, as the log keeps it. */
function today(): string {
  const now = new Date();
  return [now.getFullYear(), now.getMonth() + 1, now.getDate()]
    .map((part) => String(part).padStart(2, '0'))
    .join('-');
}
