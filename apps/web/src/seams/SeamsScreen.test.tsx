import { afterEach, describe, expect, test } from '@jest/globals';
import {
  clicksIn,
  drillOnRung,
  drillRunMaybe,
  phraseAround,
  PLAIN_DRILL,
  PLAIN_LADDER,
  printedBpmMaybe,
  promptFor,
  proofOf,
  readPiece,
  rungsOf,
  runFrom,
  seamDetails,
  seamPlace,
  sectionsOf,
  writtenBar,
  type BarDocument,
  type PieceDocument,
  type Proof,
} from '@anchorbeat/core';
import { screen, waitFor, within } from '@testing-library/react';
import { readFileSync } from 'node:fs';
import { FakeServer } from '../test/fakeServer.ts';
import { newId, ofPiece, openPage, type TestPage } from '../test/page.tsx';
import { SeamsScreen } from './SeamsScreen.tsx';

let page: TestPage;
afterEach(() => page.close());

const START_SECONDS = 0.12;

const SEAMED: readonly BarDocument[] = [
  { meter: '4/4', tempo: [{ tempo: 'quarter = 240' }] },
  {},
  {},
  { meter: '15/16 as 4+4+4+3' },
  { meter: '4/4' },
  {},
  { meter: '6/8', tempo: [{ equivalence: 'eighth = eighth' }] },
  {},
  {},
];

const demo = (name: string) =>
  JSON.parse(readFileSync(`demo/${name}.anchorbeat.json`, 'utf8')) as PieceDocument;
const seamed: PieceDocument = { format: 'anchorbeat-piece', version: 1, title: 'Seamed', bars: SEAMED };

async function openSeams(document: PieceDocument, asked = '', server = new FakeServer()) {
  const reading = readPiece(document);
  if (!reading.ok) throw new Error('the test piece does not read');
  const id = newId();
  server.add(id, document);
  page = openPage(`/piece/${id}/seams${asked}`, ofPiece({ path: 'seams', element: <SeamsScreen /> }), server);
  await screen.findByRole('heading', { level: 1, name: /seams?$/ });
  return { id, proof: proofOf(reading.piece) };
}

const press = (keys: string) => page.user.keyboard(keys);
const hasStop = () => screen.queryByRole('button', { name: /^Stop/ }) !== null;
const logged = (id: string) => page.server.runs.get(id) ?? [];
/** When each sound is heard, in seconds from the first. */
const heardSeconds = (from = 0) => {
  const times = page.device
    .heard()
    .slice(from)
    .map(({ whenSeconds }) => whenSeconds);
  return times.map((time) => time - times[0]!);
};
const worstOf = ({ compiled }: Proof) =>
  [...compiled.seams].sort((a, b) => b.difficulty.score - a.difficulty.score)[0]!;

describe('the list', () => {
  test('is the core’s, worst first, and the first is told with its numbers and its traps', async () => {
    const { proof } = await openSeams(seamed);
    const scores = proof.compiled.seams.map(({ difficulty }) => difficulty.score).sort((a, b) => b - a);
    const list = within(screen.getByRole('region', { name: 'Seams' }));
    expect(list.getAllByTitle('Difficulty, of 100').map(({ textContent }) => Number(textContent))).toEqual(
      scores,
    );
    const card = screen.getByRole('region', { name: 'The seam' });
    const details = seamDetails(proof, worstOf(proof));
    expect(card.textContent).toContain(`${Math.round(details.pulseBefore.milliseconds)} ms`);
    for (const { says } of details.traps)
      expect(card.textContent?.toLowerCase()).toContain(says.toLowerCase());
  });

  test('is gone through by key, put in another order and sifted; what is left out by it is said', async () => {
    const { proof } = await openSeams(seamed);
    const heading = () => screen.getByRole('heading', { level: 2 }).textContent;
    await press('oo');
    const bars = proof.compiled.seams.map(({ performed }) => `bar ${performed + 1}`);
    await press('{Home}');
    expect(heading()).toBe(bars[0]);
    await press('{ArrowDown}');
    expect(heading()).toBe(bars[1]);
    await press('{End}');
    expect(heading()).toBe(bars.at(-1));
    await press('{ArrowUp}');
    expect(heading()).toBe(bars.at(-2));
    for (let step = 0; step < 8 && !screen.queryByText('odd bar', { selector: 'button *' }); step++)
      await press('k');
    expect(screen.getByRole('button', { name: 'of which kind: odd bar' })).toBeDefined();
    const odd = screen.getByRole('heading', { level: 1 }).textContent;
    expect(odd).not.toBe(`${proof.compiled.seams.length} seams`);
    await press('n');
    expect(screen.getByRole('heading', { level: 1 }).textContent).toBe(odd);
  });

  test('a piece in which nothing changes says so', async () => {
    await openSeams({ ...seamed, bars: [SEAMED[0]!, {}, {}] });
    expect(
      screen.getByText('Nothing changes in this piece, so there is nothing to fall apart at.'),
    ).toBeDefined();
  });
});

describe('a drill', () => {
  test('goes round the seam counted off each time, and is stopped by leaving it', async () => {
    const { proof } = await openSeams(seamed);
    await press('- ');
    expect(hasStop()).toBe(true);
    await page.pass(START_SECONDS + 20);
    const context = { before: PLAIN_DRILL.context.before - 1, after: PLAIN_DRILL.context.after - 1 };
    const place = seamPlace(
      proof.compiled,
      proof.compiled.timeline.route.barIndex[worstOf(proof).performed]!,
    );
    const run = drillRunMaybe(proof.compiled, place, { ...PLAIN_DRILL, context })!;
    const plan = runFrom(proof, run.from, run.settings);
    const planned = clicksIn(proof, plan, { fromSeconds: 0, toSeconds: 19 });
    heardSeconds()
      .slice(0, planned.length)
      .forEach((seconds, index) =>
        expect(seconds).toBeCloseTo(planned[index]!.timeSeconds - planned[0]!.timeSeconds, 4),
      );
    await press('{ArrowDown}');
    expect(hasStop()).toBe(false);
  });

  test('is marked by one key, which ends and logs it; marked afterwards it is the same run', async () => {
    const { id } = await openSeams(seamed);
    await press('g');
    expect(logged(id)).toEqual([]);
    await press('[[ ');
    await page.pass(START_SECONDS + 6);
    await press('g');
    expect(hasStop()).toBe(false);
    await waitFor(() => expect(logged(id)).toMatchObject([{ placeKind: 'seam', mark: 'good', percent: 95 }]));
    expect(screen.getByText(/logged at 95 %: good/)).toBeDefined();
    await press('a');
    await waitFor(() => expect(logged(id)).toMatchObject([{ mark: 'again', percent: 95 }]));
    expect(screen.getByText(/logged at 95 %: again/)).toBeDefined();
  });

  test('is kept with the piece, opened as it was, taken away and brought back', async () => {
    const { id } = await openSeams(seamed, '?bars=0-2');
    expect(screen.getByRole('heading', { name: 'bar 1 to 3' })).toBeDefined();
    await press('[[p');
    const kept = await screen.findByRole('region', { name: 'Kept drills' });
    expect(kept.textContent).toContain('Bar 1 to 3, 95 %, pulse');
    await press('{ArrowDown}');
    expect(screen.queryByRole('heading', { name: 'bar 1 to 3' })).toBeNull();
    await page.user.click(within(kept).getByRole('button', { name: /^Bar 1 to 3/ }));
    expect(screen.getByRole('heading', { name: 'bar 1 to 3' })).toBeDefined();
    expect(page.server.drills.get(id)).toMatchObject([
      { placeKind: 'bars', barIndex: 0, bars: 3, percent: 95 },
    ]);
    await page.user.click(within(kept).getByRole('button', { name: /^Take away/ }));
    await waitFor(() => expect(screen.queryByRole('region', { name: 'Kept drills' })).toBeNull());
    expect(page.server.drills.get(id)).toEqual([]);
  });

  test('whoever comes from a take comes to what helps against what it showed', async () => {
    await openSeams(seamed, '?bars=3&do=trainer');
    expect(screen.getByRole('region', { name: 'Meter trainer' })).toBeDefined();
    await page.close();
    await openSeams(seamed, '?bars=3&do=slower');
    expect(screen.getByRole('button', { name: /^faster by/ }).textContent).toContain('80 %');
  });
});

/** The ladder from 80 % in one step, reckoned by the core from the hardest seam. */
function ladderOf(proof: Proof) {
  const worst = worstOf(proof);
  const place = seamPlace(proof.compiled, proof.compiled.timeline.route.barIndex[worst.performed]!);
  const rungs = rungsOf(
    { ...PLAIN_LADDER, startPercent: 80, step: { by: 'percent', size: 20 } },
    {
      printedBpm: printedBpmMaybe(proof, place)!,
      phrase: phraseAround(proof, worst.performed),
      sections: sectionsOf(proof.piece),
      drill: PLAIN_DRILL,
    },
  );
  return { place, rungs };
}

async function setNumber(label: string, value: string): Promise<void> {
  const field = screen.getByLabelText(label);
  await page.user.clear(field);
  await page.user.type(field, value);
  await page.user.tab();
}

describe('a ladder climbed from the worst seam', () => {
  test.each(['slack-water', 'ropewalk', 'ebb-count', 'tar-and-twine', 'lamp-on-the-bar'])(
    '%s: every rung sounds as the core plans it, and the record has them all',
    async (name) => {
      const { id, proof } = await openSeams(demo(name));
      await press('l');
      await setNumber('Start, %', '80');
      await setNumber('Step', '20');
      const { place, rungs } = ladderOf(proof);
      expect(screen.getByText(`Rung 1 of ${rungs.length}`)).toBeDefined();
      await page.user.click(screen.getByRole('button', { name: /^Run this rung/ }));
      let before = 0;
      for (const [index, rung] of rungs.entries()) {
        expect(screen.getByTestId('rung-percent').textContent).toBe(`${rung.percent} %`);
        const run = drillRunMaybe(proof.compiled, place, drillOnRung(PLAIN_DRILL, rung))!;
        const plan = runFrom(proof, run.from, run.settings);
        const planned = clicksIn(proof, plan, { fromSeconds: 0, toSeconds: 600 });
        await page.pass(START_SECONDS + 8);
        const times = page.device.sounds.slice(before).map(({ whenSeconds }) => whenSeconds);
        const heard = planned.filter(({ timeSeconds }) => timeSeconds < 7.5);
        expect(times.length).toBeGreaterThanOrEqual(heard.length);
        times.forEach((time, at) =>
          expect(time - times[0]!).toBeCloseTo(planned[at]!.timeSeconds - planned[0]!.timeSeconds, 4),
        );
        before = page.device.sounds.length;
        await press(index % 2 === 0 ? 'g' : '{PageDown}');
      }
      expect(screen.getByText('Climbed')).toBeDefined();
      const reached = rungs.map(({ percent }) => [percent, 'good', place.barIndex]);
      await waitFor(() =>
        expect(logged(id).map(({ percent, mark, barIndex }) => [percent, mark, barIndex])).toEqual(reached),
      );
      expect(screen.getByText(/100 % ready/)).toBeDefined();
    },
  );

  test('what a ladder cannot keep is told where it is set, and no longer once it can', async () => {
    await openSeams(seamed);
    await press('l');
    const form = within(screen.getByRole('form', { name: 'The ladder' }));
    await setNumber('Goal, %', '80');
    await setNumber('Start, %', '90');
    expect(form.getByRole('alert').textContent).toMatch(/^It starts at 90 %, above its goal of 80 %/);
    await setNumber('Start, %', '50');
    expect(form.getByRole('alert').textContent).toBe('');
    await setNumber('Step', '0.5');
    expect(form.getByRole('alert').textContent).toMatch(/rungs and a ladder has 60/);
  });
});

describe('off the instruments, the trainer and reads-as', () => {
  test('what is spoken, clapped or stepped is prompted bar by bar, and rated before and after', async () => {
    const { id, proof } = await openSeams(seamed);
    await press('f');
    const off = within(screen.getByRole('region', { name: 'Off the instruments' }));
    const bars = off.getAllByRole('listitem').map(({ textContent }) => textContent);
    const worst = worstOf(proof).performed;
    const around = [-1, 0].map((by) => writtenBar(proof, worst + by));
    for (const prompt of promptFor('speak', around)) expect(bars).toContain(prompt);
    await press('ww');
    expect(screen.getByRole('note').textContent).toContain('Clear floor');
    await press('2 ');
    await page.pass(START_SECONDS + 6);
    await press('a');
    await waitFor(() =>
      expect(logged(id)).toMatchObject([{ way: 'step', mark: 'again', ratingBefore: 2, ratingAfter: null }]),
    );
    await press('4');
    await waitFor(() => expect(logged(id)).toMatchObject([{ ratingBefore: 2, ratingAfter: 4 }]));
  });

  test('the trainer sounds the full bar against the odd one, and refuses what is no cycle', async () => {
    const { id } = await openSeams(seamed, '?bars=3');
    await press('t');
    await page.user.click(screen.getByRole('button', { name: 'the trap' }));
    expect(screen.getByText('the trap: a triplet')).toBeDefined();
    await press(' ');
    await page.pass(START_SECONDS + 8);
    expect(page.device.heard().length).toBeGreaterThan(40);
    await press(' ');
    await page.user.click(screen.getByRole('button', { name: 'cycle' }));
    const meters = screen.getByLabelText('Meters in turn');
    await page.user.clear(meters);
    await page.user.type(meters, '7/8, nonsense');
    expect(screen.getByRole('alert').textContent).toContain('"nonsense" is not a meter');
    await page.user.clear(meters);
    await page.user.type(meters, '7/8, 4/4');
    expect(screen.getByText('Lands on 1 of 4/4 after 15 bars of it: 8 times through')).toBeDefined();
    expect(logged(id)).toEqual([]);
  });

  test('a bar read under another pulse lasts as long as it is written', async () => {
    await openSeams(seamed, '?bars=3');
    await press('r');
    const written = screen.getByTestId('as-written').textContent;
    expect(written).toContain('As written');
    const lasts = screen.getByText(/both last/).textContent;
    await press('w');
    expect(screen.getByText(/both last/).textContent?.match(/[\d.]+ s/)?.[0]).toBe(
      lasts?.match(/[\d.]+ s/)?.[0],
    );
    await press(' ');
    await page.pass(START_SECONDS + 5);
    expect(page.device.heard().length).toBeGreaterThan(6);
  });
});

describe('the record', () => {
  test('has every run, newest first; one is noted, taken out and put back', async () => {
    const { id } = await openSeams(seamed);
    for (const mark of ['a', 'g']) {
      await press(' ');
      await page.pass(START_SECONDS + 6);
      await press(mark);
    }
    await press('h');
    const table = () => screen.getByRole('table', { name: 'Every run, newest first' });
    const marks = () =>
      within(table())
        .getAllByRole('row')
        .slice(1)
        .map((row) => row.children[3]?.textContent);
    await waitFor(() => expect(marks()).toEqual(['good', 'again']));
    const [note] = within(table()).getAllByLabelText('Note on this run');
    await page.user.type(note!, 'reeds late');
    await page.user.tab();
    await waitFor(() => expect(logged(id).map((run) => run.note)).toEqual(['', 'reeds late']));
    await page.user.click(within(table()).getAllByRole('button', { name: 'take out' })[0]!);
    await waitFor(() => expect(marks()).toEqual(['again']));
    await waitFor(() => expect(logged(id)).toHaveLength(1));
  });

  test('goes with its bars when others come before them; a kept drill whose bars went says so', async () => {
    const { id } = await openSeams(seamed, '?bars=5-6');
    await press('p ');
    await page.pass(START_SECONDS + 6);
    await press('g');
    await waitFor(() => expect(logged(id).map(({ revision }) => revision)).toEqual([1]));
    await screen.findByRole('region', { name: 'Kept drills' });
    const { server } = page;
    const openLater = async (bars: readonly BarDocument[], asked: string) => {
      await page.close();
      server.keep(id, { ...seamed, bars });
      const screens = ofPiece({ path: 'seams', element: <SeamsScreen /> });
      page = openPage(`/piece/${id}/seams${asked}`, screens, server);
      return screen.findByRole('region', { name: 'Kept drills' });
    };
    const kept = await openLater(SEAMED.toSpliced(1, 0, { note: 'one' }, { note: 'two' }), '?bars=7-8');
    expect(kept.textContent).toContain('bar 8 to 9');
    await press('h');
    expect(await screen.findByRole('table', { name: 'Every run, newest first' })).toBeDefined();
    const gone = await openLater(SEAMED.slice(0, 4), '');
    expect(gone.textContent).toContain('taken out of the piece');
    await page.user.click(within(gone).getByRole('button', { name: /^Bar 6 to 7/ }));
    expect(page.toasts).toEqual(['The bars of this drill are not in the piece any more']);
  });
});
