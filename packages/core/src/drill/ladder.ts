import { FASTEST_PERCENT, SLOWEST_PERCENT } from '../run/settings.ts';
import { sectionsOf } from '../section/sections.ts';
import type { Proof } from '../proof/proof.ts';
import { printedBpmMaybe, type DrillClick, type DrillSettings } from './drill.ts';
import { performedOfPlaceMaybe, phraseAround, type DrillContext, type DrillPlace } from './place.ts';

/** What a ladder climbs by, one after another, each keeping what the last one reached. */
export const LADDER_STAGES = ['tempo', 'click', 'context', 'two tempi', 'sections'] as const;
export type LadderStage = (typeof LADDER_STAGES)[number];

/** When a mark moves: on every good run, or three good in a row go up and two bad in a row go down. */
export const LADDER_RULES = ['each good', 'three good'] as const;
export type LadderRule = (typeof LADDER_RULES)[number];

interface LadderStep {
  readonly by: 'percent' | 'bpm';
  readonly size: number;
}

export interface LadderPlan {
  readonly startPercent: number;
  readonly goalPercent: number;
  readonly step: LadderStep;
  readonly rule: LadderRule;
  readonly stages: readonly LadderStage[];
}

export const PLAIN_LADDER: LadderPlan = {
  startPercent: 60,
  goalPercent: 100,
  step: { by: 'percent', size: 10 },
  rule: 'each good',
  stages: ['tempo', 'click', 'context'],
};

/** One rung: how the place is run there, and who plays. An empty list of sections is everybody. */
export interface Rung {
  readonly stage: LadderStage;
  readonly percent: number;
  readonly click: DrillClick;
  readonly context: DrillContext;
  readonly sections: readonly string[];
}

/** What the rungs of a place are worked out from. */
export interface LadderGround {
  /** Beats per minute as printed at the place. */
  readonly printedBpm: number;
  readonly phrase: DrillContext;
  readonly sections: readonly string[];
  readonly drill: DrillSettings;
}

const MOST_RUNGS = 60;
const SMALLEST_STEP = 0.5;

/** The rungs of a ladder, lowest first; never none, never more than sixty: `ladderProblemMaybe` says where that leaves some out. */
export function rungsOf(plan: LadderPlan, ground: LadderGround): readonly Rung[] {
  return allRungs(plan, ground).slice(0, MOST_RUNGS);
}

/**
 * What a ladder cannot keep of its plan, in a sentence that says what to do; null where it keeps all. A start above the goal
 * leaves nothing to climb, a small step more rungs than a ladder has.
 */
export function ladderProblemMaybe(plan: LadderPlan, ground: LadderGround): string | null {
  const climbs = plan.stages.some((stage) => stage === 'tempo' || stage === 'two tempi');
  if (climbs && plan.startPercent > plan.goalPercent)
    return `It starts at ${shown(plan.startPercent)} %, above its goal of ${shown(plan.goalPercent)} %: start at the goal or below it`;
  const rungs = allRungs(plan, ground);
  if (rungs.length <= MOST_RUNGS) return null;
  const others = rungs.filter(({ stage }) => stage !== 'tempo').length;
  if (others >= MOST_RUNGS - 1)
    return `That makes ${rungs.length} rungs and a ladder has ${MOST_RUNGS}: leave a stage out`;
  const climbed =
    (plan.goalPercent - plan.startPercent) * (plan.step.by === 'bpm' ? ground.printedBpm / 100 : 1);
  const least = Math.ceil((2 * climbed) / (MOST_RUNGS - 1 - others)) / 2;
  return `That makes ${rungs.length} rungs and a ladder has ${MOST_RUNGS}: a step of ${shown(least)} ${plan.step.by === 'bpm' ? 'beats a minute' : '%'} or more fits`;
}

function shown(value: number): string {
  return String(Math.round(value * 10) / 10);
}

function allRungs(plan: LadderPlan, ground: LadderGround): readonly Rung[] {
  const has = (stage: LadderStage) => plan.stages.includes(stage);
  const goal = inReach(plan.goalPercent);
  const narrow = has('context') ? { before: 1, after: 1 } : ground.drill.context;
  const lowest: Rung = {
    stage: 'tempo',
    percent: has('tempo') ? inReach(Math.min(plan.startPercent, goal)) : goal,
    click: has('click') ? 'carry' : ground.drill.click,
    context: narrow,
    sections: [],
  };
  const rungs: Rung[] = [];
  let last = lowest;
  const climb = (stage: LadderStage, changes: readonly Partial<Rung>[]) => {
    for (const change of changes) {
      last = { ...last, stage, ...change };
      rungs.push(last);
    }
  };
  if (has('tempo')) climb('tempo', tempiOf(plan, lowest.percent, goal, ground.printedBpm));
  else if (has('click')) climb('click', [{}]);
  if (has('click'))
    climb(
      'click',
      FADING.map((click) => ({ click })),
    );
  if (has('context')) climb('context', widerThan(narrow, ground.phrase, rungs.length === 0));
  if (has('two tempi')) climb('two tempi', alternating(inReach(plan.startPercent), goal));
  if (has('sections')) climb('sections', oneByOne(ground.sections));
  return rungs.length > 0 ? rungs : [lowest];
}

/** The rungs of a place of a piece. */
export function ladderOf(
  proof: Proof,
  place: DrillPlace,
  plan: LadderPlan,
  drill: DrillSettings,
): readonly Rung[] {
  return rungsOf(plan, ladderGround(proof, place, drill));
}

/** What a place of a piece gives a ladder to be worked out from. */
export function ladderGround(proof: Proof, place: DrillPlace, drill: DrillSettings): LadderGround {
  return {
    printedBpm: printedBpmMaybe(proof, place) ?? 100,
    phrase: phraseAround(proof, performedOfPlaceMaybe(proof.compiled, place) ?? 0),
    sections: sectionsOf(proof.piece),
    drill,
  };
}

/** After the carry, the pulse; then nothing from the seam on; then only where everyone must land. */
const FADING: readonly DrillClick[] = ['pulse', 'until the seam', 'anchor only'];

function inReach(percent: number): number {
  return Math.min(Math.max(percent, SLOWEST_PERCENT), FASTEST_PERCENT);
}

/** From the start to the goal, the last step cut to end there. */
function tempiOf(
  { step }: LadderPlan,
  start: number,
  goal: number,
  printedBpm: number,
): ReadonlyArray<Pick<Rung, 'percent'>> {
  const size = Math.max(step.size, SMALLEST_STEP) * (step.by === 'bpm' ? 100 / printedBpm : 1);
  const count = Math.ceil((goal - start) / size - 1e-9);
  const climbing = Array.from({ length: Math.max(0, count) }, (_, index) => ({
    percent: start + index * size,
  }));
  return [...climbing, { percent: goal }];
}

/** The seam alone, two bars either side, the whole phrase. */
function widerThan(
  narrow: DrillContext,
  phrase: DrillContext,
  isFirst: boolean,
): ReadonlyArray<Pick<Rung, 'context'>> {
  const widths = [narrow, { before: 2, after: 2 }, phrase];
  const grown = widths.filter(
    ({ before, after }, index) =>
      index === 0 ||
      widths.slice(0, index).every((earlier) => before + after > earlier.before + earlier.after),
  );
  return grown.slice(isFirst ? 0 : 1).map((context) => ({ context }));
}

function alternating(slow: number, goal: number): ReadonlyArray<Pick<Rung, 'percent'>> {
  return [slow, goal, slow, goal].map((percent) => ({ percent }));
}

function oneByOne(sections: readonly string[]): ReadonlyArray<Pick<Rung, 'sections'>> {
  if (sections.length === 0) return [];
  return [...sections.map((section) => ({ sections: [section] })), { sections: [] }];
}

export type Mark = 'good' | 'again';

/** Where one stands on a ladder. */
export interface LadderState {
  readonly rung: number;
  /** Good runs in a row on this rung; bad ones count below zero. */
  readonly streak: number;
  readonly isDone: boolean;
}

export const LADDER_START: LadderState = { rung: 0, streak: 0, isDone: false };

const GOOD_IN_A_ROW = 3;
const BAD_IN_A_ROW = 2;

/** Where one stands after a run was marked. Up past the last rung the ladder is done; two bad in a row go down one. */
export function afterMark(rungCount: number, rule: LadderRule, state: LadderState, mark: Mark): LadderState {
  if (state.isDone) return state;
  const streak = mark === 'good' ? Math.max(0, state.streak) + 1 : Math.min(0, state.streak) - 1;
  if (streak >= (rule === 'each good' ? 1 : GOOD_IN_A_ROW)) {
    const isLast = state.rung >= rungCount - 1;
    return { rung: isLast ? state.rung : state.rung + 1, streak: 0, isDone: isLast };
  }
  if (streak <= -BAD_IN_A_ROW) return { rung: Math.max(0, state.rung - 1), streak: 0, isDone: false };
  return { ...state, streak };
}

/** The drill that a rung runs. */
export function drillOnRung(drill: DrillSettings, { percent, click, context }: Rung): DrillSettings {
  return { ...drill, percent, click, context };
}
