const PAPERS = { A4: [595.28, 841.89], Letter: [612, 792] } as const;
export type Paper = keyof typeof PAPERS;
export const PAPER_NAMES = Object.keys(PAPERS) as readonly Paper[];

/** How the pulse is printed: as hops, as slashes, or only as the words of the count. */
export const PULSE_DRAWINGS = ['hops', 'slashes', 'counts'] as const;
export type PulseDrawing = (typeof PULSE_DRAWINGS)[number];

export const TYPE_SIZES = ['usual', 'big'] as const;
export type TypeSize = (typeof TYPE_SIZES)[number];

/** What may be chosen of a sheet. */
export interface SheetSettings {
  readonly paper: Paper;
  readonly isSideways: boolean;
  /** Big is for a dim hall and for poor eyes. */
  readonly type: TypeSize;
  readonly pulse: PulseDrawing;
  /** Id of the school it is counted in. */
  readonly countSchool: string;
  /** For whom it is; null for the director, with every section. */
  readonly section: string | null;
  /** Written bars `from` up to `to` (exclusive), from 0. */
  readonly from: number;
  readonly to: number;
  readonly hasRoomToWrite: boolean;
  readonly twoToAPage: boolean;
}

export const PLAIN_SHEET: SheetSettings = {
  paper: 'A4',
  isSideways: false,
  type: 'usual',
  pulse: 'hops',
  countSchool: 'odd-shown',
  section: null,
  from: 0,
  to: Infinity,
  hasRoomToWrite: false,
  twoToAPage: false,
};

/** Points a pixel of a drawing: counts of 14 px are set in 10 or 14 points. */
export function drawingScale(type: TypeSize): number {
  return type === 'big' ? 1.02 : 0.72;
}

const MARGIN_PT = 36;

/** A page and what of it may be written on, in points. */
export interface PageFrame {
  readonly widthPt: number;
  readonly heightPt: number;
  readonly marginPt: number;
  readonly bodyWidthPt: number;
}

export function frameOf({ paper, isSideways }: SheetSettings): PageFrame {
  const [short, long] = PAPERS[paper];
  const [widthPt, heightPt] = isSideways ? [long, short] : [short, long];
  return { widthPt, heightPt, marginPt: MARGIN_PT, bodyWidthPt: widthPt - 2 * MARGIN_PT };
}
