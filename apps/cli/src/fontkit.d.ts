/** The part of fontkit that letters are outlined with. */
declare module 'fontkit' {
  export interface Path {
    scale(x: number, y: number): Path;
    translate(x: number, y: number): Path;
    toSVG(): string;
  }

  export interface Font {
    readonly unitsPerEm: number;
    hasGlyphForCodePoint(codePoint: number): boolean;
    glyphForCodePoint(codePoint: number): { readonly advanceWidth: number; readonly path: Path };
  }

  export function create(bytes: Uint8Array): Font;
}
