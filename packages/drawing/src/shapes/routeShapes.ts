import type { BarGeometry, Piece } from '@anchorbeat/core';
import { ENDING_SIZE_PX, type AboveLine } from '../aboveLine.ts';
import type { LineRows } from '../lineRows.ts';
import { path, run, words, type Shape } from './shape.ts';

/** Repeats, endings and jumps where they are written. */
export function routeShapes(
  piece: Piece,
  bars: readonly BarGeometry[],
  rows: LineRows,
  above: AboveLine,
): readonly Shape[] {
  const posts = bars.flatMap((drawn) => {
    const { startsRepeat, endsRepeat } = piece.bars[drawn.barIndex] ?? {};
    return [
      ...(startsRepeat ? repeatSign(drawn.xPx, 1, rows) : []),
      ...(endsRepeat === undefined ? [] : repeatSign(drawn.xPx + drawn.widthPx, -1, rows)),
    ];
  });
  return [...posts, ...above.endings.flatMap(endingBracket), ...above.words.map(placedWords)];
}

/** A thick post with two dots on the side of what is repeated. */
function repeatSign(x: number, facing: 1 | -1, { barlineY }: LineRows): readonly Shape[] {
  return [
    path(`M${x} 0V${barlineY}`, { stroke: 'ink', strokePx: 4 }),
    ...[0.39, 0.61].map((share) => path(circle(x + facing * 8, share * barlineY, 2.6), { fill: 'ink' })),
  ];
}

function endingBracket({ fromX, toX, y, number }: AboveLine['endings'][number]): readonly Shape[] {
  const hook = number === null ? `M${fromX} ${y}` : `M${fromX} ${y + ENDING_SIZE_PX}V${y}`;
  const bracket = path(`${hook}H${toX}`, { stroke: 'ink', strokePx: 1.5 });
  if (number === null) return [bracket];
  const look = { sizePx: ENDING_SIZE_PX, tone: 'ink', weight: 700, face: 'display' } as const;
  return [bracket, words(number, fromX + 5, y + ENDING_SIZE_PX + 1, look)];
}

function placedWords({ text, isMusic, x, y, sizePx, isAtEnd }: AboveLine['words'][number]): Shape {
  if (isMusic) return run([{ text, isMusic }], x, y, { sizePx, tone: 'ink' });
  return words(text, x, y, {
    sizePx,
    tone: 'ink',
    weight: 700,
    face: 'display',
    ...(isAtEnd && { anchor: 'end' }),
  });
}

/** A full circle as path data. */
export function circle(x: number, y: number, radius: number): string {
  return `M${x - radius} ${y}A${radius} ${radius} 0 1 1 ${x + radius} ${y}A${radius} ${radius} 0 1 1 ${x - radius} ${y}Z`;
}
