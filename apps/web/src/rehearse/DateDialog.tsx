import {
  MOST_PAUSE_SECONDS,
  type DateResponse,
  type EnsembleResponse,
  type PieceResponse,
  type SaveDateRequest,
} from '@anchorbeat/contract';
import { MOST_PLAN_MINUTES } from '@anchorbeat/core';
import { useState, type FormEvent } from 'react';
import { v4 as uuid } from 'uuid';
import { problemText } from '../store/api.ts';
import { fieldsOf, useRemoveDateMutation, useSaveDateMutation } from '../store/seasonApi.ts';
import { Button } from '../ui/Button.tsx';
import { DialogShell } from '../ui/DialogShell.tsx';
import { NumberField } from '../ui/NumberField.tsx';
import { TextField } from '../ui/TextField.tsx';
import { toast } from '../ui/toast.ts';
import { ToggleGroup } from '../ui/ToggleGroup.tsx';
import { ProgrammeFields } from './ProgrammeFields.tsx';
import { localTime, NEW_DATE, weeksLater, withToggled } from './season.ts';

const MOST_WEEKS = 40;
const KINDS = [
  { value: 'rehearsal', name: 'Rehearsal' },
  { value: 'concert', name: 'Concert' },
] as const;

interface DateDialogProps {
  readonly ensemble: EnsembleResponse;
  readonly pieces: readonly PieceResponse[];
  /** Null makes a new one. */
  readonly date: DateResponse | null;
  readonly onKept: (id: string) => void;
  readonly onClose: () => void;
}

/** When, for how long, without whom, and what is played. */
export function DateDialog({ ensemble, pieces, date, onKept, onClose }: DateDialogProps) {
  const [save, { isLoading }] = useSaveDateMutation();
  const [remove] = useRemoveDateMutation();
  // As it was when the dialog was opened: what others change meanwhile stays.
  const [base] = useState(() => date && fieldsOf(date));
  const [fields, setFields] = useState<SaveDateRequest>(() => base ?? thisEvening());
  const [weeks, setWeeks] = useState(1);
  // Made once: where some were kept before something failed, trying again keeps them under the same ids.
  const [ids] = useState(() => [date?.id ?? uuid(), ...Array.from({ length: MOST_WEEKS - 1 }, () => uuid())]);
  const [problem, setProblem] = useState('');
  const change = (changes: Partial<SaveDateRequest>) => setFields({ ...fields, ...changes });
  const submit = async (event: FormEvent) => {
    event.preventDefault();
    try {
      for (const [week, id] of ids.slice(0, weeks).entries()) {
        const one = week === 0 ? fields : { ...fields, at: weeksLater(fields.at, week), done: [], note: '' };
        await save({ ensembleId: ensemble.id, id, date: one, base: week === 0 ? base : null }).unwrap();
      }
      onKept(ids[0] ?? '');
      onClose();
    } catch (error) {
      setProblem(problemText(error));
    }
  };
  const takeAway = async ({ id, ...was }: DateResponse) => {
    const answer = await remove({ ensembleId: ensemble.id, id });
    if (answer.error) {
      setProblem(problemText(answer.error));
      return;
    }
    onClose();
    const bringBack = () =>
      void save({ ensembleId: ensemble.id, id, date: was, base: null })
        .unwrap()
        .then(() => onKept(id))
        .catch((error: unknown) => toast(problemText(error)));
    toast(`Taken away: ${was.title || was.kind}, with its plan and what was done`, {
      duration: 8000,
      action: { label: 'Bring back', onClick: bringBack },
    });
  };
  return (
    <DialogShell
      title={date ? 'This date' : 'A new date'}
      description="The time is that of the place: at seven it is at seven, also after the clocks have changed."
      width="middle"
      onClose={onClose}
    >
      <form className="mt-4 grid gap-3" onSubmit={(event) => void submit(event)}>
        <DateFields
          ensemble={ensemble}
          pieces={pieces}
          fields={fields}
          onChange={change}
          weeks={date ? null : weeks}
          onWeeks={setWeeks}
        />
        <p role="alert" className="min-h-6 text-problem">
          {problem}
        </p>
        <div className="flex flex-wrap justify-end gap-3">
          {date && (
            <Button className="mr-auto" onClick={() => void takeAway(date)}>
              Take it away
            </Button>
          )}
          <Button onClick={onClose}>Leave it</Button>
          <Button filled type="submit" disabled={isLoading}>
            Keep it
          </Button>
        </div>
      </form>
    </DialogShell>
  );
}

interface DateFieldsProps {
  readonly ensemble: EnsembleResponse;
  readonly pieces: readonly PieceResponse[];
  readonly fields: SaveDateRequest;
  readonly onChange: (changes: Partial<SaveDateRequest>) => void;
  /** How often in a row, for a new one; null where it is there already. */
  readonly weeks: number | null;
  readonly onWeeks: (weeks: number) => void;
}

function DateFields({ ensemble, pieces, fields, onChange, weeks, onWeeks }: DateFieldsProps) {
  return (
    <>
      <ToggleGroup
        label="What"
        options={KINDS}
        isOn={(kind) => fields.kind === kind}
        onToggle={(kind) => onChange({ kind })}
      />
      <div className="flex flex-wrap items-end gap-4">
        <TextField
          labelStands="above"
          label="When"
          type="datetime-local"
          required
          value={fields.at}
          onText={(at) => onChange({ at: at.slice(0, 16) })}
        />
        <NumberField
          label="Minutes"
          value={fields.minutes}
          min={1}
          max={MOST_PLAN_MINUTES}
          onNumber={(minutes) => onChange({ minutes: Math.round(minutes) })}
        />
        <NumberField
          label="Goal, % of printed tempo"
          value={fields.goalPercent}
          min={25}
          max={200}
          onNumber={(goalPercent) => onChange({ goalPercent: Math.round(goalPercent) })}
        />
        <PauseField fields={fields} onChange={onChange} />
        {weeks !== null && (
          <NumberField
            label="Weeks in a row"
            value={weeks}
            min={1}
            max={MOST_WEEKS}
            onNumber={(count) => onWeeks(Math.round(count))}
          />
        )}
      </div>
      <TextField
        labelStands="above"
        label="What it is called"
        value={fields.title}
        placeholder="Full rehearsal"
        onText={(title) => onChange({ title })}
      />
      {ensemble.sections.length > 0 && (
        <ToggleGroup
          label="Not there"
          options={ensemble.sections.map((section) => ({ value: section, name: section }))}
          isOn={(section) => fields.absent.includes(section)}
          onToggle={(section) => onChange({ absent: withToggled(fields.absent, section) })}
        />
      )}
      <ProgrammeFields pieces={pieces} fields={fields} onChange={onChange} />
    </>
  );
}

/** Whether the pieces of the programme follow one another by themselves, and after how long. */
function PauseField({ fields, onChange }: Pick<DateFieldsProps, 'fields' | 'onChange'>) {
  return (
    <TextField
      labelStands="above"
      label="Pause between pieces, s (empty: by the key)"
      inputMode="numeric"
      type="number"
      min={0}
      max={MOST_PAUSE_SECONDS}
      step={1}
      value={fields.pauseSeconds ?? ''}
      onText={(text) => onChange({ pauseSeconds: text.trim() === '' ? null : Math.round(Number(text)) })}
    />
  );
}

/** A new one is this evening at half past seven. */
function thisEvening(): SaveDateRequest {
  return { ...NEW_DATE, at: `${localTime(new Date()).slice(0, 10)}T19:30` };
}
