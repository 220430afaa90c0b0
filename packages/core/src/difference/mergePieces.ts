import { writeBar } from '../document/barFields.ts';
import { readPiece } from '../document/readPiece.ts';
import { writePiece } from '../document/writePiece.ts';
import type { Bar, Piece } from '../piece/piece.ts';
import { barSteps } from './alignBars.ts';

/**
 * What two people made of one piece, put together: whatever only one of them touched is as that one left it. Null where both
 * changed the same bar, or the same thing of the head, in different ways, so that somebody has to choose.
 */
export function mergePiecesMaybe(base: Piece, mine: Piece, theirs: Piece): Piece | null {
  return merged(base, mine, theirs, null);
}

/**
 * Whose version stands where two people changed the same. Of both, every change of either in a bar, bars that both put in one
 * after the other, and mine only where it is the very same thing.
 */
export type Preferred = 'mine' | 'theirs' | 'both';

/** The same, where somebody has chosen. Null where no bar would be left, or what both did does not go together. */
export function mergePiecesPreferring(
  base: Piece,
  mine: Piece,
  theirs: Piece,
  preferred: Preferred,
): Piece | null {
  const piece = merged(base, mine, theirs, preferred);
  if (piece === null || preferred !== 'both') return piece;
  // A tempo on a beat that the other one's meter no longer has makes no piece.
  return readPiece(writePiece(piece)).ok ? piece : null;
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
    const versions = { was: base[name], here: mine[name], there: theirs[name] };
    const chosen = chosenMaybe(versions, textOf, preferred, ({ here }) => here);
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
      ({ here: ours, there: others }) => [...others, ...ours],
    );
    if (!putIn) return null;
    merged.push(...putIn.value);
    const was = base[at];
    if (!was) continue;
    const bar = chosenMaybe<Bar | null>(
      { was, here: here.became[at] ?? null, there: there.became[at] ?? null },
      text,
      preferred,
      barOfBoth,
    );
    if (!bar) return null;
    if (bar.value) merged.push(bar.value);
  }
  return merged;
}

/** One thing as it was, and what either made of it. */
interface Versions<T> {
  readonly was: T;
  readonly here: T;
  readonly there: T;
}

/** The one that differs from what was; where both do, and from one another, the preferred one, and null where none is. */
function chosenMaybe<T>(
  versions: Versions<T>,
  text: (value: T) => string,
  preferred: Preferred | null,
  ofBoth: (versions: Versions<T>) => T,
): { readonly value: T } | null {
  const { was, here, there } = versions;
  const [before, mine, theirs] = [text(was), text(here), text(there)];
  if (mine === before) return { value: there };
  if (theirs === before || theirs === mine) return { value: here };
  switch (preferred) {
    case 'mine':
      return { value: here };
    case 'theirs':
      return { value: there };
    case 'both':
      return { value: ofBoth(versions) };
    case null:
      return null;
  }
}

/** A bar with every field that either changed; one that the other took out stays as it was made. */
function barOfBoth({ was, here, there }: Versions<Bar | null>): Bar | null {
  if (!was || !here || !there) return here ?? there;
  const names = new Set([...Object.keys(was), ...Object.keys(here), ...Object.keys(there)]) as Set<keyof Bar>;
  const bar: Record<string, unknown> = {};
  for (const name of names) {
    const isMine = textOf(here[name]) !== textOf(was[name]);
    const value = isMine ? here[name] : there[name];
    if (value !== undefined) bar[name] = value;
  }
  return bar as unknown as Bar;
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
