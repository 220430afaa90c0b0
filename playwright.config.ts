import { defineConfig } from '@playwright/test';
import { CHROMIUM_ARGS, CHROMIUM_PATH } from './scripts/chromium.mjs';

const PORT = 4180;

export default defineConfig({
  testDir: 'e2e',
  testMatch: '*.spec.ts',
  timeout: 60_000,
  workers: 2,
  fullyParallel: true,
  reporter: [['list'], ['json', { outputFile: 'test-results/browser.json' }]],
  use: {
    baseURL: `http://127.0.0.1:${PORT}`,
    viewport: { width: 1280, height: 800 },
    // What is said once in a browser before its first sound has been read here.
    storageState: {
      cookies: [],
      origins: [
        {
          origin: `http://127.0.0.1:${PORT}`,
          localStorage: [{ name: 'anchorbeat.hearingNote', value: '"read"' }],
        },
      ],
    },
    launchOptions: { executablePath: CHROMIUM_PATH, args: CHROMIUM_ARGS },
    trace: 'retain-on-failure',
  },
  webServer: {
    command: `node scripts/start.mjs --port ${PORT} --data test-results/data`,
    url: `http://127.0.0.1:${PORT}/api/health`,
    reuseExistingServer: false,
    timeout: 300_000,
  },
});
