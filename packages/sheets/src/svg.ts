import type { PathShape, Tone } from '@anchorbeat/drawing';
import { MUSIC_OUTLINES } from '@anchorbeat/drawing';
import { FONT_KINDS, type FaceId, type FontKind } from './faces.ts';
import { placedParts, type PlacedPart } from './measure.ts';
import type { SheetPage } from './page.ts';
import { PAPER_PALETTE } from './palette.ts';
import type { SheetFonts } from './pdf.ts';

/** A text in a face as the path of its letters from (0, 0) on, one to the em. */
export type LetterOutlines = (text: string, face: FaceId) => string;

/**
 * A page as an SVG picture that looks the same everywhere: its fonts are in it, music signs are outlines. With outlines in
 * place of fonts letters are drawn too; without either they are set in whatever stands in for them.
 */
export function pageSvg(page: SheetPage, letters: SheetFonts | LetterOutlines | null): string {
  const fonts = typeof letters === 'function' ? null : letters;
  const setLetters =
    typeof letters === 'function'
      ? (part: PlacedPart, haloPx?: number) => outlinedSvg(part, letters, haloPx)
      : lettersSvg;
  const used = new Map<FaceId, string>();
  const items = page.items.map(({ x, y, scale, shapes }) => {
    const drawn = shapes.map((shape) => {
      if (shape.kind === 'path') return pathSvg(shape);
      const parts = placedParts(shape);
      for (const { face, isMusic, text } of parts)
        if (!isMusic) used.set(face, (used.get(face) ?? '') + text);
      return parts.map((part) => (part.isMusic ? musicSvg(part) : setLetters(part, shape.haloPx))).join('');
    });
    return `<g transform="translate(${num(x)} ${num(y)}) scale(${num(scale)})">${drawn.join('')}</g>`;
  });
  const size = `width="${num(page.widthPt)}" height="${num(page.heightPt)}" viewBox="0 0 ${num(page.widthPt)} ${num(page.heightPt)}"`;
  const style = fonts
    ? `<style>${[...used].map(([face, text]) => fontFace(face, text, fonts)).join('')}</style>`
    : '';
  return `<svg xmlns="http://www.w3.org/2000/svg" ${size}>${style}<rect width="100%" height="100%" fill="${PAPER_PALETTE.ground}"/>${items.join('')}</svg>\n`;
}

function pathSvg({ d, fill, stroke, strokePx, opacity, dashPx, hasRoundEnds }: PathShape): string {
  const attributes = [
    `fill="${fill ? PAPER_PALETTE[fill] : 'none'}"`,
    stroke &&
      `stroke="${PAPER_PALETTE[stroke]}" stroke-width="${num(strokePx ?? 1)}" stroke-linejoin="round"`,
    opacity !== undefined && `opacity="${num(opacity)}"`,
    dashPx && `stroke-dasharray="${dashPx.map(num).join(' ')}"`,
    hasRoundEnds && 'stroke-linecap="round"',
  ];
  return `<path d="${d}" ${attributes.filter(Boolean).join(' ')}/>`;
}

function musicSvg({ text, x, y, size, tone }: PlacedPart): string {
  let left = x;
  return [...text]
    .map((sign) => {
      const outline = MUSIC_OUTLINES[sign];
      if (!outline) return '';
      const at = `translate(${num(left)} ${num(y)}) scale(${num(size / 1000)})`;
      left += (outline.advance / 1000) * size;
      return `<path transform="${at}" d="${outline.d}" fill="${colour(tone)}"/>`;
    })
    .join('');
}

function lettersSvg({ text, face, x, y, size, tone }: PlacedPart, haloPx = 0): string {
  if (text.trim() === '') return '';
  const halo = haloPx
    ? ` stroke="${PAPER_PALETTE.ground}" stroke-width="${num(haloPx)}" paint-order="stroke"`
    : '';
  return `<text x="${num(x)}" y="${num(y)}" font-size="${num(size)}" font-family="anchorbeat-${face}, sans-serif" fill="${colour(tone)}" xml:space="preserve"${halo}>${escaped(text)}</text>`;
}

function outlinedSvg(
  { text, face, x, y, size, tone }: PlacedPart,
  outlines: LetterOutlines,
  haloPx = 0,
): string {
  const d = outlines(text, face);
  if (d === '') return '';
  const halo = haloPx
    ? ` stroke="${PAPER_PALETTE.ground}" stroke-width="${num(haloPx / size)}" paint-order="stroke"`
    : '';
  return `<path transform="translate(${num(x)} ${num(y)}) scale(${num(size)})" d="${d}" fill="${colour(tone)}"${halo}/>`;
}

function colour(tone: Tone): string {
  return PAPER_PALETTE[tone];
}

/** Which letters a file of a face is for, where not for all; as CSS has it, and to find them in a text. */
const RANGES: Readonly<
  Record<Exclude<FontKind, 'plain'>, { readonly css: string; readonly letters: RegExp }>
> = {
  extended: { css: 'U+0100-02BA,U+1E00-1EFF', letters: /[\u0100-\u02ba\u1e00-\u1eff]/ },
  cyrillic: { css: 'U+0400-045F,U+0490-0491,U+04B0-04B1,U+2116', letters: /[\u0400-\u04b1\u2116]/ },
  greek: { css: 'U+0370-03FF', letters: /[\u0370-\u03ff]/ },
};

/** The files of a face that a text needs, under one name. */
function fontFace(face: FaceId, text: string, fonts: SheetFonts): string {
  return FONT_KINDS.filter((kind) => kind === 'plain' || RANGES[kind].letters.test(text))
    .map((kind) => {
      const range = kind === 'plain' ? '' : `unicode-range:${RANGES[kind].css};`;
      return `@font-face{font-family:"anchorbeat-${face}";${range}src:url(data:font/woff;base64,${base64(fonts[face][kind])})}`;
    })
    .join('');
}

function base64(bytes: Uint8Array): string {
  const pieces: string[] = [];
  for (let at = 0; at < bytes.length; at += 0x8000)
    pieces.push(String.fromCharCode(...bytes.subarray(at, at + 0x8000)));
  return btoa(pieces.join(''));
}

function num(value: number): string {
  return String(Math.round(value * 10_000) / 10_000);
}

function escaped(text: string): string {
  return text
    .replaceAll('&', '&amp;')
    .replaceAll('<', '&lt;')
    .replaceAll('>', '&gt;')
    .replaceAll('\u200b', '');
}
