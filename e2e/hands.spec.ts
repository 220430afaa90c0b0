import { expect, type Page } from '@playwright/test';
import { expectLongPiece, LONG_PIECE_CHANGES } from './longPiece.ts';
import { allSaved, openShelf } from './pieces.ts';
import { test } from './test.ts';

/** What the same entry takes with keys, as counted in its own test; a hand may need half as many touches again. */
const KEYS = 431;

/** Presses what is on the screen, and counts: every press, every letter of a screen keyboard. */
function countedHand(page: Page, isTouch: boolean) {
  let touches = 0;
  const press = async (name: string | RegExp, within = 'body') => {
    touches++;
    const button = page.locator(within).getByRole('button', { name, exact: true });
    await (isTouch ? button.tap() : button.click());
  };
  const type = async (label: string, text: string) => {
    touches += 1 + text.length;
    await page.getByLabel(label, { exact: true }).fill(text);
  };
  /** An entry that is behind the list of all acts, or at hand; filled in from its pad. */
  const entry = async (name: string, isAtHand: boolean, ...keys: readonly string[]) => {
    if (!isAtHand) await press('all acts', 'main');
    await press(name, isAtHand ? 'main' : '[role="dialog"]');
    await expect(page.locator('[aria-describedby$="-says"]')).toBeVisible();
    for (const key of keys) await press(key, '[aria-label="Figures and notes"]');
    await press(/Set it$/);
    await expect(page.locator('[aria-describedby$="-says"]')).toHaveCount(0);
  };
  return { press, type, entry, total: () => touches };
}

const WHOLE_METERS = ['12/8', '2/4', '3/4', '4/4', '5/4', '2/2', '3/8', '5/8', '6/8', '7/8', '9/8'];

/** A meter as it is pressed on the pad: those that stand on it at once, figure by figure what does not. */
function meterKeys(meter: string): readonly string[] {
  const keys: string[] = [];
  for (let rest = meter; rest !== '';) {
    const whole = WHOLE_METERS.find((known) => rest.startsWith(known));
    const key = whole ?? (rest.startsWith(' as ') ? ' as ' : rest[0]!);
    keys.push(key.trim());
    rest = rest.slice(key.length);
  }
  return keys;
}

for (const isTouch of [true, false])
  test.describe(isTouch ? 'with fingers alone, on a phone' : 'with the pointer alone', () => {
    test.use(
      isTouch
        ? { viewport: { width: 390, height: 844 }, hasTouch: true, isMobile: true }
        : { viewport: { width: 1280, height: 800 } },
    );

    test('a piece of 120 bars is entered and lasts exactly what the file lasts', async ({ page }) => {
      await openShelf(page);
      const { press, type, entry, total } = countedHand(page, isTouch);
      await press('New piece');
      const title = isTouch ? 'Tapped Pier' : 'Clicked Pier';
      await type('Title', title);
      await type('Printed tempo', 'q = 104');
      await type('Pickup', 'q');
      await press('Make it');
      await expect(page.getByRole('heading', { level: 1, name: title })).toBeVisible();
      const id = /piece\/([^/]+)/.exec(page.url())?.[1] ?? '';
      await entry('go to', false, '1', '6');
      // What was added is chosen, so that the next bars come behind it.
      for (const { count, meter } of LONG_PIECE_CHANGES)
        await entry('bars', false, ...String(count), 'of', ...meterKeys(meter));
      const at = async (bar: string, name: string, isAtHand: boolean, ...keys: readonly string[]) => {
        await entry('go to', false, ...bar);
        await entry(name, isAtHand, ...keys);
      };
      await at('9', 'repeat, jump', false, '|:');
      await at('15', 'repeat, jump', false, 'ending', '1', ',', ':|');
      await at('16', 'repeat, jump', false, 'ending', '2');
      await at('25', 'note = note', true, 'e', '=', 'e');
      await at('46', 'tempo', true, 'q.', '6', '9');
      await at('74', 'note = note', true, 'q.', '=', 'q');
      await at('100', 'tempo', true, '8', '8');
      await at('116', 'tempo', true, '1', '2', '0');
      await allSaved(page);
      await expectLongPiece(page, id);
      test.info().annotations.push({ type: 'touches', description: String(total()) });
      expect(total()).toBeLessThanOrEqual(1.5 * KEYS);
    });
  });
