import { existsSync } from 'node:fs';

/** Debian's Chromium without windows takes a quarter less of the cores than the whole one; either will do. */
const [WINDOWLESS, WHOLE] = ['/usr/bin/chromium-headless-shell', '/usr/bin/chromium'];

/** Where Chromium is; CHROMIUM in the environment names another place. */
export const CHROMIUM_PATH = process.env.CHROMIUM ?? [WINDOWLESS, WHOLE].find(existsSync) ?? WINDOWLESS;

/** Flags that keep Debian's Chromium quiet and let it sound without a gesture. */
export const CHROMIUM_ARGS = [
  '--no-sandbox',
  '--disable-gpu',
  '--disable-quic',
  '--no-first-run',
  '--disable-background-networking',
  '--disable-component-update',
  '--disable-sync',
  '--autoplay-policy=no-user-gesture-required',
];
