import { useEffect, useState, type RefObject } from 'react';

export interface Size {
  readonly widthPx: number;
  readonly heightPx: number;
}

const UNMEASURED: Size = { widthPx: 0, heightPx: 0 };

/** Inner size of an element in CSS pixels, kept up to date; 0 before it is measured. */
export function useSize(ref: RefObject<HTMLElement | null>): Size {
  const [size, setSize] = useState(UNMEASURED);
  useEffect(() => {
    const element = ref.current;
    if (!element) return undefined;
    const observer = new ResizeObserver(([entry]) => {
      const { width = 0, height = 0 } = entry?.contentRect ?? {};
      setSize({ widthPx: Math.floor(width), heightPx: Math.floor(height) });
    });
    observer.observe(element);
    return () => observer.disconnect();
  }, [ref]);
  return size;
}
