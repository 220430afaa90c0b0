import { expect, type Page } from '@playwright/test';
import { HEARING_NOTE, READ_BEFORE } from '../scripts/readBefore.mjs';
import { barriersOf } from './barriers.ts';
import { faultsOf } from './looks.ts';
import { SLACK_WATER, makePiece, openMap, savedBars, visit } from './pieces.ts';
import { test } from './test.ts';

const SIZES = ['360x640', '390x844', '844x390', '768x1024', '1024x768', '1280x800', '1920x1080'] as const;

interface View {
  readonly name: string;
  readonly open: (page: Page) => Promise<void>;
  readonly shows: string;
}

const at = (place: string) => `/piece/${SLACK_WATER}/${place}`;

async function opened(page: Page, path: string, shows: string) {
  await visit(page, path);
  await expect(page.locator(shows).first()).toBeVisible();
}

const DIALOG = '[role="dialog"]';
const SEAM = '[aria-label^="Difficulty"]';
const pressed = (key: string) => (page: Page) => page.keyboard.press(key);

/** Every screen and what opens on it, in an order in which little has to be loaded anew. */
const VIEWS: readonly View[] = [
  { name: 'shelf', open: (page) => opened(page, '/', 'h2'), shows: 'h2' },
  { name: 'a new piece', open: pressed('n'), shows: DIALOG },
  {
    name: 'tidying the shelf',
    open: async (page) => {
      await opened(page, '/', 'h1');
      await page.keyboard.press('t');
    },
    shows: DIALOG,
  },
  { name: 'backups', open: (page) => opened(page, '/backups', 'h1'), shows: 'h1' },
  { name: 'map', open: (page) => opened(page, at('map'), '[data-bar]'), shows: '[data-bar]' },
  ...(
    [
      ['a', 'about'],
      ['d', 'words'],
      ['o', 'table'],
      ['z', 'countOff'],
      ['c', 'checks'],
      ['y', 'history'],
    ] as const
  ).map(([key, panel]) => ({
    name: `map, panel ${key}`,
    open: async (page: Page) => {
      await page.keyboard.press('Escape');
      await expect(page.locator('aside')).toHaveCount(0);
      await page.keyboard.press(key);
    },
    shows: `[data-testid="panel-${panel}"]`,
  })),
  {
    name: 'map, all acts',
    open: async (page) => {
      await page.keyboard.press('Escape');
      await page.keyboard.press('/');
    },
    shows: DIALOG,
  },
  ...['m', 't', '='].map((key) => ({
    name: `map, entry ${key}`,
    open: async (page: Page) => {
      await page.keyboard.press('Escape');
      await expect(page.locator(`${DIALOG}, [aria-describedby$="-says"]`)).toHaveCount(0);
      await page.keyboard.press(key);
    },
    shows: '[aria-describedby$="-says"]',
  })),
  {
    name: 'working out a tempo',
    open: async (page) => {
      await page.keyboard.press('Escape');
      await page.keyboard.press('q');
    },
    shows: DIALOG,
  },
  { name: 'seams', open: (page) => opened(page, at('seams'), 'h1'), shows: 'h1' },
  { name: 'a seam', open: (page) => opened(page, `${at('seams')}?bars=20-20`, SEAM), shows: SEAM },
  ...(
    [
      ['l', 'Ladder'],
      ['f', 'Off the instruments'],
      ['t', 'Meter trainer'],
      ['r', 'Reads as'],
      ['h', 'Record'],
    ] as const
  ).map(([key, name]) => ({
    name: `a seam, ${key}`,
    open: pressed(key),
    shows: `section[aria-label="${name}"]`,
  })),
  {
    name: 'podium',
    open: (page) => opened(page, at('podium'), '[data-testid="big-beat"]'),
    shows: '[data-testid="big-beat"]',
  },
  { name: 'the microphone', open: pressed('q'), shows: DIALOG },
  {
    name: 'rehearse',
    open: (page) => opened(page, '/rehearse', '[aria-label="Order of work"]'),
    shows: 'h2',
  },
  { name: 'rehearse, a new date', open: pressed('n'), shows: DIALOG },
  {
    name: 'rehearse, at home',
    open: async (page) => {
      await opened(page, '/rehearse', '[aria-label="Order of work"]');
      await page.keyboard.press('h');
    },
    shows: DIALOG,
  },
  { name: 'log', open: (page) => opened(page, '/rehearse?view=log', 'table'), shows: 'table' },
  {
    name: 'a take',
    open: async (page) => {
      await opened(page, `${at('seams')}?bars=11-11`, SEAM);
      await page.keyboard.press('h');
      await page.getByRole('button', { name: /^filled the bar up/ }).click();
    },
    shows: '[data-testid="played"]',
  },
  {
    name: 'bench, a chain of tempi',
    open: (page) => opened(page, `${at('bench')}?tool=chain`, '[role="status"]'),
    shows: 'h1',
  },
  {
    name: 'bench, a rhythm on grids',
    open: (page) => opened(page, `${at('bench')}?tool=fit`, '[role="status"]'),
    shows: 'h1',
  },
  { name: 'hand-out', open: (page) => opened(page, at('handout'), 'h1'), shows: 'h1' },
  {
    name: 'sheets',
    open: (page) => opened(page, `${at('handout')}?show=sheets`, 'ol[aria-label="Pages"]'),
    shows: 'h1',
  },
];

/** Fingers at the sizes of a phone and of a tablet both ways; a pointer at every size. */
const TOUCHED: readonly (typeof SIZES)[number][] = ['360x640', '390x844', '844x390', '768x1024', '1024x768'];

/** Views that are asked for barriers on a phone too. */
const PHONE_VIEWS: readonly string[] = ['shelf', 'map', 'map, entry t', 'seams', 'a seam', 'podium'];

/** Views that are looked at in one window, from one that is opened by its address on. */
function viewsBetween(first: string, end: string | null): readonly View[] {
  const from = VIEWS.findIndex(({ name }) => name === first);
  const to = VIEWS.findIndex(({ name }) => name === end);
  return VIEWS.slice(from, to < 0 ? VIEWS.length : to);
}

/** Shows a page at every size, there and back again from one look to the next, so that what is opened is opened at both ends. */
function turner(page: Page, isTouch: boolean) {
  let sizes: readonly string[] = isTouch ? TOUCHED : SIZES;
  const toSize = (size: string) => {
    const [width = 0, height = 0] = size.split('x').map(Number);
    return page.setViewportSize({ width, height });
  };
  return {
    begin: () => toSize(sizes[0] ?? ''),
    /** A page that has just been turned may still be setting itself in order: what stays wrong is wrong. */
    look: async (name: string, assistedAt?: (typeof SIZES)[number]) => {
      for (const size of sizes) {
        await toSize(size);
        await expect.poll(() => faultsOf(page, isTouch), { message: `${name} at ${size}` }).toEqual([]);
        if (size === assistedAt) expect(await barriersOf(page), `barriers of ${name} at ${size}`).toEqual([]);
      }
      sizes = [...sizes].reverse();
    },
  };
}

/** The page of a reader who has text so large. */
async function readWith(page: Page, textSize: string): Promise<void> {
  await page.addInitScript(
    (size) =>
      document.addEventListener('DOMContentLoaded', () => (document.documentElement.style.fontSize = size)),
    textSize,
  );
}

for (const isTouch of [false, true])
  test.describe(isTouch ? 'by touch' : 'by pointer', () => {
    // With fingers each screen is seen as if for the first time, with a line on what one does there.
    test.use({
      hasTouch: isTouch,
      isMobile: isTouch,
      readBefore: isTouch ? HEARING_NOTE : READ_BEFORE,
    });
    if (isTouch)
      test.beforeEach(({ page }) =>
        page.addInitScript(() => localStorage.removeItem('anchorbeat.seenScreens')),
      );

    for (const [first, end] of [
      ['shelf', 'map'],
      ['map', 'seams'],
      ['seams', 'rehearse'],
      ['rehearse', 'bench, a chain of tempi'],
      ['bench, a chain of tempi', null],
    ] as const)
      test(`from ${first} on nothing is cut off, covered, too small or a barrier, at any size`, async ({
        page,
      }) => {
        const { begin, look } = turner(page, isTouch);
        await begin();
        for (const { name, open, shows } of viewsBetween(first, end)) {
          await open(page);
          await expect(page.locator(shows).first()).toBeVisible();
          if (!isTouch) await look(name, '1280x800');
          else await look(name, PHONE_VIEWS.includes(name) ? '390x844' : undefined);
        }
      });

    test('while it sounds nothing is cut off, covered or too small, at any size', async ({ page }) => {
      const { begin, look } = turner(page, isTouch);
      await begin();
      for (const place of ['map', 'podium']) {
        await page.goto(at(place));
        await expect(
          page.locator(place === 'map' ? '[data-bar="0"]' : '[data-testid="big-beat"]').first(),
        ).toBeVisible();
        await page.keyboard.press(' ');
        await expect(page.getByTestId('bead')).toBeVisible();
        await look(`${place}, sounding`);
      }
    });
  });

test.describe('with text twice as large', () => {
  for (const [first, end] of [
    ['shelf', 'seams'],
    ['seams', 'bench, a chain of tempi'],
    ['bench, a chain of tempi', null],
  ] as const)
    test(`from ${first} on nothing is cut off or covered, at any size`, async ({ page }) => {
      await readWith(page, '200%');
      const { begin, look } = turner(page, false);
      await begin();
      for (const { name, open, shows } of viewsBetween(first, end)) {
        await open(page);
        await expect(page.locator(shows).first()).toBeVisible();
        await look(`${name}, with large text`);
      }
    });
});

for (const textSize of ['100%', '200%'])
  test(`what comes next is whole at the podium however much it is, with text of ${textSize}`, async ({
    page,
  }) => {
    const id = await makePiece(page.request, 'Much at once', [
      { meter: '6/8', pickup: '1/4', tempo: [{ term: 'Unhurried', tempo: 'dotted quarter = 72' }] },
      {
        tempo: [
          { term: 'rit.', ramp: 'to dotted quarter = 50' },
          { at: '3/8', tempo: 'dotted quarter = 66' },
        ],
        holds: [{ at: '5/8', length: '2 beats' }],
      },
      { meter: '11/8 as 3+3+3+2', tempo: [{ tempo: 'dotted quarter = 87.5' }] },
      {},
    ]);
    await readWith(page, textSize);
    const { begin, look } = turner(page, false);
    await begin();
    await page.goto(`/piece/${id}/podium`);
    await expect(
      page.getByText('the tempo begins to move, a new tempo inside the bar, a hold in the bar'),
    ).toBeVisible();
    await look('podium');
    await page.keyboard.type('g1');
    await page.keyboard.press('Enter');
    await expect(page.getByText('11/8 as 3+3+3+2')).toBeVisible();
    await look('podium, at bar 1');
    // Nor does what is asked of the run take its place.
    await page.keyboard.type('li]c');
    await expect(page.getByTestId('run-wishes')).toContainText('play along');
    for (const size of SIZES) {
      const [width = 0, height = 0] = size.split('x').map(Number);
      await page.setViewportSize({ width, height });
      const next = page.locator('.podium-next p').first();
      await expect(next, `what comes next at ${size}`).toBeInViewport({ ratio: 1 });
      expect((await next.boundingBox())?.width, `what comes next at ${size}`).toBeGreaterThan(300);
    }
    await look('podium, asked for much');
  });

for (const width of [390, 1280])
  test(`what the shelf is told late moves nothing that is about to be pressed, ${width} wide`, async ({
    page,
  }) => {
    await page.setViewportSize({ width, height: 844 });
    let tell = (): void => undefined;
    const told = new Promise<void>((resolve) => (tell = resolve));
    await page.route('**/dates', async (route) => {
      await told;
      await route.continue();
    });
    await page.goto('/');
    await expect(page.getByRole('heading', { name: 'Slack Water' })).toBeVisible();
    const make = page.getByRole('button', { name: 'New piece' });
    const place = await make.boundingBox();
    await expect(page.getByRole('link', { name: /: the plan$/ })).toHaveCount(0);
    tell();
    await expect(page.getByRole('link', { name: /: the plan$/ })).toBeVisible();
    expect(await make.boundingBox()).toEqual(place);
  });

test.describe('with fingers alone', () => {
  test.use({ viewport: { width: 390, height: 844 }, hasTouch: true, isMobile: true });

  test('bars are tapped and drawn, and a meter, a tempo and an equivalence are set from the pads', async ({
    page,
  }) => {
    const id = await makePiece(
      page.request,
      'Touched',
      Array.from({ length: 12 }, (_, n) => (n ? {} : { meter: '4/4', tempo: [{ tempo: 'quarter = 96' }] })),
    );
    await openMap(page, id);
    let taps = 0;
    const tap = async (name: string) => {
      taps++;
      await page.getByRole('button', { name, exact: true }).tap();
    };
    const tapBar = async (bar: number) => {
      taps++;
      await page.locator(`[data-bar="${bar}"]`).tap();
    };
    await tapBar(4);
    await expect(page.getByTestId('bar-strip').getByText('Bar 5', { exact: true })).toBeVisible();
    for (const name of ['meter', '7/8', 'Set it']) await tap(name);
    await tapBar(6);
    for (const name of ['tempo', 'q.', '6', '9', 'Set it']) await tap(name);
    await tapBar(8);
    for (const name of ['note = note', 'q.', '=', 'q', 'Set it']) await tap(name);
    const bars = await savedBars(page, id);
    expect(bars[4]?.meter).toBe('7/8');
    expect(bars[6]?.tempo).toEqual([{ tempo: 'dotted quarter = 69' }]);
    expect(bars[8]?.tempo).toEqual([{ equivalence: 'dotted quarter = quarter' }]);
    // With keys: the bar by its number and Enter after g, then "7/8" and Enter; "t", "q. = 69" and Enter; "=", "q. = q" and Enter.
    const keys = ['g5⏎7/8⏎', 'g7⏎tq.=69⏎', 'g9⏎=q.=q⏎'].join('').length;
    expect(taps).toBeLessThanOrEqual(1.5 * keys);
    await tap('undo');
    await expect.poll(async () => (await savedBars(page, id))[8]?.tempo).toBeUndefined();
  });
});
