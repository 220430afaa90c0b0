import { defineConfig } from '@playwright/test';
import { CHROMIUM_ARGS, CHROMIUM_PATH } from './scripts/chromium.mjs';

const PORT = 4180;
/** The cookie of whoever sits at the machine, and what this browser has read already. */
export const SIGNED_IN = 'test-results/signed-in.json';

export default defineConfig({
  testDir: 'e2e',
  testMatch: '*.spec.ts',
  globalSetup: './e2e/signIn.ts',
  // The cores may be busy with something else, for a minute at worst: what is waited for comes, only later.
  timeout: 600_000,
  expect: { timeout: 60_000 },
  workers: 3,
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
