import {
  FASTEST_PERCENT,
  PLAIN_DRILL,
  PLAIN_LADDER,
  SLOWEST_PERCENT,
  type DrillSettings,
  type DrillWay,
  type LadderPlan,
  type Remedy,
  type SeamKind,
} from '@anchorbeat/core';
import { nextOf } from '../ui/nextOf.ts';
import type { OpenDrill } from './useKeptDrills.ts';
import { ORDERS, REHEARSED, type SeamWishes } from './seamWishes.ts';
import type { SeamView } from './views.ts';

/** What is looked at among the seams, and how it is drilled. */
export interface SeamsState {
  readonly wishes: SeamWishes;
  /** The written bar of the seam that was chosen; null for the first that is shown. */
  readonly chosenBar: number | null;
  readonly view: SeamView;
  readonly drill: DrillSettings;
  readonly ladder: LadderPlan;
  readonly way: DrillWay;
}

const FIRST_WISHES: SeamWishes = {
  order: 'worst first',
  kind: null,
  section: null,
  rehearsed: 'rehearsed or not',
};

/** How one comes here to work against what a take showed. */
const REMEDIES: Readonly<Record<string, Partial<SeamsState>>> = {
  trainer: { view: 'trainer' },
  off: { view: 'off' },
  carry: { drill: { ...PLAIN_DRILL, click: 'carry' } },
  slower: { drill: { ...PLAIN_DRILL, click: 'subdivision', percent: 80 } },
  again: { drill: { ...PLAIN_DRILL, click: 'until the seam' } },
} satisfies Readonly<Record<Exclude<Remedy, 'none'>, Partial<SeamsState>>>;

export const FIRST_SEAMS: SeamsState = {
  wishes: FIRST_WISHES,
  chosenBar: null,
  view: 'card',
  drill: PLAIN_DRILL,
  ladder: PLAIN_LADDER,
  way: 'speak',
};

export type SeamsAction =
  | { readonly kind: 'chosen'; readonly bar: number }
  | { readonly kind: 'viewed'; readonly view: SeamView }
  | { readonly kind: 'drillSet'; readonly drill: DrillSettings }
  | { readonly kind: 'ladderSet'; readonly ladder: LadderPlan }
  | { readonly kind: 'waySet'; readonly way: DrillWay }
  | { readonly kind: 'nextOrder' }
  /** `kinds` are those that the piece has. */
  | { readonly kind: 'nextKind'; readonly kinds: readonly SeamKind[] }
  | { readonly kind: 'nextSection'; readonly sections: readonly string[] }
  | { readonly kind: 'nextRehearsed' }
  /** What helps against a mistake is looked at; a word that is none changes nothing. */
  | { readonly kind: 'remedied'; readonly remedy: string; readonly percent: number | null }
  /** A kept drill as it was; `bar` is where its place is now. */
  | { readonly kind: 'opened'; readonly drill: OpenDrill; readonly bar: number };

export function seamsAfter(state: SeamsState, action: SeamsAction): SeamsState {
  const wish = (changes: Partial<SeamWishes>) => ({ ...state, wishes: { ...state.wishes, ...changes } });
  switch (action.kind) {
    case 'chosen':
      return { ...state, chosenBar: action.bar };
    case 'viewed':
      return { ...state, view: action.view };
    case 'drillSet':
      return { ...state, drill: action.drill };
    case 'ladderSet':
      return { ...state, ladder: action.ladder };
    case 'waySet':
      return { ...state, way: action.way };
    case 'nextOrder':
      return wish({ order: nextOf(ORDERS, state.wishes.order) });
    case 'nextKind':
      return wish({ kind: nextOf([null, ...action.kinds], state.wishes.kind) });
    case 'nextSection':
      return wish({ section: nextOf([null, ...action.sections], state.wishes.section) });
    case 'nextRehearsed':
      return wish({ rehearsed: nextOf(REHEARSED, state.wishes.rehearsed) });
    case 'remedied':
      return remedied(state, action.remedy, action.percent);
    case 'opened':
      return opened(state, action.drill, action.bar);
  }
}

function remedied(state: SeamsState, remedy: string, percent: number | null): SeamsState {
  const next: SeamsState = { ...state, view: 'card', ...REMEDIES[remedy] };
  if (percent === null) return next;
  const reachable = Math.min(Math.max(percent, SLOWEST_PERCENT), FASTEST_PERCENT);
  return { ...next, drill: { ...next.drill, percent: reachable } };
}

/** Filters that would hide the seam of a kept drill are lifted. */
function opened({ wishes }: SeamsState, { drill, ladder, way, place }: OpenDrill, bar: number): SeamsState {
  return {
    wishes: place.kind === 'seam' ? { ...FIRST_WISHES, order: wishes.order } : wishes,
    chosenBar: bar,
    view: ladder ? 'ladder' : way === 'play' ? 'card' : 'off',
    drill,
    ladder: ladder ?? PLAIN_LADDER,
    way: way === 'play' ? 'speak' : way,
  };
}
