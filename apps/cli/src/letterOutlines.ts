import { FACE_IDS, FONT_KINDS, type FaceId, type LetterOutlines, type SheetFonts } from '@anchorbeat/sheets';
import { create, type Font } from 'fontkit';

/** Draws letters as outlines with the fonts that ship: a picture made of them needs no font where it is drawn. */
export function letterOutlines(fonts: SheetFonts): LetterOutlines {
  const faces = new Map<FaceId, readonly Font[]>(
    FACE_IDS.map((face) => [face, FONT_KINDS.map((kind) => create(fonts[face][kind]))]),
  );
  return (text, face) => {
    let x = 0;
    return [...text]
      .map((letter) => {
        const codePoint = letter.codePointAt(0) ?? 0;
        const known = faces.get(face) ?? [];
        const font = known.find((each) => each.hasGlyphForCodePoint(codePoint)) ?? known[0];
        if (!font) return '';
        const glyph = font.glyphForCodePoint(codePoint);
        const scale = 1 / font.unitsPerEm;
        // A font's outlines rise upward, a picture's downward.
        const d = glyph.path.scale(scale, -scale).translate(x, 0).toSVG();
        x += glyph.advanceWidth * scale;
        return d;
      })
      .join('');
  };
}
