import { formatEnding, formatJump, type Bar, type BarGeometry, type Piece } from '@anchorbeat/core';
import type { LineRows } from '../lineRows.ts';
import { path, run, words, type Shape } from './shape.ts';

const SEGNO = '\uE047';
const CODA = '\uE048';

/** Repeats, endings and jumps where they are written. */
export function routeShapes(piece: Piece, bars: readonly BarGeometry[], rows: LineRows): readonly Shape[] {
  return bars.flatMap((drawn) => {
    const bar = piece.bars[drawn.barIndex];
    if (!bar) return [];
    const end = drawn.xPx + drawn.widthPx;
    return [
      ...(bar.startsRepeat ? repeatSign(drawn.xPx, 1, rows) : []),
      ...(bar.endsRepeat === undefined ? [] : repeatEnd(end, bar.endsRepeat, rows)),
      ...(bar.ending ? endingBracket(drawn, bar.ending, piece.bars[drawn.barIndex - 1], rows) : []),
      ...navigation(drawn, bar, rows),
    ];
  });
}

/** A thick post with two dots on the side of what is repeated. */
function repeatSign(x: number, facing: 1 | -1, { barlineY }: LineRows): readonly Shape[] {
  return [
    path(`M${x} 0V${barlineY}`, { stroke: 'ink', strokePx: 4 }),
    ...[0.39, 0.61].map((share) => path(circle(x + facing * 8, share * barlineY, 2.6), { fill: 'ink' })),
  ];
}

function repeatEnd(x: number, times: NonNullable<Bar['endsRepeat']>, rows: LineRows): readonly Shape[] {
  const text = times === 'until cued' ? 'until cued' : times === 2 ? '' : `${times} times`;
  return [
    ...repeatSign(x, -1, rows),
    ...(text
      ? [words(text, x - 4, rows.barlineY - 8, { sizePx: 13, tone: 'ink', weight: 700, anchor: 'end' })]
      : []),
  ];
}

function endingBracket(
  drawn: BarGeometry,
  passes: readonly number[],
  before: Bar | undefined,
  { upperY: y }: LineRows,
): readonly Shape[] {
  const goesOn = before?.endsRepeat === undefined && before?.ending?.join() === passes.join();
  const end = drawn.xPx + drawn.widthPx - 3;
  const start = goesOn ? `M${drawn.xPx - 3} ${y}` : `M${drawn.xPx + 3} ${y + 14}V${y}`;
  const bracket = path(`${start}H${end}`, { stroke: 'ink', strokePx: 1.5 });
  if (goesOn) return [bracket];
  const number = words(`${formatEnding(passes)}.`, drawn.xPx + 8, y + 15, {
    sizePx: 14,
    tone: 'ink',
    weight: 700,
    face: 'display',
  });
  return [bracket, number];
}

function navigation(drawn: BarGeometry, bar: Bar, rows: LineRows): readonly Shape[] {
  if (!bar.navigation) return [];
  const { segno, coda, toCoda, fine, jump } = bar.navigation;
  const signs = `${segno ? SEGNO : ''}${coda ? CODA : ''}`;
  const atEnd = [toCoda && 'to coda', fine && 'fine', jump && formatJump(jump)].filter(Boolean).join(', ');
  return [
    ...(signs
      ? [run([{ text: signs, isMusic: true }], drawn.xPx + 4, rows.upperY - 2, { sizePx: 24, tone: 'ink' })]
      : []),
    ...(atEnd
      ? [
          words(atEnd, drawn.xPx + drawn.widthPx - 4, rows.barlineY - 12, {
            sizePx: 14,
            tone: 'ink',
            weight: 700,
            face: 'display',
            anchor: 'end',
          }),
        ]
      : []),
  ];
}

/** A full circle as path data. */
export function circle(x: number, y: number, radius: number): string {
  return `M${x - radius} ${y}A${radius} ${radius} 0 1 1 ${x + radius} ${y}A${radius} ${radius} 0 1 1 ${x - radius} ${y}Z`;
}
