import { mkdtempSync, rmSync } from 'node:fs';
import { createServer, request as httpRequest } from 'node:http';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { chromium, expect } from '@playwright/test';
import { CHROMIUM_ARGS, CHROMIUM_PATH } from '../scripts/chromium.mjs';
import { allSaved } from './pieces.ts';
import { start } from './server.ts';
import { expectShown, keepShown } from './shown.ts';
import { heardSounds, listenToSounds } from './sound.ts';
import { test } from './test.ts';

test.describe('npm start says in one sentence what to do', () => {
  const cases: ReadonlyArray<readonly [name: string, args: string[], sentence: RegExp]> = [
    [
      'about a taken port',
      ['--port', '4180', '--data', 'test-results/other'],
      /^Port 4180 is taken .* choose another with npm start -- --port 4181\.$/,
    ],
    [
      'about a folder that cannot be written',
      ['--data', 'package.json/data'],
      /^The folder .* cannot be written: give another/,
    ],
    ['about a port that is none', ['--port', 'x'], /^"x" is not a port: give a number/],
    [
      'about an option nobody knows',
      ['--colour'],
      /Known here: npm start -- --port N --data FOLDER --empty --lan --host ADDRESS --https\.$/,
    ],
  ];
  for (const [name, args, sentence] of cases) {
    test(name, async () => {
      const { output, code } = await start(...args);
      expect(output.trim()).toMatch(sentence);
      expect(output.trim().split('\n')).toHaveLength(1);
      expect(code).toBe(1);
    });
  }
});

test('--lan opens it to the hall, but not before there is an account', async ({ playwright }) => {
  const folder = mkdtempSync(join(tmpdir(), 'anchorbeat-lan-'));
  const at = ['--port', '4193', '--data', folder];
  const refused = await start(...at, '--lan');
  expect(refused.output).toMatch(/not opened to the hall before it has an account: start it without --lan/);
  expect(refused.code).toBe(1);
  const first = await start(...at);
  const here = await playwright.request.newContext({ baseURL: 'http://127.0.0.1:4193' });
  const account = { name: 'first', displayName: 'The first', password: 'four words of a song' };
  expect((await here.post('/api/session/first-account', { data: account })).status()).toBe(204);
  await first.kill();
  const open = await start(...at, '--lan', '--https');
  expect(open.output).toMatch(/https:\/\/127\.0\.0\.1:4193/);
  expect(open.output).toMatch(/Phones in this network: https:\/\/\d+\.\d+\.\d+\.\d+:4193\/s|in no network/);
  const secure = await playwright.request.newContext({
    baseURL: 'https://127.0.0.1:4193',
    ignoreHTTPSErrors: true,
  });
  expect((await secure.get('/api/health')).status()).toBe(200);
  expect((await secure.get('/api/pieces')).status()).toBe(401);
  const { name, password } = account;
  const signedIn = await secure.post('/api/session', { data: { name, password } });
  expect(signedIn.headers()['set-cookie']).toContain('; Secure');
  await open.kill();
  rmSync(folder, { recursive: true, force: true });
});

test('--empty begins with a bare shelf', async ({ playwright }) => {
  const folder = mkdtempSync(join(tmpdir(), 'anchorbeat-empty-'));
  const started = await start('--port', '4191', '--data', folder, '--empty');
  expect(started.output).toContain('http://127.0.0.1:4191');
  const request = await playwright.request.newContext({ baseURL: 'http://127.0.0.1:4191' });
  expect((await request.get('/api/pieces')).status()).toBe(401);
  await request.post('/api/session/here');
  expect(await (await request.get('/api/pieces')).json()).toEqual([]);
  expect(await (await request.get('/api/ensembles')).json()).toHaveLength(1);
  await started.kill();
  rmSync(folder, { recursive: true, force: true });
});

test('edits and sounds on a plain-http address of a local network', async ({ baseURL }) => {
  const relay = createServer((incoming, outgoing) => {
    const { method, headers, url } = incoming;
    const onward = httpRequest(
      `${baseURL}${url}`,
      { method, headers: { ...headers, host: '127.0.0.1', origin: 'http://127.0.0.1' } },
      (answer) => {
        outgoing.writeHead(answer.statusCode ?? 500, answer.headers);
        answer.pipe(outgoing);
      },
    );
    incoming.pipe(onward);
  });
  await new Promise<void>((resolve) => relay.listen(0, '127.0.0.1', resolve));
  const { port } = relay.address() as AddressInfo;
  const browser = await chromium.launch({
    executablePath: CHROMIUM_PATH,
    args: [...CHROMIUM_ARGS, '--host-resolver-rules=MAP band-room.example 127.0.0.1'],
  });
  const page = await browser.newPage();
  await listenToSounds(page);
  await page.goto(`http://band-room.example:${port}/`);
  expect(await page.evaluate(() => window.isSecureContext)).toBe(false);
  await page.getByRole('button', { name: 'Open the shelf' }).click();
  await expect(page.locator('main li')).not.toHaveCount(0);
  await page.keyboard.press('n');
  await page.getByLabel('Title').fill('Over the air');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { level: 1, name: 'Over the air' })).toBeVisible();
  await expect(page.getByText('16 bars')).toBeVisible();
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('m');
  await page.locator('input').fill('3/4');
  await page.keyboard.press('Enter');
  await allSaved(page);
  const countOffWord = '[data-testid="count-off-word"]';
  await keepShown(page, countOffWord);
  await page.keyboard.press('Space');
  await page.getByRole('button', { name: 'Understood' }).click();
  await expectShown(page, countOffWord, /^\d$/m);
  await expect.poll(async () => (await heardSounds(page)).length).toBeGreaterThan(3);
  await browser.close();
  relay.close();
});

test('who leads two ensembles makes the second on the shelf, and each has its own pieces and names for notes', async ({
  page,
}) => {
  const folder = mkdtempSync(join(tmpdir(), 'anchorbeat-two-'));
  const server = await start('--port', '4197', '--data', folder);
  const at = 'http://127.0.0.1:4197';
  await page.request.post(`${at}/api/session/here`);
  await page.goto(at);
  await page.getByRole('button', { name: 'ensemble' }).click();
  await page.getByRole('button', { name: 'A further one' }).click();
  await page.getByLabel('Name').fill('The second ones');
  await page.getByLabel('Sections, with commas between').fill('Horns, Strings');
  await page.getByRole('button', { name: 'minim, crotchet, quaver' }).click();
  await page.getByRole('button', { name: 'Keep it' }).click();
  const choice = page.getByRole('combobox', { name: 'Ensemble' });
  await expect(choice.locator('option:checked')).toHaveText('The second ones');
  await expect(page.getByText('Nothing on the shelf yet')).toBeVisible();
  await expect(page.getByText('Horns, Strings')).toBeVisible();
  await page.reload();
  await expect(choice.locator('option:checked')).toHaveText('The second ones');
  const adviceSays = async (words: RegExp) => {
    await page.keyboard.press('n');
    await expect(page.getByRole('dialog')).toContainText(words);
    await page.keyboard.press('Escape');
    await expect(page.getByRole('dialog')).toHaveCount(0);
  };
  await adviceSays(/crotchet = \d/);
  await choice.selectOption({
    index: (await choice.locator('option').allTextContents()).findIndex((name) => name !== 'The second ones'),
  });
  await expect(page.getByText('Nothing on the shelf yet')).toHaveCount(0);
  await adviceSays(/quarter = \d/);
  await server.kill();
  rmSync(folder, { recursive: true, force: true });
});

test.describe('in a browser that was told nothing yet', () => {
  test.use({ readBefore: {} });

  test('an empty shelf offers four beginnings, and each screen says once what one does there', async ({
    page,
  }) => {
    const folder = mkdtempSync(join(tmpdir(), 'anchorbeat-empty-'));
    const server = await start('--port', '4198', '--data', folder, '--empty');
    const at = 'http://127.0.0.1:4198';
    await page.request.post(`${at}/api/session/here`);
    const sight = page.getByRole('region', { name: 'What one does here' });
    await page.goto(at);
    const offers = page.getByRole('region', { name: 'To begin with' }).getByRole('button');
    await expect(offers).toHaveText([
      /^Try the demo/,
      /^Open a file/,
      /^Write a piece in words/,
      /^New piece/,
    ]);
    await expect(sight).toContainText('Press a piece');
    await page.keyboard.press('w');
    await expect(page.getByTestId('panel-words')).toBeVisible();
    await expect(sight).toContainText('Choose a bar');
    await sight.getByRole('button').click();
    await expect(page.getByRole('dialog')).toContainText('Count me in');
    await page.keyboard.press('Escape');
    await page.getByRole('link', { name: /Shelf/ }).click();
    await expect(page.getByRole('heading', { name: 'Untitled piece' })).toBeVisible();
    await expect(sight).toHaveCount(0);
    await page.keyboard.press('t');
    await page.getByRole('button', { name: 'Untitled piece: set aside' }).click();
    await page.keyboard.press('Escape');
    await expect(offers).toHaveCount(4);
    await page.keyboard.press('d');
    await expect(page.getByTestId('next-place')).toHaveCount(5);
    await expect(page.getByRole('heading', { level: 2 })).toHaveText([
      'Slack Water',
      'Ropewalk',
      'Ebb Count',
      'Tar and Twine',
      'Lamp on the Bar',
    ]);
    await server.kill();
    rmSync(folder, { recursive: true, force: true });
  });
});
