import { fileNameOf, readBarTable, writeBarTable, type TableReading } from '@anchorbeat/formats';
import { useDeferredValue, useEffect, useId, useMemo, useState, type ChangeEvent } from 'react';
import { Button } from '../../ui/Button.tsx';
import { download } from '../../ui/download.ts';
import { useEdit } from '../useEdit.ts';
import { usePresent } from '../usePresent.ts';
import { Changes } from './Changes.tsx';
import type { Preview } from './panels.ts';

const MOST_PROBLEMS = 12;

/** Bars pasted or opened from a spreadsheet: what is wrong, cell by cell, or what will change; then taken in. */
export function TablePanel({ onPreview }: { readonly onPreview: Preview }) {
  const present = usePresent();
  const edit = useEdit();
  const id = useId();
  const [text, setText] = useState('');
  const [fileProblem, setFileProblem] = useState('');
  const slowText = useDeferredValue(text);
  const reading = useMemo(
    () => (slowText.trim() === '' ? null : readBarTable(slowText, present)),
    [slowText, present],
  );
  const becomes = reading?.piece ?? null;
  useEffect(() => onPreview(becomes), [becomes, onPreview]);
  useEffect(() => () => onPreview(null), [onPreview]);
  const take = () => {
    // What stands there now, also where it has not been shown yet what it changes.
    const piece = text === slowText ? becomes : readBarTable(text, present).piece;
    if (piece && edit({ kind: 'replacePiece', piece, how: 'From a table' })) setText('');
  };
  return (
    <div className="grid gap-3">
      <p className="text-sm text-quiet">
        One row a bar, or <em>bars</em> for how many. The first row names the columns: number, bars, meter,
        pickup, mark, tempo, hold, beaten, notes, ending, at start, at end. Columns left out change nothing.
      </p>
      <label htmlFor={id} className="font-semibold">
        Paste rows here
      </label>
      <textarea
        id={id}
        autoFocus
        rows={9}
        spellCheck={false}
        value={text}
        placeholder={'meter\ttempo\n7/8 as 2+2+3\tq = 96\n4/4'}
        onChange={(event) => setText(event.target.value)}
        onKeyDown={(event) => {
          if (event.key !== 'Enter' || !(event.ctrlKey || event.metaKey)) return;
          event.preventDefault();
          take();
        }}
        className="w-full rounded-lg border-2 border-faint bg-ground px-3 py-2 font-text text-[0.95rem] whitespace-pre focus:border-ink"
      />
      <div className="flex flex-wrap items-center gap-x-5 gap-y-2">
        <Button disabled={!becomes} onClick={take}>
          Take it in <kbd className="ml-1 font-text text-sm font-normal text-quiet">ctrl Enter</kbd>
        </Button>
        <FileButton onText={setText} onProblem={setFileProblem} />
        <button
          type="button"
          className="font-semibold underline"
          onClick={() => saveTable(present.title, writeBarTable(present))}
        >
          Save this piece as a table
        </button>
      </div>
      <p role="alert" className="text-problem">
        {fileProblem}
      </p>
      {reading && <Outcome reading={reading} />}
      {becomes && (
        <section aria-label="What will change">
          <h3 className="mb-1 font-bold">Will change</h3>
          <Changes from={present} to={becomes} none="Nothing: the table says what the line says." />
        </section>
      )}
    </div>
  );
}

interface FileButtonProps {
  readonly onText: (text: string) => void;
  readonly onProblem: (problem: string) => void;
}

function FileButton({ onText, onProblem }: FileButtonProps) {
  const open = async ({ target }: ChangeEvent<HTMLInputElement>) => {
    const file = target.files?.[0];
    target.value = '';
    if (!file) return;
    onProblem('');
    try {
      onText(await file.text());
    } catch {
      onProblem(`${file.name} cannot be read: check that it is still there and not open elsewhere`);
    }
  };
  return (
    <label className="flex cursor-pointer items-center font-semibold underline">
      Open a file
      <input type="file" accept=".csv,.tsv,.txt" className="sr-only" onChange={(event) => void open(event)} />
    </label>
  );
}

function Outcome({ reading }: { readonly reading: TableReading }) {
  const { problems, unknownColumns, guessed } = reading;
  return (
    <div role="status">
      {unknownColumns.length > 0 && (
        <p className="text-quiet">Left out, for no column is called so: {unknownColumns.join(', ')}</p>
      )}
      {guessed.length > 0 && <p className="text-quiet">Guessed: {guessed.join('; ')}</p>}
      <ul className="grid gap-1 font-semibold text-problem">
        {problems.slice(0, MOST_PROBLEMS).map(({ row, column, message }, index) => (
          <li key={index}>
            Row {row}
            {column && `, ${column}`}: {message}
          </li>
        ))}
      </ul>
      {problems.length > MOST_PROBLEMS && (
        <p className="text-problem">and {problems.length - MOST_PROBLEMS} more</p>
      )}
    </div>
  );
}

/** The mark at its start tells spreadsheets that it is UTF-8. */
function saveTable(title: string, table: string): void {
  download(['\uFEFF', table], `${fileNameOf(title)}.csv`, 'text/csv;charset=utf-8');
}
