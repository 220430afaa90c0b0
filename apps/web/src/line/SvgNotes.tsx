import {
  formatNumber,
  formatRampTarget,
  meterSign,
  type RampTarget,
  type Equivalence,
  type Meter,
  type NoteValue,
  type TempoMark,
} from '@anchorbeat/core';
import { DOT_GLYPH, meterGlyphs, noteGlyph, tupletFigures } from './glyphs.ts';

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

/** What a mark says of a ramp or a return beside its printed word. */
function rampWords({ term, ramp, returns }: TempoMark): string {
  if (returns) return term ? '' : returns;
  if (!ramp) return '';
  const word = term ? '' : 'ramp';
  return ramp.target ? `${word} to ${shortTarget(ramp.target)}` : `${word} …`;
}

function shortTarget(target: RampTarget): string {
  if (target.kind !== 'tempo') return formatRampTarget(target);
  return formatNumber(target.tempo.bpm);
}

/** Rough width of a drawn tempo mark in pixels, for finding a free lane. */
export function tempoMarkWidth(mark: TempoMark, size: number): number {
  const term = mark.term ? mark.term.length * size * 0.56 + size * 0.6 : 0;
  const equivalence = mark.equivalence ? size * 4 : 0;
  const stated = mark.stated ? size * 3.4 : 0;
  return term + equivalence + stated + rampWords(mark).length * size * 0.55;
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

/** The parts of a meter with where they and the plus before them stand, from x = 0. */
function placedParts(meter: Meter, size: number) {
  let left = 0;
  return meterSign(meter).map(({ top, bottom }, index) => {
    const plusX = index > 0 ? left + size / 4 : null;
    const start = index > 0 ? left + size / 2 : left;
    const width = figureWidth(top, bottom, size);
    left = start + width;
    return { top, bottom, plusX, centreX: start + width / 2, endX: left };
  });
}

/** Width of a drawn meter in pixels. */
export function meterWidth(meter: Meter, size: number): number {
  return placedParts(meter, size).at(-1)?.endX ?? 0;
}

function figureWidth(top: string, bottom: string, size: number): number {
  const widthOf = (figures: string) =>
    [...figures].reduce((total, figure) => total + (figure === '+' ? 0.5 : figure === '1' ? 0.32 : 0.45), 0);
  return Math.max(widthOf(top), widthOf(bottom)) * size;
}
