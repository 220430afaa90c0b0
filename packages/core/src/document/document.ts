import type { Answer, LoggedCorrection, RepeatTimes, SectionMark } from '../piece/piece.ts';

export const PIECE_FORMAT = 'anchorbeat-piece';
export const PIECE_FORMAT_VERSION = 1;

/** A tempo mark as it is kept in a file: words a director can read. */
export interface TempoMarkDocument {
  readonly at?: string;
  readonly term?: string;
  readonly tempo?: string;
  readonly equivalence?: string;
  readonly returns?: string;
  readonly ramp?: string;
  readonly endsRamp?: true;
}

export interface HoldDocument {
  readonly at?: string;
  readonly kind?: 'breath';
  readonly length: string;
  readonly value?: string;
}

/** A bar as it is kept in a file. `meter` is left out where it stays the same. */
export interface BarDocument {
  readonly meter?: string;
  readonly label?: string | null;
  readonly pickup?: string;
  readonly cutTo?: string;
  readonly rehearsalMark?: string;
  readonly tempo?: readonly TempoMarkDocument[];
  readonly holds?: readonly HoldDocument[];
  readonly startsRepeat?: true;
  readonly endsRepeat?: RepeatTimes;
  readonly ending?: string;
  readonly segno?: true;
  readonly coda?: true;
  readonly toCoda?: true;
  readonly fine?: true;
  readonly jump?: string;
  readonly pulse?: string;
  readonly rhythm?: string;
  readonly answers?: readonly Answer[];
  readonly sections?: readonly SectionMark[];
  readonly note?: string;
  readonly countOff?: CountOffDocument;
}

/** How a bar is counted in; what is left out is as in a plain count-off. */
export interface CountOffDocument {
  readonly bars?: number;
  readonly school?: string;
  readonly style?: string;
  readonly breathOnLastBeat?: true;
  readonly cueWord?: string;
  readonly firstNote?: number;
}

/** The piece format, version 1: what files, the server's revisions and the API carry. */
export interface PieceDocument {
  readonly format: typeof PIECE_FORMAT;
  readonly version: typeof PIECE_FORMAT_VERSION;
  readonly title: string;
  readonly subtitle?: string;
  readonly composer?: string;
  readonly key?: string;
  readonly style?: string;
  readonly sections?: readonly string[];
  readonly corrections?: readonly LoggedCorrection[];
  readonly takesRepeatsAfterJump?: true;
  readonly bars: readonly BarDocument[];
}
