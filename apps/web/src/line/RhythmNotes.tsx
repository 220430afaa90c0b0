import type { RhythmNote } from '@anchorbeat/core';
import { DOT_GLYPH, noteGlyph, restGlyph, tupletFigures } from '@anchorbeat/drawing';
import type { ReactNode } from 'react';

interface DrawnNote {
  readonly x: number;
  readonly note: RhythmNote;
}

interface RhythmNotesProps {
  readonly notes: readonly DrawnNote[];
  /** Where a tie from the last note leads. */
  readonly endX: number;
  readonly y: number;
  readonly size: number;
  readonly fill: string;
}

/** Notes and rests standing at their places, with dots, tuplet figures and ties. */
export function RhythmNotes({ notes, endX, y, size, fill }: RhythmNotesProps): ReactNode {
  return notes.map(({ x, note }, index) => {
    const { value, isRest, isTied } = note;
    const figures = tupletFigures(value.tuplets);
    const nextX = notes[index + 1]?.x ?? endX;
    return (
      <g key={index} fill={fill}>
        <text x={x} y={isRest ? y - size * 0.42 : y} fontFamily="Bravura Music" fontSize={size * 1.5}>
          {isRest ? restGlyph(value.base) : noteGlyph(value.base)}
          {Array.from({ length: value.dots }, (_, dot) => (
            <tspan key={dot} dx={size * 0.14}>
              {DOT_GLYPH}
            </tspan>
          ))}
        </text>
        {figures && (
          <text x={x + size * 0.2} y={y - size * 1.5} fontSize={size * 0.7} fontStyle="italic">
            {figures}
          </text>
        )}
        {isTied && (
          <path
            d={`M${x + size * 0.4} ${y + size * 0.35}Q${(x + nextX) / 2 + size * 0.2} ${y + size * 0.8} ${nextX} ${y + size * 0.35}`}
            fill="none"
            stroke={fill}
            strokeWidth={1.3}
          />
        )}
      </g>
    );
  });
}
