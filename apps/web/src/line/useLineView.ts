import type { Proof } from '@anchorbeat/core';
import { useMemo } from 'react';
import { useKept } from '../kept/kept.ts';
import { layoutLine, type LineLayout } from '@anchorbeat/drawing';
import { FITTED, fittedLevel, keepZoom, keptZooms, levelFrom, scaleAt, type Zoom } from './zoom.ts';
import type { Size } from './useSize.ts';

/** The line as it is looked at, and the ways to come nearer; null before the page is measured. */
export interface LineView {
  readonly layout: LineLayout | null;
  readonly zoom: Zoom;
  readonly zoomBy: (steps: number) => void;
  readonly fit: () => void;
  readonly toggleTrueTo: () => void;
}

/** Lays out a piece for a page, as near as it was looked at last. `pieceId` is whose nearness is kept. */
export function useLineView(pieceId: string, proof: Proof, size: Size, hasLanes: boolean): LineView {
  const [zooms] = useKept(keptZooms);
  const zoom = zooms.find(([id]) => id === pieceId)?.[1] ?? FITTED;
  const { widthPx, heightPx } = size;
  const fitted = useMemo(
    () => (widthPx > 0 ? fittedLevel(proof, zoom.trueTo, { widthPx, heightPx }, hasLanes) : 0),
    [proof, zoom.trueTo, widthPx, heightPx, hasLanes],
  );
  const level = zoom.pixelsPerSecond ?? fitted;
  const layout = useMemo(
    () => (widthPx > 0 ? layoutLine(proof, { scale: scaleAt(zoom.trueTo, level), widthPx, hasLanes }) : null),
    [proof, zoom.trueTo, level, widthPx, hasLanes],
  );
  const keep = (changed: Partial<Zoom>) => keepZoom(pieceId, { ...zoom, ...changed });
  return {
    layout,
    zoom,
    zoomBy: (steps) => keep({ pixelsPerSecond: levelFrom(level, steps) }),
    fit: () => keep({ pixelsPerSecond: null }),
    toggleTrueTo: () => keep({ trueTo: zoom.trueTo === 'time' ? 'ink' : 'time' }),
  };
}
