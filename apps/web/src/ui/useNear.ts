import { useEffect, useState, type RefObject } from 'react';

/** So far outside of what is seen is near. */
const MARGIN = '800px';

/** Whether an element has come near to what is seen: what is worked out for it, or drawn, waits until then and stays. */
export function useNear(ref: RefObject<HTMLElement | null>): boolean {
  const [isNear, setNear] = useState(false);
  useEffect(() => {
    const element = ref.current;
    if (!element || isNear) return undefined;
    // Neither the window's edge nor that of what scrolls in it.
    const margins = { rootMargin: MARGIN, scrollMargin: MARGIN };
    const observer = new IntersectionObserver(
      (entries) => setNear((was) => was || entries.some((entry) => entry.isIntersecting)),
      margins,
    );
    observer.observe(element);
    return () => observer.disconnect();
  }, [ref, isNear]);
  return isNear;
}
