import { formatNumber, type Equivalence, type Meter, type NoteValue, type TempoMark } from '@anchorbeat/core';
import {
  DOT_GLYPH,
  meterGlyphs,
  noteGlyph,
  placedParts,
  rampWords,
  tupletFigures,
} from '@anchorbeat/drawing';

/** One note inside an SVG text run: the glyph, its dots, and a small tuplet figure above. */
function NoteSpan({ value, size }: { readonly value: NoteValue; readonly size: number }) {
  const tuplet = tupletFigures(value.tuplets);
  return (
    <>
      <tspan fontFamily="Bravura Music" fontSize={size * 1.5}>
        {noteGlyph(value.base)}
        {Array.from({ length: value.dots }, (_, dot) => (
          <tspan key={dot} dx={size * 0.14}>
            {DOT_GLYPH}
          </tspan>
        ))}
      </tspan>
      {tuplet && (
        <>
          <tspan fontSize={size * 0.66} dx={-size * 0.15} dy={-size * 0.85}>
            {tuplet}
          </tspan>
          <tspan dy={size * 0.85}>{'\u200b'}</tspan>
        </>
      )}
    </>
  );
}

function EquivalenceSpans({
  equivalence,
  size,
}: {
  readonly equivalence: Equivalence;
  readonly size: number;
}) {
  return (
    <>
      <NoteSpan value={equivalence.before} size={size} />
      {'\u00a0=\u00a0'}
      <NoteSpan value={equivalence.after} size={size} />
    </>
  );
}

interface PlacedProps {
  readonly x: number;
  readonly y: number;
  readonly size: number;
}

/** "before = after" drawn as notes, in the carry's colour. */
export function SvgEquivalence({
  equivalence,
  x,
  y,
  size,
}: PlacedProps & { readonly equivalence: Equivalence }) {
  return (
    <text x={x} y={y} fontSize={size} fill="var(--carry)" fontWeight={600}>
      <EquivalenceSpans equivalence={equivalence} size={size} />
    </text>
  );
}

/** A tempo mark as printed: word, note = number, equivalence. */
export function SvgTempoMark({ mark, x, y, size }: PlacedProps & { readonly mark: TempoMark }) {
  return (
    <text x={x} y={y} fontSize={size} fill="var(--ink)" fontWeight={600} fontFamily="var(--font-display)">
      {mark.term}
      {mark.term && (mark.stated ?? mark.equivalence) && '\u00a0\u00a0\u00a0'}
      {mark.equivalence && <EquivalenceSpans equivalence={mark.equivalence} size={size} />}
      {mark.equivalence && mark.stated && '\u00a0\u00a0(= '}
      {mark.stated && (
        <>
          {!mark.equivalence && <NoteSpan value={mark.stated.unit} size={size} />}
          {!mark.equivalence && '\u00a0=\u00a0'}
          {formatNumber(mark.stated.bpm)}
        </>
      )}
      {mark.equivalence && mark.stated && ')'}
      {rampWords(mark)}
    </text>
  );
}

/** Half the distance between the middles of the two figures: a hair more than their height, so that they do not touch. */
const FIGURE_OFFSET = 0.268;

/** A meter drawn in figures, one part after another with a plus between; `y` is its middle. */
export function SvgMeter({
  meter,
  x,
  y,
  size,
  fill,
}: PlacedProps & { readonly meter: Meter; readonly fill: string }) {
  return (
    <g fill={fill} fontFamily="Bravura Music" fontSize={size} textAnchor="middle">
      {placedParts(meter, size).map(({ top, bottom, plusX, centreX }) => (
        <g key={centreX}>
          {plusX !== null && (
            <text x={x + plusX} y={y}>
              {meterGlyphs('+')}
            </text>
          )}
          <text x={x + centreX} y={y - size * FIGURE_OFFSET}>
            {meterGlyphs(top)}
          </text>
          <text x={x + centreX} y={y + size * FIGURE_OFFSET}>
            {meterGlyphs(bottom)}
          </text>
        </g>
      ))}
    </g>
  );
}

/** A single note value. */
export function SvgNote({
  value,
  x,
  y,
  size,
  fill,
}: PlacedProps & { readonly value: NoteValue; readonly fill: string }) {
  return (
    <text x={x} y={y} fontSize={size} fill={fill}>
      <NoteSpan value={value} size={size} />
    </text>
  );
}
