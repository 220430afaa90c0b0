import { pathToFileURL } from 'node:url';
import { join } from 'node:path';
import { dataCommands } from './dataCommands.mjs';
import { ROOT } from './fresh.mjs';
import { buildServer, install, requireNode } from './prepare.mjs';

// What is installed or built is told on stderr: stdout is the command's own.
console.log = console.error;
requireNode();
await install();
await buildServer();
const [name, ...args] = process.argv.slice(2);
const command = dataCommands[name];
if (command) process.exitCode = await command(args);
else await import(pathToFileURL(join(ROOT, 'apps/cli/dist/index.js')).href);
