import type { Page } from '@playwright/test';

interface CountedFrames {
  asked: number;
  readonly ask: typeof requestAnimationFrame;
}

/** Counts how often a page asks for a frame to draw in. Call before the page opens. */
export async function countFrames(page: Page): Promise<void> {
  await page.addInitScript(() => {
    const frames: CountedFrames = { asked: 0, ask: window.requestAnimationFrame.bind(window) };
    Object.assign(window, { frames });
    window.requestAnimationFrame = (draw) => {
      frames.asked++;
      return frames.ask(draw);
    };
  });
}

/** How often the page asked during thirty frames of the browser: none where it lies still, and the device may rest. */
export function askedInThirty(page: Page): Promise<number> {
  return page.evaluate(
    () =>
      new Promise((resolve) => {
        const { frames } = window as unknown as { frames: CountedFrames };
        const before = frames.asked;
        let left = 30;
        const next = () => {
          if (left-- > 0) frames.ask(next);
          else resolve(frames.asked - before);
        };
        next();
      }),
  );
}
