import { afterEach, describe, expect, test } from '@jest/globals';
import {
  analysedTake,
  EXPLANATION_WORDS,
  proofOf,
  readPiece,
  runFrom,
  seamTallies,
  simulatedTake,
  takeRecordOf,
  verdictWords,
  type BarDocument,
  type Habit,
  type PieceDocument,
} from '@anchorbeat/core';
import { act, screen, waitFor } from '@testing-library/react';
import { Podium } from '../podium/Podium.tsx';
import { SeamsScreen } from '../seams/SeamsScreen.tsx';
import { FakeServer } from '../test/fakeServer.ts';
import { newId, ofPiece, openPage, type TestPage } from '../test/page.tsx';
import { keptMicrophone } from './microphone.ts';

let page: TestPage;
afterEach(() => page.close());

const STEADY: readonly BarDocument[] = [{ meter: '4/4', tempo: [{ tempo: 'quarter = 180' }] }, {}, {}];
const AFTER = Array.from({ length: 12 }, () => ({}));
const ODD = [...STEADY, { meter: '7/8 as 2+2+3' }, { meter: '4/4' }, ...AFTER];
const EQUAL = [...STEADY, { meter: '6/8', tempo: [{ equivalence: 'eighth = eighth' }] }, ...AFTER];
const SLOWER = [...STEADY, { meter: '4/4', tempo: [{ equivalence: 'dotted quarter = quarter' }] }, ...AFTER];

const START_SECONDS = 5 + 0.12;
const PLAYED_SECONDS = 10;

function proofWith(bars: readonly BarDocument[]) {
  const document: PieceDocument = { format: 'anchorbeat-piece', version: 1, title: 'Taken', bars };
  const reading = readPiece(document);
  if (!reading.ok) throw new Error('the test piece does not read');
  return { document, proof: proofOf(reading.piece) };
}

/** Taps Enter as it would have been tapped at these seconds of the run. */
function tapAt(onsets: readonly number[]): void {
  act(() => {
    for (const onset of onsets) {
      const tap = new KeyboardEvent('keydown', { key: 'Enter', cancelable: true });
      Object.defineProperty(tap, 'timeStamp', { value: (START_SECONDS + onset) * 1000 });
      window.dispatchEvent(tap);
    }
  });
}

async function playAlong(
  document: PieceDocument,
  onsets: readonly number[],
  seconds = PLAYED_SECONDS,
): Promise<string> {
  const server = new FakeServer();
  const id = newId();
  server.add(id, document);
  const screens = ofPiece(
    { path: 'podium', element: <Podium /> },
    { path: 'seams', element: <SeamsScreen /> },
  );
  page = openPage(`/piece/${id}/podium`, screens, server);
  await screen.findByTestId('big-beat');
  await page.user.keyboard('i ');
  await page.pass(seconds + 0.12);
  tapAt(onsets);
  expect(screen.getByTestId('tap-pad').textContent).toContain(String(onsets.length));
  await page.user.keyboard(' ');
  return id;
}

/** Every habit that can be told from a bar or two after one seam, and what is heard of it there. */
const TOLD: ReadonlyArray<readonly [Habit, readonly BarDocument[]]> = [
  ['held', ODD],
  ['old-pulse', EQUAL],
  ['turned-round', SLOWER],
  ['filled-up', ODD],
  ['lost-beat', ODD],
  ['gained-beat', EQUAL],
  ['early', SLOWER],
  ['late', SLOWER],
];

describe('what was tapped along with a run', () => {
  test.each(TOLD)('%s: told at its seam as the core has it, kept with the run', async (habit, bars) => {
    const { document, proof } = proofWith(bars);
    const plan = runFrom(proof, 0);
    const wish = { habit, seed: 3, missing: 0, extra: 0, untilSeconds: PLAYED_SECONDS } as const;
    const { onsets } = simulatedTake(proof, plan, wish);
    const record = takeRecordOf(proof, 'pulse', analysedTake(proof, plan, { onsets, play: 'pulse' }));
    const worst = seamTallies(record)[0]!;
    const id = await playAlong(document, onsets);
    await screen.findByRole('dialog');
    // "came early" is told as "came 63 ms early".
    const did = EXPLANATION_WORDS[worst.shown.explanation].did.split(' ').join('.*');
    expect(screen.getByTestId('verdict').textContent).toMatch(new RegExp(did, 'i'));
    await waitFor(() => {
      const [run] = page.server.runs.get(id) ?? [];
      expect(run?.take?.seams.map(({ explanation }) => explanation)).toEqual(
        record.seams.map(({ explanation }) => explanation),
      );
    });
    const [run] = page.server.runs.get(id) ?? [];
    expect(run?.take?.onsets?.length ?? 0).toBeGreaterThanOrEqual(onsets.length - 1);
    await page.user.keyboard('{Escape}');
    expect(screen.queryByRole('dialog')).toBeNull();
  });

  test.each([
    ['it can be looked at again in the record of its seam', 0],
    ['also where bars came before it since: on the piece as it was played', 2],
  ])('%s', async (_, barsBefore) => {
    const { document, proof } = proofWith(ODD);
    const plan = runFrom(proof, 0);
    const wish = { habit: 'filled-up', seed: 3, missing: 0, extra: 0, untilSeconds: PLAYED_SECONDS } as const;
    const { onsets } = simulatedTake(proof, plan, wish);
    const record = takeRecordOf(proof, 'pulse', analysedTake(proof, plan, { onsets, play: 'pulse' }));
    const worst = seamTallies(record)[0]!.shown;
    const id = await playAlong(document, onsets);
    await screen.findByRole('dialog');
    await waitFor(() => expect(page.server.runs.get(id)?.[0]?.take).toBeTruthy());
    const { server } = page;
    await page.close();
    const before = Array.from({ length: barsBefore }, (_bar, index) => ({ note: `new ${index}` }));
    if (barsBefore > 0) server.keep(id, { ...document, bars: ODD.toSpliced(1, 0, ...before) });
    const barNow = worst.barIndex + barsBefore;
    page = openPage(
      `/piece/${id}/seams?bars=${barNow}`,
      ofPiece({ path: 'seams', element: <SeamsScreen /> }),
      server,
    );
    await screen.findByRole('heading', { level: 1, name: /seams?$/ });
    await page.user.keyboard('h');
    const words = new RegExp(verdictWords(worst).split(',')[0]!);
    await page.user.click(await screen.findByRole('button', { name: words }));
    const told = (await screen.findByRole('dialog')).textContent;
    expect(told).toContain(EXPLANATION_WORDS[worst.explanation].means);
    expect(told).toContain(`Bar ${worst.barIndex + 1}:`);
    expect(told.includes(`now bar ${barNow + 1}`)).toBe(barsBefore > 0);
    // What helps against it is where the bar is now.
    await page.user.click(screen.getByRole('button', { name: 'To the meter trainer' }));
    expect(await screen.findByRole('heading', { name: `bar ${barNow + 1}` })).toBeDefined();
  });

  test('nobody who taps nothing is told anything', async () => {
    const { document } = proofWith(ODD);
    const id = await playAlong(document, []);
    await waitFor(() => expect(page.server.runs.get(id)).toHaveLength(1));
    expect(page.server.runs.get(id)?.[0]?.take ?? null).toBeNull();
    expect(screen.queryByRole('dialog')).toBeNull();
    expect(page.toasts).toEqual([]);
  });

  test.each([
    ['over whole bars', PLAYED_SECONDS, 1],
    ['before a bar was over', 2, 0],
  ])('a microphone that heard nobody %s', async (_, seconds, times) => {
    keptMicrophone.set({ isOn: true, latencyMs: null });
    await playAlong(proofWith(ODD).document, [], seconds);
    act(() => keptMicrophone.set({ isOn: false, latencyMs: null }));
    expect(page.toasts.filter((words) => words.includes('heard nobody'))).toHaveLength(times);
  });
});
