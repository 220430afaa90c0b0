import { formatEnding, formatJump, type Bar, type BarGeometry, type Piece } from '@anchorbeat/core';
import type { LineRows } from '@anchorbeat/drawing';
import type { ReactNode } from 'react';

const SEGNO = '\uE047';
const CODA = '\uE048';

/** Repeats, endings and jumps where they are written. */
export function RouteMarks({
  piece,
  bars,
  rows,
}: {
  readonly piece: Piece;
  readonly bars: readonly BarGeometry[];
  readonly rows: LineRows;
}): ReactNode {
  return bars.map((drawn, drawnAt) => {
    const bar = piece.bars[drawn.barIndex]!;
    if (!bar.startsRepeat && bar.endsRepeat === undefined && !bar.ending && !bar.navigation) return null;
    const before = piece.bars[drawn.barIndex - 1];
    return (
      <g key={drawnAt}>
        {bar.startsRepeat && <RepeatSign x={drawn.xPx} facing={1} rows={rows} />}
        {bar.endsRepeat !== undefined && (
          <RepeatEnd x={drawn.xPx + drawn.widthPx} times={bar.endsRepeat} rows={rows} />
        )}
        {bar.ending && (
          <EndingBracket
            drawn={drawn}
            passes={bar.ending}
            isFirst={!continuesEnding(before, bar)}
            y={rows.upperY}
          />
        )}
        <Navigation drawn={drawn} bar={bar} rows={rows} />
      </g>
    );
  });
}

function continuesEnding(before: Bar | undefined, bar: Bar): boolean {
  return before?.endsRepeat === undefined && before?.ending?.join() === bar.ending?.join();
}

interface RepeatSignProps {
  readonly x: number;
  readonly facing: 1 | -1;
  readonly rows: LineRows;
}

/** A thick post with two dots on the side of what is repeated. */
function RepeatSign({ x, facing, rows }: RepeatSignProps) {
  return (
    <g>
      <path d={`M${x} 0V${rows.barlineY}`} stroke="var(--ink)" strokeWidth={4} />
      {[0.39, 0.61].map((share) => (
        <circle key={share} cx={x + facing * 8} cy={share * rows.barlineY} r={2.6} fill="var(--ink)" />
      ))}
    </g>
  );
}

interface RepeatEndProps {
  readonly x: number;
  readonly times: NonNullable<Bar['endsRepeat']>;
  readonly rows: LineRows;
}

function RepeatEnd({ x, times, rows }: RepeatEndProps) {
  const text = times === 'until cued' ? 'until cued' : times === 2 ? '' : `${times} times`;
  return (
    <g>
      <RepeatSign x={x} facing={-1} rows={rows} />
      <text x={x - 4} y={rows.barlineY - 8} textAnchor="end" fontSize={13} fontWeight={700} fill="var(--ink)">
        {text}
      </text>
    </g>
  );
}

interface EndingBracketProps {
  readonly drawn: BarGeometry;
  readonly passes: readonly number[];
  readonly isFirst: boolean;
  readonly y: number;
}

function EndingBracket({ drawn, passes, isFirst, y }: EndingBracketProps) {
  const end = drawn.xPx + drawn.widthPx - 3;
  return (
    <g>
      <path
        d={`${isFirst ? `M${drawn.xPx + 3} ${y + 14}V${y}` : `M${drawn.xPx - 3} ${y}`}H${end}`}
        fill="none"
        stroke="var(--ink)"
        strokeWidth={1.5}
      />
      {isFirst && (
        <text
          x={drawn.xPx + 8}
          y={y + 15}
          fontSize={14}
          fontWeight={700}
          fill="var(--ink)"
          fontFamily="var(--font-display)"
        >
          {formatEnding(passes)}.
        </text>
      )}
    </g>
  );
}

interface NavigationProps {
  readonly drawn: BarGeometry;
  readonly bar: Bar;
  readonly rows: LineRows;
}

function Navigation({ drawn, bar: { navigation }, rows }: NavigationProps) {
  if (!navigation) return null;
  const { segno, coda, toCoda, fine, jump } = navigation;
  const atEnd = [toCoda && 'to coda', fine && 'fine', jump && formatJump(jump)].filter(Boolean).join(', ');
  return (
    <g fill="var(--ink)">
      {(segno ?? coda) && (
        <text x={drawn.xPx + 4} y={rows.upperY - 2} fontSize={24} fontFamily="Bravura Music">
          {segno ? SEGNO : ''}
          {coda ? CODA : ''}
        </text>
      )}
      {atEnd && (
        <text
          x={drawn.xPx + drawn.widthPx - 4}
          y={rows.barlineY - 12}
          textAnchor="end"
          fontSize={14}
          fontWeight={700}
          fontFamily="var(--font-display)"
        >
          {atEnd}
        </text>
      )}
    </g>
  );
}
