import { useEffect, useRef } from 'react';

/** Calls `draw` before every frame while the component stands: for what moves without React. */
export function useEachFrame(draw: () => void): void {
  const latest = useRef(draw);
  useEffect(() => {
    latest.current = draw;
  });
  useEffect(() => {
    let frame = 0;
    const next = () => {
      frame = requestAnimationFrame(next);
      latest.current();
    };
    next();
    return () => cancelAnimationFrame(frame);
  }, []);
}
