import {
  barLength,
  howMany,
  placedNotes,
  rhythmFill,
  toNumber,
  type Bar,
  type Rhythm,
} from '@anchorbeat/core';
import { rhythmShapes } from '@anchorbeat/drawing';
import { Shapes } from './Shapes.tsx';

const WIDTH = 460;
const BAR_WIDTH = 340;
const LINE_Y = 40;
const SIZE = 19;

/** The notes of a bar drawn true to ink against the bar's length: what is missing stays open, what is over stands out. */
export function BarRhythm({ bar, rhythm }: { readonly bar: Bar; readonly rhythm: Rhythm }) {
  const wholes = toNumber(barLength(bar));
  const { missingWholes, says } = rhythmFill(bar, rhythm);
  const missing = toNumber(missingWholes);
  const filled = wholes - missing;
  const scale = Math.min(BAR_WIDTH / wholes, (WIDTH - 8) / filled);
  const notes = placedNotes(rhythm).map(({ note, atWholes }) => ({
    note,
    x: toNumber(atWholes) * scale + 2,
  }));
  const end = wholes * scale;
  const isFull = missing === 0;
  return (
    <span className="flex items-center gap-4">
      <svg
        viewBox={`-4 0 ${WIDTH + 8} 62`}
        className="h-14 w-[23rem] max-w-full shrink-0"
        role="img"
        aria-label={`${howMany(rhythm.length, 'note')}: they ${says}`}
      >
        <rect x={0} y={LINE_Y + 8} width={Math.min(filled, wholes) * scale} height={7} fill="var(--ink)" />
        {missing > 0 && (
          <rect
            x={filled * scale}
            y={LINE_Y + 8.75}
            width={missing * scale}
            height={5.5}
            fill="none"
            stroke="var(--problem)"
            strokeWidth={1.5}
            strokeDasharray="4 3"
          />
        )}
        {missing < 0 && (
          <rect x={end} y={LINE_Y + 8} width={-missing * scale} height={7} fill="var(--problem)" />
        )}
        <path d={`M0 8V${LINE_Y + 18}M${end} 8V${LINE_Y + 18}`} stroke="var(--ink)" strokeWidth={1.6} />
        <Shapes shapes={rhythmShapes(notes, { endX: filled * scale, y: LINE_Y, size: SIZE })} />
      </svg>
      <span className={isFull ? '' : 'font-semibold text-problem'}>They {says}</span>
    </span>
  );
}
