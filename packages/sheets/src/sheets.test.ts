import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { describe, expect, test } from '@jest/globals';
import {
  proofOf,
  readPiece,
  sectionRestRuns,
  sectionsOf,
  type BarDocument,
  type Plan,
  type PlanItem,
  type Proof,
} from '@anchorbeat/core';
import { randomPiece } from '../../core/src/test/randomPiece.ts';
import { FACES } from './faces.ts';
import { placedParts, letterWidth, musicWidth, wrapped } from './measure.ts';
import type { SheetDocument } from './page.ts';
import { linePicture } from './picture.ts';
import { sheetFonts, writePdf } from './pdf.ts';
import { planDocument } from './planSheet.ts';
import { reportDocument } from './reportSheet.ts';
import { PLAIN_SHEET, type SheetSettings } from './settings.ts';
import { joined, sheetDocument, SHEETS } from './sheets.ts';
import { pageSvg } from './svg.ts';

const DEMO = ['slack-water', 'ropewalk', 'lamp-on-the-bar', 'ebb-count', 'tar-and-twine'] as const;

function demo(name: string): Proof {
  const file = new URL(`../../../demo/${name}.anchorbeat.json`, import.meta.url);
  const reading = readPiece(JSON.parse(readFileSync(file, 'utf8')));
  if (!reading.ok) throw new Error(`${name} does not read`);
  return proofOf(reading.piece);
}

function proofWith(title: string, bars: readonly BarDocument[]): Proof {
  const reading = readPiece({ format: 'anchorbeat-piece', version: 1, title, bars });
  if (!reading.ok) throw new Error(reading.problems[0]?.message);
  return proofOf(reading.piece);
}

const sheetNamed = (id: string) => SHEETS.find((sheet) => sheet.id === id)!;
const countSheet = (proof: Proof, settings: Partial<SheetSettings> = {}) =>
  sheetDocument(sheetNamed('count-sheet'), proof, { ...PLAIN_SHEET, ...settings });

interface Letters {
  readonly text: string;
  readonly left: number;
  readonly right: number;
  readonly top: number;
  readonly bottom: number;
}

/** Every text of a page with the room it takes, in points. */
function lettersOn({ items }: SheetDocument['pages'][number]): readonly Letters[] {
  return items.flatMap(({ x, y, scale, shapes }) =>
    shapes.flatMap((shape) => {
      if (shape.kind === 'path') return [];
      return placedParts(shape)
        .filter(({ text, isMusic }) => !isMusic && text.trim() !== '' && text !== '\u200b')
        .map((part) => ({
          text: part.text,
          left: x + part.x * scale,
          right: x + (part.x + letterWidth(part.text, part.face, part.size)) * scale,
          top: y + (part.y - 0.68 * part.size) * scale,
          bottom: y + part.y * scale,
        }));
    }),
  );
}

const fonts = sheetFonts((face, kind) =>
  Promise.resolve(readFileSync(new URL(`../../../node_modules/${FACES[face][kind]}`, import.meta.url))),
);

const WAYS: ReadonlyArray<Partial<SheetSettings>> = [
  {},
  { isSideways: true, paper: 'Letter' },
  { type: 'big', hasRoomToWrite: true },
  { pulse: 'slashes', countSchool: 'sixteenths' },
  { pulse: 'counts', twoToAPage: true },
];

describe('what stands on a page', () => {
  const pieces: ReadonlyArray<readonly [string, Proof]> = [
    ...DEMO.map((name) => [name, demo(name)] as const),
    ...[11, 12, 13].map((seed) => [`random ${seed}`, proofOf(randomPiece(seed, 40))] as const),
  ];

  test.each(pieces)('of %s is inside it, on every sheet, however it is printed', (_name, proof) => {
    for (const sheet of SHEETS)
      for (const way of WAYS)
        for (const page of sheetDocument(sheet, proof, { ...PLAIN_SHEET, ...way }).pages)
          for (const { text, left, right, top, bottom } of lettersOn(page))
            expect([text, left >= 0, right <= page.widthPt, top >= 0, bottom <= page.heightPt]).toEqual([
              text,
              true,
              true,
              true,
              true,
            ]);
  });

  test.each(DEMO)('of %s covers no other letters', (name) => {
    const proof = demo(name);
    for (const sheet of SHEETS)
      for (const section of [null, ...sectionsOf(proof.piece)])
        for (const page of sheetDocument(sheet, proof, { ...PLAIN_SHEET, section }).pages) {
          const letters = lettersOn(page);
          const covered = letters.flatMap((a, index) =>
            letters.slice(index + 1).flatMap((b) => {
              const width = Math.min(a.right, b.right) - Math.max(a.left, b.left);
              const height = Math.min(a.bottom, b.bottom) - Math.max(a.top, b.top);
              return width > 0.5 && height > 1 ? [`${sheet.id}, ${section}: ${a.text} | ${b.text}`] : [];
            }),
          );
          expect(covered).toEqual([]);
        }
  });
});

describe('a count sheet', () => {
  test.each(DEMO)('has every numbered bar of %s once and in order', (name) => {
    const proof = demo(name);
    const labels = proof.compiled.labels.filter((label) => label !== null);
    for (const way of WAYS) {
      const said = countSheet(proof, way)
        .pages.flatMap(({ items }) => items)
        .filter(({ role }) => role === 'drawing')
        .map(({ says }) => says);
      const bars = said.join('; ').match(/(?<=(^|; )bar )[^,;]+/g);
      expect(bars).toEqual(labels);
    }
  });

  test('counts off, names what is rested, and says when the section comes in', () => {
    const proof = demo('slack-water');
    const page = countSheet(proof, { section: 'Reeds' }).pages[0]!;
    const texts = lettersOn(page).map(({ text }) => text);
    expect(texts).toContain('Reeds · counted in beats, divided where the bar is odd');
    expect(texts).toContain('Count-off: 1 2 | 1 2 at 72 a minute');
    const rests = sectionRestRuns(proof.piece, 'Reeds');
    expect(rests.map(({ count }) => count)).toEqual([1, 5, 1, 1]);
    expect(texts).toContain('5');
    expect(texts).toContain('after the long bar');
  });

  test('of some bars begins and ends with them', () => {
    const said = countSheet(demo('slack-water'), { from: 10, to: 13 })
      .pages.flatMap(({ items }) => items)
      .filter(({ role }) => role === 'drawing')
      .map(({ says }) => says);
    expect(said).toEqual([
      expect.stringMatching(/^bar 10, .*bar 11, 15\/16 as 4\+4\+4\+3, .*bar 12, [^;]*$/),
    ]);
  });

  test('draws a rest of a section shorter than it lasts, however long it is', () => {
    const rest = { sections: [{ section: 'Bells', does: 'rests' }] } as const;
    const enters = { sections: [{ section: 'Bells', does: 'enters', says: 'with the drum' }] } as const;
    const plain = Array.from({ length: 60 }, (): BarDocument => ({}));
    const proof = proofWith('Long rest', [{ meter: '4/4', ...rest }, ...plain, enters, {}]);
    const forBells = countSheet(proof, { section: 'Bells' });
    expect(forBells.pages).toHaveLength(1);
    expect(countSheet(proof).pages.length).toBeGreaterThan(1);
    expect(lettersOn(forBells.pages[0]!).map(({ text }) => text)).toEqual(
      expect.arrayContaining(['61', 'with the drum']),
    );
  });
});

test('a plan is printed whole, with a box at all that is worked on and what was done', () => {
  const item = (index: number): PlanItem => ({
    key: `${index}`,
    kind: index === 0 ? 'warm-up' : index === 4 ? 'rest' : 'place',
    pieceId: 'p',
    bars: [index],
    title: `Slack Water, into bar ${index}, where the reeds come in after a rather long rest and nobody counts`,
    startMinute: 3 * index,
    minutes: 3,
    percent: 70,
    why: ['difficulty 40', 'never run'],
    isPinned: false,
  });
  const plan: Plan = {
    items: Array.from({ length: 24 }, (_, index) => item(index)),
    minutesLeft: 0,
    outOfReach: { places: 3, of: 24 },
    next: ['Ropewalk, into bar 9'],
  };
  const { pages } = planDocument(
    {
      ensemble: 'Harbour Band',
      when: 'Tuesday 1 December, 19:30',
      title: '',
      minutes: 72,
      absent: ['Drums'],
      plan,
      done: [{ title: 'Warm-up', planned: 3, seconds: 200 }],
    },
    PLAIN_SHEET,
  );
  const letters = pages.flatMap((page) => lettersOn(page).map((one) => ({ ...one, page })));
  const all = letters.map(({ text }) => text).join(' ');
  for (const { title } of plan.items) expect(all).toContain(title.slice(0, 24));
  for (const said of [
    '3 of 24 places',
    'without Drums',
    '0:27',
    'from 70 %',
    '3 of 3 min',
    'Ropewalk, into bar 9',
  ])
    expect(all).toContain(said);
  for (const { text, right, bottom, page } of letters)
    expect([text, right <= page.widthPt, bottom <= page.heightPt]).toEqual([text, true, true]);
  const boxes = pages
    .flatMap(({ items }) => items.flatMap(({ shapes }) => shapes))
    .filter((shape) => shape.kind === 'path' && shape.d.startsWith('M1 4H11'));
  expect(boxes).toHaveLength(22);
});

test('a report is printed whole, each heading with what stands under it', () => {
  const groups = Array.from({ length: 30 }, (_, day) => ({
    heading: `${day + 1} Nov 2026`,
    lines: Array.from({ length: 5 }, (_line, run) => ({
      about: `Slack Water, into bar ${run}`,
      says: `${60 + run} % · again · filled the bar up · a note of day ${day} that is long enough for two lines of it`,
    })),
  }));
  const { pages } = reportDocument({ title: 'Rehearsal log', facts: '150 runs', groups }, PLAIN_SHEET);
  const letters = pages.map(lettersOn);
  expect(letters.flat().filter(({ text }) => text.startsWith('Slack Water'))).toHaveLength(150);
  pages.forEach((page, index) => {
    const ofPage = letters[index]!;
    for (const { text, right, bottom } of ofPage)
      expect([text, right <= page.widthPt, bottom <= page.heightPt]).toEqual([text, true, true]);
    // No heading is the last on its page but for the foot.
    expect(ofPage.at(-3)!.text).not.toMatch(/Nov 2026$/);
  });
});

test('two pages on one are whole, beside each other and in order', () => {
  const proof = demo('ropewalk');
  const single = countSheet(proof).pages;
  const double = countSheet(proof, { twoToAPage: true }).pages;
  expect(double).toHaveLength(Math.ceil(single.length / 2));
  const sheet = double[0]!;
  expect([sheet.widthPt, sheet.heightPt]).toEqual([single[0]!.heightPt, single[0]!.widthPt]);
  const numbers = lettersOn(sheet).filter(({ text }) => text.startsWith('page '));
  expect(numbers[0]!.right).toBeLessThan(sheet.widthPt / 2);
});

test('words are broken into lines that fit, none lost', () => {
  const text =
    'keep the dotted quarter going through the unreasonablylongwordthatfitsnowhere and land together';
  const lines = wrapped(text, 'text', 10, 80);
  for (const line of lines) expect(letterWidth(line, 'text', 10)).toBeLessThanOrEqual(80);
  expect(lines.join('').replaceAll(' ', '')).toBe(text.replaceAll(' ', ''));
  expect(musicWidth('\uECA5', 1000)).toBeGreaterThan(200);
});

describe('the PDF file', () => {
  const poppler = spawnSync('pdftotext', ['-v']).error === undefined;

  async function written(document: SheetDocument): Promise<Buffer> {
    return Buffer.from(await writePdf(document, await fonts));
  }

  /** What another program reads from a file. */
  function read(program: string, file: Buffer, ...args: readonly string[]): string {
    const folder = mkdtempSync(join(tmpdir(), 'sheet-'));
    try {
      writeFileSync(join(folder, 'a.pdf'), file);
      return spawnSync(
        program,
        [...args.filter((arg) => arg !== '-'), join(folder, 'a.pdf'), ...args.filter((arg) => arg === '-')],
        {
          encoding: 'utf8',
        },
      ).stdout;
    } finally {
      rmSync(folder, { recursive: true });
    }
  }

  test('is whole, tagged, in English, with its title', async () => {
    const text = (await written(countSheet(demo('slack-water')))).toString('latin1');
    expect(text.startsWith('%PDF-1.7')).toBe(true);
    expect(text.trimEnd().endsWith('%%EOF')).toBe(true);
    for (const part of ['/MarkInfo', '/StructTreeRoot', '/Lang (en)', '/Figure', '/DisplayDocTitle true'])
      expect(text).toContain(part);
  });

  test('reads a title in other letters, and stands a question mark for what the type has not', async () => {
    const proof = proofWith('Łódź, Βράδυ, Плавание 夜 <&>', [{ meter: '4/4' }]);
    const file = await written(countSheet(proof));
    if (poppler) expect(read('pdftotext', file, '-')).toMatch(/^Łódź, Βράδυ, Плавание \? <&>/);
  });

  (poppler ? test : test.skip)(
    'has the words, counts and bar numbers of each page as text, in type that is embedded',
    async () => {
      const proof = demo('slack-water');
      const document = joined('All', [countSheet(proof, { section: 'Reeds' }), countSheet(proof)]);
      const file = await written(document);
      document.pages.forEach((page, index) => {
        const words = read(
          'pdftotext',
          file,
          '-f',
          String(index + 1),
          '-l',
          String(index + 1),
          '-layout',
          '-',
        ).split(/\s+/);
        const wanted = lettersOn(page).flatMap(({ text }) => text.split(/\s+/).filter(Boolean));
        // Neighbours may be read as one word where they stand close, as "e" and "&" do.
        const missing = wanted.filter((word) => !words.some((known) => known.includes(word)));
        expect(missing).toEqual([]);
      });
      const faces = read('pdffonts', file).trim().split('\n').slice(2);
      expect(faces.length).toBeGreaterThan(2);
      for (const line of faces) expect(line).toMatch(/yes yes yes/);
    },
  );
});

test('a picture is as wide as asked for, holds its type, and says what is written', async () => {
  const proof = proofWith('A < B & C', [{ meter: '7/8 as 2+2+3', note: 'a < b & "c"' }, { meter: '3/4' }]);
  const page = linePicture(proof, PLAIN_SHEET, 500);
  const svg = pageSvg(page, await fonts);
  expect(svg).toMatch(/^<svg xmlns="http:\/\/www\.w3\.org\/2000\/svg" width="500" height="[\d.]+"/);
  expect(svg).toContain('a &lt; b &amp; "c"');
  expect(svg).toContain('data:font/woff;base64,');
  expect(pageSvg(page, null)).not.toContain('@font-face');
});
