import type { RunPlan } from './runPlan.ts';

/** A run with something said before its count-off, which begins so many seconds later. */
export function calledRun(plan: RunPlan, word: string, callSeconds: number): RunPlan {
  return {
    ...plan,
    clicks: [
      { timeSeconds: 0, kind: 'countoff', word, roomSeconds: callSeconds },
      ...plan.clicks.map((click) => ({ ...click, timeSeconds: click.timeSeconds + callSeconds })),
    ],
    stretches: plan.stretches.map((stretch) => ({
      ...stretch,
      runSeconds: stretch.runSeconds + callSeconds,
    })),
    lengthSeconds: plan.lengthSeconds + callSeconds,
  };
}
