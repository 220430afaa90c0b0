import { useEffect, useRef } from 'react';

/**
 * Calls `draw` before every frame, for what moves without React. Where nothing moves it is drawn once, and the device may rest.
 */
export function useEachFrame(draw: () => void, isMoving = true): void {
  const latest = useRef(draw);
  useEffect(() => {
    latest.current = draw;
  });
  useEffect(() => {
    let frame = 0;
    const next = () => {
      if (isMoving) frame = requestAnimationFrame(next);
      latest.current();
    };
    next();
    return () => cancelAnimationFrame(frame);
  }, [isMoving]);
}
