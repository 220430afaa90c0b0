import { test as plainTest, type BrowserContext } from '@playwright/test';
import { READ_BEFORE, storeEntries } from '../scripts/readBefore.mjs';

/**
 * Has the pages of a context keep what is said once in a browser as read; call before they open. A state of storage that came
 * with the context would do, but for it a page of its own is opened and closed each time.
 */
export async function keepRead(context: BrowserContext, entries = READ_BEFORE): Promise<void> {
  await context.addInitScript(storeEntries, entries);
}

/** Tests in a browser where what is said once has been read, all or what a test says. */
export const test = plainTest.extend<{ readBefore: typeof READ_BEFORE }>({
  readBefore: [READ_BEFORE, { option: true }],
  context: async ({ context, readBefore }, use) => {
    await keepRead(context, readBefore);
    await use(context);
  },
});
