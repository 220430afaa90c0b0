import { existsSync, mkdirSync, mkdtempSync, readFileSync, rmSync, statfsSync } from 'node:fs';
import { join } from 'node:path';
import { CHROMIUM_PATH } from './chromium.mjs';
import { ROOT } from './fresh.mjs';
import { build, install, requireNode } from './prepare.mjs';
import { run, stop } from './run.mjs';

const node = process.execPath;
const RESULTS = join(ROOT, 'test-results');
const MEMORY = '/dev/shm';
const WANTED_BYTES = 8e9;

requireNode();
await install();
await requireChromium();
await wantRedis();
rmSync(RESULTS, { recursive: true, force: true });
mkdirSync(RESULTS, { recursive: true });
writeToMemory();

const totals = { passed: 0, failed: 0 };
const failedChecks = [];
console.log('— build and type-check, then unit tests');
const compiler = 'node_modules/typescript-native/bin/tsc';
// What a rule or another check has to know of types it knows from the compiled packages.
await inTurn([[compiler, '-b']]);
// Neither what checks nor what begins the browser tests keeps two cores busy: each goes on beside tests that do. Types are
// checked by one, since several work out for themselves again what they share.
await Promise.all([
  inTurn([
    ['node_modules/oxfmt/bin/oxfmt', '--check', '.'],
    ...['apps/web', 'packages', 'apps', 'e2e'].map((folder) => [compiler, '-p', folder, '--checkers', '1']),
  ]),
  build().then(unitTests),
]);
await Promise.all([
  inTurn([
    ['node_modules/oxlint/bin/oxlint', '--type-aware'],
    ['node_modules/knip/bin/knip.js', '--no-progress'],
  ]),
  browserTests(),
]);
for (const command of failedChecks) console.log(`failed: ${command.join(' ')}`);
console.log(`${totals.passed} passed, ${totals.failed} failed`);
process.exit(totals.failed === 0 ? 0 : 1);

/** What tests write for themselves lies in memory where there is room: a disk that others keep busy makes none of them late. */
function writeToMemory() {
  if (!existsSync(MEMORY)) return;
  const { bavail, bsize } = statfsSync(MEMORY);
  if (bavail * bsize < WANTED_BYTES) return;
  const folder = mkdtempSync(join(MEMORY, 'anchorbeat-tests-'));
  process.env.TMPDIR = folder;
  process.on('exit', () => {
    try {
      rmSync(folder, { recursive: true, force: true });
    } catch (error) {
      console.warn(`${folder} could not be removed: ${error.message}`);
    }
  });
  for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => process.exit(1));
}

/** Checks, one after the other; those that fail are named again at the end. */
async function inTurn(commands) {
  for (const command of commands) {
    if ((await run(node, command)) === 0) totals.passed++;
    else {
      totals.failed++;
      failedChecks.push(command);
    }
  }
}

async function unitTests() {
  console.log('— unit tests');
  const results = join(RESULTS, 'unit.json');
  const code = await run(node, [
    '--experimental-vm-modules',
    '--disable-warning=ExperimentalWarning',
    'node_modules/jest/bin/jest.js',
    '--json',
    `--outputFile=${results}`,
    '--silent',
  ]);
  const { numPassedTests = 0, numFailedTests = 0, numRuntimeErrorTestSuites = 0 } = readJson(results);
  addTotals(code, numPassedTests, numFailedTests + numRuntimeErrorTestSuites);
}

async function browserTests() {
  console.log('— lint and browser tests');
  const results = join(RESULTS, 'browser.json');
  const code = await run(node, ['node_modules/@playwright/test/cli.js', 'test']);
  const { expected = 0, unexpected = 0, flaky = 0 } = readJson(results).stats ?? {};
  addTotals(code, expected, unexpected + flaky);
}

/** A runner that failed without naming a failed test counts as one failure. */
function addTotals(code, passed, failed) {
  totals.passed += passed;
  totals.failed += code !== 0 && failed === 0 ? 1 : failed;
}

function readJson(file) {
  return existsSync(file) ? JSON.parse(readFileSync(file, 'utf8')) : {};
}

async function requireChromium() {
  if (existsSync(CHROMIUM_PATH)) return;
  const isRoot = process.getuid?.() === 0;
  if (!isRoot || !existsSync('/usr/bin/apt-get')) {
    stop(
      `The browser tests need Chromium at ${CHROMIUM_PATH}: install it with sudo apt-get install chromium-headless-shell (or chromium), or set CHROMIUM to where it is.`,
    );
  }
  console.log('Installing Chromium for the browser tests …');
  if (!(await installed('chromium-headless-shell')) && !(await installed('chromium')))
    stop('Chromium could not be installed with apt-get: see the message above.');
}

/** Several processes are tested with Debian's Redis where it is, or may be installed; else that test says it was skipped. */
async function wantRedis() {
  const mayInstall = process.getuid?.() === 0 && existsSync('/usr/bin/apt-get');
  if (existsSync('/usr/bin/redis-server') || !mayInstall) return;
  console.log('Installing Redis for the test of several processes …');
  await installed('redis-server');
}

async function installed(name) {
  const quiet = { env: { DEBIAN_FRONTEND: 'noninteractive' }, quiet: true };
  await run('apt-get', ['update', '-qq'], quiet);
  return (await run('apt-get', ['install', '-y', '-qq', name], quiet)) === 0;
}
