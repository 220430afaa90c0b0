import { formatEnding, formatJump, type Bar, type BarGeometry, type Piece } from '@anchorbeat/core';
import type { ReactNode } from 'react';

const TOP_Y = -62;
const ENDING_Y = -108;
const SIGN_Y = -70;
/** Segno and coda stand above the lane of the meters. */
const UPPER_SIGN_Y = -110;
const SEGNO = '\uE047';
const CODA = '\uE048';

/** Repeats, endings and jumps where they are written. */
export function RouteMarks({
  piece,
  bars,
}: {
  readonly piece: Piece;
  readonly bars: readonly BarGeometry[];
}): ReactNode {
  return bars.map((drawn, drawnAt) => {
    const bar = piece.bars[drawn.barIndex]!;
    if (!bar.startsRepeat && bar.endsRepeat === undefined && !bar.ending && !bar.navigation) return null;
    const before = piece.bars[drawn.barIndex - 1];
    return (
      <g key={drawnAt}>
        {bar.startsRepeat && <RepeatSign x={drawn.xPx} facing={1} />}
        {bar.endsRepeat !== undefined && <RepeatEnd x={drawn.xPx + drawn.widthPx} times={bar.endsRepeat} />}
        {bar.ending && (
          <EndingBracket drawn={drawn} passes={bar.ending} isFirst={!continuesEnding(before, bar)} />
        )}
        <Navigation drawn={drawn} bar={bar} />
      </g>
    );
  });
}

function continuesEnding(before: Bar | undefined, bar: Bar): boolean {
  return before?.endsRepeat === undefined && before?.ending?.join() === bar.ending?.join();
}

/** A thick post with two dots on the side of what is repeated. */
function RepeatSign({ x, facing }: { readonly x: number; readonly facing: 1 | -1 }) {
  return (
    <g>
      <path d={`M${x} 0V${TOP_Y}`} stroke="var(--ink)" strokeWidth={4} />
      {[-24, -38].map((y) => (
        <circle key={y} cx={x + facing * 8} cy={y} r={2.6} fill="var(--ink)" />
      ))}
    </g>
  );
}

function RepeatEnd({ x, times }: { readonly x: number; readonly times: NonNullable<Bar['endsRepeat']> }) {
  const text = times === 'until cued' ? 'until cued' : times === 2 ? '' : `${times} times`;
  return (
    <g>
      <RepeatSign x={x} facing={-1} />
      <text x={x - 4} y={SIGN_Y} textAnchor="end" fontSize={13} fontWeight={700} fill="var(--ink)">
        {text}
      </text>
    </g>
  );
}

interface EndingBracketProps {
  readonly drawn: BarGeometry;
  readonly passes: readonly number[];
  readonly isFirst: boolean;
}

function EndingBracket({ drawn, passes, isFirst }: EndingBracketProps) {
  const end = drawn.xPx + drawn.widthPx - 3;
  return (
    <g>
      <path
        d={`${isFirst ? `M${drawn.xPx + 3} ${ENDING_Y + 14}V${ENDING_Y}` : `M${drawn.xPx - 3} ${ENDING_Y}`}H${end}`}
        fill="none"
        stroke="var(--ink)"
        strokeWidth={1.5}
      />
      {isFirst && (
        <text
          x={drawn.xPx + 8}
          y={ENDING_Y + 15}
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

function Navigation({ drawn, bar: { navigation } }: { readonly drawn: BarGeometry; readonly bar: Bar }) {
  if (!navigation) return null;
  const { segno, coda, toCoda, fine, jump } = navigation;
  const atEnd = [toCoda && 'to coda', fine && 'fine', jump && formatJump(jump)].filter(Boolean).join(', ');
  return (
    <g fill="var(--ink)">
      {(segno ?? coda) && (
        <text x={drawn.xPx + 4} y={UPPER_SIGN_Y} fontSize={24} fontFamily="Bravura Music">
          {segno ? SEGNO : ''}
          {coda ? CODA : ''}
        </text>
      )}
      {atEnd && (
        <text
          x={drawn.xPx + drawn.widthPx - 4}
          y={SIGN_Y - 4}
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
