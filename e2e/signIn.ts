import { request, type FullConfig } from '@playwright/test';
import { SIGNED_IN } from '../playwright.config.ts';

/** Opens the server once from its own machine; every page of the tests is signed in by the cookie that is kept. */
export default async function signIn({ projects }: FullConfig): Promise<void> {
  const baseURL = projects[0]?.use.baseURL ?? '';
  const context = await request.newContext({ baseURL });
  const answer = await context.post('/api/session/here');
  if (!answer.ok()) throw new Error(`nobody could sign in: ${await answer.text()}`);
  await context.storageState({ path: SIGNED_IN });
  await context.dispose();
}
