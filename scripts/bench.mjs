import { build, install, requireNode } from './prepare.mjs';

/** How long the live runs last: `npm run bench -- --minutes 10` */
const minutes = Number(process.argv[process.argv.indexOf('--minutes') + 1]) || 1;

requireNode();
await install();
await build();

const { benchCore } = await import('../bench/core.mjs');
const { benchFormats } = await import('../bench/formats.mjs');
const { benchSoundFiles } = await import('../bench/soundFiles.mjs');
const { benchRoom } = await import('../bench/room.mjs');
const { benchEightPages } = await import('../bench/eightPages.mjs');
const { benchTakes } = await import('../bench/takes.mjs');
const { benchSeason } = await import('../bench/season.mjs');
const { benchSheets } = await import('../bench/sheets.mjs');
const { benchServer } = await import('../bench/server.mjs');
const { benchLive } = await import('../bench/live.mjs');
const { benchBrowser } = await import('../bench/browser.mjs');

console.log('Median of several runs (least to most).\n');
benchCore();
await benchFormats();
await benchSoundFiles();
benchTakes();
benchSeason();
await benchSheets();
await benchServer();
await benchRoom();
await benchEightPages(minutes);
await benchBrowser();
await benchLive(minutes);
