import { parseNoteValue } from '@anchorbeat/core';
import type { ReactNode } from 'react';
import { Note } from '../line/NoteText.tsx';
import type { Pad, PadKey } from './entryPads.ts';

interface EntryPadProps {
  readonly pad: Pad;
  readonly onKey: (key: PadKey) => void;
  readonly onBack: () => void;
}

/** Figures and drawn notes for fingers: the letters of the screen's own keyboard are not needed. */
export function EntryPad({ pad, onKey, onBack }: EntryPadProps) {
  return (
    <div
      role="group"
      aria-label="Figures and notes"
      className="mt-1.5 grid gap-1.5 pointer-fine:flex pointer-fine:flex-wrap pointer-fine:gap-x-4"
      // The line keeps the focus: a press on the pad is typing.
      onPointerDown={(event) => event.preventDefault()}
    >
      {pad.rows.map((row, index) => (
        <div key={index} className="flex flex-wrap gap-1.5">
          {row.map((key) => (
            <PadButton key={key.types} name={key.note ?? key.shown ?? key.types} onPress={() => onKey(key)}>
              {faceOf(key)}
            </PadButton>
          ))}
          {index === pad.rows.length - 1 && (
            <PadButton name="take the last one back" onPress={onBack}>
              ⌫
            </PadButton>
          )}
        </div>
      ))}
    </div>
  );
}

function faceOf({ note, shown, types }: PadKey): ReactNode {
  const read = note === undefined ? null : parseNoteValue(note);
  return read?.ok ? <Note value={read.value} /> : (shown ?? types);
}

interface PadButtonProps {
  readonly name: string;
  readonly onPress: () => void;
  readonly children: ReactNode;
}

function PadButton({ name, onPress, children }: PadButtonProps) {
  return (
    <button
      type="button"
      aria-label={name}
      onClick={onPress}
      className="numeral flex h-11 min-w-11 items-center justify-center overflow-hidden rounded-lg border-2 border-faint bg-raised px-2 text-lg font-semibold hover:border-ink pointer-fine:h-9 pointer-fine:min-w-8 pointer-fine:px-1.5 pointer-fine:text-base"
    >
      {/* Glyphs of the music font reach far over the keys beside them. */}
      <span className="pointer-events-none">{children}</span>
    </button>
  );
}
