import { pulseOf } from '@anchorbeat/core';
import type { BeatShare } from '@anchorbeat/drawing';
import { useRef, type RefObject } from 'react';
import { useEachFrame } from '../ui/useEachFrame.ts';
import { beadPlace, calm } from './beadPlace.ts';
import { MOVING, placeAt } from '../ui/placeAt.ts';
import type { LineLayout } from '@anchorbeat/drawing';

interface LineBeadProps {
  readonly layout: LineLayout;
  readonly beatNow: () => BeatShare | null;
  readonly scroller: RefObject<HTMLDivElement | null>;
}

/** The bead, moved frame by frame without React; the view follows it from system to system. */
export function LineBead({ layout, beatNow, scroller }: LineBeadProps) {
  const bead = useRef<HTMLDivElement>(null);
  const followed = useRef(-1);
  useEachFrame(() => {
    const beat = beatNow();
    const place = beat && placeOf(layout, beat);
    placeAt(bead.current, place);
    if (!place || place.system === followed.current) return;
    followed.current = place.system;
    followSystem(scroller.current, layout.topOf(place.system), layout.heightOf(place.system));
  });
  return (
    <div
      ref={bead}
      data-testid="bead"
      className={`pointer-events-none absolute -top-2 -left-2 size-4 rounded-full bg-entry shadow-sm ${MOVING}`}
      style={{ visibility: 'hidden' }}
    />
  );
}

function placeOf(layout: LineLayout, beat: BeatShare) {
  const system = layout.systemOfBar(beat.barIndex);
  const bars = layout.geometryOf(system);
  const bar = bars[beat.barIndex - (bars[0]?.barIndex ?? 0)];
  const written = layout.proof.piece.bars[beat.barIndex];
  if (!bar || !written) throw new RangeError(`bar ${beat.barIndex} is not on the line`);
  const point = beadPlace(bar, beat, pulseOf(written).length);
  const baseY = layout.topOf(system) + layout.rowsOf(system).abovePx;
  return { x: layout.gutterPx + point.x, y: baseY + point.y - 8, system };
}

/** Brings a system and the one after it into view, gently: what follows is what one looks at. */
function followSystem(scroller: HTMLDivElement | null, topPx: number, heightPx: number): void {
  if (!scroller) return;
  const { scrollTop, clientHeight } = scroller;
  const ahead = Math.min(2 * heightPx, clientHeight);
  if (topPx >= scrollTop && topPx + ahead <= scrollTop + clientHeight) return;
  scroller.scrollTo({ top: topPx, behavior: calm.matches ? 'instant' : 'smooth' });
}
