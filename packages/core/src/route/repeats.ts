import type { Bar, Piece, RepeatTimes } from '../piece/piece.ts';

/** An ending bracket: the written bars it covers, and the passes on which they are played. */
export interface Ending {
  readonly from: number;
  readonly to: number;
  readonly passes: readonly number[];
}

/** A repeated stretch of written bars. `ends` are the bars at whose close it goes back, one for each ending that does. */
export interface Repeat {
  readonly start: number;
  readonly ends: readonly number[];
  readonly endings: readonly Ending[];
  readonly times: RepeatTimes;
}

/** What is not right about the signs, for the checks: a repeat that is opened and never closed, an ending of none. */
export interface RepeatReading {
  readonly repeats: readonly Repeat[];
  readonly unclosedStarts: readonly number[];
  readonly strayEndings: readonly Ending[];
}

interface OpenRepeat {
  start: number;
  ends: number[];
  endings: Ending[];
  times: RepeatTimes | null;
}

/**
 * Finds which repeat sign closes which: innermost first; without an opening, from the last close, jump or coda, or the
 * beginning.
 */
export function readRepeats(piece: Piece): RepeatReading {
  const endings = endingsOf(piece);
  const stack: OpenRepeat[] = [];
  const closed: OpenRepeat[] = [];
  let lastClosed: OpenRepeat | null = null;
  let impliedStart = 0;
  const close = (index: number, times: RepeatTimes) => {
    const continued = lastClosed && isNextEnding(piece, lastClosed, index) ? lastClosed : null;
    const open: OpenRepeat = continued ??
      stack.pop() ?? { start: impliedStart, ends: [], endings: [], times: null };
    open.ends.push(index);
    if (times === 'until cued' || open.times === null) open.times = times;
    else if (open.times !== 'until cued') open.times = Math.max(open.times, times);
    if (!continued) closed.push(open);
    lastClosed = open;
  };
  piece.bars.forEach((bar, index) => {
    if (bar.navigation?.coda) impliedStart = index;
    // The last ending is of the repeat before it.
    if (bar.ending && impliedStart === index && piece.bars[index - 1]?.ending) impliedStart = index + 1;
    if (bar.startsRepeat) stack.push({ start: index, ends: [], endings: [], times: null });
    const { endsRepeat } = bar;
    if (endsRepeat !== undefined) close(index, endsRepeat);
    if (endsRepeat !== undefined || bar.navigation?.jump) impliedStart = index + 1;
  });
  const strayEndings = endings.filter((ending) => !giveToRepeat(ending, closed));
  return {
    repeats: closed.map(finished).sort((a, b) => a.start - b.start),
    unclosedStarts: stack.map((open) => open.start),
    strayEndings,
  };
}

/** Neighbouring bars with the same passes are one ending. */
function endingsOf({ bars }: Piece): Ending[] {
  const endings: Ending[] = [];
  bars.forEach((bar, index) => {
    if (!bar.ending) return;
    const last = endings.at(-1);
    const before = bars[index - 1];
    if (last && last.to === index - 1 && isSameEnding(before, bar))
      endings[endings.length - 1] = { ...last, to: index };
    else endings.push({ from: index, to: index, passes: bar.ending });
  });
  return endings;
}

function isSameEnding(a: Bar | undefined, b: Bar): boolean {
  return a?.endsRepeat === undefined && a?.ending?.join() === b.ending?.join();
}

/** Another close in an ending that follows the last one belongs to the same repeat. */
function isNextEnding({ bars }: Piece, lastClosed: OpenRepeat, index: number): boolean {
  const from = (lastClosed.ends.at(-1) ?? -1) + 1;
  if (bars[from - 1]?.ending === undefined || from > index) return false;
  for (let between = from; between <= index; between++) {
    if (bars[between]?.ending === undefined || bars[between]?.startsRepeat) return false;
  }
  return true;
}

/** An ending belongs to the innermost repeat that it stands in or follows at once. */
function giveToRepeat(ending: Ending, repeats: readonly OpenRepeat[]): boolean {
  const holding = repeats.filter(({ start, ends, endings }) => {
    const last = Math.max(ends.at(-1) ?? 0, ...endings.map(({ to }) => to));
    const opensWithEnding = ends.some((end) => end >= ending.from && end <= ending.to);
    const follows = ending.from === last + 1 && endings.length > 0;
    return ending.from >= start && (ending.to <= (ends.at(-1) ?? 0) || opensWithEnding || follows);
  });
  const innermost = holding.reduce<OpenRepeat | null>((a, b) => (a && a.start >= b.start ? a : b), null);
  innermost?.endings.push(ending);
  return innermost !== null;
}

function finished({ start, ends, endings, times }: OpenRepeat): Repeat {
  const written = Math.max(0, ...endings.flatMap((ending) => ending.passes));
  const counted = times === 'until cued' ? times : Math.max(times ?? 2, written);
  return { start, ends, endings, times: counted };
}

/** How often a repeat is played on paper: an open one once, the rest being decided on the day. */
export function timesOnPaper({ times, endings }: Repeat): number {
  if (times !== 'until cued') return times;
  return Math.max(1, ...endings.flatMap((ending) => ending.passes));
}
