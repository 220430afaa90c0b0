import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import * as fontkit from 'fontkit';
import opentype from 'opentype.js';
import { FACES } from '../packages/sheets/dist/faces.js';
import { ROOT } from './fresh.mjs';
import { runOrStop } from './run.mjs';

/**
 * Writes the outlines of the music signs and the widths of letters that drawings and sheets need where no font is at
 * hand, from the fonts that ship with the app; and the signs as a small font of our own for the screen. Its name is another
 * one, as the licence of what it is taken from asks (SIL Open Font License 1.1).
 */

const FIRST_LETTER = 0x20;
const LAST_LETTER = 0x17f;
const FIRST_FAR_LETTER = 0x370;
const LAST_FAR_LETTER = 0x45f;

/** Every music sign that anything draws. */
const SIGNS = [
  ...Array.from({ length: 10 }, (_, digit) => 0xe080 + digit),
  0xe08c,
  ...[0xeca0, 0xeca2, 0xeca3, 0xeca5, 0xeca7, 0xeca9, 0xecab, 0xecad, 0xecb7],
  ...Array.from({ length: 8 }, (_, rest) => 0xe4e2 + rest),
  ...[0xe047, 0xe048, 0xe4ce],
];

/** What fontkit calls the steps of an outline, and opentype.js. */
const METHODS = {
  moveTo: 'moveTo',
  lineTo: 'lineTo',
  bezierCurveTo: 'curveTo',
  quadraticCurveTo: 'quadTo',
  closePath: 'close',
};

function fontOf(file) {
  return fontkit.create(readFileSync(fileURLToPath(import.meta.resolve(file))));
}

async function writeModule(path, text) {
  const file = join(ROOT, path);
  writeFileSync(file, text);
  await runOrStop(
    process.execPath,
    ['node_modules/oxfmt/bin/oxfmt', file],
    `${path} could not be put in its form: see the message above.`,
  );
}

const bravura = fontOf('@vexflow-fonts/bravura/bravura.otf');
const outlines = SIGNS.map((sign) => {
  const glyph = bravura.glyphForCodePoint(sign);
  // A font's outlines rise upward, a drawing's downward.
  const d = glyph.path
    .scale(1, -1)
    .toSVG()
    .replaceAll(/-0(?![\d.])/g, '0');
  return `  '\\u${sign.toString(16).toUpperCase()}': { advance: ${glyph.advanceWidth}, d: ${JSON.stringify(d)} },`;
});
await writeModule(
  'packages/drawing/src/musicOutlines.ts',
  `/** Made by \`node scripts/glyphs.mjs\` from Bravura (SIL Open Font License 1.1): outlines as SVG path data, a thousand to the em. */
export const MUSIC_OUTLINES: Readonly<Record<string, { readonly advance: number; readonly d: string }>> = {
${outlines.join('\n')}
};
`,
);

const glyphs = SIGNS.map((sign) => {
  const glyph = bravura.glyphForCodePoint(sign);
  const path = new opentype.Path();
  for (const { command, args } of glyph.path.commands) path[METHODS[command]](...args);
  return new opentype.Glyph({
    name: `uni${sign.toString(16).toUpperCase()}`,
    unicode: sign,
    advanceWidth: glyph.advanceWidth,
    path,
  });
});
const nothing = new opentype.Glyph({ name: '.notdef', advanceWidth: 500, path: new opentype.Path() });
const font = new opentype.Font({
  familyName: 'Anchorbeat Music',
  styleName: 'Regular',
  unitsPerEm: bravura.unitsPerEm,
  ascender: bravura.ascent,
  descender: bravura.descent,
  license: 'SIL Open Font License 1.1',
  description: 'Some signs of Bravura, copyright Steinberg Media Technologies GmbH',
  glyphs: [nothing, ...glyphs],
});
writeFileSync(join(ROOT, 'apps/web/src/theme/anchorbeatMusic.otf'), Buffer.from(font.toArrayBuffer()));

/** How wide the letters of every face are, from one to another. */
function widthsOf(first, last) {
  return Object.entries(FACES).map(([id, files]) => {
    const fonts = Object.values(files).map(fontOf);
    const letters = Array.from({ length: last - first + 1 }, (_, index) => {
      const font = fonts.find((known) => known.hasGlyphForCodePoint(first + index));
      return font
        ? Math.round((font.glyphForCodePoint(first + index).advanceWidth * 1000) / font.unitsPerEm)
        : 0;
    });
    return `  '${id}': [${letters.join(', ')}],`;
  });
}

await writeModule(
  'packages/sheets/src/letterWidths.ts',
  `import type { FaceId } from './faces.ts';

/** The first letter in each list. */
export const FIRST_LETTER = ${FIRST_LETTER};

/** Made by \`node scripts/glyphs.mjs\`: how wide the letters of each face are, a thousand to the em; 0 where it has none. */
export const LETTER_WIDTHS: Readonly<Record<FaceId, readonly number[]>> = {
${widthsOf(FIRST_LETTER, LAST_LETTER).join('\n')}
};

/** The first Greek letter; Cyrillic ones follow. */
export const FIRST_FAR_LETTER = ${FIRST_FAR_LETTER};

/** The same from there on. */
export const FAR_LETTER_WIDTHS: Readonly<Record<FaceId, readonly number[]>> = {
${widthsOf(FIRST_FAR_LETTER, LAST_FAR_LETTER).join('\n')}
};
`,
);
