import { mkdirSync, writeFileSync } from 'node:fs';
import { dirname } from 'node:path';
import { request, type FullConfig } from '@playwright/test';
import { SIGNED_IN } from '../playwright.config.ts';

/** Screens that say what one does on them the first time they are seen. */
export const SEEN_SCREENS = ['shelf', 'map', 'seams', 'podium', 'bench', 'handout', 'rehearse'];

/** Opens the server once from its own machine; every page of the tests is signed in by the cookie that is kept. */
export default async function signIn({ projects }: FullConfig): Promise<void> {
  const baseURL = projects[0]?.use.baseURL ?? '';
  const context = await request.newContext({ baseURL });
  const answer = await context.post('/api/session/here');
  if (!answer.ok()) throw new Error(`nobody could sign in: ${await answer.text()}`);
  mkdirSync(dirname(SIGNED_IN), { recursive: true });
  const { cookies } = await context.storageState();
  // What is said once in a browser, before its first sound and on its first screens, has been read here.
  const localStorage = [
    { name: 'anchorbeat.hearingNote', value: '"read"' },
    { name: 'anchorbeat.seenScreens', value: JSON.stringify(SEEN_SCREENS) },
  ];
  writeFileSync(SIGNED_IN, JSON.stringify({ cookies, origins: [{ origin: baseURL, localStorage }] }));
  await context.dispose();
}
