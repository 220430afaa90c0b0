import { expect, type Page } from '@playwright/test';

type Kept = Record<string, string[]>;

/** Runs in the page: writes down what the elements of each selector say, each time that one says something else. */
export function keep(selectors: readonly string[]): void {
  const kept: Kept = ((window as unknown as { shown?: Kept }).shown ??= {});
  const now = new Map<string, readonly string[]>();
  const look = () => {
    for (const selector of selectors) {
      const texts = Array.from(document.querySelectorAll(selector), ({ textContent }) => textContent);
      const before = now.get(selector) ?? [];
      (kept[selector] ??= []).push(...texts.filter((text) => !before.includes(text)));
      now.set(selector, texts);
    }
  };
  look();
  new MutationObserver(look).observe(document, { subtree: true, childList: true, characterData: true });
}

/**
 * Keeps every text that a page shows for a moment from now on, a beat or a bar, so that what has gone again when it is looked
 * for is not missed.
 */
export function keepShown(page: Page, ...selectors: readonly string[]): Promise<void> {
  return page.evaluate(keep, selectors);
}

/** What the elements of a selector have shown since it is kept, in order. */
export function shown(page: Page, selector: string): Promise<readonly string[]> {
  return page.evaluate((wanted) => (window as unknown as { shown?: Kept }).shown?.[wanted] ?? [], selector);
}

/** Waits until elements of a selector, kept before, have shown words, whether they still do or not. */
export async function expectShown(page: Page, selector: string, words: RegExp): Promise<void> {
  await expect.poll(async () => (await shown(page, selector)).join('\n')).toMatch(words);
}
