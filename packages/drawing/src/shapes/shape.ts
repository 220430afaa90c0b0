/** What a shape is painted with: a meaning, never a colour. Who draws has a palette for it. */
export type Tone =
  | 'ink'
  | 'quiet'
  | 'faint'
  | 'ground'
  | 'hop-fill'
  | 'hop-odd'
  | 'seam'
  | 'carry'
  | 'entry'
  | 'entry-text'
  | 'problem';

type Weight = 400 | 500 | 600 | 700 | 800;

/** SVG path data, in pixels: up is negative, the line stands on y = 0. */
export interface PathShape {
  readonly kind: 'path';
  readonly d: string;
  readonly fill?: Tone;
  readonly stroke?: Tone;
  readonly strokePx?: number;
  /** 0 to 1, of the whole shape. */
  readonly opacity?: number;
  readonly dashPx?: readonly number[];
  readonly hasRoundEnds?: boolean;
}

/** Letters or music signs one after another; `dxPx` and `dyPx` move this part and all that follow. */
export interface TextPart {
  readonly text: string;
  readonly isMusic?: boolean;
  readonly sizePx?: number;
  readonly dxPx?: number;
  readonly dyPx?: number;
  readonly tone?: Tone;
  readonly weight?: Weight;
}

/** Text on its baseline at `y`. */
export interface TextShape {
  readonly kind: 'text';
  readonly x: number;
  readonly y: number;
  readonly parts: readonly TextPart[];
  readonly sizePx: number;
  readonly tone: Tone;
  readonly anchor?: 'start' | 'middle' | 'end';
  readonly weight?: Weight;
  readonly face?: 'text' | 'display';
  readonly isItalic?: boolean;
  /** Ground round the letters, so that they can be read over a line. */
  readonly haloPx?: number;
  /** The whole text, where what is drawn was cut. */
  readonly whole?: string;
}

export type Shape = PathShape | TextShape;

type TextLook = Omit<TextShape, 'kind' | 'x' | 'y' | 'parts'>;

export function path(d: string, look: Omit<PathShape, 'kind' | 'd'>): PathShape {
  return { kind: 'path', d, ...look };
}

/** Plain letters. */
export function words(text: string, x: number, y: number, look: TextLook): TextShape {
  return { kind: 'text', x, y, parts: [{ text }], ...look };
}

/** Letters and music signs in one run. */
export function run(parts: readonly TextPart[], x: number, y: number, look: TextLook): TextShape {
  return { kind: 'text', x, y, parts, ...look };
}
