import { pathToFileURL } from 'node:url';
import { join } from 'node:path';
import { ROOT } from './fresh.mjs';
import { buildServer, install, requireNode } from './prepare.mjs';

// What is installed or built is told on stderr: stdout is the command's own.
console.log = console.error;
requireNode();
await install();
await buildServer();
await import(pathToFileURL(join(ROOT, 'apps/cli/dist/index.js')).href);
