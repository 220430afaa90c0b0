import {
  barPattern,
  handAt,
  pulseOf,
  toNumber,
  type Bar,
  type ConductedBeat,
  type HandPlace,
  type HandStyle,
} from '@anchorbeat/core';
import { circle } from './routeShapes.ts';
import { path, words, type Shape } from './shape.ts';

/** The room a pattern is drawn in, in pixels, from its upper left corner. */
export const PATTERN_WIDTH_PX = 184;
export const PATTERN_HEIGHT_PX = 168;
const SCALE = 98;
/** Room for a number beside the outermost beat. */
const EDGE_PX = 12;
const BASE_Y = 136;
const SECONDS_A_WHOLE = 2;
const SAMPLES = 220;

/** The path of the hand through a bar, with its beats where the hand touches down. */
export function patternShapes(bar: Bar, style: HandStyle): readonly Shape[] {
  const { list, barSeconds } = threeBars(bar);
  const hand = Array.from({ length: SAMPLES + 1 }, (_, index) =>
    handAt(list, barSeconds + (index / SAMPLES) * barSeconds, style),
  );
  const widest = hand.reduce((most, { x }) => Math.max(most, Math.abs(x)), 0);
  const scale = Math.min(SCALE, (PATTERN_WIDTH_PX / 2 - EDGE_PX) / widest);
  const placeOf = ({ x, y }: Pick<HandPlace, 'x' | 'y'>) => ({
    x: hundredths(PATTERN_WIDTH_PX / 2 + x * scale),
    y: hundredths(BASE_Y - y * scale * 1.3),
  });
  const points = hand.map(placeOf);
  const shown = list.filter(({ seconds }) => seconds >= barSeconds - 1e-9 && seconds < 2 * barSeconds - 1e-9);
  return [
    path(`M10 ${BASE_Y}H${PATTERN_WIDTH_PX - 10}`, { stroke: 'faint', strokePx: 1.5 }),
    path(`M${points.map(({ x, y }) => `${x} ${y}`).join('L')}`, { stroke: 'entry', strokePx: 3 }),
    ...shown.flatMap((beat, index) => {
      const { x, y } = placeOf(handAt(list, beat.seconds, style));
      return [
        path(circle(x, y, 5), { fill: 'ink' }),
        words(String(index + 1), x, y + 20, {
          sizePx: 14,
          tone: 'ink',
          weight: 700,
          face: 'display',
          anchor: 'middle',
        }),
      ];
    }),
  ];
}

/** The bar three times, so that the one in the middle is led into and out of as in music. */
function threeBars(bar: Bar): { readonly list: readonly ConductedBeat[]; readonly barSeconds: number } {
  const pattern = barPattern(bar);
  const pulse = pulseOf(bar);
  const lengths = pulse.map(({ lengthWholes }) => toNumber(lengthWholes) * SECONDS_A_WHOLE);
  const barSeconds = lengths.reduce((total, length) => total + length, 0);
  const list = [0, 1, 2].flatMap((round) =>
    pattern.map((point, index) => ({
      ...point,
      seconds:
        round * barSeconds + toNumber((pulse[index] as (typeof pulse)[number]).atWholes) * SECONDS_A_WHOLE,
    })),
  );
  return { list, barSeconds };
}

function hundredths(value: number): number {
  return Math.round(value * 100) / 100;
}
