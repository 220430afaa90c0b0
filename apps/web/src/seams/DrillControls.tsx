import { DRILL_CLICKS } from '@anchorbeat/core';
import { nextOf } from '../ui/nextOf.ts';
import { drillAct, markActs, runAct, tempoActs } from './drillActs.ts';
import { ActButton, ActHint } from '../acts/ActButton.tsx';
import { useActs } from '../acts/ActsContext.tsx';
import type { Drilling } from './useDrill.ts';

const ROUNDS: ReadonlyArray<number | null> = [null, 1, 3, 5, 10];

interface DrillControlsProps {
  readonly drilling: Drilling;
  /** A seam needs a bar on either side. */
  readonly fewestContext: 0 | 1;
  readonly name: string;
}

/** The one-key drill: run it, wider or narrower, slower or faster, with what clicks, and its mark. */
export function DrillControls({ drilling, fewestContext, name }: DrillControlsProps) {
  const { drill, change, isRunning } = drilling;
  const { before, after } = drill.context;
  const widen = (by: number) =>
    change({
      context: { before: Math.max(fewestContext, before + by), after: Math.max(fewestContext, after + by) },
    });
  const acts = {
    run: runAct(isRunning, name, () => (isRunning ? drilling.stop() : void drilling.start())),
    fewer: drillAct('fewer', '-', 'fewer bars around it', () => widen(-1), { label: '', alsoKeys: ['−'] }),
    more: drillAct('more', '+', 'more bars around it', () => widen(1), {
      state: before === after ? `${before} either side` : `${before} before, ${after} after`,
    }),
    ...tempoActs(drilling),
    click: drillAct('click', 'c', 'what clicks', () => change({ click: nextOf(DRILL_CLICKS, drill.click) }), {
      state: `click: ${drill.click}`,
    }),
    rounds: drillAct(
      'rounds',
      'u',
      'how many times',
      () => change({ rounds: nextOf(ROUNDS, drill.rounds) }),
      {
        state: roundsWords(drill.rounds),
      },
    ),
    ...markActs(drilling.mark),
  };
  useActs('view', Object.values(acts));
  return (
    <div className="flex flex-wrap items-center gap-x-2.5 gap-y-1.5">
      <ActButton act={acts.run} filled />
      {[acts.fewer, acts.more, acts.slower, acts.faster, acts.click, acts.rounds].map((act) => (
        <ActHint key={act.id} act={act} />
      ))}
      <span className="flex basis-full items-center gap-2.5">
        <ActHint act={acts.good} />
        <ActHint act={acts.again} />
        <LastMark drilling={drilling} />
      </span>
    </div>
  );
}

function roundsWords(rounds: number | null): string {
  if (rounds === null) return 'round and round';
  return rounds === 1 ? 'once' : `${rounds} times`;
}

/** What the log says of the last run. */
function LastMark({ drilling: { last, isRunning } }: { readonly drilling: Drilling }) {
  if (!last || isRunning) return null;
  return (
    <span role="status" className="text-[0.9rem] text-quiet">
      logged at {Math.round(last.percent)} %{last.mark && `: ${last.mark}`}
    </span>
  );
}
