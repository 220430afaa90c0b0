import { clickSamples } from '@anchorbeat/audio';
import type { RunResponse } from '@anchorbeat/contract';
import { expect, type Page } from '@playwright/test';
import { faultsOf } from './looks.ts';
import {
  deviceOf,
  endRehearsals,
  expectWholeOnPhones,
  goRound,
  killServer,
  muteHere,
  ownServer,
  podiumOf,
  runningOf,
  standOf,
  startAgain,
  URL,
} from './rehearsals.ts';
import { SLACK_WATER } from './pieces.ts';
import { expectShown, keepShown, shown } from './shown.ts';
import { forgetSounds, heardMs, heardSounds, loseSound } from './sound.ts';
import { askedInThirty } from './stillness.ts';
import { test } from './test.ts';
import { FEWEST_COMMON, TOGETHER_MS, worstApart } from './together.ts';
import { expectTold } from './told.ts';

/** The longest bar of Slack Water. */
const BAR_MS = 3410;
const SAMPLE_RATE = 44_100;

test.describe.configure({ mode: 'serial' });

ownServer();

const WHERE = '[data-testid="where"]';
const SEAM = '[data-testid="seam"]';
const ENTRY = '[data-testid="entry"]';

const soundCount = (page: Page) => async () => (await heardMs(page)).length;

test('two phones join by a code, follow a run to the millisecond, and each shows and sounds its own', async ({
  browser,
}) => {
  const [podium, code] = await podiumOf(browser);
  const [reeds, drums] = [await standOf(browser, code, 'Reeds'), await standOf(browser, code, 'Drums')];
  await expect(podium.getByTestId('stands-there')).toHaveText('2 stands, all locked');
  await podium.getByLabel('What Drums hear').selectOption('anchors only');
  await podium.getByLabel('Words for their stands').fill('watch the carry at 5');
  await podium.keyboard.press('Enter');
  expect(await faultsOf(podium, false)).toEqual([]);
  await expect(reeds.getByTestId('words')).toHaveText('watch the carry at 5');
  await podium.keyboard.press('Escape');
  await keepShown(reeds, WHERE, SEAM);
  await keepShown(drums, WHERE, ENTRY);
  await podium.keyboard.press(' ');
  await expectShown(reeds, WHERE, /^bar [3-6]/m);
  await expectShown(drums, WHERE, /resting, bar \d of 8/);
  await expectShown(drums, ENTRY, /You enter in/);
  await expectShown(reeds, SEAM, /in 2 bars/);
  expect(await faultsOf(reeds, true)).toEqual([]);
  expect(await faultsOf(drums, true)).toEqual([]);
  const [ours, theirs] = await Promise.all([reeds, drums].map(heardMs));
  expect(ours!.length).toBeGreaterThan(6);
  await expect.poll(() => worstApart(reeds, podium)).toBeLessThan(TOGETHER_MS);
  // Drums hear the count-off and then only where all land.
  expect(theirs!.length).toBeLessThan(ours!.length);
  await expect.poll(() => worstApart(drums, reeds)).toBeLessThan(TOGETHER_MS);
  await podium.keyboard.press(' ');
  await expect(reeds.getByText('Slack Water')).toBeVisible();
  await expect(reeds.getByTestId('count')).toHaveCount(0);
  await expect.poll(() => askedInThirty(reeds)).toBe(0);
  // What one section does at home goes to its stands alone, and is on the phone when the rehearsal is over.
  await podium.goto('/rehearse');
  await expect(podium.getByRole('list', { name: 'Order of work' })).toBeVisible();
  await podium.keyboard.press('h');
  const dialog = podium.getByRole('dialog', { name: 'At home' });
  await dialog.getByRole('button', { name: 'Reeds' }).click();
  await dialog.getByRole('button', { name: 'To their stands' }).click();
  await expectTold(podium, /The stands of Reeds have it, and keep it/);
  await expect(reeds.getByLabel('At home').getByRole('listitem').first()).toContainText(/min · .*from \d+ %/);
  expect(await faultsOf(reeds, true)).toEqual([]);
  await expect(drums.getByLabel('At home')).toHaveCount(0);
  await endRehearsals(podium);
  await reeds.goto('/s');
  await expect(reeds.getByLabel('At home')).toContainText('Marrowick Haven Bells and Reeds, Reeds');
});

/** Presses the stand's pad a while after each beat that it shows, as somebody who taps along late. */
async function tapAlong(stand: Page): Promise<void> {
  await stand.evaluate(() => {
    let shown = '';
    const look = () => {
      const count = document.querySelector('[data-testid="count"]')?.textContent ?? '';
      const place = `${document.querySelector('[data-testid="where"]')?.textContent ?? ''} ${count}`;
      if (place !== shown)
        document
          .querySelector('[data-testid="stand-pad"]')
          ?.dispatchEvent(new PointerEvent('pointerdown', { bubbles: true }));
      shown = place;
      requestAnimationFrame(look);
    };
    look();
  });
}

test('two stands tap along: what each played is told to the director, seam by seam, and falls into the log', async ({
  browser,
}) => {
  const [podium, code] = await podiumOf(browser);
  const [reeds, bells] = [await standOf(browser, code, 'Reeds'), await standOf(browser, code, 'Handbells')];
  await podium.getByLabel('stands tap along').selectOption('every beat');
  await podium.keyboard.press('Escape');
  await podium.keyboard.press('g');
  await podium.keyboard.type('9');
  await podium.keyboard.press('Enter');
  await tapAlong(reeds);
  await keepShown(podium, 'h1');
  await podium.keyboard.press(' ');
  await expect(reeds.getByTestId('stand-pad')).toBeVisible();
  expect(await faultsOf(reeds, true)).toEqual([]);
  await expect(bells.getByTestId('stand-pad')).toBeVisible();
  await bells.keyboard.press('Enter');
  await expectShown(podium, 'h1', /^Bar 1[4-9]$/m);
  await podium.keyboard.press(' ');
  await expect(podium.getByTestId('sections-glance')).toBeVisible();
  await podium.keyboard.press('u');
  const dialog = podium.getByRole('dialog');
  await expect(dialog.getByRole('list', { name: 'Seam by seam' })).toContainText('Reeds');
  await expect(dialog.getByText('2 stands on one clock')).toBeVisible();
  expect(await faultsOf(podium, false)).toEqual([]);
  await dialog.getByRole('button', { name: /^Reeds/ }).click();
  await expect(podium.getByTestId('played').first()).toBeVisible();
  const pieceId = /piece\/([^/]+)/.exec(podium.url())![1]!;
  const runs = `${URL}/api/pieces/${pieceId}/runs`;
  const last = async () => ((await (await podium.request.get(runs)).json()) as RunResponse[]).at(-1);
  await expect
    .poll(async () => (await last())?.sectionTakes?.map(({ section }) => section).sort())
    .toEqual(['Handbells', 'Reeds']);
  const kept = (await (await podium.request.get(`${runs}/${(await last())!.id}`)).json()) as RunResponse;
  // The bells tapped once only.
  const { take } = kept.sectionTakes!.find(({ section }) => section === 'Reeds')!;
  expect(take.onsets.filter(({ offMs }) => offMs !== null).length).toBeGreaterThan(3);
});

test('a server that is killed stops nobody: the click goes on, all are back, and the stop works', async ({
  browser,
}) => {
  const [podium, reeds] = await runningOf(browser);
  await expect(reeds.getByTestId('where')).toContainText(/bar \d/);
  await killServer();
  await expect(reeds.getByTestId('lock')).toContainText('no network');
  const before = await soundCount(reeds)();
  await expect.poll(soundCount(reeds)).toBeGreaterThan(before + 2);
  await startAgain();
  await expect(reeds.getByTestId('lock')).toHaveText(/^locked/);
  await expect(podium.getByTestId('stands-glance')).toHaveText('1 stand, all locked');
  const heard = await heardMs(reeds);
  const gaps = heard.slice(1).map((time, index) => time - heard[index]!);
  // A page that got no time for a moment comes in again on a downbeat; it never waits for the server.
  expect(Math.max(...gaps)).toBeLessThan(2 * BAR_MS);
  await podium.reload();
  await expect(podium.getByRole('button', { name: /stop/ })).toBeVisible();
  // A page that was loaded again knows no clock yet; it sounds once it does.
  await expect.poll(() => worstApart(podium, reeds)).toBeLessThan(TOGETHER_MS);
  await podium.keyboard.press(' ');
  await expect(reeds.getByTestId('count')).toHaveCount(0);
});

test('a stand that lost sound for a moment is late no longer than it takes to notice', async ({
  browser,
}) => {
  const [podium, reeds] = await runningOf(browser);
  await expect.poll(() => worstApart(reeds, podium)).toBeLessThan(TOGETHER_MS);
  await loseSound(reeds, 0.4);
  const before = await soundCount(reeds)();
  // What it had handed over already is late; then it comes in again.
  const isBack = async () =>
    (await soundCount(reeds)()) > before + 2 * FEWEST_COMMON
      ? worstApart(reeds, podium, 2 * FEWEST_COMMON)
      : Infinity;
  await expect.poll(isBack).toBeLessThan(TOGETHER_MS);
});

test('a stand that joins in the middle sounds its first click on a downbeat; muted it only shows', async ({
  browser,
}) => {
  const [podium, code] = await podiumOf(browser);
  await podium.keyboard.press('Escape');
  await keepShown(podium, 'h1');
  await podium.keyboard.press(' ');
  // The piece begins with a pickup, which has no downbeat.
  await expectShown(podium, 'h1', /^Bar \d+$/m);
  const page = await deviceOf(browser, 844, 390);
  await page.goto(`/s/${code}`);
  await page.getByRole('button', { name: 'Contrabass' }).click();
  await page.getByRole('button', { name: 'I am at my stand' }).click();
  await expect.poll(soundCount(page)).toBeGreaterThan(3);
  await expect.poll(() => worstApart(page, podium)).toBeLessThan(TOGETHER_MS);
  const [late, lead] = await Promise.all([page, podium].map(heardMs));
  const first = Math.min(...late!);
  const together = lead!.reduce((near, time) =>
    Math.abs(time - first) < Math.abs(near - first) ? time : near,
  );
  expect(Math.abs(together - first)).toBeLessThan(TOGETHER_MS);
  const { lengthSeconds } = (await heardSounds(page))[0]!;
  expect(lengthSeconds).toBeCloseTo(clickSamples('downbeat', SAMPLE_RATE).length / SAMPLE_RATE, 4);
  await muteHere(page, 'Sound', true);
  await expect(page.getByTestId('state')).toHaveText('Muted here');
  await expect(page.getByTestId('count')).toBeVisible();
  await podium.keyboard.press('a');
  await podium.getByRole('button', { name: 'End the rehearsal' }).click();
  await podium.getByRole('button', { name: 'End it' }).click();
  await expect(page.getByRole('alert')).toHaveText('The director has ended this rehearsal');
});

test('a run of another piece is followed with that piece, however late it comes; what sounded before is over at once', async ({
  browser,
}) => {
  const [podium, stand] = await runningOf(browser);
  await expect.poll(soundCount(stand)).toBeGreaterThan(3);
  let letCome: () => void = () => undefined;
  const comes = new Promise<void>((resolve) => (letCome = resolve));
  await stand.route('**/api/stand/pieces/**', async (route) => {
    await comes;
    await route.continue();
  });
  await podium.keyboard.press('z');
  await expect(podium.locator('header')).toContainText('Ropewalk');
  await keepShown(stand, WHERE);
  await podium.keyboard.press(' ');
  await expect(stand.getByTestId('state')).toHaveText('Getting the piece …');
  await forgetSounds(stand);
  letCome();
  // Slack Water goes by eighths there.
  await expectShown(stand, WHERE, /^bar [2-4]4\/4$/m);
  await expect.poll(() => worstApart(stand, podium)).toBeLessThan(TOGETHER_MS);
});

test('a stand is whole on any phone, also with text twice as large: between runs, while it plays, its sound', async ({
  browser,
}) => {
  const [podium, code] = await podiumOf(browser);
  const reeds = await standOf(browser, code, 'Reeds');
  await expectWholeOnPhones(reeds, 'between runs');
  await reeds.getByRole('button', { name: 'Sound' }).click();
  await expectWholeOnPhones(reeds, 'sound');
  await reeds.getByRole('button', { name: 'Done' }).click();
  await goRound(podium);
  await expect(reeds.getByTestId('where')).toContainText(/bar \d+/);
  await expectWholeOnPhones(reeds, 'playing');
  await endRehearsals(podium);
  await expect(reeds.getByRole('alert')).toHaveText('The director has ended this rehearsal');
  await expectWholeOnPhones(reeds, 'over');
});

test('a drill off the instruments is called to every stand before it is counted off', async ({ browser }) => {
  const [podium, code] = await podiumOf(browser);
  const reeds = await standOf(browser, code, 'Reeds');
  // The call is soon over: what the stand shows is written down as it comes.
  await keepShown(reeds, '.text-entry');
  await podium.keyboard.press('Escape');
  await podium.keyboard.press('Shift+E');
  await expect(podium.getByRole('heading', { level: 1, name: /seam/i })).toBeVisible();
  await podium.keyboard.press('f');
  await expect(podium.getByRole('region', { name: 'Off the instruments' })).toBeVisible();
  await podium.keyboard.press(' ');
  await expect(reeds.getByTestId('where')).toContainText(/bar \d+/);
  const words = await shown(reeds, '.text-entry');
  const called = words.indexOf('speak the count');
  expect(called).toBeGreaterThanOrEqual(0);
  // Then it is counted off.
  expect(words.slice(called + 1)).toContainEqual(expect.stringMatching(/^\d$/));
  expect(await soundCount(reeds)()).toBeGreaterThan(3);
  await podium.keyboard.press(' ');
  await expect(reeds.getByTestId('count')).toHaveCount(0);
});

test('what a rehearsal lets stands take home is practised there alone, with no rehearsal and no server', async ({
  browser,
}) => {
  const [podium, code] = await podiumOf(browser);
  const letThem = podium.getByRole('button', { name: 'Let stands take “Slack Water” home' });
  const place = await letThem.boundingBox();
  const reeds = await standOf(browser, code, 'Reeds', 'allow');
  await expect(podium.getByTestId('stands-there')).toHaveText('1 stand, all locked');
  // Who comes moves nothing that is about to be pressed.
  expect(await letThem.boundingBox()).toEqual(place);
  await letThem.click();
  await expect(reeds.getByText('On this device for home: Slack Water')).toBeVisible();
  expect(await faultsOf(podium, false)).toEqual([]);
  await muteHere(reeds, 'Sound', true);
  await endRehearsals(podium);
  await expect(reeds.locator('html')).toHaveAttribute('data-offline', 'kept');
  await reeds.context().setOffline(true);
  await reeds.goto('/s');
  await reeds.getByRole('button', { name: 'Practise your hard places' }).click();
  await expect(reeds.getByRole('heading', { name: 'Your hard places' })).toBeVisible();
  expect(await faultsOf(reeds, true)).toEqual([]);
  await reeds.getByRole('button', { name: 'Slower', exact: true }).click();
  await expect(reeds.getByTestId('home-percent')).toHaveText('55 %');
  await reeds.getByRole('region', { name: 'Slack Water' }).getByRole('button').first().click();
  await expect(reeds.getByTestId('where')).toContainText(/bar \d+/);
  await expect.poll(soundCount(reeds)).toBeGreaterThan(4);
  expect(await faultsOf(reeds, true)).toEqual([]);
  // Who was muted in the rehearsal sees it here, and may hear themselves practise.
  await muteHere(reeds, 'Muted', false);
  await muteHere(reeds, 'Sound', true);
  expect(await faultsOf(reeds, true)).toEqual([]);
  await reeds.getByRole('button', { name: 'Faster', exact: true }).click();
  await expect(reeds.getByTestId('home-percent')).toHaveText('60 %');
  await reeds.getByRole('button', { name: 'Stop', exact: true }).click();
  await expect(reeds.getByRole('heading', { name: 'Your hard places' })).toBeVisible();
  await reeds.getByRole('button', { name: 'Back', exact: true }).click();
  await expect(reeds.getByRole('button', { name: 'Practise your hard places' })).toBeVisible();
});

test('a code that opens nothing says so, and the first account closes the open door', async ({ browser }) => {
  const page = await deviceOf(browser, 390, 844);
  await page.goto('/s');
  await page.getByLabel('The code your director shows').fill('acd efg');
  await page.getByRole('button', { name: 'Join' }).click();
  await expect(page.getByRole('alert')).toContainText('No rehearsal has this code');
  await page.goto('/');
  await expect(page.getByRole('button', { name: 'Open the shelf' })).toBeVisible();
  expect(await faultsOf(page, false)).toEqual([]);
  await page.getByRole('button', { name: 'make the first account' }).click();
  await page.getByLabel('What people call you').fill('The first');
  await page.getByLabel('Name to sign in with').fill('first');
  await page.getByLabel('Password, ten').fill('short');
  await page.getByRole('button', { name: 'Make the first account' }).click();
  await expect(page.getByRole('alert')).toContainText('10 to 200 characters');
  await page.getByLabel('Password, ten').fill('four words of a song');
  await page.keyboard.press('Enter');
  await expect(page.getByText('53 bars')).toBeVisible();
  const other = await deviceOf(browser, 1280, 800);
  await other.goto(`/piece/${SLACK_WATER}/map`);
  await other.getByLabel('Name').fill('first');
  await other.getByLabel('Password').fill('not this one');
  await other.keyboard.press('Enter');
  await expect(other.getByRole('alert')).toContainText('do not belong together');
  await other.getByLabel('Password').fill('four words of a song');
  await other.keyboard.press('Enter');
  await expect(other.locator('[data-bar="0"]')).toBeVisible();
});
