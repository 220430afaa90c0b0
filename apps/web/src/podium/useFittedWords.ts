import { useEffect, useLayoutEffect, type RefObject } from 'react';

/** Words are set smaller in these steps, down to half of their size. */
const STEP = 0.05;
const LEAST = 0.5;

/** Words as large as `--large` has it, or smaller where the area of the podium that they stand in has no room for all of them. */
export function useFittedWords(ref: RefObject<HTMLElement | null>): void {
  useLayoutEffect(() => fit(ref.current));
  useEffect(() => {
    const area = areaOf(ref.current);
    if (!area) return undefined;
    const observer = new ResizeObserver(() => fit(ref.current));
    observer.observe(area);
    return () => observer.disconnect();
  }, [ref]);
}

function areaOf(words: HTMLElement | null): HTMLElement | null {
  return words?.closest<HTMLElement>('.podium-next') ?? null;
}

function fit(words: HTMLElement | null): void {
  const area = areaOf(words);
  if (!words || !area) return;
  const sizeAs = (share: number) =>
    words.style.setProperty('font-size', `calc(var(--large) * ${share.toFixed(2)})`);
  let share = 1;
  for (sizeAs(share); share > LEAST && isCut(words, area); sizeAs(share)) share -= STEP;
}

/** Words that have no room lie below the area, or in a column beside it. */
function isCut(words: HTMLElement, area: HTMLElement): boolean {
  const [{ bottom, left }, room] = [words.getBoundingClientRect(), area.getBoundingClientRect()];
  return bottom > room.bottom + 1 || left > room.right - 1;
}
