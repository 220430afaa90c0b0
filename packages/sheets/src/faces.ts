import type { TextShape } from '@anchorbeat/drawing';

/** Files of a face by their letters: plain Latin, the rest of the Latin script, and what a face of ours has not. */
export const FONT_KINDS = ['plain', 'extended', 'cyrillic', 'greek'] as const;
export type FontKind = (typeof FONT_KINDS)[number];

/** The faces a sheet is set in, each with its files. Cyrillic and Greek letters are those of a face that goes with both. */
export const FACES = {
  text: atkinson('400-normal'),
  'text-bold': atkinson('700-normal'),
  'text-italic': atkinson('400-italic'),
  display: bricolage('500-normal'),
  'display-bold': bricolage('800-normal'),
} as const;

export type FaceId = keyof typeof FACES;

export const FACE_IDS = Object.keys(FACES) as readonly FaceId[];

/** The files of one face, as names of package files. */
export type FaceFiles = Readonly<Record<FontKind, string>>;

function atkinson(style: string): FaceFiles {
  return faceFiles('atkinson-hyperlegible-next', style);
}

function bricolage(style: string): FaceFiles {
  return faceFiles('bricolage-grotesque', style);
}

function faceFiles(family: string, style: string): FaceFiles {
  const file = (subset: string) => `@fontsource/${family}/files/${family}-${subset}-${style}.woff`;
  const far = (subset: string) => `@fontsource/noto-sans/files/noto-sans-${subset}-${style}.woff`;
  return {
    plain: file('latin'),
    extended: file('latin-ext'),
    cyrillic: far('cyrillic'),
    greek: far('greek'),
  };
}

/** The face that comes nearest to what a shape asks for. */
export function faceOf({
  face,
  weight = 400,
  isItalic,
}: Pick<TextShape, 'face' | 'weight' | 'isItalic'>): FaceId {
  if (face === 'display') return weight >= 600 ? 'display-bold' : 'display';
  if (weight >= 600) return 'text-bold';
  return isItalic ? 'text-italic' : 'text';
}
