import { afterEach, describe, expect, test } from '@jest/globals';
import type { PieceDocument } from '@anchorbeat/core';
import { SHEETS } from '@anchorbeat/sheets';
import { screen, waitFor, within } from '@testing-library/react';
import { readFileSync } from 'node:fs';
import { useState, type ReactNode } from 'react';
import { useProof } from '../piece/PieceLayout.tsx';
import { FakeServer } from '../test/fakeServer.ts';
import { newId, ofPiece, openPage, type TestPage } from '../test/page.tsx';
import { CaptionForm } from './CaptionForm.tsx';
import { HandOut } from './HandOut.tsx';
import { PLAIN_SOUND, soundOrders, type SoundChoice } from './soundChoice.ts';
import { SoundForm } from './SoundForm.tsx';

let page: TestPage;
afterEach(() => page.close());

const demo = (name: string) =>
  JSON.parse(readFileSync(`demo/${name}.anchorbeat.json`, 'utf8')) as PieceDocument;

function openPiece(path: string, element: ReactNode, search = ''): void {
  const server = new FakeServer();
  const id = newId();
  server.add(id, demo('slack-water'));
  page = openPage(`/piece/${id}/${path}${search}`, ofPiece({ path, element }), server);
}

/** Presses a choice of a group, such as "Spoken": "nothing". */
const press = (name: string, group?: string) =>
  page.user.click(
    (group === undefined ? screen : within(screen.getByLabelText(group))).getByRole('button', { name }),
  );
const isOn = (name: string) => screen.getByRole('button', { name }).getAttribute('aria-pressed');

describe('sheets', () => {
  const shown = () => screen.getByRole('region', { name: / pages?$/ }).getAttribute('aria-label');

  test('each is chosen by its key, and is there as it will be printed', async () => {
    openPiece('handout', <HandOut />, '?show=sheets');
    await screen.findByRole('region', { name: 'What is printed' });
    for (const [index, { name, says }] of SHEETS.entries()) {
      await page.user.keyboard(String(index + 1));
      expect(shown()).toMatch(new RegExp(`^${name}, [1-9]`));
      expect(screen.getByText(says)).toBeDefined();
    }
  });

  test('what is no bar of the piece is marked and changes nothing; a few bars fit on one page', async () => {
    openPiece('handout', <HandOut />, '?show=sheets');
    await screen.findByRole('region', { name: 'What is printed' });
    const withBars = SHEETS.findIndex(({ hears }) => hears.includes('bars'));
    await page.user.keyboard(String(withBars + 1));
    const whole = shown();
    const from = screen.getByLabelText('From bar');
    await page.user.type(from, '999');
    expect([from.getAttribute('aria-invalid'), shown()]).toEqual(['true', whole]);
    await page.user.clear(from);
    await page.user.type(from, '12');
    const to = screen.getByLabelText('to bar');
    await page.user.type(to, '9');
    expect(to.getAttribute('aria-invalid')).toBe('true');
    await page.user.clear(to);
    await page.user.type(to, '14');
    expect(to.getAttribute('aria-invalid')).toBe('false');
    await waitFor(() => expect(shown()).toMatch(/, 1 page$/));
    expect(whole).not.toMatch(/, 1 page$/);
    await page.user.clear(from);
    await page.user.type(from, '15');
    expect(to.getAttribute('aria-invalid')).toBe('true');
    await waitFor(() => expect(shown()).not.toMatch(/, 1 page$/));
  });

  test('paper and type are kept for the next sheet', async () => {
    openPiece('handout', <HandOut />, '?show=sheets');
    await screen.findByRole('region', { name: 'What is printed' });
    await press('Letter');
    await press('sideways');
    await page.user.keyboard('2');
    expect(localStorage.getItem('anchorbeat.sheets')).toMatch(/"isSideways":true/);
    expect(localStorage.getItem('anchorbeat.sheets')).toMatch(/Letter/);
    await press('sideways');
    await press('A4');
  });
});

/** The form as the screen has it, and what it stands for. */
function Form() {
  const proof = useProof();
  const [choice, setChoice] = useState(PLAIN_SOUND);
  const act = { id: 'a', key: 'w', name: 'save', group: 'g', does: () => undefined };
  const orders = soundOrders(proof, [], choice).map(({ fileName }) => fileName);
  return (
    <>
      <SoundForm proof={proof} choice={choice} onChoice={setChoice} act={act} />
      <output data-choice={JSON.stringify(choice)}>{orders.join(', ')}</output>
    </>
  );
}

describe('the click as sound', () => {
  const files = () => screen.getByRole('status').textContent;
  const chosen = () => JSON.parse(screen.getByRole('status').dataset['choice'] ?? '') as SoundChoice;

  test('asks only what changes anything, and names the file after what is in it', async () => {
    openPiece('sound', <Form />);
    expect(await screen.findByLabelText('Tempo, % of printed')).toBeDefined();
    expect(screen.queryByLabelText('Seam into bar')).toBeNull();
    expect(files()).toBe('Slack Water.mp3');
    await press('one seam');
    const seams = within(screen.getByLabelText('Seam into bar')).getAllByRole('option');
    expect(seams.length).toBeGreaterThan(5);
    await page.user.selectOptions(screen.getByLabelText('Seam into bar'), seams[2]!);
    expect(files()).toContain(`into ${seams[2]!.textContent}`);
    await press('its ladder');
    expect(screen.getByLabelText('Times on each rung')).toBeDefined();
    expect(screen.queryByText('Click on')).toBeNull();
    await press('all pieces');
    expect(screen.getByLabelText('Seconds between pieces')).toBeDefined();
  });

  test('each section has a file of its own, with what it hears', async () => {
    openPiece('sound', <Form />);
    await screen.findByLabelText('Tempo, % of printed');
    await press('each section, a file');
    expect(files()?.split(', ')).toHaveLength(4);
    const reeds = within(screen.getByLabelText('Reeds hears'));
    await page.user.click(reeds.getByRole('button', { name: 'downbeats' }));
    expect(chosen().heardBy).toEqual({ Reeds: 'downbeats' });
  });

  test('words need something said, and MP3 no more samples than it holds', async () => {
    openPiece('sound', <Form />);
    await screen.findByLabelText('Tempo, % of printed');
    await press('nothing', 'Spoken');
    await press('click left, words right');
    expect(chosen().wishes).toMatchObject({ channels: 'click and words', spoken: 'count-off' });
    await press('nothing', 'Spoken');
    expect(chosen().wishes).toMatchObject({ channels: 'one', spoken: 'nothing' });
    await press('WAV');
    await press('96000');
    expect(isOn('96000')).toBe('true');
    await press('MP3');
    expect(chosen().wishes.sampleRate).toBe(48_000);
    expect(screen.queryByRole('button', { name: '96000' })).toBeNull();
  });
});

describe('captions', () => {
  test('begin where the first click falls in the video', async () => {
    const saved: Blob[] = [];
    URL.createObjectURL = (file) => `blob:${saved.push(file as Blob)}`;
    HTMLAnchorElement.prototype.click = () => undefined;
    openPiece('captions', <CaptionForm percent={100} />);
    const at = await screen.findByLabelText('First click at, seconds');
    await page.user.keyboard('s');
    await page.user.clear(at);
    await page.user.type(at, '60');
    await press('Save .srt');
    const [first = '', moved = ''] = await Promise.all(saved.map((file) => file.text()));
    const begins = (text: string) => /(\d\d):(\d\d):(\d\d),(\d\d\d) -->/.exec(text)!.slice(1).map(Number);
    const seconds = ([h = 0, m = 0, s = 0, ms = 0]: readonly number[]) => 3600 * h + 60 * m + s + ms / 1000;
    expect(seconds(begins(moved)) - seconds(begins(first))).toBeCloseTo(60, 3);
  });
});
