import { readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { proofOf, readPiece } from '@anchorbeat/core';
import { FACES, joined, PLAIN_SHEET, sheetDocument, sheetFonts, SHEETS, writePdf } from '@anchorbeat/sheets';

const SECTIONS = ['Bells', 'Reeds', 'Horns', 'Voices', 'Strings', 'Bass', 'Drums', 'Keys'];
const METERS = ['4/4', '7/8 as 2+2+3', '3/4', '6/8', '15/16 as 4+4+4+3'];

/** A piece of many meters in which each section rests and enters in turn. */
function pieceOf(bars) {
  const reading = readPiece({
    format: 'anchorbeat-piece',
    version: 1,
    title: `${bars} bars`,
    sections: SECTIONS,
    bars: Array.from({ length: bars }, (_, index) => ({
      ...(index % 7 === 0 && { meter: METERS[(index / 7) % METERS.length] }),
      ...(index === 0 && { tempo: [{ tempo: 'quarter = 96' }] }),
      ...(index % 11 === 0 && {
        sections: [
          { section: SECTIONS[index % 8], does: 'rests' },
          { section: SECTIONS[(index + 3) % 8], does: 'enters' },
        ],
      }),
    })),
  });
  if (!reading.ok) throw new Error(reading.problems[0].message);
  return proofOf(reading.piece);
}

/** Sheets: how long they take to be laid out and written. */
export async function benchSheets() {
  const fonts = await sheetFonts((face, kind) =>
    Promise.resolve(readFileSync(fileURLToPath(import.meta.resolve(FACES[face][kind])))),
  );
  const [countSheet] = SHEETS;

  const proof = pieceOf(300);
  const from = performance.now();
  const all = joined(
    'all',
    SECTIONS.map((section) => sheetDocument(countSheet, proof, { ...PLAIN_SHEET, section })),
  );
  const laidOut = performance.now();
  const bytes = await writePdf(all, fonts);
  console.log(
    `sheets of 8 sections, 300 bars: ${all.pages.length} pages laid out in ${(laidOut - from).toFixed(0)} ms, written in ${(performance.now() - laidOut).toFixed(0)} ms (wanted under 3000 in all), ${Math.round(bytes.length / 1024)} kB`,
  );

  for (const bars of [2000, 10_000]) {
    const long = pieceOf(bars);
    const start = performance.now();
    const { pages } = sheetDocument(countSheet, long, PLAIN_SHEET);
    console.log(
      `count sheet of ${bars} bars: ${pages.length} pages laid out in ${(performance.now() - start).toFixed(0)} ms`,
    );
  }
}
