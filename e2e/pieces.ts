import { randomUUID } from 'node:crypto';
import {
  allClicks,
  proofOf,
  readPiece,
  runFrom,
  type BarDocument,
  type Proof,
  type RunClick,
} from '@anchorbeat/core';
import type { EnsembleResponse, PieceResponse } from '@anchorbeat/contract';
import { expect, type APIRequestContext, type Page } from '@playwright/test';

/** The first of the demo's pieces, which many tests look at: whoever changes it has a server or a copy of its own. */
export const SLACK_WATER = '5b1d0c1e-6c3f-4f43-9c55-0d1a54a7c101';

/** A piece of the test's own on the shelf; gives its id. */
export async function makePiece(
  request: APIRequestContext,
  title: string,
  bars: readonly BarDocument[],
): Promise<string> {
  return makePieceOf(request, { format: 'anchorbeat-piece', version: 1, title, bars });
}

/** The same from a whole document. */
export async function makePieceOf(request: APIRequestContext, piece: object): Promise<string> {
  const [ensemble] = (await (await request.get('/api/ensembles')).json()) as EnsembleResponse[];
  const id = randomUUID();
  const answer = await request.post('/api/pieces', { data: { id, ensembleId: ensemble?.id, piece } });
  expect(answer.status()).toBe(201);
  return id;
}

export async function savedPiece(request: APIRequestContext, id: string): Promise<PieceResponse> {
  return (await (await request.get(`/api/pieces/${id}`)).json()) as PieceResponse;
}

/** What the core makes of a piece as the server holds it. */
export async function savedProof(request: APIRequestContext, id: string): Promise<Proof> {
  const reading = readPiece((await savedPiece(request, id)).piece);
  if (!reading.ok) throw new Error('the saved piece does not read');
  return proofOf(reading.piece);
}

/** The clicks that the core plans for a run from a performed bar. */
export function clicksFrom(proof: Proof, performed: number): readonly RunClick[] {
  return allClicks(proof, runFrom(proof, performed));
}

/** The Shelf, once its keys are there: signing in is asked about first, so a page that is loaded is not yet ready. */
export async function openShelf(page: Page): Promise<void> {
  await page.goto('/');
  await expect(page.getByRole('button', { name: 'New piece' })).toBeVisible();
}

/** Goes to a place of the app: to another screen as a link of its own does, without loading all of it anew. */
export async function visit(page: Page, path: string): Promise<void> {
  const here = new URL(page.url());
  const isSame = here.pathname === new URL(path, 'http://localhost').pathname;
  if (here.protocol === 'about:' || isSame) await page.goto(path);
  else
    await page.evaluate((to) => {
      history.pushState(null, '', to);
      dispatchEvent(new PopStateEvent('popstate'));
    }, path);
}

/**
 * Waits for the screen's own word that all is saved. It is seen with the next frame; an expectation would look again only
 * every half second.
 */
export async function allSaved(page: Page): Promise<void> {
  await saysOfSaving(page, /^saved$/);
}

/** The same for other words. */
export async function saysOfSaving(page: Page, words: RegExp): Promise<void> {
  await page.waitForFunction(
    (pattern) =>
      new RegExp(pattern).test(document.querySelector('[data-testid="save-state"]')?.textContent ?? ''),
    words.source,
    { timeout: 60_000 },
  );
}

/** Opens a map, until its first bars are drawn. */
export async function openMap(page: Page, id: string): Promise<void> {
  await page.goto(`/piece/${id}/map`);
  await allSaved(page);
  await page.waitForFunction(() => document.querySelector('[data-bar]') !== null);
}

/** Types one entry of the map: its key, its text, Enter. */
export async function enter(page: Page, key: string, text: string): Promise<void> {
  await page.keyboard.press(key);
  await page.locator('input').fill(text);
  await page.keyboard.press('Enter');
  await expect(page.locator('input')).toHaveCount(0);
}

/** The saved bars of a piece, once the screen says that they are saved. */
export async function savedBars(page: Page, id: string): Promise<readonly BarDocument[]> {
  await allSaved(page);
  return (await savedPiece(page.request, id)).piece.bars;
}
