import { useRef } from 'react';
import { useEachFrame } from '../ui/useEachFrame.ts';

interface Point {
  readonly x: number;
  readonly y: number;
}

interface SvgBeadProps {
  readonly radius: number;
  /** Where it is at this frame, on the line; null hides it. */
  readonly pointNow: () => Point | null;
}

const ABOVE_LINE_PX = 6;

/** The bead in a drawing, moved frame by frame without React. */
export function SvgBead({ radius, pointNow }: SvgBeadProps) {
  const bead = useRef<SVGCircleElement>(null);
  useEachFrame(() => {
    const point = pointNow();
    bead.current?.setAttribute('visibility', point ? 'visible' : 'hidden');
    if (point) bead.current?.setAttribute('transform', `translate(${point.x} ${point.y - ABOVE_LINE_PX})`);
  });
  return <circle ref={bead} data-testid="bead" r={radius} fill="var(--entry)" visibility="hidden" />;
}
