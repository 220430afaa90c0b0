import {
  formatNumber,
  type Equivalence,
  type Meter,
  type NoteValue,
  type RhythmNote,
  type TempoMark,
} from '@anchorbeat/core';
import { DOT_GLYPH, meterGlyphs, noteGlyph, restGlyph, tupletFigures } from '../glyphs.ts';
import { placedParts, rampWords } from '../signShapes.ts';
import { path, run, type Shape, type TextPart, type TextShape, type Tone } from './shape.ts';

/** Music signs stand this much larger than the letters beside them. */
const MUSIC = 1.5;
const NO_BREAK = '\u00a0';
/** Takes no room: it only brings what follows back to the line. */
const NOTHING = '\u200b';

interface At {
  readonly x: number;
  readonly y: number;
  readonly size: number;
}

function dots(count: number, size: number): readonly TextPart[] {
  return Array.from({ length: count }, () => ({
    text: DOT_GLYPH,
    isMusic: true,
    sizePx: size * MUSIC,
    dxPx: size * 0.14,
  }));
}

/** One note in a run of text: the sign, its dots, and a small tuplet figure above. */
function noteParts(value: NoteValue, size: number): readonly TextPart[] {
  const figures = tupletFigures(value.tuplets);
  return [
    { text: noteGlyph(value.base), isMusic: true, sizePx: size * MUSIC },
    ...dots(value.dots, size),
    ...(figures
      ? [
          { text: figures, sizePx: size * 0.66, dxPx: -size * 0.15, dyPx: -size * 0.85 },
          { text: NOTHING, dyPx: size * 0.85 },
        ]
      : []),
  ];
}

function equivalenceParts({ before, after }: Equivalence, size: number): readonly TextPart[] {
  return [...noteParts(before, size), { text: `${NO_BREAK}=${NO_BREAK}` }, ...noteParts(after, size)];
}

/** A single note value. */
export function noteShape(value: NoteValue, { x, y, size }: At, tone: Tone): TextShape {
  return run(noteParts(value, size), x, y, { sizePx: size, tone });
}

/** "before = after" drawn as notes, in the carry's colour. */
export function equivalenceShape(equivalence: Equivalence, { x, y, size }: At): TextShape {
  return run(equivalenceParts(equivalence, size), x, y, { sizePx: size, tone: 'carry', weight: 600 });
}

/** A tempo mark as printed: word, note = number, equivalence. */
export function tempoMarkShape(mark: TempoMark, { x, y, size }: At): TextShape {
  const { term, stated, equivalence } = mark;
  const bpm = stated ? formatNumber(stated.bpm) : '';
  const parts: readonly TextPart[] = [
    ...(term ? [{ text: term + ((stated ?? equivalence) ? NO_BREAK.repeat(3) : '') }] : []),
    ...(equivalence ? equivalenceParts(equivalence, size) : []),
    ...(equivalence && stated ? [{ text: `${NO_BREAK}${NO_BREAK}(= ${bpm})` }] : []),
    ...(stated && !equivalence
      ? [...noteParts(stated.unit, size), { text: `${NO_BREAK}=${NO_BREAK}${bpm}` }]
      : []),
    { text: rampWords(mark) },
  ];
  return run(
    parts.filter(({ text }) => text !== ''),
    x,
    y,
    {
      sizePx: size,
      tone: 'ink',
      weight: 600,
      face: 'display',
    },
  );
}

/** Half the distance between the middles of the two figures: a hair more than their height, so that they do not touch. */
const FIGURE_OFFSET = 0.268;

/** A meter drawn in figures, one part after another with a plus between; `y` is its middle. */
export function meterShapes(meter: Meter, { x, y, size }: At, tone: Tone): readonly Shape[] {
  const figures = (text: string, atX: number, atY: number) =>
    run([{ text: meterGlyphs(text), isMusic: true }], atX, atY, { sizePx: size, tone, anchor: 'middle' });
  return placedParts(meter, size).flatMap(({ top, bottom, plusX, centreX }) => [
    ...(plusX === null ? [] : [figures('+', x + plusX, y)]),
    figures(top, x + centreX, y - size * FIGURE_OFFSET),
    figures(bottom, x + centreX, y + size * FIGURE_OFFSET),
  ]);
}

interface PlacedNote {
  readonly x: number;
  readonly note: RhythmNote;
}

/** Notes and rests standing at their places, with dots, tuplet figures and ties; the last tie leads to `endX`. */
export function rhythmShapes(
  notes: readonly PlacedNote[],
  { endX, y, size }: { readonly endX: number; readonly y: number; readonly size: number },
): readonly Shape[] {
  return notes.flatMap(({ x, note: { value, isRest, isTied } }, index) => {
    const figures = tupletFigures(value.tuplets);
    const nextX = notes[index + 1]?.x ?? endX;
    const sign = { text: isRest ? restGlyph(value.base) : noteGlyph(value.base), isMusic: true };
    const from = x + size * 0.4;
    return [
      run([{ ...sign, sizePx: size * MUSIC }, ...dots(value.dots, size)], x, isRest ? y - size * 0.42 : y, {
        sizePx: size * MUSIC,
        tone: 'ink',
      }),
      ...(figures
        ? [
            run([{ text: figures }], x + size * 0.2, y - size * 1.5, {
              sizePx: size * 0.7,
              tone: 'ink',
              isItalic: true,
            }),
          ]
        : []),
      ...(isTied
        ? [
            path(
              `M${from} ${y + size * 0.35}Q${(x + nextX) / 2 + size * 0.2} ${y + size * 0.8} ${nextX} ${y + size * 0.35}`,
              { stroke: 'ink', strokePx: 1.3 },
            ),
          ]
        : []),
    ] satisfies readonly Shape[];
  });
}
