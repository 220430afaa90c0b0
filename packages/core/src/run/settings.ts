/** What the click falls on. The carry sounds through a seam, over the bar before it and the bar after, under the pulse. */
export const CLICK_CHOICES = ['pulse', 'subdivision', 'downbeats', 'anchors', 'carry', 'nothing'] as const;
export type ClickChoice = (typeof CLICK_CHOICES)[number];

/** How the click drops out, to find out whether the inner pulse goes on. Counted in performed bars from the entry. */
export type Fade =
  | { readonly kind: 'bars'; readonly on: number; readonly off: number }
  /** Silent in bars that are a little shorter or longer than their neighbours. */
  | { readonly kind: 'odd bars' }
  /** All beats, then groups, then downbeats, then nothing, so many bars each, and over again. */
  | { readonly kind: 'fewer'; readonly bars: number };

/** Performed bars `from` up to `to` (exclusive). */
export interface PerformedSpan {
  readonly from: number;
  readonly to: number;
}

/** Bars in which the click falls on something else than in the others. */
export interface ClickSpan extends PerformedSpan {
  readonly clickOn: ClickChoice;
}

/** A run has no more spans of a kind than this. */
export const MOST_SPANS = 64;

/** The count is spoken nowhere, before the music, or all through it. */
export const SPOKEN_CHOICES = ['nothing', 'count-off', 'everything'] as const;
export type SpokenChoice = (typeof SPOKEN_CHOICES)[number];

/** How a run is wanted. Everything may change while it sounds. */
export interface RunSettings {
  /** Of the printed tempi: equivalences stay what they are. */
  readonly percent: number;
  readonly clickOn: ClickChoice;
  /** Bars that have a click of their own; of several over one bar the last. */
  readonly clickSpans: readonly ClickSpan[];
  /** Bars that are left out today, in order and apart. Where one begins inside a span, or goes round it, it is played. */
  readonly leftOut: readonly PerformedSpan[];
  readonly fade: Fade | null;
  /** Taken again and again until the loop is lifted. */
  readonly loop: PerformedSpan | null;
  /** So many equal notes laid over every bar; null where none are. */
  readonly overlay: number | null;
  /** What is counted aloud. */
  readonly spoken: SpokenChoice;
  /** Counts off before each round, or goes round without a gap. */
  readonly countsEachRound: boolean;
  /** Times round the loop before the run ends; null for as long as it is wanted. */
  readonly rounds: number | null;
  /** The seam that is being drilled, by its performed bar: only its carry and its anchor sound. Null for every seam. */
  readonly seamAt: number | null;
  /** Sounds the written rhythm of every bar that has one. */
  readonly soundsRhythm: boolean;
}

export const SLOWEST_PERCENT = 25;
export const FASTEST_PERCENT = 150;

export const PLAIN_RUN: RunSettings = {
  percent: 100,
  clickOn: 'pulse',
  clickSpans: [],
  leftOut: [],
  fade: null,
  loop: null,
  overlay: null,
  spoken: 'count-off',
  countsEachRound: false,
  rounds: null,
  seamAt: null,
  soundsRhythm: false,
};
