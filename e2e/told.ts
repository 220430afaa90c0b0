import type { BrowserContext, Page } from '@playwright/test';
import { expectShown, keep } from './shown.ts';
import { test as plainTest } from './test.ts';

/** What is told at the foot of a page, for less than three seconds; or where what shows it could not be fetched. */
const TOLD = '[data-sonner-toast], p[role="status"]';

/** Keeps what the pages of a context tell; call before they open. */
export async function keepTold(context: BrowserContext): Promise<void> {
  await context.addInitScript(keep, [TOLD]);
}

/** Tests whose pages keep what they tell. */
export const test = plainTest.extend({
  context: async ({ context }, use) => {
    await keepTold(context);
    await use(context);
  },
});

/** Waits until a page has told something since it was loaded, whether it can still be read or not. */
export function expectTold(page: Page, words: RegExp): Promise<void> {
  return expectShown(page, TOLD, words);
}
