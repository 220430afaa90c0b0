import { readFileSync } from 'node:fs';
import { compilePiece, readPiece } from '@anchorbeat/core';
import { midi, musicXml } from '@anchorbeat/formats';
import { expect, type Page } from '@playwright/test';
import { unzipSync } from 'fflate';

import { allSaved, makePieceOf, savedProof } from './pieces.ts';
import { expectTold, test } from './told.ts';

const document = JSON.parse(readFileSync('demo/ebb-count.anchorbeat.json', 'utf8')) as {
  readonly title: string;
};
const reading = readPiece(document);
if (!reading.ok) throw new Error('the demo does not read');
const { piece } = reading;

async function open(page: Page, name: string, buffer: Uint8Array): Promise<void> {
  await page.goto('/');
  await expect(page.getByRole('button', { name: /Open a file/ })).toBeEnabled();
  await page.getByLabel('A file to open').setInputFiles({ name, mimeType: '', buffer: Buffer.from(buffer) });
}

const measure = (number: number, content: string) => `<measure number="${number}">${content}</measure>`;
const attributes =
  '<attributes><divisions>1</divisions><time><beats>4</beats><beat-type>4</beat-type></time></attributes>';
const four = '<note><rest/><duration>4</duration></note>';
const changed =
  '<direction><direction-type><metronome><beat-unit>quarter</beat-unit><beat-unit>half</beat-unit></metronome></direction-type></direction>';
const foreign = new TextEncoder().encode(
  `<score-partwise><work><work-title>From elsewhere</work-title></work><part id="a">${[
    attributes + '<sound tempo="88"/>' + four,
    four,
    changed + four,
    '<direction><direction-type><words>rit.</words></direction-type></direction>' + four,
  ]
    .map((content, index) => measure(index + 1, content))
    .join('')}</part></score-partwise>`,
);

test('a file is held over the shelf and let go there; words that are dragged about are none', async ({
  page,
}) => {
  await page.goto('/');
  await expect(page.getByRole('button', { name: /Open a file/ })).toBeEnabled();
  const dragged = (file: string | null) =>
    page.evaluateHandle((text) => {
      const data = new DataTransfer();
      if (text === null) data.setData('text/plain', 'some words');
      else data.items.add(new File([text], 'elsewhere.musicxml'));
      return data;
    }, file);
  const shelf = page.getByRole('main');
  const letGo = page.getByText('Let go to see what is in it');
  await shelf.dispatchEvent('dragover', { dataTransfer: await dragged(null) });
  await expect(letGo).toHaveCount(0);
  const dataTransfer = await dragged(new TextDecoder().decode(foreign));
  await shelf.dispatchEvent('dragenter', { dataTransfer });
  await expect(letGo).toBeVisible();
  await shelf.dispatchEvent('dragleave', { dataTransfer });
  await expect(letGo).toHaveCount(0);
  await shelf.dispatchEvent('dragover', { dataTransfer });
  await shelf.dispatchEvent('drop', { dataTransfer });
  await expect(letGo).toHaveCount(0);
  await expect(page.getByRole('dialog').getByRole('heading', { name: 'From elsewhere' })).toBeVisible();
});

test('a score is looked at before anything is kept; its equivalences may be turned round', async ({
  page,
}) => {
  await open(page, 'elsewhere.musicxml', foreign);
  const dialog = page.getByRole('dialog');
  await expect(dialog.getByRole('heading', { name: 'From elsewhere' })).toBeVisible();
  await expect(dialog.getByLabel('Guessed')).toContainText('quarter = 88 is what the file would play');
  await expect(dialog.getByLabel('The file contradicts itself')).toContainText('says not where it leads');
  const before = ((await (await page.request.get('/api/pieces')).json()) as unknown[]).length;
  await dialog.getByRole('button', { name: 'after = before' }).click();
  await dialog.getByRole('button', { name: 'Put it on the shelf' }).click();
  await expect(page).toHaveURL(/\/map$/);
  expect(((await (await page.request.get('/api/pieces')).json()) as unknown[]).length).toBeGreaterThan(
    before,
  );
  const id = /piece\/([^/]+)/.exec(page.url())![1]!;
  const { piece: kept } = await savedProof(page.request, id);
  expect(kept.bars[2]!.tempoMarks[0]!.equivalence).toMatchObject({
    before: { base: 'half' },
    after: { base: 'quarter' },
  });
});

test('files that are none are refused with their reason, and the shelf stays as it was', async ({ page }) => {
  for (const [name, bytes, reason] of [
    ['a.mid', new Uint8Array(300).fill(7), 'not a MIDI file'],
    ['a.xml', new TextEncoder().encode('<score-partwise>\n<part'), 'Line 2'],
    ['a.csv', new TextEncoder().encode('bar,meter\n1,4/4\n2,4/0\n'), 'Row 3, meter: '],
    ['a.txt', new TextEncoder().encode('title: A\n\n4 bars of 4/4\nfour and a half\n'), 'Line 4: '],
    ['a.docx', new Uint8Array(10), 'ending that is not known'],
  ] as const) {
    await open(page, name, bytes);
    await expect(page.getByRole('alert')).toContainText(reason);
    await page.getByRole('button', { name: 'Back to the shelf' }).click();
    await expect(page.getByRole('dialog')).toHaveCount(0);
  }
});

test('a piece is handed out in every format, by key and by pointer, and each reads back', async ({
  page,
}) => {
  const id = await makePieceOf(page.request, { ...document, title: 'Handed out' });
  await page.goto(`/piece/${id}/map`);
  await allSaved(page);
  await page.keyboard.press('Shift+H');
  await expect(page.getByRole('heading', { name: 'Hand out' })).toBeVisible();
  const saved = async (act: () => Promise<void>) => {
    const waiting = page.waitForEvent('download');
    await act();
    const download = await waiting;
    return { name: download.suggestedFilename(), bytes: readFileSync(await download.path()) };
  };
  const score = await saved(() => page.keyboard.press('3'));
  expect(score.name).toBe('Handed out.musicxml');
  const back = musicXml.read(score.bytes);
  expect(back.ok && back.piece.bars).toEqual(piece.bars);
  const sequence = await saved(() => page.getByRole('button', { name: 'Save .mid' }).click());
  const performed = midi.read(sequence.bytes);
  if (!performed.ok) throw new Error('the MIDI file does not read');
  const [was, is] = [piece, performed.piece].map((each) => compilePiece(each).timeline.barStartSeconds);
  expect(Math.max(...was!.map((seconds, bar) => Math.abs(seconds - is![bar]!)))).toBeLessThan(0.001);
  await page.getByRole('button', { name: '48000' }).click();
  await page.getByLabel('First click at, seconds').fill('12.5');
  const captions = await saved(() => page.getByRole('button', { name: 'Save .vtt' }).click());
  expect(captions.name).toBe('Handed out.vtt');
  expect(captions.bytes.toString()).toMatch(/^WEBVTT\n\n1\n00:00:12\.500 --> /);
  await page.getByRole('button', { name: 'WAV' }).click();
  await page.getByRole('button', { name: '24', exact: true }).click();
  const sound = await saved(() => page.keyboard.press('w'));
  expect([sound.name, sound.bytes.readUInt32LE(24), sound.bytes.readUInt16LE(34)]).toEqual([
    'Handed out.wav',
    48_000,
    24,
  ]);
});

test('compressed sound is decoded by the browser with its first click where it is in the WAV', async ({
  page,
}) => {
  const id = await makePieceOf(page.request, { ...document, title: 'Compressed' });
  await page.goto(`/piece/${id}/handout`);
  await page.getByRole('toolbar', { name: 'Spoken' }).getByRole('button', { name: 'nothing' }).click();
  const onsetsOf = async (format: string) => {
    await page.getByRole('button', { name: format, exact: true }).click();
    const waiting = page.waitForEvent('download');
    await page.getByRole('button', { name: `Save .${format.toLowerCase()}` }).click();
    const bytes = readFileSync(await (await waiting).path());
    return page.evaluate(async (base64) => {
      const file = Uint8Array.from(atob(base64), (letter) => letter.charCodeAt(0));
      const context = new OfflineAudioContext(1, 1, 44_100);
      const samples = (await context.decodeAudioData(file.buffer)).getChannelData(0);
      const onsets: number[] = [];
      let loudAt = -Infinity;
      samples.forEach((sample, at) => {
        if (Math.abs(sample) <= 0.1) return;
        if (at - loudAt > 4000) onsets.push(at);
        loudAt = at;
      });
      return { onsets, length: samples.length };
    }, bytes.toString('base64'));
  };
  const wav = await onsetsOf('WAV');
  expect(wav.onsets.length).toBeGreaterThan(10);
  for (const format of ['FLAC', 'MP3']) {
    const other = await onsetsOf(format);
    expect([format, other.length]).toEqual([format, wav.length]);
    expect(other.onsets).toHaveLength(wav.onsets.length);
    const worst = Math.max(...other.onsets.map((at, index) => Math.abs(at - (wav.onsets[index] ?? 0))));
    expect(worst).toBeLessThan(44);
  }
});

test('each section gets a file of its own with what it hears, in one zip', async ({ page }) => {
  const demo = JSON.parse(readFileSync('demo/slack-water.anchorbeat.json', 'utf8')) as {
    readonly title: string;
  };
  const id = await makePieceOf(page.request, { ...demo, title: 'By section' });
  await page.goto(`/piece/${id}/handout`);
  await page.getByRole('button', { name: 'one seam' }).click();
  await page.getByRole('button', { name: 'each section, a file' }).click();
  const reeds = page.getByRole('toolbar', { name: 'Reeds hears' });
  await reeds.getByRole('button', { name: 'anchors' }).click();
  const waiting = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Save .zip' }).click();
  const download = await waiting;
  const names = Object.keys(unzipSync(readFileSync(await download.path())));
  expect(names.length).toBeGreaterThan(1);
  expect(names.some((name) => /Reeds\.mp3$/.test(name))).toBe(true);
});

test('a link that carries a piece shows it before anything is kept', async ({ page }) => {
  const id = await makePieceOf(page.request, { ...document, title: 'Carried' });
  await page.goto(`/piece/${id}/handout`);
  await expect(page.getByRole('region', { name: 'The piece as a link' })).toBeVisible();
  await page.context().grantPermissions(['clipboard-read', 'clipboard-write']);
  await page.getByRole('button', { name: 'Copy a link that carries it' }).click();
  await expectTold(page, /Copied: opened here/);
  const link = await page.evaluate(() => navigator.clipboard.readText());
  await page.goto('about:blank');
  await page.goto(link);
  const dialog = page.getByRole('dialog', { name: 'Carried' });
  await expect(dialog).toContainText('Nothing is kept yet');
  expect(new URL(page.url()).hash).toBe('');
  await page.goto('/#piece=AAAA');
  await expectTold(page, /This link is not whole/);
  // Also where what tells things could not be fetched any more.
  await page.route('**/assets/Toaster-*.js', (route) => route.abort());
  await page.goto('about:blank');
  await page.goto('/#piece=AAAA');
  await expectTold(page, /This link is not whole/);
});
