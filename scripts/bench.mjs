import { build, install, requireNode } from './prepare.mjs';

requireNode();
await install();
await build();

const { benchCore } = await import('../bench/core.mjs');
const { benchServer } = await import('../bench/server.mjs');
const { benchBrowser } = await import('../bench/browser.mjs');

console.log('Median of several runs (least to most).\n');
benchCore();
await benchServer();
await benchBrowser();
