import {
  noteWords,
  NOTE_BASES,
  noteLettersMaybe,
  noteValue,
  parseNoteValue,
  type NoteValue,
} from '@anchorbeat/core';
import { Popover } from 'radix-ui';
import { useId, useState } from 'react';
import { Note } from '../../line/NoteText.tsx';

interface NotePickerProps {
  readonly label: string;
  readonly value: string;
  readonly onChange: (text: string) => void;
}

const TUPLETS: ReadonlyArray<readonly [digit: string, name: string]> = [
  ['', 'plain'],
  ['3', 'triplet'],
  ['5', 'quintuplet'],
  ['7', 'septuplet'],
];
const MOST_DOTS = 2;

/** A note value, typed as letters (q. e3) or picked from drawn notes; arrows make it longer or shorter. */
export function NotePicker({ label, value, onChange }: NotePickerProps) {
  const id = useId();
  const [isOpen, setOpen] = useState(false);
  const read = parseNoteValue(value);
  const note = read.ok ? read.value : null;
  const step = (by: number) => {
    if (!note) return;
    const index = NOTE_BASES.indexOf(note.base) + by;
    const base = NOTE_BASES[index];
    if (base) onChange(textOf({ ...note, base }));
  };
  return (
    <span className="inline-flex items-center gap-1.5">
      <Popover.Root open={isOpen} onOpenChange={setOpen}>
        <Popover.Trigger asChild>
          <button
            type="button"
            aria-label={`${label}: pick a note`}
            className="flex h-12 min-w-14 items-end justify-center rounded-lg border-2 border-faint px-2 pb-3 text-xl hover:border-ink"
          >
            {note ? <Note value={note} /> : '?'}
          </button>
        </Popover.Trigger>
        <Popover.Portal>
          <Popover.Content
            sideOffset={6}
            aria-label={`${label}, drawn notes`}
            className="z-20 rounded-xl border-2 border-ink bg-raised p-3 shadow-xl"
          >
            <Palette note={note ?? noteValue('quarter')} onPick={(picked) => onChange(textOf(picked))} />
          </Popover.Content>
        </Popover.Portal>
      </Popover.Root>
      <label htmlFor={id} className="sr-only">
        {label}
      </label>
      <input
        id={id}
        value={value}
        autoComplete="off"
        spellCheck={false}
        aria-invalid={!read.ok}
        onChange={(event) => onChange(event.target.value)}
        onKeyDown={(event) => {
          if (event.key !== 'ArrowUp' && event.key !== 'ArrowDown') return;
          event.preventDefault();
          step(event.key === 'ArrowUp' ? -1 : 1);
        }}
        className="numeral w-14 rounded-lg border-2 border-faint bg-ground px-2 py-2 text-center text-lg focus:border-ink"
      />
    </span>
  );
}

interface PaletteProps {
  readonly note: NoteValue;
  readonly onPick: (note: NoteValue) => void;
}

function Palette({ note, onPick }: PaletteProps) {
  const digit = digitOf(note);
  return (
    <div className="grid gap-2">
      <div className="flex gap-1" role="group" aria-label="Value">
        {NOTE_BASES.slice(1, -1).map((base) => (
          <Choice
            key={base}
            isOn={note.base === base}
            name={noteWords(noteValue(base))}
            onPick={() => onPick({ ...note, base })}
          >
            <span className="text-lg">
              <Note value={noteValue(base)} />
            </span>
          </Choice>
        ))}
      </div>
      <div className="flex gap-1" role="group" aria-label="Dots and tuplets">
        {Array.from({ length: MOST_DOTS + 1 }, (_, dots) => (
          <Choice
            key={dots}
            isOn={note.dots === dots}
            name={['no dot', 'one dot', 'two dots'][dots] ?? ''}
            onPick={() => onPick({ ...note, dots })}
          >
            {['no dot', '·', '· ·'][dots]}
          </Choice>
        ))}
        {TUPLETS.map(([figure, name]) => (
          <Choice
            key={name}
            isOn={digit === figure}
            name={name}
            onPick={() => onPick(withTuplet(note, figure))}
          >
            {figure || name}
          </Choice>
        ))}
      </div>
    </div>
  );
}

interface ChoiceProps {
  readonly isOn: boolean;
  readonly name: string;
  readonly onPick: () => void;
  readonly children: React.ReactNode;
}

function Choice({ isOn, name, onPick, children }: ChoiceProps) {
  return (
    <button
      type="button"
      aria-label={name}
      aria-pressed={isOn}
      onClick={onPick}
      className={`flex h-11 min-w-11 items-center justify-center rounded-lg border-2 px-2 font-semibold ${isOn ? 'border-ink bg-selection' : 'border-transparent hover:border-faint'}`}
    >
      {children}
    </button>
  );
}

function digitOf({ tuplets }: NoteValue): string {
  return tuplets[0] ? String(tuplets[0].actual) : '';
}

function withTuplet(note: NoteValue, figure: string): NoteValue {
  const plain = noteLettersMaybe({ ...note, dots: 0, tuplets: [] }) ?? 'q';
  const read = parseNoteValue(`${plain}${figure}${'.'.repeat(note.dots)}`);
  return read.ok ? read.value : note;
}

/** A note value as it is typed: by letter where letters can say it. */
export function textOf(note: NoteValue): string {
  return noteLettersMaybe(note) ?? noteWords(note);
}
