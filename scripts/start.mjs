import { accessSync, constants, mkdirSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { pathToFileURL } from 'node:url';
import { parseArgs } from 'node:util';
import { ROOT } from './fresh.mjs';
import { build, install, requireNode } from './prepare.mjs';
import { stop } from './run.mjs';

const DEFAULT_PORT = 4170;

const options = readOptions();
requireNode();
requireWritable(options.dataFolder);
await install();
await build();
await serve(options);

function readOptions() {
  try {
    const { values } = parseArgs({
      options: {
        port: { type: 'string', default: String(DEFAULT_PORT) },
        data: { type: 'string', default: 'data' },
        empty: { type: 'boolean', default: false },
      },
    });
    const port = Number(values.port);
    if (!Number.isInteger(port) || port < 1 || port > 65535) {
      stop(
        `"${values.port}" is not a port: give a number from 1 to 65535, such as npm start -- --port 4171.`,
      );
    }
    return { port, dataFolder: resolve(ROOT, values.data), isEmpty: values.empty };
  } catch (error) {
    return stop(`${error.message}. Known here: npm start -- --port N --data FOLDER --empty.`);
  }
}

function requireWritable(folder) {
  try {
    mkdirSync(folder, { recursive: true });
    accessSync(folder, constants.W_OK | constants.X_OK);
  } catch {
    stop(
      `The folder ${folder} cannot be written: give another with npm start -- --data FOLDER, or change its permissions.`,
    );
  }
}

async function serve({ port, dataFolder, isEmpty }) {
  const { startServer } = await import(pathToFileURL(join(ROOT, 'apps/server/dist/index.js')).href);
  try {
    const server = await startServer({
      port,
      dataFolder,
      webFolder: join(ROOT, 'apps/web/dist'),
      demoFolder: isEmpty ? undefined : join(ROOT, 'demo'),
    });
    console.log(`Anchorbeat is ready: http://127.0.0.1:${port}`);
    let isStopping = false;
    for (const signal of ['SIGINT', 'SIGTERM']) {
      process.on(signal, () => {
        // Whoever asks twice does not want to wait for what is under way.
        if (isStopping) process.exit(1);
        isStopping = true;
        void server.close().then(() => process.exit(0));
      });
    }
  } catch (error) {
    stop(reason(error, port, dataFolder));
  }
}

function reason(error, port, dataFolder) {
  if (error.constructor.name === 'DataFolderError') return error.message;
  if (error.code === 'SQLITE_FULL' || error.code === 'ENOSPC') {
    return `There is no room on the disk of ${dataFolder}: make some, and start again.`;
  }
  if (error.code === 'EADDRINUSE') {
    return `Port ${port} is taken by another program: stop it, or choose another with npm start -- --port ${port + 1}.`;
  }
  if (error.code === 'EACCES') {
    return `Port ${port} may not be opened by this user: choose one above 1023 with npm start -- --port N.`;
  }
  if (String(error.code).startsWith('SQLITE')) {
    return `The database in ${dataFolder} cannot be opened (${error.message}): check that the folder is this user's, or give another with npm start -- --data FOLDER.`;
  }
  return `Anchorbeat could not start: ${error.message}. The log in ${join(dataFolder, 'log')} may say more.`;
}
