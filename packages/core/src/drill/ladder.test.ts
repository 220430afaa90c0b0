import { expect, test } from '@jest/globals';
import { PLAIN_DRILL } from './drill.ts';
import {
  afterMark,
  ladderProblemMaybe,
  LADDER_START,
  PLAIN_LADDER,
  rungsOf,
  type LadderPlan,
  type LadderRule,
  type Mark,
} from './ladder.ts';

const ground = {
  printedBpm: 120,
  phrase: { before: 5, after: 6 },
  sections: ['Reeds', 'Drums'],
  drill: PLAIN_DRILL,
};
const told = (changes: Partial<LadderPlan>) =>
  rungsOf({ ...PLAIN_LADDER, ...changes }, ground).map(
    ({ percent, click, context, sections }) =>
      `${+percent.toFixed(2)} ${click} ${context.before}+${context.after}${sections.length > 0 ? ` ${sections.join(' ')}` : ''}`,
  );

test.each<[string, Partial<LadderPlan>, string[]]>([
  [
    'tempo by percent, the last step cut to the goal',
    { stages: ['tempo'], startPercent: 70, goalPercent: 100, step: { by: 'percent', size: 20 } },
    ['70 pulse 2+2', '90 pulse 2+2', '100 pulse 2+2'],
  ],
  [
    'tempo by beats a minute',
    { stages: ['tempo'], startPercent: 80, goalPercent: 100, step: { by: 'bpm', size: 12 } },
    ['80 pulse 2+2', '90 pulse 2+2', '100 pulse 2+2'],
  ],
  [
    'the carry, the pulse, then less and less',
    { stages: ['click'] },
    ['100 carry 2+2', '100 pulse 2+2', '100 until the seam 2+2', '100 anchor only 2+2'],
  ],
  ['wider and wider', { stages: ['context'] }, ['100 pulse 1+1', '100 pulse 2+2', '100 pulse 5+6']],
  [
    'two tempi in turn',
    { stages: ['two tempi'], startPercent: 50 },
    ['50 pulse 2+2', '100 pulse 2+2', '50 pulse 2+2', '100 pulse 2+2'],
  ],
  [
    'sections one by one, then together',
    { stages: ['sections'] },
    ['100 pulse 2+2 Reeds', '100 pulse 2+2 Drums', '100 pulse 2+2'],
  ],
  [
    'one stage after another',
    { stages: ['tempo', 'click', 'context'], startPercent: 80, step: { by: 'percent', size: 20 } },
    [
      '80 carry 1+1',
      '100 carry 1+1',
      '100 pulse 1+1',
      '100 until the seam 1+1',
      '100 anchor only 1+1',
      '100 anchor only 2+2',
      '100 anchor only 5+6',
    ],
  ],
  ['a start above its goal is the goal', { stages: ['tempo'], startPercent: 120 }, ['100 pulse 2+2']],
  ['nothing to climb by', { stages: [] }, ['100 pulse 2+2']],
])('%s', (_name, changes, expected) => {
  expect(told(changes)).toEqual(expected);
});

test.each<[Partial<LadderPlan>, string | null]>([
  [{}, null],
  [{ startPercent: 120 }, 'It starts at 120 %, above its goal of 100 %: start at the goal or below it'],
  [{ startPercent: 120, stages: ['click'] }, null],
  [
    { startPercent: 25, step: { by: 'percent', size: 0.5 } },
    'That makes 156 rungs and a ladder has 60: a step of 1.5 % or more fits',
  ],
  [
    { stages: ['tempo'], startPercent: 50, step: { by: 'bpm', size: 0.5 } },
    'That makes 121 rungs and a ladder has 60: a step of 1.5 beats a minute or more fits',
  ],
])('what a ladder cannot keep of %j is told', (changes, problem) => {
  expect(ladderProblemMaybe({ ...PLAIN_LADDER, ...changes }, ground)).toBe(problem);
});

test('the step that is offered fits', () => {
  for (let start = 20; start < 100; start += 7)
    for (const by of ['percent', 'bpm'] as const) {
      const plan: LadderPlan = { ...PLAIN_LADDER, startPercent: start, step: { by, size: 0.5 } };
      const offered = /a step of ([\d.]+)/.exec(ladderProblemMaybe(plan, ground) ?? '')?.[1];
      if (offered)
        expect(ladderProblemMaybe({ ...plan, step: { by, size: Number(offered) } }, ground)).toBeNull();
    }
});

test('never more than sixty rungs, however small the step', () => {
  const rungs = rungsOf({ ...PLAIN_LADDER, startPercent: 25, step: { by: 'bpm', size: 0 } }, ground);
  expect(rungs).toHaveLength(60);
});

test.each<[LadderRule, string, string]>([
  ['each good', 'ggg', '1 2 2done'],
  ['each good', 'gaagg', '1 1 0 1 2'],
  ['three good', 'gggggg', '0 0 1 1 1 2'],
  ['three good', 'ggaggg', '0 0 0 0 0 1'],
  ['three good', 'gggaaa', '0 0 1 1 0 0'],
  ['three good', 'gggagag', '0 0 1 1 1 1 1'],
])('%s: marks %s', (rule, marks, expected) => {
  let state = LADDER_START;
  const places = [...marks].map((letter) => {
    const mark: Mark = letter === 'g' ? 'good' : 'again';
    state = afterMark(3, rule, state, mark);
    return `${state.rung}${state.isDone ? 'done' : ''}`;
  });
  expect(places.join(' ')).toBe(expected);
});
