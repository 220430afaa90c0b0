import { writeBar } from '../document/barFields.ts';
import type { Bar, Piece } from '../piece/piece.ts';
import { barSteps } from './alignBars.ts';

/**
 * What two people made of one piece, put together: whatever only one of them touched is as that one left it. Null where both
 * changed the same bar, or the same thing of the head, in different ways, so that somebody has to choose.
 */
export function mergePiecesMaybe(base: Piece, mine: Piece, theirs: Piece): Piece | null {
  return merged(base, mine, theirs, null);
}

/** Whose version stands where two people changed the same. */
export type Preferred = 'mine' | 'theirs';

/** The same, where somebody has chosen: one side's version of whatever both changed. Null where no bar would be left. */
export function mergePiecesPreferring(
  base: Piece,
  mine: Piece,
  theirs: Piece,
  preferred: Preferred,
): Piece | null {
  return merged(base, mine, theirs, preferred);
}

function merged(base: Piece, mine: Piece, theirs: Piece, preferred: Preferred | null): Piece | null {
  const bars = mergedBarsMaybe(base.bars, mine.bars, theirs.bars, preferred);
  const head = bars && mergedHeadMaybe(base, mine, theirs, preferred);
  return bars && head && bars.length > 0 ? { ...head, bars } : null;
}

type Head = Omit<Piece, 'bars'>;

function mergedHeadMaybe(base: Piece, mine: Piece, theirs: Piece, preferred: Preferred | null): Head | null {
  const names = new Set([...Object.keys(base), ...Object.keys(mine), ...Object.keys(theirs)]) as Set<
    keyof Head
  >;
  const head: Record<string, unknown> = {};
  for (const name of names) {
    if ((name as string) === 'bars') continue;
    const chosen = chosenMaybe({ was: base[name], here: mine[name], there: theirs[name] }, textOf, preferred);
    if (!chosen) return null;
    if (chosen.value !== undefined) head[name] = chosen.value;
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
  preferred: Preferred | null,
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
    const putIn = chosenMaybe<readonly Bar[]>(
      { was: [], here: here.putIn[at] ?? [], there: there.putIn[at] ?? [] },
      (bars) => bars.map(text).join('\n'),
      preferred,
    );
    if (!putIn) return null;
    merged.push(...putIn.value);
    const was = base[at];
    if (!was) continue;
    const bar = chosenMaybe<Bar | null>(
      { was, here: here.became[at] ?? null, there: there.became[at] ?? null },
      text,
      preferred,
    );
    if (!bar) return null;
    if (bar.value) merged.push(bar.value);
  }
  return merged;
}

/** The one that differs from what was; where both do, and from one another, the preferred one, and null where none is. */
function chosenMaybe<T>(
  { was, here, there }: { readonly was: T; readonly here: T; readonly there: T },
  text: (value: T) => string,
  preferred: Preferred | null,
): { readonly value: T } | null {
  const [before, mine, theirs] = [text(was), text(here), text(there)];
  if (mine === before) return { value: there };
  if (theirs === before || theirs === mine || preferred === 'mine') return { value: here };
  return preferred === 'theirs' ? { value: there } : null;
}

function sideOf(base: readonly Bar[], side: readonly Bar[], text: (bar: Bar) => string): Side {
  const became: Array<Bar | null> = base.map(() => null);
  const putIn: Bar[][] = Array.from({ length: base.length + 1 }, () => []);
  let reached = 0;
  for (const step of barSteps(base.map(text), side.map(text))) {
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
