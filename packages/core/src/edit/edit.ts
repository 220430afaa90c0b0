import type { Fraction } from '../fraction/fraction.ts';
import type { Meter } from '../meter/meter.ts';
import type { CountOffSettings } from '../countoff/settings.ts';
import type {
  Bar,
  Hold,
  LoggedCorrection,
  PartialBar,
  Piece,
  PulseChoice,
  SectionMark,
} from '../piece/piece.ts';
import type { Result } from '../problem/problem.ts';
import type { Rhythm } from '../rhythm/rhythm.ts';
import type { TempoMark } from '../tempo/tempoMark.ts';

/** A run of written bars, by index. */
export interface BarSpan {
  readonly from: number;
  readonly count: number;
}

/** Every change a director can make, as plain data. `applyEdit` turns one into a new piece. */
export type Edit =
  | { readonly kind: 'insertBars'; readonly at: number; readonly count: number; readonly meter?: Meter }
  | ({ readonly kind: 'deleteBars' } & BarSpan)
  | ({ readonly kind: 'repeatBars'; readonly times: number } & BarSpan)
  | ({ readonly kind: 'setMeter'; readonly meter: Meter } & BarSpan)
  | { readonly kind: 'setTempoMark'; readonly bar: number; readonly mark: TempoMark }
  | ({ readonly kind: 'clearTempoMarks' } & BarSpan)
  | { readonly kind: 'setPickup'; readonly bar: number; readonly lengthWholes: Fraction | null }
  | { readonly kind: 'setLabel'; readonly bar: number; readonly label: string | null | undefined }
  | { readonly kind: 'setRehearsalMark'; readonly bar: number; readonly mark: string | undefined }
  | { readonly kind: 'setPartial'; readonly bar: number; readonly partial: PartialBar | undefined }
  | ({ readonly kind: 'setPulse'; readonly pulse: PulseChoice | undefined } & BarSpan)
  | { readonly kind: 'setPulseOnward'; readonly from: number; readonly pulse: PulseChoice }
  | { readonly kind: 'setRhythm'; readonly bar: number; readonly rhythm: Rhythm | undefined }
  | { readonly kind: 'setHolds'; readonly bar: number; readonly holds: readonly Hold[] }
  | { readonly kind: 'setSigns'; readonly bar: number; readonly signs: RouteSigns }
  | {
      readonly kind: 'answerFinding';
      readonly bar: number;
      readonly check: string;
      readonly reason: string | null;
    }
  | { readonly kind: 'setTitle'; readonly title: string }
  | { readonly kind: 'setHead'; readonly head: PieceHead }
  /** Takes bars out and puts them back before the bar that stands at index `before` now. */
  | ({ readonly kind: 'moveBars'; readonly before: number } & BarSpan)
  /** Everybody rests in these bars. */
  | ({ readonly kind: 'restBars' } & BarSpan)
  /** Null for `does` takes away what was said of the section in this bar. */
  | {
      readonly kind: 'markSection';
      readonly bar: number;
      readonly section: string;
      readonly does: SectionMark['does'] | null;
      readonly says?: string;
    }
  /** A section rests in these bars and enters after them. */
  | ({ readonly kind: 'restSection'; readonly section: string } & BarSpan)
  | { readonly kind: 'setNote'; readonly bar: number; readonly note: string | undefined }
  | { readonly kind: 'setCountOff'; readonly bar: number; readonly countOff: CountOffSettings | undefined }
  /** Puts something right and keeps in the log what it was, why, and who saw it. */
  | { readonly kind: 'correct'; readonly edit: Edit; readonly log: CorrectionNote }
  /** The piece becomes another one as a whole: from a text, a table or an earlier revision. */
  | { readonly kind: 'replacePiece'; readonly piece: Piece; readonly how: string };

/** What of the head of a piece is to be set; an empty text takes it out. */
export interface PieceHead {
  readonly title?: string;
  readonly subtitle?: string;
  readonly composer?: string;
  readonly key?: string;
  readonly style?: string;
  readonly sections?: readonly string[];
}

/** What the director says of a correction; the rest is worked out. */
export type CorrectionNote = Pick<LoggedCorrection, 'why' | 'spottedBy' | 'on'>;

/** Everything at a bar that steers the route: repeats, endings, jumps. */
export type RouteSigns = Pick<Bar, 'startsRepeat' | 'endsRepeat' | 'ending' | 'navigation'>;

/** The piece after an edit, and what the edit did in a musician's words. */
export interface Edited {
  readonly piece: Piece;
  readonly says: string;
}

/** How one kind of edit works: a pure function of the piece, or a refusal with its reason. */
export type EditKind<K extends Edit['kind']> = (
  piece: Piece,
  edit: Extract<Edit, { kind: K }>,
) => Result<Edited>;
