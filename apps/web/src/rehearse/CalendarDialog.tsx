import { howMany } from '@anchorbeat/core';
import type { DateResponse, EnsembleResponse } from '@anchorbeat/contract';
import { useState } from 'react';
import { problemText } from '../store/api.ts';
import { fieldsOf, useSaveDateMutation } from '../store/seasonApi.ts';
import { Button } from '../ui/Button.tsx';
import { DialogShell } from '../ui/DialogShell.tsx';
import { readCalendar, type CalendarReading, type ReadDate } from './readCalendar.ts';
import { whenText } from './season.ts';

interface CalendarDialogProps {
  readonly ensemble: EnsembleResponse;
  readonly dates: readonly DateResponse[];
  readonly onClose: () => void;
}

const MOST_BYTES = 4 * 1024 * 1024;

/** Dates of a calendar file before any of them is kept: which are new, which would change, what was left out. */
export function CalendarDialog({ ensemble, dates, onClose }: CalendarDialogProps) {
  const [save, { isLoading }] = useSaveDateMutation();
  const [reading, setReading] = useState<CalendarReading | null>(null);
  const [problem, setProblem] = useState('');
  const read = async (file: File | undefined) => {
    if (!file) return;
    setReading(null);
    try {
      if (file.size > MOST_BYTES) throw new Error('This file is larger than any season needs');
      setReading(readCalendar(await file.text(), dates, ensemble.name));
      setProblem('');
    } catch (error) {
      setProblem((error as Error).message);
    }
  };
  const wanted = reading?.dates.filter(({ becomes }) => becomes !== 'the same') ?? [];
  const keep = async () => {
    try {
      for (const { id, date } of wanted) {
        const known = dates.find((one) => one.id === id);
        await save({ ensembleId: ensemble.id, id, date, base: known ? fieldsOf(known) : null }).unwrap();
      }
      onClose();
    } catch (error) {
      setProblem(`${problemText(error)} What was kept before is there; keep the rest by trying again.`);
    }
  };
  return (
    <DialogShell
      title="Dates from a calendar file"
      description="An .ics file of any calendar. Nothing is kept before you have seen what it holds; read again, nothing is made twice."
      width="middle"
      onClose={onClose}
    >
      <label className="mt-4 block">
        <span className="sr-only">A calendar file to open</span>
        <input
          type="file"
          accept=".ics,text/calendar"
          onChange={({ target }) => void read(target.files?.[0])}
          className="w-full rounded-lg border-2 border-faint bg-ground p-2"
        />
      </label>
      <p role="alert" className="mt-2 min-h-6 text-problem">
        {problem}
      </p>
      {reading && <ReadDates reading={reading} />}
      <div className="mt-4 flex flex-wrap justify-end gap-3">
        <Button onClick={onClose}>Leave it</Button>
        <Button filled disabled={wanted.length === 0 || isLoading} onClick={() => void keep()}>
          Keep {howMany(wanted.length, 'date')}
        </Button>
      </div>
    </DialogShell>
  );
}

function ReadDates({ reading: { dates, leftOut } }: { readonly reading: CalendarReading }) {
  return (
    <>
      <ul aria-label="Dates of the file" className="grid max-h-72 overflow-y-auto">
        {dates.map((read) => (
          <li key={read.id} className="flex flex-wrap gap-x-3 border-b border-faint py-1">
            <span className="numeral font-semibold">{whenText(read.date)}</span>
            <span className="min-w-0 flex-1">{nameOf(read)}</span>
            <span className="text-quiet">{read.becomes}</span>
          </li>
        ))}
      </ul>
      {leftOut.length > 0 && (
        <section aria-label="Left out" className="mt-3 border-l-4 border-quiet pl-3">
          {leftOut.map((says) => (
            <p key={says}>{says}</p>
          ))}
        </section>
      )}
    </>
  );
}

function nameOf({ date: { kind, title, minutes } }: ReadDate): string {
  return `${title || (kind === 'concert' ? 'Concert' : 'Rehearsal')}, ${howMany(minutes, 'minute')}`;
}
