import { MUSIC_OUTLINES } from '@anchorbeat/drawing';
import type { TextShape } from '@anchorbeat/drawing';
import { faceOf, type FaceId } from './faces.ts';
import { FAR_LETTER_WIDTHS, FIRST_FAR_LETTER, FIRST_LETTER, LETTER_WIDTHS } from './letterWidths.ts';

/** A letter that no face has is drawn as a box about this wide, in ems. */
const UNKNOWN_EM = 0.6;

/** How wide letters are in a face, in the unit of `size`. */
export function letterWidth(text: string, face: FaceId, size: number): number {
  let width = 0;
  for (const letter of text) {
    const known = knownWidth(letter.codePointAt(0) ?? 0, face);
    width += known ? known / 1000 : isInvisible(letter) ? 0 : UNKNOWN_EM;
  }
  return width * size;
}

/** A thousand to the em; 0 or undefined where no file of the face has the letter. */
function knownWidth(code: number, face: FaceId): number | undefined {
  return code < FIRST_FAR_LETTER
    ? LETTER_WIDTHS[face][code - FIRST_LETTER]
    : FAR_LETTER_WIDTHS[face][code - FIRST_FAR_LETTER];
}

/** How wide music signs are, in the unit of `size`. */
export function musicWidth(signs: string, size: number): number {
  return [...signs].reduce((total, sign) => total + ((MUSIC_OUTLINES[sign]?.advance ?? 0) / 1000) * size, 0);
}

function isInvisible(letter: string): boolean {
  return letter === '\u200b';
}

/** A part of a text with where it stands after all that comes before it. */
export interface PlacedPart {
  readonly text: string;
  readonly isMusic: boolean;
  readonly face: FaceId;
  readonly x: number;
  readonly y: number;
  readonly size: number;
  readonly tone: TextShape['tone'];
}

/** The parts of a text from left to right, from where its anchor puts it. */
export function placedParts(shape: TextShape): readonly PlacedPart[] {
  let [x, y] = [0, shape.y];
  const placed = shape.parts.map((part) => {
    const size = part.sizePx ?? shape.sizePx;
    const face = faceOf({ ...shape, ...(part.weight && { weight: part.weight }) });
    x += part.dxPx ?? 0;
    y += part.dyPx ?? 0;
    const at = { x, y };
    x += part.isMusic ? musicWidth(part.text, size) : letterWidth(part.text, face, size);
    return {
      text: part.text,
      isMusic: part.isMusic === true,
      face,
      ...at,
      size,
      tone: part.tone ?? shape.tone,
    };
  });
  const shift = shape.anchor === 'middle' ? x / 2 : shape.anchor === 'end' ? x : 0;
  return placed.map((part) => ({ ...part, x: part.x + shape.x - shift }));
}

/** Words broken into lines of at most a width; a word that is longer stands alone and is cut into pieces. */
export function wrapped(text: string, face: FaceId, size: number, width: number): readonly string[] {
  const lines: string[] = [];
  let line = '';
  for (const word of text
    .split(/\s+/)
    .filter(Boolean)
    .flatMap((word) => pieces(word, face, size, width))) {
    const longer = line === '' ? word : `${line} ${word}`;
    if (line !== '' && letterWidth(longer, face, size) > width) {
      lines.push(line);
      line = word;
    } else line = longer;
  }
  return line === '' ? lines : [...lines, line];
}

function pieces(word: string, face: FaceId, size: number, width: number): readonly string[] {
  if (letterWidth(word, face, size) <= width) return [word];
  const cut: string[] = [];
  let piece = '';
  for (const letter of word) {
    if (piece !== '' && letterWidth(piece + letter, face, size) > width) {
      cut.push(piece);
      piece = '';
    }
    piece += letter;
  }
  return [...cut, piece];
}
