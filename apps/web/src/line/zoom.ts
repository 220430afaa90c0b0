import type { LineScale, Proof, TrueTo } from '@anchorbeat/core';
import { writtenBarSeconds } from '@anchorbeat/drawing';
import { Kept } from '../kept/kept.ts';
import { layoutLine } from '@anchorbeat/drawing';
import type { Size } from './useSize.ts';

/** How near the line of a piece is looked at. */
export interface Zoom {
  readonly trueTo: TrueTo;
  /** Null where the page decides: as near as the whole piece allows. */
  readonly pixelsPerSecond: number | null;
}

export const FITTED: Zoom = { trueTo: 'time', pixelsPerSecond: null };

/** How each piece was looked at last, the latest last; long ago is forgotten. */
export const keptZooms = new Kept<ReadonlyArray<readonly [pieceId: string, zoom: Zoom]>>(
  'anchorbeat.zooms',
  (stored) => (Array.isArray(stored) ? stored.filter(isKeptZoom) : []),
);
const PIECES_KEPT = 60;

export function keepZoom(pieceId: string, zoom: Zoom): void {
  const others = keptZooms.get().filter(([id]) => id !== pieceId);
  keptZooms.set([...others.slice(1 - PIECES_KEPT), [pieceId, zoom]]);
}

function isKeptZoom(value: unknown): value is readonly [string, Zoom] {
  if (!Array.isArray(value) || typeof value[0] !== 'string') return false;
  const { trueTo, pixelsPerSecond } = (value[1] ?? {}) as Partial<Zoom>;
  return (
    (trueTo === 'time' || trueTo === 'ink') &&
    (pixelsPerSecond === null || (typeof pixelsPerSecond === 'number' && LEVELS.includes(pixelsPerSecond)))
  );
}

/** From a long piece on one page to a bar across it. */
const LEVELS: readonly number[] = [
  2, 3, 4, 6, 8, 11, 15, 20, 27, 36, 46, 58, 74, 96, 125, 160, 210, 280, 380, 520, 700,
];
const WHOLES_PER_SECOND = 0.4;
/** Nearer than this a page that would hold a short piece is not opened. */
const NEAREST_FITTED = 125;
/** Farther than this a page that must hold a long piece is not opened: the rest is a scroll away. */
const FARTHEST_FITTED = 46;

export function scaleAt(trueTo: TrueTo, pixelsPerSecond: number): LineScale {
  return { trueTo, pixelsPerSecond, pixelsPerWhole: pixelsPerSecond / WHOLES_PER_SECOND };
}

/** No system is lower than this. */
const LEAST_SYSTEM_PX = 56;

/** The nearest level at which the whole piece fits a page, where it can still be read from there. */
export function fittedLevel(proof: Proof, trueTo: TrueTo, page: Size, hasLanes: boolean): number {
  const { widthPx, heightPx } = page;
  const secondsHeld = (heightPx / LEAST_SYSTEM_PX) * widthPx;
  const seconds = writtenBarSeconds(proof).reduce((total, bar) => total + bar, 0);
  const fits = (level: number) => {
    if (trueTo === 'time' && seconds * level > secondsHeld) return false;
    const layout = layoutLine(proof, { scale: scaleAt(trueTo, level), widthPx, hasLanes });
    let total = 0;
    for (let index = 0; index < layout.systems.length && total <= heightPx; index++)
      total += layout.heightOf(index);
    return total <= heightPx;
  };
  const levels = LEVELS.filter((level) => level >= FARTHEST_FITTED && level <= NEAREST_FITTED);
  return levels.findLast(fits) ?? FARTHEST_FITTED;
}

/** The level some steps nearer (or, below 0, farther) than a scale. */
export function levelFrom(pixelsPerSecond: number, steps: number): number {
  const at = LEVELS.findLastIndex((level) => level <= pixelsPerSecond);
  return LEVELS[Math.min(Math.max(at + steps, 0), LEVELS.length - 1)] ?? pixelsPerSecond;
}
