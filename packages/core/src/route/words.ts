import { barLabels } from '../piece/labels.ts';
import type { Piece } from '../piece/piece.ts';
import type { Route } from './route.ts';

interface Stretch {
  readonly from: number;
  readonly to: number;
  times: number;
}

const TIMES = ['', '', ' twice', ' three times', ' four times'];
const ORDINALS = [
  '',
  'first',
  'second',
  'third',
  'fourth',
  'fifth',
  'sixth',
  'seventh',
  'eighth',
  'ninth',
  'tenth',
];

/** The performed order in words, by printed labels: "1-8 twice, 9-15, back to 3-8, on to 20-24". */
export function routeWords(piece: Piece, { barIndex }: Route): string {
  const labels = barLabels(piece);
  const name = (index: number) =>
    labels[index] ?? (index === 0 ? 'pickup' : `after ${labels[index - 1] ?? index}`);
  let reached = -1;
  const parts = stretchesOf(barIndex).map(({ from, to, times }) => {
    const span = from === to ? name(from) : `${name(from)}-${name(to)}`;
    const lead = reached < 0 || from === reached + 1 ? '' : from <= reached ? 'back to ' : 'on to ';
    reached = to;
    return `${lead}${span}${TIMES[times] ?? ` ${times} times`}`;
  });
  return parts.join(', ');
}

/** Runs of bars in written order; one that is played again at once counts as more times of the same. */
function stretchesOf(barIndex: Int32Array): Stretch[] {
  const stretches: Stretch[] = [];
  let from = barIndex[0] ?? 0;
  for (let performed = 1; performed <= barIndex.length; performed++) {
    const before = barIndex[performed - 1] ?? 0;
    if (performed < barIndex.length && barIndex[performed] === before + 1) continue;
    const last = stretches.at(-1);
    const isAgain = last?.from === from && last.to <= before;
    if (isAgain) last.times++;
    if (!isAgain) stretches.push({ from, to: before, times: 1 });
    else if (last.to < before) stretches.push({ from: last.to + 1, to: before, times: 1 });
    from = barIndex[performed] ?? 0;
  }
  return stretches;
}

/** "second time" for a pass that is not the only one; empty where the bar is played once. */
export function passWords(route: Route, performed: number): string {
  const bar = route.barIndex[performed];
  const pass = route.pass[performed] ?? 1;
  const isOnly = pass === 1 && !route.barIndex.includes(bar ?? -1, performed + 1);
  if (isOnly) return '';
  return `${ORDINALS[pass] ?? `${pass}th`} time`;
}
