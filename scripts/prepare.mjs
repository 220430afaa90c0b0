import { run, runOrStop, stop } from './run.mjs';
import { join } from 'node:path';
import { bundleServer } from './bundle.mjs';
import { compressFolder } from './compressed.mjs';
import { ROOT, whenStale } from './fresh.mjs';

const OLDEST_NODE = [20, 19];
const PACKAGE_FILES = ['package.json', 'package-lock.json', 'packages', 'apps'];

/** Ends with a sentence when this Node.js is too old to run the project. */
export function requireNode() {
  const [major = 0, minor = 0] = process.versions.node.split('.').map(Number);
  if (major > OLDEST_NODE[0] || (major === OLDEST_NODE[0] && minor >= OLDEST_NODE[1])) return;
  stop(
    `Anchorbeat needs Node.js ${OLDEST_NODE.join('.')} or newer and this is ${process.versions.node}: install a newer one from your system's packages.`,
  );
}

/** Installs the packages of the lockfile when they are missing or another lockfile's. */
export async function install() {
  await whenStale(
    'installed',
    ['package-lock.json'],
    'node_modules/better-sqlite3/build/Release/better_sqlite3.node',
    async () => {
      console.log(
        'Installing packages; the database is compiled here, which takes two to three minutes once …',
      );
      const timer = setInterval(() => console.log('… still installing'), 30_000);
      const code = await run('npm', ['ci', '--no-audit', '--no-fund', '--loglevel=error'], {
        env: { npm_config_build_from_source: 'true' },
      });
      clearInterval(timer);
      if (code !== 0)
        stop(
          'The packages could not be installed: see the message above. A C++ compiler, make and Python 3 are needed.',
        );
    },
  );
}

/** Compiles what the server runs, when its sources have changed. */
export async function buildServer() {
  const sources = [
    ...PACKAGE_FILES,
    'tsconfig.json',
    'tsconfig.base.json',
    'scripts/bundle.mjs',
    'scripts/loadServer.mjs',
    'scripts/keepCompiled.mjs',
  ];
  await whenStale('server', sources, 'apps/server/dist/bundle/index.js', async () => {
    console.log('Building the server …');
    await runOrStop(
      process.execPath,
      ['node_modules/typescript-native/bin/tsc', '-b'],
      'The server could not be built: see the messages above.',
    );
    await bundleServer();
  });
}

/** Builds the web app, when its sources have changed. */
async function buildWeb() {
  const sources = [...PACKAGE_FILES, 'tsconfig.base.json', 'scripts/compressed.mjs'];
  await whenStale('web', sources, 'apps/web/dist/index.html', async () => {
    console.log('Building the web app …');
    await runOrStop(
      process.execPath,
      ['node_modules/vite/bin/vite.js', 'build', 'apps/web', '--logLevel', 'warn'],
      'The web app could not be built: see the messages above.',
    );
    await compressFolder(join(ROOT, 'apps/web/dist'));
  });
}

export async function build() {
  await buildServer();
  await buildWeb();
}
