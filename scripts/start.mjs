import { accessSync, constants, mkdirSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { parseArgs } from 'node:util';
import { ROOT } from './fresh.mjs';
import { loadServer } from './loadServer.mjs';
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
        lan: { type: 'boolean', default: false },
        host: { type: 'string' },
        https: { type: 'boolean', default: false },
      },
    });
    const port = Number(values.port);
    if (!Number.isInteger(port) || port < 1 || port > 65535) {
      stop(
        `"${values.port}" is not a port: give a number from 1 to 65535, such as npm start -- --port 4171.`,
      );
    }
    const host = values.host ?? (values.lan ? '0.0.0.0' : '127.0.0.1');
    return {
      port,
      host,
      dataFolder: resolve(ROOT, values.data),
      isEmpty: values.empty,
      isHttps: values.https,
    };
  } catch (error) {
    return stop(
      `${error.message}. Known here: npm start -- --port N --data FOLDER --empty --lan --host ADDRESS --https.`,
    );
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

async function serve({ port, host, dataFolder, isEmpty, isHttps }) {
  const { hallHosts, startServer } = loadServer();
  try {
    const server = await startServer({
      port,
      host,
      dataFolder,
      ...(isHttps && { tls: await certificateFor(dataFolder, hallHosts()) }),
      webFolder: join(ROOT, 'apps/web/dist'),
      ...(process.env.ANCHORBEAT_REDIS_URL && { redisUrl: process.env.ANCHORBEAT_REDIS_URL }),
      demoFolder: isEmpty ? undefined : join(ROOT, 'demo'),
    });
    const ready = `Anchorbeat is ready: ${isHttps ? 'https' : 'http'}://127.0.0.1:${port}`;
    console.log([ready, ...(host === '127.0.0.1' ? [] : await hallLines(server.addresses))].join('\n'));
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

async function certificateFor(dataFolder, hosts) {
  const { keptCertificate } = await import('./certificate.mjs');
  return keptCertificate(dataFolder, hosts);
}

/** Where phones in the hall find it; the likeliest address also as a picture for their cameras. */
async function hallLines(addresses) {
  const [first, ...others] = addresses.filter((address) => !address.includes('127.0.0.1'));
  if (!first) return ['This machine is in no network: join one, and start again for phones to find it.'];
  const { default: QRCode } = await import('qrcode');
  return [
    `Phones in this network: ${first}/s`,
    ...others.map((other) => `                    or ${other}/s`),
    await QRCode.toString(`${first}/s`, { type: 'terminal', small: true }),
  ];
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
