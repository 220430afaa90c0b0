import { readFileSync } from 'node:fs';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, type Page } from '@playwright/test';
import { makePiece } from './pieces.ts';
import { start, type Started } from './server.ts';
import { keepShown, shown } from './shown.ts';
import { audioGoesOn, listenToSounds } from './sound.ts';
import { expectTold, test } from './told.ts';

const PORT = 4194;
const URL = `http://127.0.0.1:${PORT}`;

test.describe.configure({ mode: 'serial' });
test.use({
  baseURL: URL,
  storageState: { cookies: [], origins: [] },
});

let folder: string;
let server: Started;
const run = () => start('--port', String(PORT), '--data', folder);
test.beforeAll(async () => {
  folder = mkdtempSync(join(tmpdir(), 'anchorbeat-rehearse-'));
  server = await run();
});
test.afterAll(async () => {
  await server.kill();
  rmSync(folder, { recursive: true, force: true });
});

const plan = (page: Page) => page.getByRole('list', { name: 'Order of work' });
const strip = (page: Page) => page.getByLabel('Rehearsal', { exact: true });

async function openPlan(page: Page): Promise<void> {
  await page.request.post('/api/session/here');
  await page.goto('/rehearse');
  await expect(plan(page).getByRole('listitem').first()).toBeVisible();
}

/** Runs what the plan leads to for a bar or so, and marks it. */
async function runAndMark(page: Page, mark: 'g' | 'a'): Promise<void> {
  await expect(page.getByRole('button', { name: /Run this seam/ })).toBeVisible();
  await page.keyboard.press(' ');
  await expect(page.getByRole('button', { name: 'Stop' })).toBeVisible();
  await audioGoesOn(page, 5);
  await page.keyboard.press(mark);
  await expect(page.getByText(/^logged at/)).toContainText(mark === 'g' ? 'good' : 'again');
}

test('ten minutes at home: for one section, in words and on paper', async ({ page }) => {
  await openPlan(page);
  await page.keyboard.press('h');
  const dialog = page.getByRole('dialog', { name: 'At home' });
  await dialog.getByRole('button', { name: 'Reeds' }).click();
  const lines = dialog.getByRole('list', { name: 'At home' }).getByRole('listitem');
  await expect(lines.first()).toContainText(/min · .*from \d+ %/);
  await dialog.getByLabel('Minutes').fill('3');
  await expect(lines).toHaveCount(1);
  const waiting = page.waitForEvent('download');
  await dialog.getByRole('button', { name: 'Save as PDF' }).click();
  expect((await waiting).suggestedFilename()).toMatch(/\.pdf$/);
  const entry = page.waitForEvent('download');
  await dialog.getByRole('button', { name: 'Calendar entry' }).click();
  expect(readFileSync(await (await entry).path(), 'utf8')).toContain('SUMMARY:Reeds\\, at home');
  await dialog.getByRole('button', { name: 'Done' }).click();
  await expect(plan(page)).toBeVisible();
});

test('a plan is changed by keys, the rest flows anew, and it is as it was left', async ({ page }) => {
  await openPlan(page);
  const titles = () => plan(page).getByRole('listitem').allTextContents();
  const before = await titles();
  const total = page.getByText(/^45 of 45 minutes planned/);
  await expect(total).toBeVisible();
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('p');
  await expect(plan(page).getByText('pinned')).toHaveCount(1);
  await page.keyboard.press('+');
  await expect.poll(titles).not.toEqual(before);
  await expect(total).toBeVisible();
  await page.keyboard.press('ArrowDown');
  const skipped = (await titles())[2]!;
  await page.keyboard.press('x');
  await expect.poll(titles).not.toContain(skipped);
  await expect(page.getByText(/^Skipped:/)).toBeVisible();
  const after = await titles();
  await page.reload();
  await expect.poll(titles).toEqual(after);
  const waiting = page.waitForEvent('download');
  await page.keyboard.press('s');
  const sheet = await waiting;
  expect(sheet.suggestedFilename()).toMatch(/^plan-\d{4}-\d\d-\d\d\.pdf$/);
  expect(
    readFileSync(await sheet.path())
      .subarray(0, 8)
      .toString('latin1'),
  ).toBe('%PDF-1.7');
  await page.keyboard.press('z');
  await expect.poll(titles).toEqual(before);
});

test('what weighs how much is changed, a piece is added by hand, and a place is dragged to another', async ({
  page,
}) => {
  await openPlan(page);
  const items = plan(page).getByRole('listitem');
  const titles = () => items.locator('.text-lg').allTextContents();
  await expect(items.first()).toContainText('Off the instruments');
  await page.keyboard.press('w');
  const weights = page.getByRole('dialog', { name: 'What weighs how much' });
  await weights.getByLabel(/^Off the instruments/).fill('0');
  await weights.getByLabel(/^From end to end/).fill('0');
  await weights.getByRole('button', { name: 'Done' }).click();
  await expect(items.first()).not.toContainText('Off the instruments');
  await expect.poll(async () => (await titles()).filter((title) => title.includes('end to end'))).toEqual([]);
  await page.keyboard.press('a');
  await page.getByLabel(/^Find: a piece/).fill('twine end to end');
  await page.keyboard.press('Enter');
  await expect(items.filter({ hasText: 'Tar and Twine, from end to end' })).toContainText('pinned');
  const before = await titles();
  const handle = items.nth(0).locator('[title^="Drag"]');
  await handle.hover();
  await page.mouse.down();
  const target = (await items.nth(2).boundingBox())!;
  await page.mouse.move(target.x + target.width - 20, target.y + target.height * 0.8, { steps: 6 });
  await page.mouse.up();
  await expect.poll(titles).toEqual([before[1], before[2], before[0], ...before.slice(3)]);
  await page.reload();
  await expect.poll(titles).toEqual([before[1], before[2], before[0], ...before.slice(3)]);
  await page.keyboard.press('z');
  await page.keyboard.press('w');
  await weights.getByRole('button', { name: 'As usual' }).click();
  await weights.getByRole('button', { name: 'Done' }).click();
  await expect(items.first()).toContainText('Off the instruments');
});

test('a whole piece of the plan is played at the tempo that the plan has for it', async ({ page }) => {
  await openPlan(page);
  const whole = plan(page).getByRole('listitem').filter({ hasText: 'from end to end' }).first();
  await expect(whole).toContainText('where most places hold');
  await whole.getByRole('button').click();
  await page.keyboard.press(' ');
  await expect(page.getByTestId('run-wishes')).toContainText('60 %');
  await page.keyboard.press(']');
  await expect(page.getByTestId('run-wishes')).toContainText('65 %');
});

test('a programme is played in its order: the next piece begins by itself after its pause, the last one ends it', async ({
  page,
}) => {
  await openPlan(page);
  const study = (title: string, tempo: number) =>
    makePiece(page.request, title, [{ meter: '2/4', tempo: [{ tempo: `quarter = ${tempo}` }] }, {}]);
  const pieceIds = [await study('Second study', 200), await study('First study', 180)].reverse();
  const [ensemble] = (await (await page.request.get('/api/ensembles')).json()) as { id: string }[];
  const id = 'b6d7a3c0-6f0e-4d8e-9c43-0f5a1c7e2d11';
  const concert = {
    kind: 'concert',
    title: 'Studies',
    at: '2027-01-20T19:00',
    minutes: 20,
    absent: [],
    pieceIds,
    goalPercent: 100,
    wishes: { pinned: [], skipped: [], order: [], minutes: [] },
    done: [],
    note: '',
    pauseSeconds: 1,
    tempi: [{ pieceId: pieceIds[1], goalPercent: 90, practicePercent: null }],
  };
  await page.request.put(`/api/ensembles/${ensemble!.id}/dates/${id}`, { data: concert });
  await page.goto(`/rehearse?date=${id}`);
  await expect(page.getByRole('list', { name: 'Programme' }).getByRole('listitem')).toHaveText([
    /First study/,
    /Second study.*at 90 %/,
  ]);
  await page.keyboard.press(' ');
  const programme = page.getByLabel('Programme', { exact: true });
  await expect(programme).toContainText('1 of 2');
  await expect(programme).toContainText('then Second study');
  // The pause is a second, which a busy machine may look past.
  const timer = 'aside [role="timer"]';
  await keepShown(page, timer);
  await page.keyboard.press(' ');
  await expect(programme).toContainText('2 of 2');
  await expect(programme).toContainText('the last piece');
  expect((await shown(page, timer)).join('')).not.toBe('');
  await expect(page.getByTestId('run-wishes')).toContainText('90 %');
  const logged = async () => {
    const answers = await Promise.all(pieceIds.map((piece) => page.request.get(`/api/pieces/${piece}/runs`)));
    return (await Promise.all(answers.map((answer) => answer.json()))) as { percent: number }[][];
  };
  // Nobody pressed a key for the second.
  await expect.poll(async () => (await logged()).map((ofPiece) => ofPiece.length)).toEqual([1, 1]);
  expect((await logged()).flat().map(({ percent }) => percent)).toEqual([100, 90]);
  await page.keyboard.press('z');
  await expectTold(page, /This is the last piece of the programme/);
});

test('two items are run and marked, one goes over its time, the rest is planned anew, and the log has it all though the server was killed', async ({
  page,
}) => {
  await listenToSounds(page);
  await openPlan(page);
  const firstPlace = plan(page).getByRole('listitem').nth(1);
  const title = (await firstPlace.locator('.text-lg').textContent())!;
  // Time goes on by nine minutes while the second item is worked on, however long this takes.
  const begins = Date.now();
  await page.clock.setFixedTime(begins);
  await page.keyboard.press(' ');
  await expect(strip(page)).toContainText('Off the instruments');
  await page.keyboard.press('N');
  await expect(strip(page)).toContainText(title);
  await expect(strip(page)).toContainText('45 min left');
  await runAndMark(page, 'g');
  await page.keyboard.press('F2');
  await expectTold(page, /Noted: late/);
  await page.keyboard.press('F10');
  await page.getByLabel('F6').fill('too loud');
  await page.keyboard.press('Enter');
  await expect(strip(page).getByText('too loud')).toBeVisible();
  await page.keyboard.press('F6');
  await expectTold(page, /Noted: too loud/);
  await page.clock.setFixedTime(begins + 9 * 60_000);
  await expect(strip(page)).toContainText(/\d:\d\d over/);
  const isKept = page.waitForResponse(
    (answer) => /\/dates\//.test(answer.url()) && (answer.request().postData() ?? '').includes(title),
  );
  await page.keyboard.press('N');
  await expect(strip(page)).not.toContainText(title);
  await expect(strip(page)).toContainText('36 min left');
  // The next item may be in another piece, which has to be there before the server goes.
  await expect(page.getByRole('button', { name: /Run this seam/ })).toBeVisible();
  await isKept;
  await server.kill();
  await runAndMark(page, 'a');
  await page.keyboard.press('F3');
  await expectTold(page, /Noted: rushed/);
  const second = (await strip(page).locator('b').textContent())!;
  await page.keyboard.press('N');
  await expectTold(page, /^What was done is kept here/m);
  server = await run();
  await page.goto('/rehearse?view=log');
  const table = page.getByRole('table', { name: 'Newest first' });
  const rows = table.getByRole('row');
  const runs = rows.filter({ hasText: /into bar|bars from/ }).filter({ hasNotText: 'Plan' });
  await expect(runs.nth(0)).toContainText('again');
  await expect(runs.nth(0)).toContainText('rushed');
  await expect(runs.nth(1)).toContainText('late, too loud');
  await expect(rows.filter({ hasText: `Plan${title}` })).toContainText('9 min of');
  await expect(rows.filter({ hasText: `Plan${second}` })).toHaveCount(1);
  await page.getByLabel(/^Find/).fill('rushed again');
  // The heading, this run, and one of the demo.
  await expect(rows).toHaveCount(3);
  await expect(rows.filter({ hasText: 'rushed' })).toHaveCount(2);
  await page.goto('/rehearse');
  const done = page.getByLabel('Done', { exact: true });
  await expect(done).toContainText(`${title}9′ of`);
  await expect(done).toContainText(second);
  await expect(plan(page).getByText('now', { exact: true })).toBeVisible();
});

test('dates come out of a calendar file once, however often it is read', async ({ page }) => {
  await openPlan(page);
  const season = [
    'BEGIN:VCALENDAR',
    'VERSION:2.0',
    'BEGIN:VEVENT',
    'UID:from-elsewhere',
    'DTSTART:20290305T193000',
    'DURATION:PT80M',
    'RRULE:FREQ=WEEKLY;COUNT=2',
    'SUMMARY:Sectionals',
    'END:VEVENT',
    'END:VCALENDAR',
  ].join('\r\n');
  const open = async (text: string) => {
    await page.keyboard.press('o');
    await page
      .getByLabel('A calendar file to open')
      .setInputFiles({ name: 'a.ics', mimeType: 'text/calendar', buffer: Buffer.from(text) });
  };
  await open('no calendar');
  await expect(page.getByRole('alert')).toContainText('This is no calendar file');
  await page.getByRole('button', { name: 'Leave it' }).click();
  await open(season);
  await expect(page.getByRole('list', { name: 'Dates of the file' }).getByRole('listitem')).toHaveCount(2);
  await page.getByRole('button', { name: 'Keep 2 dates' }).click();
  await expect(page.getByRole('dialog')).toHaveCount(0);
  await expect(page.getByRole('button', { name: /Sectionals/ })).toHaveCount(2);
  await open(season);
  await expect(page.getByText('the same', { exact: true })).toHaveCount(2);
  await expect(page.getByRole('button', { name: 'Keep 0 dates' })).toBeDisabled();
  await page.getByRole('button', { name: 'Leave it' }).click();
  const waiting = page.waitForEvent('download');
  await page.keyboard.press('c');
  const calendar = readFileSync(await (await waiting).path(), 'utf8');
  expect(calendar).toMatch(/^BEGIN:VCALENDAR\r\n[\s\S]*Sectionals[\s\S]*END:VCALENDAR\r\n$/);
});
