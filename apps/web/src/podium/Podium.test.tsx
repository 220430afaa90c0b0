import { afterEach, describe, expect, test } from '@jest/globals';
import type { BarDocument } from '@anchorbeat/core';
import { act, fireEvent, screen, waitFor, within } from '@testing-library/react';
import { pressKey } from '../input/midi.ts';
import { FakeServer } from '../test/fakeServer.ts';
import { newId, ofPiece, openPage, type TestPage } from '../test/page.tsx';
import { Podium } from './Podium.tsx';

let page: TestPage;
afterEach(() => page.close());

const BEAT_SECONDS = 0.25;

/** Bars of one second, with more said of some of them. */
const quick = (count: number, more: Readonly<Record<number, BarDocument>> = {}): BarDocument[] =>
  Array.from({ length: count }, (_, index) => ({
    ...(index === 0 && { meter: '4/4', tempo: [{ tempo: 'quarter = 240' }] }),
    ...more[index],
  }));

async function openPodium(bars: readonly BarDocument[]): Promise<string> {
  const server = new FakeServer();
  const id = newId();
  server.add(id, { format: 'anchorbeat-piece', version: 1, title: 'Podium piece', bars });
  page = openPage(`/piece/${id}/podium`, ofPiece({ path: 'podium', element: <Podium /> }), server);
  await screen.findByTestId('big-beat');
  return id;
}

const press = (keys: string) => page.user.keyboard(keys);
const wishes = () => screen.getByTestId('run-wishes').textContent;
const title = () => screen.getByRole('heading', { level: 1 }).textContent;
const isStopped = () => screen.queryByText('count me in') !== null;
/** When each sound is heard, in beats from the first. */
const heardBeats = () => {
  const times = page.device.heard().map(({ whenSeconds }) => whenSeconds);
  return times.map((time) => Number(((time - times[0]!) / BEAT_SECONDS).toFixed(6)));
};
const from = (first: number, count: number, step = 1) =>
  Array.from({ length: count }, (_, index) => first + index * step);

describe('the line', () => {
  /** Its text that stands highest, in pixels from the top of what is drawn, and how large it is drawn. */
  const drawn = async () => {
    const svg = await waitFor(() => {
      const found = document.querySelector('.podium-line svg');
      expect(found?.querySelector('text')).toBeTruthy();
      return found!;
    });
    const [, y, scale] = /^translate\(\S+ (\S+)\) scale\((\S+)\)$/.exec(
      svg.querySelector('g')!.getAttribute('transform')!,
    )!;
    const tops = [...svg.querySelectorAll('text')].map(
      (text) => Number(text.getAttribute('y')) - 0.7 * Number(text.getAttribute('font-size')),
    );
    return { topPx: Number(y) + Number(scale) * Math.min(...tops), scale: Number(scale) };
  };

  test('with more above it than there is room for is drawn smaller, and nothing is cut off', async () => {
    await openPodium(quick(6));
    const plain = await drawn();
    await page.close();
    const words = (term: string): BarDocument => ({
      tempo: [{ term, tempo: 'quarter = 230' }],
      meter: '1/4',
    });
    await openPodium(
      quick(6, {
        1: words('Brighter, and quickly'),
        2: words('Held back again'),
        3: words('As at the first'),
      }),
    );
    const crowded = await drawn();
    expect(crowded.scale).toBeLessThan(0.95 * plain.scale);
    expect(Math.min(plain.topPx, crowded.topPx)).toBeGreaterThanOrEqual(0);
  });
});

describe('a run', () => {
  test('is counted off, beaten and shown beat by beat, and comes to its end', async () => {
    await openPodium(quick(3, { 1: { rehearsalMark: 'A' } }));
    await press(' ');
    expect(isStopped()).toBe(false);
    await page.pass(0.12 + 0.3);
    expect(screen.getByTestId('big-beat').textContent).toBe('2');
    expect(title()).toBe('Bar 1');
    await page.pass(1 + 1);
    expect(title()).toBe('Bar 2');
    expect(screen.getByRole('banner').textContent).toMatch(/^Bar 2A/);
    await page.pass(1);
    expect(screen.getByText('1 after A')).toBeDefined();
    await page.pass(1);
    expect(isStopped()).toBe(true);
    expect(heardBeats()).toEqual(from(0, 4 + 12));
  });

  test('is logged with the bars that were heard whole, at the tempo it had', async () => {
    const id = await openPodium(quick(8));
    await press('[[[[ ');
    expect(wishes()).toContain('90 %');
    await page.pass(0.12 + (4 + 8 + 1) * (BEAT_SECONDS / 0.9));
    await press(' ');
    await waitFor(() =>
      expect(page.server.runs.get(id)).toMatchObject([
        { placeKind: 'bars', barIndex: 0, bars: 2, percent: 90, bpm: 216, mark: null },
      ]),
    );
  });

  test('stops at the end of the bar that sounds, and goes on from there', async () => {
    await openPodium(quick(6));
    await press(' ');
    await page.pass(0.12 + 1 + 1.4);
    await press('e');
    await page.pass(1);
    expect(isStopped()).toBe(true);
    const before = page.device.heard().length;
    expect(before).toBe(4 + 8);
    await press('j');
    await page.pass(0.12 + 1 + 0.1);
    expect(title()).toBe('Bar 2');
  });
});

describe('what is wanted of it', () => {
  test('a loop goes round until it is lifted, with what clicks changed on the way', async () => {
    await openPodium(quick(12));
    await press('3{Enter}');
    expect(title()).toBe('Bar 3');
    await press('l');
    expect(wishes()).toContain('round 3 to 6');
    await press('kk');
    expect(wishes()).toContain('click on downbeats');
    await press(' ');
    await page.pass(0.12 + 1 + 9.5);
    expect(title()).toBe('Bar 4');
    await press('l');
    expect(wishes()).not.toContain('round');
    await page.pass(3 * 4 + 8);
    expect(isStopped()).toBe(true);
    // Two rounds of four bars, then from bar 3 to the end.
    const bars = 4 + 4 + 10;
    expect(heardBeats()).toEqual([...from(0, 4), ...from(4, bars, 4)]);
  });

  test('a hold waits for the cue, an open repeat goes round until it is told to go on', async () => {
    await openPodium(
      quick(8, {
        1: { holds: [{ at: '3/4', length: 'until cued' }] },
        3: { startsRepeat: true },
        4: { endsRepeat: 'until cued' },
      }),
    );
    await press(' ');
    await page.pass(0.12 + 1 + 2.5);
    expect(screen.getByText('Holding for your cue')).toBeDefined();
    expect(title()).toBe('Bar 2');
    const before = page.device.heard().length;
    expect(before).toBe(4 + 8);
    await page.pass(30);
    expect(page.device.heard()).toHaveLength(before);
    await press('c');
    await page.pass(0.25 + 1);
    expect(screen.queryByText('Holding for your cue')).toBeNull();
    await page.pass(9);
    const [cue = 0, downbeat = 0, ...more] = heardBeats().slice(before);
    expect(downbeat - cue).toBeCloseTo(1, 6);
    expect(more.length).toBeGreaterThan(4 * 6);
    await press('c');
    await page.pass(9);
    expect(isStopped()).toBe(true);
    // From the cue on no beat is missing and none is doubled, however often it went round.
    expect(heardBeats().slice(before)).toEqual(from(cue, heardBeats().length - before));
  });

  test('what drops out, what is counted aloud and what lies over the bar is said as it is chosen', async () => {
    await openPodium(quick(4));
    for (const [key, said] of [
      ['y', '3 over the bar'],
      ['s', 'counted aloud'],
      ['m', 'muted'],
      ['b', 'changes at the bar'],
      ['i', 'play along: every beat'],
    ] as const) {
      await press(key);
      expect(wishes()).toContain(said);
    }
    await press('p');
    expect(wishes()).not.toContain('%');
  });

  test('a tempo is tapped: the piece then runs as fast as that', async () => {
    await openPodium(quick(4));
    act(() => {
      for (let tap = 0; tap < 5; tap++) pressKey('t', 1000 + 300 * tap);
    });
    // 200 taps a minute, of 240.
    expect(wishes()).toContain('83 %');
  });
});

describe('places', () => {
  test('are found by number, by mark and by words; what is none is left where it is', async () => {
    await openPodium(quick(12, { 6: { rehearsalMark: 'C' } }));
    for (const [typed, found] of [
      ['5{Enter}', 'Bar 5'],
      ['gC{Enter}', 'Bar 7'],
      ['gfour before C{Enter}', 'Bar 3'],
      ['g99{Enter}', 'Bar 3'],
      ['{ArrowRight}', 'Bar 4'],
      ['{ArrowLeft}{ArrowLeft}', 'Bar 2'],
      ['{Home}', 'Bar 1'],
    ] as const) {
      await press(typed);
      expect([typed, title()]).toEqual([typed, found]);
    }
  });

  test('a key is exchanged in the list of all keys, and does it from then on', async () => {
    await openPodium(quick(2));
    await press('?');
    await page.user.click(
      await screen.findByRole('button', { name: /give another key: count me in · stop/ }),
    );
    await press('{PageDown}');
    await page.user.click(screen.getByRole('button', { name: 'Done' }));
    await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull());
    await press('{PageDown}');
    await waitFor(() => expect(isStopped()).toBe(false));
    await press('{PageDown}');
    expect(isStopped()).toBe(true);
    expect(localStorage.getItem('anchorbeat.keys')).toContain('PageDown');
    await press('?');
    await page.user.click(await screen.findByRole('button', { name: 'As they were' }));
    await page.user.click(screen.getByRole('button', { name: 'Done' }));
  });

  test('how loud each sound is: turned while it sounds, heard at once, and set back', async () => {
    await openPodium(quick(20));
    await press(' ');
    await page.pass(1);
    await press('v');
    const sheet = within(await screen.findByRole('dialog'));
    fireEvent.change(sheet.getByRole('slider', { name: 'Downbeats' }), { target: { value: '0.4' } });
    expect(sheet.getByText('40 %')).toBeDefined();
    expect(page.device.groupLevels.get('downbeat')).toBe(0.4);
    await page.user.click(sheet.getByRole('button', { name: 'As designed' }));
    expect(sheet.getAllByText('100 %')).toHaveLength(sheet.getAllByRole('slider').length);
    expect(page.device.groupLevels.get('downbeat')).toBe(1);
  });
});
