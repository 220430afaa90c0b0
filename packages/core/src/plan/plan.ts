import type { Spacing } from './spacing.ts';

/** A seam as a plan looks at it. */
export interface SeamToPlan {
  /** Index of the written bar after it. */
  readonly barIndex: number;
  /** "into bar 12" */
  readonly name: string;
  /** How hard it is, 1 to 100. */
  readonly score: number;
  /** Sections that have something to play there; an empty list is everybody. */
  readonly sections: readonly string[];
  /** Fastest good run, of the printed tempo; null where there was none. */
  readonly bestPercent: number | null;
  readonly spacing: Spacing;
}

/** A piece of the programme, in its order. */
export interface PieceToPlan {
  readonly pieceId: string;
  readonly title: string;
  readonly lengthSeconds: number;
  /** Of the printed tempo, for the concert. */
  readonly goalPercent: number;
  /** Of the printed tempo, for this rehearsal: nothing is begun or played faster; null where the plan finds it. */
  readonly practicePercent: number | null;
  /** When it was last played from end to end, as far as the log knows. */
  readonly lastWholeAtMs: number | null;
  readonly seams: readonly SeamToPlan[];
}

/** What weighs how much; all can be changed. */
export interface PlanWeights {
  /** The longest that one place is worked on, in minutes. */
  readonly mostMinutesAPlace: number;
  /** After so many minutes of playing everybody rests; 0 for no rests. */
  readonly restEveryMinutes: number;
  readonly restMinutes: number;
  readonly warmUpMinutes: number;
  /** Share of the time that playing whole pieces may take at the end. */
  readonly wholeShare: number;
  /** How much a hard place goes before an easy one: 0 not at all, 1 as usual. */
  readonly difficulty: number;
}

export const PLAIN_WEIGHTS: PlanWeights = {
  mostMinutesAPlace: 6,
  restEveryMinutes: 25,
  restMinutes: 2,
  warmUpMinutes: 3,
  wholeShare: 0.35,
  difficulty: 1,
};

/** Within what a weight may be set. */
export const WEIGHT_LIMITS: Readonly<
  Record<keyof PlanWeights, { readonly least: number; readonly most: number }>
> = {
  mostMinutesAPlace: { least: 1, most: 60 },
  restEveryMinutes: { least: 0, most: 180 },
  restMinutes: { least: 1, most: 30 },
  warmUpMinutes: { least: 0, most: 30 },
  wholeShare: { least: 0, most: 0.9 },
  difficulty: { least: 0, most: 3 },
};

/** What the director wants otherwise. Items go by their keys. */
export interface PlanWishes {
  /** Always there, whatever else would gain more. */
  readonly pinned: readonly string[];
  readonly skipped: readonly string[];
  /** In this order, before all others. */
  readonly order: readonly string[];
  /** Minutes of an item, as wanted. */
  readonly minutes: Readonly<Record<string, number>>;
}

/** No plan has more items, and none is longer. */
export const MOST_PLAN_ITEMS = 500;
export const MOST_PLAN_MINUTES = 720;

export const NO_WISHES: PlanWishes = { pinned: [], skipped: [], order: [], minutes: {} };

/** What came before the minutes that are planned: nothing, or the first part of the same rehearsal. */
export interface AlreadyPlayed {
  /** Minutes of playing since the last rest. */
  readonly sinceRestMinutes: number;
  readonly rests: number;
  /** Of all there was, and of playing whole pieces. */
  readonly minutes: number;
  readonly wholeMinutes: number;
}

export const NOTHING_PLAYED: AlreadyPlayed = { sinceRestMinutes: 0, rests: 0, minutes: 0, wholeMinutes: 0 };

export interface PlanRequest {
  readonly minutes: number;
  readonly already: AlreadyPlayed;
  /** When the rehearsal begins. */
  readonly atMs: number;
  readonly concertAtMs: number | null;
  /** Rehearsals up to the concert, this one among them. */
  readonly rehearsalsLeft: number;
  /** Sections that are there; null for all. */
  readonly present: readonly string[] | null;
  readonly pieces: readonly PieceToPlan[];
  readonly weights: PlanWeights;
  readonly wishes: PlanWishes;
}

type PlanItemKind = 'warm-up' | 'place' | 'rest' | 'whole';

/** A stretch of a rehearsal. */
export interface PlanItem {
  /** The same for the same work, from plan to plan. */
  readonly key: string;
  readonly kind: PlanItemKind;
  readonly pieceId: string | null;
  /** Seams that are worked on together, by the written bar after each; the hardest first. */
  readonly bars: readonly number[];
  readonly title: string;
  readonly startMinute: number;
  readonly minutes: number;
  /** Of the printed tempo: the rung to begin from. */
  readonly percent: number;
  /** Why it is there, in words. */
  readonly why: readonly string[];
  readonly isPinned: boolean;
}

/** What is done in a rehearsal, in order. */
export interface Plan {
  readonly items: readonly PlanItem[];
  /** Minutes that nothing is planned for. */
  readonly minutesLeft: number;
  /** What will not be ready by the concert at this rate: how many places, of how many. */
  readonly outOfReach: { readonly places: number; readonly of: number } | null;
  /** Of what is left out today, the two places that would gain most. */
  readonly next: readonly string[];
}
