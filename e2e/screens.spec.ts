import type { PieceResponse } from '@anchorbeat/contract';
import { expect, type Page } from '@playwright/test';
import { loggedRun } from '../apps/web/src/test/loggedRun.ts';
import { barriersOf } from './barriers.ts';
import { SLACK_WATER, makePiece, openMap, openShelf, savedBars, visit } from './pieces.ts';
import { expectTold, test } from './told.ts';

/** Resolves once fonts are there and whatever fades or moves has come to rest. */
async function settled(page: Page): Promise<void> {
  await page.evaluate(async () => {
    await document.fonts.ready;
    await Promise.all(document.getAnimations().map(({ finished }) => finished.catch(() => undefined)));
  });
}

test.describe('bad input gets a clear message and changes nothing', () => {
  const cases: ReadonlyArray<readonly [key: string, text: string, message: string]> = [
    ['m', '7/0', 'no unit'],
    ['m', '7/8 2+2+2', '1 too few'],
    ['t', 'q = -3', 'cannot be played'],
    ['t', 'allegro', 'Give allegro its tempo too'],
    ['=', 'e = ', 'not a note value'],
    ['p', '9/4', 'shorter than its 4/4 bar'],
    ['b', '20000', 'whole number from 1 to'],
    ['g', '999', 'no bar and no rehearsal mark'],
  ];

  test('on the map', async ({ page }) => {
    const id = await makePiece(page.request, 'Proof', [{ meter: '4/4' }, {}]);
    await openMap(page, id);
    for (const [key, text, message] of cases) {
      await page.keyboard.press(key);
      await page.locator('input').fill(text);
      await page.keyboard.press('Enter');
      await expect(page.getByRole('status').filter({ hasText: new RegExp(message) })).toBeVisible();
      await page.keyboard.press('Escape');
    }
    await page.keyboard.press('Shift+ArrowRight');
    await page.keyboard.press('Delete');
    await expectTold(page, /A piece needs at least one bar/);
    expect(await savedBars(page, id)).toEqual([{ meter: '4/4' }, {}]);
  });

  test('on the shelf and in the address', async ({ page }) => {
    await openShelf(page);
    await page.keyboard.press('n');
    await page.getByLabel('Title').fill('Nearly');
    await page.getByLabel('Printed tempo').fill('q = fast');
    await page.keyboard.press('Enter');
    await expect(page.getByRole('alert')).toContainText('is not a number');
    await page.getByLabel('Printed tempo').fill('q = 120');
    await page.getByLabel('Bars').fill('12');
    await page.keyboard.press('Enter');
    await expect(page.getByRole('heading', { level: 1, name: 'Nearly' })).toBeVisible();
    await expect(page.getByText('12 bars')).toBeVisible();
    await page.goto('/piece/00000000-0000-4000-8000-000000000000/map');
    await expect(page.getByText('There is no such piece')).toBeVisible();
    await page.goto('/nowhere');
    await expect(page.getByText('nothing at this address')).toBeVisible();
  });
});

test('under a dialog nothing scrolls and nothing is pressed; a press beside it closes it', async ({
  page,
}) => {
  await page.setViewportSize({ width: 1280, height: 360 });
  await openShelf(page);
  const shelf = page.locator('main');
  await page.keyboard.press('n');
  const dialog = page.getByRole('dialog');
  await expect(dialog).toBeVisible();
  const beside = { x: 1200, y: 200 };
  await page.mouse.move(beside.x, beside.y);
  await page.mouse.wheel(0, 300);
  // What is scrolled after it is scrolled when it is.
  await page.mouse.move(640, 200);
  await page.mouse.wheel(0, 100);
  await expect.poll(() => dialog.evaluate(({ scrollTop }) => scrollTop)).toBe(100);
  expect(await shelf.evaluate(({ scrollTop }) => scrollTop)).toBe(0);
  await page.mouse.click(beside.x, beside.y);
  await expect(dialog).toHaveCount(0);
  await expect(page).toHaveURL('/');
  await page.mouse.move(beside.x, beside.y);
  await page.mouse.wheel(0, 100);
  await expect.poll(() => shelf.evaluate(({ scrollTop }) => scrollTop)).toBe(100);
});

test('bars are chosen with the pointer, and everything has its button', async ({ page }) => {
  const id = await makePiece(
    page.request,
    'Pointed',
    Array.from({ length: 6 }, (_, n) => (n ? {} : { meter: '4/4' })),
  );
  await openMap(page, id);
  const bar = (index: number) => page.locator(`[data-bar="${index}"]`);
  await bar(1).click();
  await bar(3).click({ modifiers: ['Shift'] });
  await expect(page.getByTestId('bar-strip').getByText('Bars 2 to 4', { exact: true })).toBeVisible();
  await page.getByRole('button', { name: 'meter', exact: true }).click();
  await page.locator('input').fill('5/8');
  await page.keyboard.press('Enter');
  await expect(page.getByText('Bars 2 to 4 are now 5/8, was 4/4')).toBeVisible();
  await page.getByRole('button', { name: 'undo' }).click();
  await bar(0).dragTo(bar(2));
  await expect(page.getByTestId('bar-strip').getByText('Bars 1 to 3', { exact: true })).toBeVisible();
  expect((await savedBars(page, id)).filter((written) => written.meter)).toHaveLength(1);
});

test('a piece of 2,000 bars opens with few files, moves to its end and takes a change there', async ({
  page,
}) => {
  const scripts = new Set<string>();
  page.on('request', (request) => {
    if (request.url().endsWith('.js')) scripts.add(request.url());
  });
  const bars = Array.from({ length: 2000 }, (_, n) => ({
    meter: ['4/4', '7/8 as 2+2+3', '5/8'][n % 3] ?? '4/4',
  }));
  const id = await makePiece(page.request, 'Long', bars);
  await openMap(page, id);
  expect(scripts.size).toBeLessThan(20);
  expect(await page.locator('svg').count()).toBeLessThan(20);
  await page.keyboard.press('End');
  await expect(page.locator('[data-bar="1999"]')).toBeVisible();
  await page.keyboard.press('9');
  await page.locator('input').fill('9/8');
  await page.keyboard.press('Enter');
  expect((await savedBars(page, id))[1999]?.meter).toBe('9/8');
});

test('a long shelf works out the pieces one looks at, and leaves those one passes by', async ({ page }) => {
  const asked: string[] = [];
  await page.route('**/api/pieces', async (route) => {
    const response = await route.fetch();
    const piece = ((await response.json()) as PieceResponse[]).find(({ id }) => id === SLACK_WATER);
    const json = Array.from({ length: 60 }, (_, n) => ({ ...piece, id: `one of sixty, ${n}` }));
    await route.fulfill({ response, json });
  });
  await page.route('**/runs', (route) => {
    asked.push(decodeURIComponent(route.request().url()));
    return route.fulfill({ json: [] });
  });
  await page.goto('/');
  const rows = page.locator('main li');
  await expect(rows.first()).toContainText(/53 bars.*never run/);
  await rows.last().scrollIntoViewIfNeeded();
  await expect(rows.last()).toContainText(/53 bars.*never run/);
  expect(asked.filter((address) => address.includes('one of sixty, 30/'))).toEqual([]);
});

/** Begun at 19:40 in California, when it is the next day in Europe. */
const EVENING_RUN = loggedRun('7d1f4a52-9a31-4a4e-8f6b-3c1f6a0d9b11', {
  startedAt: '2026-11-24T03:40:00Z',
  lengthSeconds: 120,
});

test.describe('west of Greenwich', () => {
  test.use({ timezoneId: 'America/Los_Angeles' });

  test('an evening’s run is of that evening in the log, in its lines and in its charts', async ({ page }) => {
    await page.route('**/runs', (route) =>
      route.fulfill({ json: route.request().url().includes(SLACK_WATER) ? [EVENING_RUN] : [] }),
    );
    await page.goto('/rehearse?view=log');
    await expect(page.getByRole('cell', { name: '23 Nov 2026 19:40', exact: true })).toHaveCount(1);
    await expect(page.getByRole('heading', { name: 'What changed on 23 Nov', exact: true })).toBeVisible();
    await expect(page.getByRole('img', { name: 'Minutes run: 23 Nov 2 min', exact: true })).toBeVisible();
  });
});

const ROPEWALK = '5b1d0c1e-6c3f-4f43-9c55-0d1a54a7c104';

/** Another piece than the one that is looked at in every size, and work that is under way. */
const STATES: ReadonlyArray<readonly [name: string, open: (page: Page) => Promise<void>]> = [
  ['map', (page) => openMap(page, ROPEWALK)],
  [
    'map while typing',
    async (page) => {
      await page.keyboard.press('m');
      await page.locator('input').fill('7/0');
    },
  ],
  [
    'podium',
    async (page) => {
      await page.keyboard.press('Escape');
      await page.keyboard.press('Shift+P');
      await expect(page.getByTestId('big-beat')).toBeVisible();
    },
  ],
  [
    'podium with its keys',
    async (page) => {
      await page.keyboard.press('?');
      await expect(page.getByRole('dialog')).toBeVisible();
    },
  ],
  [
    'checks while asking why',
    async (page) => {
      await openMap(page, SLACK_WATER);
      await page.keyboard.press('c');
      await page.keyboard.press('f');
      await expect(page.getByLabel('Spotted by')).toBeVisible();
    },
  ],
  [
    'words with an error',
    async (page) => {
      await openMap(page, SLACK_WATER);
      await page.keyboard.press('d');
      await page.getByLabel(/The piece in words, a line/).press('Control+Home');
      await page.keyboard.type('nine bars of nothing');
      await page.keyboard.press('Enter');
      await expect(page.getByLabel('What is wrong')).toBeVisible();
    },
  ],
  [
    'tempo builder',
    async (page) => {
      await openMap(page, SLACK_WATER);
      await page.keyboard.press('q');
      await page.getByLabel('Work out: Note = note').check();
      await expect(page.getByRole('radiogroup', { name: 'Equivalences' })).toBeVisible();
    },
  ],
  [
    'builder with its drawn notes',
    async (page) => {
      await openMap(page, SLACK_WATER);
      await page.keyboard.press('q');
      await page.getByRole('button', { name: 'Note before: pick a note' }).click();
      await expect(page.getByRole('group', { name: 'Dots and tuplets' })).toBeVisible();
    },
  ],
  [
    'errata list',
    async (page) => {
      await visit(page, `/piece/${SLACK_WATER}/errata`);
      await expect(page.getByRole('heading', { name: /Errata/ })).toBeVisible();
    },
  ],
  [
    'bench',
    async (page) => {
      await visit(page, `/piece/${SLACK_WATER}/bench?tool=overlay`);
      await expect(page.getByRole('heading', { name: 'Bench' })).toBeVisible();
    },
  ],
];

test('no barrier for assistive technology on another piece, nor on what is under way', async ({ page }) => {
  for (const [name, open] of STATES) {
    await open(page);
    await settled(page);
    expect(await barriersOf(page), name).toEqual([]);
  }
});

test('whoever has chosen a few colours for all programs sees those alone, drawings included, in the hall and at the desk', async ({
  page,
}) => {
  for (const colorScheme of ['light', 'dark'] as const) {
    await page.emulateMedia({ forcedColors: 'active', colorScheme });
    for (const [path, shown] of [
      ['podium', page.getByTestId('big-beat')],
      ['map', page.getByRole('button', { name: 'Count me in' })],
    ] as const) {
      await visit(page, `/piece/${SLACK_WATER}/${path}`);
      await expect(shown).toBeVisible();
      await settled(page);
      expect(await page.evaluate(ownColours), `${path}, ${colorScheme}`).toEqual([]);
    }
  }
});

/** What is drawn or written in a colour that is none of the system's, nor a shade between its two. */
function ownColours(): readonly string[] {
  const probe = document.body.appendChild(document.createElement('span'));
  const colourOf = (name: string) => {
    probe.style.color = name;
    return getComputedStyle(probe).color;
  };
  const theirs = ['Canvas', 'CanvasText', 'LinkText', 'GrayText', 'transparent'].map(colourOf);
  const selection = /^color\(srgb/;
  probe.remove();
  const found = [...document.querySelectorAll('body *')].flatMap((element) => {
    const { color, backgroundColor, fill, stroke } = getComputedStyle(element);
    const isDrawn = element instanceof SVGElement;
    return [color, backgroundColor, ...(isDrawn ? [fill, stroke] : [])]
      .filter((colour) => colour !== 'none' && !theirs.includes(colour) && !selection.test(colour))
      .map((colour) => `${element.tagName} ${element.getAttribute('class') ?? ''}: ${colour}`);
  });
  return [...new Set(found)];
}

for (const [name, width, fontSize] of [
  ['at 1024 px', 1024, '100%'],
  ['at 200 % text', 1280, '200%'],
] as const) {
  test(`the map works ${name}: nothing is pushed off, every panel opens and can be read`, async ({
    page,
  }) => {
    await page.setViewportSize({ width, height: 800 });
    await openMap(page, SLACK_WATER);
    await page.evaluate((size) => (document.documentElement.style.fontSize = size), fontSize);
    for (const key of ['', 'a', 'd', 'o', 'c', 'y']) {
      if (key) {
        await page.keyboard.press('Escape');
        await page.keyboard.press(key);
        await expect(page.getByRole('complementary')).toBeVisible();
        await settled(page);
      }
      const { overflow, line } = await page.evaluate(() => ({
        overflow: document.documentElement.scrollWidth - window.innerWidth,
        line: document.querySelector('[role="listbox"]')!.getBoundingClientRect(),
      }));
      expect(overflow, `page wider than the window with "${key}"`).toBeLessThanOrEqual(0);
      expect(line.width, `room for the line with "${key}"`).toBeGreaterThan(280);
      expect(line.height, `room for the line with "${key}"`).toBeGreaterThan(200);
    }
  });
}
