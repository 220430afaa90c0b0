import {
  noteWords,
  formatNumber,
  type Equivalence,
  type NoteValue,
  type StatedTempo,
} from '@anchorbeat/core';
import { DOT_GLYPH, noteGlyph, tupletFigures } from '@anchorbeat/drawing';

/** A note value drawn as a note, inline in text; its name is read out. */
export function Note({ value }: { readonly value: NoteValue }) {
  const tuplet = tupletFigures(value.tuplets);
  return (
    <span role="img" aria-label={noteWords(value)} className="relative inline-block whitespace-nowrap">
      {tuplet && (
        <span aria-hidden className="absolute -top-[0.75em] left-0 text-[0.62em] font-semibold leading-none">
          {tuplet}
        </span>
      )}
      <span aria-hidden className="music text-[1.5em]">
        {noteGlyph(value.base)}
        {Array.from({ length: value.dots }, (_, dot) => (
          <span key={dot} className="ml-[0.1em]">
            {DOT_GLYPH}
          </span>
        ))}
      </span>
    </span>
  );
}

/** "♩. = 72"; inside a ramp, where the tempo is only passing, "♩. ≈ 72". */
export function TempoText({ tempo }: { readonly tempo: StatedTempo }) {
  const shown = formatNumber(tempo.bpm);
  const isPassing = shown.startsWith('≈');
  return (
    <span className="whitespace-nowrap">
      <Note value={tempo.unit} />
      <span className="numeral ml-[0.12em]">
        &nbsp;{isPassing ? `≈ ${Math.round(tempo.bpm.n / tempo.bpm.d)}` : `= ${shown}`}
      </span>
    </span>
  );
}

/** "♩ = ♩." with the note before on the left, as printed. */
export function EquivalenceText({ equivalence }: { readonly equivalence: Equivalence }) {
  return (
    <span className="whitespace-nowrap">
      <Note value={equivalence.before} />
      &nbsp;=&nbsp;
      <Note value={equivalence.after} />
    </span>
  );
}
