/**
 * Cuts the screen's two typefaces to what is on nearly every page: English letters, figures and signs, in the weights used. All
 * else is in the packages' own files, which a browser fetches once a text needs them.
 *
 *   node scripts/screenFonts.mjs
 */
import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import subsetFont from 'subset-font';
import { ROOT } from './fresh.mjs';

const THEME = join(ROOT, 'apps/web/src/theme');
const RANGES = [
  '20-7E',
  'A0',
  'A7',
  'B0',
  'B7',
  'D7',
  '2013-2014',
  '2018-2019',
  '201C-201D',
  '2026',
  '2032-2033',
  '2191',
  '2193',
  '2212',
];
/** Figures of one width are used. What pairs of letters stand nearer is, of the face of headings, as large as all its letters. */
const FACES = [
  { family: 'Bricolage Grotesque Variable', name: 'bricolage-grotesque', features: ['tnum'] },
  {
    family: 'Atkinson Hyperlegible Next Variable',
    name: 'atkinson-hyperlegible-next',
    features: ['kern', 'tnum'],
  },
];
/** As the packages' own faces say: a browser takes only faces of the same weights for one. */
const STATED_WEIGHTS = '200 800';
/** Those that are used. */
const [LIGHTEST, HEAVIEST] = [400, 800];

const text = RANGES.flatMap((range) => {
  const [from, to = from] = range.split('-').map((hex) => parseInt(hex, 16));
  return Array.from({ length: to - from + 1 }, (_, index) => String.fromCodePoint(from + index));
}).join('');

const rules = [];
for (const { family, name, features } of FACES) {
  const whole = readFileSync(
    join(ROOT, `node_modules/@fontsource-variable/${name}/files/${name}-latin-wght-normal.woff2`),
  );
  const bytes = await subsetFont(whole, text, {
    targetFormat: 'woff2',
    keepFeatures: features,
    variationAxes: { wght: { min: LIGHTEST, max: HEAVIEST, default: LIGHTEST } },
  });
  writeFileSync(join(THEME, `${name}.woff2`), bytes);
  console.log(`${name}.woff2: ${whole.length} → ${bytes.length} bytes`);
  rules.push(`@font-face {
  font-family: '${family}';
  font-style: normal;
  font-display: swap;
  font-weight: ${STATED_WEIGHTS};
  src: url('./${name}.woff2') format('woff2-variations');
  unicode-range: ${RANGES.map((range) => `U+${range}`).join(', ')};
}
`);
}
writeFileSync(
  join(THEME, 'screenFonts.css'),
  `/* Made by scripts/screenFonts.mjs. Where ranges overlap a browser takes the face that comes last. */\n${rules.join('\n')}`,
);
