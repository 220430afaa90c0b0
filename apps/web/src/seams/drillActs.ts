import type { Mark } from '@anchorbeat/core';
import type { Act } from '../acts/act.ts';
import type { Drilling } from './useDrill.ts';

const PERCENT_STEP = 5;
const GROUP = 'Drill';

/** An act of the place that is being looked at. */
export function drillAct(
  id: string,
  key: string,
  name: string,
  does: () => void,
  more: Partial<Act> = {},
): Act {
  return { id: `drill.${id}`, key, name, group: GROUP, does, ...more };
}

/** Starts what is looked at, or stops what sounds: one key everywhere. */
export function runAct(isRunning: boolean, name: string, toggle: () => void): Act {
  return drillAct('run', ' ', name, toggle, { label: isRunning ? 'Stop' : name });
}

/** Slower and faster; the label of the one tells the tempo. */
export function tempoActs({ drill, change }: Drilling): Readonly<Record<'slower' | 'faster', Act>> {
  const by = (percent: number) => () => change({ percent: drill.percent + percent });
  return {
    slower: drillAct('slower', '[', `slower by ${PERCENT_STEP} %`, by(-PERCENT_STEP), { label: '' }),
    faster: drillAct('faster', ']', `faster by ${PERCENT_STEP} %`, by(PERCENT_STEP), {
      state: `${Math.round(drill.percent)} %`,
    }),
  };
}

/** What a run was: good, or again; the right pedal and the left one. */
export function markActs(mark: (mark: Mark) => void): Readonly<Record<Mark, Act>> {
  return {
    good: drillAct('good', 'g', 'good', () => mark('good'), { pedal: 'right pedal' }),
    again: drillAct('again', 'a', 'again', () => mark('again'), { pedal: 'left pedal' }),
  };
}
