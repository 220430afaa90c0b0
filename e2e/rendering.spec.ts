import { readFileSync } from 'node:fs';
import { expect, type Page } from '@playwright/test';
import { build } from 'vite';
import type { RenderReport } from './rendering/render.ts';
import { test } from './test.ts';

/** The renderer with core and audio in one script, made once. */
let script: Promise<string> | undefined;

async function bundle(): Promise<string> {
  const output = await build({
    configFile: false,
    logLevel: 'silent',
    resolve: { conditions: ['source', 'module', 'browser'] },
    build: {
      write: false,
      minify: false,
      target: 'es2023',
      lib: { entry: 'e2e/rendering/render.ts', name: 'rendering', formats: ['iife'] },
    },
  });
  const [first] = Array.isArray(output) ? output : [output];
  if (!first || !('output' in first)) throw new Error('the renderer was not built');
  return first.output[0].code;
}

async function render(page: Page, file: string, settings: object, level: number): Promise<RenderReport> {
  await page.addScriptTag({ content: await (script ??= bundle()) });
  const document: unknown = JSON.parse(readFileSync(`demo/${file}.anchorbeat.json`, 'utf8'));
  return page.evaluate(
    ([piece, wanted, loudness]) =>
      (
        window as unknown as { rendering: { renderRun: (...args: unknown[]) => Promise<RenderReport> } }
      ).rendering.renderRun(piece, wanted, loudness),
    [document, settings, level] as const,
  );
}

test.describe('what the player renders, sample by sample', () => {
  for (const [name, file, settings] of [
    ['meters, equivalences and a pickup', 'slack-water', {}],
    [
      'slower, with subdivisions and bars that drop out',
      'ropewalk',
      { percent: 83, clickOn: 'subdivision', fade: { kind: 'bars', on: 2, off: 1 } },
    ],
    ['repeats, a jump and a ramp', 'tar-and-twine', {}],
    ['an accelerando, an open repeat and a count-off on pitches', 'lamp-on-the-bar', {}],
  ] as const) {
    test(`${name}: every sound begins on the sample that is nearest to its time`, async ({ page }) => {
      const report = await render(page, file, settings, 0.2);
      expect(report.clicks).toBeGreaterThan(100);
      expect(report.worstError).toBeLessThan(0.0005);
      expect(report.errorIfOneSampleLate).toBeGreaterThan(0.01);
    });
  }

  test('at full level, with everything sounding, no sample is above −1 dBFS', async ({ page }) => {
    const report = await render(page, 'ebb-count', { clickOn: 'subdivision', percent: 150 }, 1);
    expect(report.peak).toBeGreaterThan(0.5);
    expect(report.peak).toBeLessThanOrEqual(report.ceiling + 1e-6);
  });

  test('with two hands the beat is in the left ear alone, what lies over it in the right', async ({
    page,
  }) => {
    await page.addScriptTag({ content: await (script ??= bundle()) });
    const { beat, overlay } = await page.evaluate(() =>
      (
        window as unknown as { rendering: { renderHands: () => Promise<Record<string, number[]>> } }
      ).rendering.renderHands(),
    );
    expect(beat![0]).toBeGreaterThan(0.05);
    expect(beat![1]).toBeLessThan(1e-4);
    expect(overlay![0]).toBeLessThan(1e-4);
    expect(overlay![1]).toBeGreaterThan(0.03);
  });
});
