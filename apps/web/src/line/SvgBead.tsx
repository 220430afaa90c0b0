import { useRef } from 'react';
import { useEachFrame } from '../ui/useEachFrame.ts';
import { MOVING, placeAt } from '../ui/placeAt.ts';

interface SvgBeadProps {
  readonly radius: number;
  readonly isMoving?: boolean;
  /** Where it is at this frame, on the line; null hides it. */
  readonly pointNow: () => { readonly x: number; readonly y: number } | null;
}

const ABOVE_LINE_PX = 6;

/** The bead in a drawing, moved frame by frame without React. */
export function SvgBead({ radius, isMoving = true, pointNow }: SvgBeadProps) {
  const bead = useRef<SVGCircleElement>(null);
  useEachFrame(() => {
    const point = pointNow();
    placeAt(bead.current, point && { x: point.x, y: point.y - ABOVE_LINE_PX });
  }, isMoving);
  return (
    <circle
      ref={bead}
      data-testid="bead"
      r={radius}
      fill="var(--entry)"
      className={MOVING}
      style={{ visibility: 'hidden' }}
    />
  );
}
