import type { Page } from '@playwright/test';

/** Writes down what the first element of a selector says, each time that it says something else: for what is soon over. */
export async function writeDown(page: Page, selector: string): Promise<void> {
  await page.evaluate((of) => {
    const shown: string[] = [];
    Object.assign(window, { shown });
    const look = () => {
      const text = document.querySelector(of)?.textContent ?? '';
      if (text !== shown.at(-1)) shown.push(text);
    };
    new MutationObserver(look).observe(document.body, {
      childList: true,
      subtree: true,
      characterData: true,
    });
  }, selector);
}

/** What was written down, in its order; empty words stand for nothing to be seen. */
export function writtenDown(page: Page): Promise<readonly string[]> {
  return page.evaluate(() => (window as unknown as { shown: string[] }).shown);
}
