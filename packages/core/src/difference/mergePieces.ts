import { writeBar } from '../document/barFields.ts';
import type { Bar, Piece } from '../piece/piece.ts';
import { alignBars } from './alignBars.ts';

/**
 * What two people made of one piece, put together: whatever only one of them touched is as that one left it. Null where both
 * changed the same bar, or the same thing of the head, in different ways, so that somebody has to choose.
 */
export function mergePiecesMaybe(base: Piece, mine: Piece, theirs: Piece): Piece | null {
  const bars = mergedBarsMaybe(base.bars, mine.bars, theirs.bars);
  const head = bars && mergedHeadMaybe(base, mine, theirs);
  return bars && head && bars.length > 0 ? { ...head, bars } : null;
}

type Head = Omit<Piece, 'bars'>;

function mergedHeadMaybe(base: Piece, mine: Piece, theirs: Piece): Head | null {
  const names = new Set([...Object.keys(base), ...Object.keys(mine), ...Object.keys(theirs)]) as Set<
    keyof Head
  >;
  const head: Record<string, unknown> = {};
  for (const name of names) {
    if ((name as string) === 'bars') continue;
    const [was, here, there] = [base, mine, theirs].map((piece) => textOf(piece[name])) as [
      string,
      string,
      string,
    ];
    if (here !== was && there !== was && here !== there) return null;
    const value = here === was ? theirs[name] : mine[name];
    if (value !== undefined) head[name] = value;
  }
  return head as unknown as Head;
}

/** What became of each bar of the base on one side, and what was put in before each, the end included. */
interface Side {
  /** The bar as it is now, by its place in the base; null where it was taken out. */
  readonly became: ReadonlyArray<Bar | null>;
  readonly putIn: ReadonlyArray<readonly Bar[]>;
}

function mergedBarsMaybe(
  base: readonly Bar[],
  mine: readonly Bar[],
  theirs: readonly Bar[],
): readonly Bar[] | null {
  const texts = new Map<Bar, string>();
  const text = (bar: Bar | null) => {
    if (bar === null) return '';
    const known = texts.get(bar) ?? JSON.stringify(writeBar(bar));
    texts.set(bar, known);
    return known;
  };
  const [here, there] = [sideOf(base, mine, text), sideOf(base, theirs, text)];
  const merged: Bar[] = [];
  for (let at = 0; at <= base.length; at++) {
    const putIn = chosenMaybe([], here.putIn[at] ?? [], there.putIn[at] ?? [], (bars) =>
      bars.map(text).join('\n'),
    );
    if (!putIn) return null;
    merged.push(...putIn);
    const was = base[at];
    if (!was) continue;
    const bar = chosenMaybe<Bar | null>(was, here.became[at] ?? null, there.became[at] ?? null, text);
    if (bar === undefined) return null;
    if (bar) merged.push(bar);
  }
  return merged;
}

/** The one that differs from what was; undefined where both do, and from one another. */
function chosenMaybe<T>(was: T, here: T, there: T, text: (value: T) => string): T | undefined {
  const [before, mine, theirs] = [text(was), text(here), text(there)];
  if (mine === before) return there;
  return theirs === before || theirs === mine ? here : undefined;
}

function sideOf(base: readonly Bar[], side: readonly Bar[], text: (bar: Bar) => string): Side {
  const became: Array<Bar | null> = base.map(() => null);
  const putIn: Bar[][] = Array.from({ length: base.length + 1 }, () => []);
  let reached = 0;
  for (const step of alignBars(base.map(text), side.map(text))) {
    if (step.kind === 'added') putIn[reached]?.push(side[step.after] as Bar);
    else {
      // A bar that is as it was is the very bar of the base, so that nothing is compiled that has not changed.
      if (step.kind !== 'removed')
        became[step.before] = (step.kind === 'kept' ? base[step.before] : side[step.after]) as Bar;
      reached = step.before + 1;
    }
  }
  return { became, putIn };
}

function textOf(value: unknown): string {
  return JSON.stringify(value) ?? '';
}
