import { defineConfig } from '@playwright/test';
import { CHROMIUM_ARGS, CHROMIUM_PATH } from './scripts/chromium.mjs';

const PORT = 4180;
/** Tests that mostly wait for what sounds, for a time to be over, or for each other's windows. */
const IN_TIME = ['offline', 'podium', 'rehearse', 'room', 'story', 'takes'].map((name) => `${name}.spec.ts`);
/** The cookie of whoever sits at the machine. */
export const SIGNED_IN = 'test-results/signed-in.json';

export default defineConfig({
  testDir: 'e2e',
  globalSetup: './e2e/signIn.ts',
  // The cores may be busy with something else, for a minute at worst: what is waited for comes, only later.
  timeout: 600_000,
  expect: { timeout: 60_000 },
  // Two that wait leave the cores to two that work; none of either has to wait for the other kind to be over.
  workers: 4,
  projects: [
    { name: 'in time', testMatch: IN_TIME, workers: 2 },
    { name: 'on screen', testMatch: '*.spec.ts', testIgnore: IN_TIME },
  ],
  // The packages are built: nothing of them has to be compiled here.
  build: { external: ['**/packages/*/dist/**'] },
  fullyParallel: true,
  reporter: [['list'], ['json', { outputFile: 'test-results/browser.json' }]],
  use: {
    baseURL: `http://127.0.0.1:${PORT}`,
    viewport: { width: 1280, height: 800 },
    storageState: SIGNED_IN,
    // What is routed in a test is what the page asks; the test of being offline lets it keep answers.
    serviceWorkers: 'block',
    launchOptions: { executablePath: CHROMIUM_PATH, args: CHROMIUM_ARGS },
    // Recording what a test does takes twice its time: TRACE=1 where one wants to look.
    trace: process.env['TRACE'] ? 'retain-on-failure' : 'off',
  },
  webServer: {
    command: `node scripts/start.mjs --port ${PORT} --data test-results/data`,
    url: `http://127.0.0.1:${PORT}/api/health`,
    reuseExistingServer: false,
    timeout: 300_000,
  },
});
