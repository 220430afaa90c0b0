import {
  afterMark,
  drillOnRung,
  ladderGround,
  LADDER_START,
  ladderOf,
  ladderProblemMaybe,
  type LadderPlan,
  type LadderState,
  type Mark,
  type Rung,
} from '@anchorbeat/core';
import { useEffect, useMemo, useRef, useState } from 'react';
import { useProof } from '../piece/PieceLayout.tsx';
import { drillAct, markActs, runAct } from './drillActs.ts';
import { LadderForm } from './LadderForm.tsx';
import type { Target } from './target.ts';
import { ActButton, ActHint } from '../acts/ActButton.tsx';
import { useActs } from '../acts/ActsContext.tsx';
import type { Drilling } from './useDrill.ts';

interface LadderViewProps {
  readonly target: Target;
  readonly drilling: Drilling;
  readonly plan: LadderPlan;
  readonly onPlan: (plan: LadderPlan) => void;
}

/** Climbs to the tempo rung by rung: one key for good, one for again, and the next rung begins by itself. */
export function LadderView({ target, drilling, plan, onPlan }: LadderViewProps) {
  const { rungs, problem } = useRungs(target, drilling, plan);
  const [state, setState] = useState<LadderState>(LADDER_START);
  const rung = rungs[Math.min(state.rung, rungs.length - 1)] as Rung;
  const climb = (on: Rung) =>
    void drilling.start({
      drill: drillOnRung(drilling.drill, on),
      sections: on.sections,
      goalPercent: plan.goalPercent,
    });
  const mark = (as: Mark) => {
    if (state.isDone) return;
    const wasRunning = drilling.isRunning;
    // A run that was stopped may still be marked, once.
    if (!wasRunning && drilling.last?.mark !== null) return;
    drilling.mark(as);
    const next = afterMark(rungs.length, plan.rule, state, as);
    setState(next);
    const on = rungs[next.rung];
    if (wasRunning && !next.isDone && on) climb(on);
  };
  const goTo = (to: number) => {
    if (drilling.isRunning) drilling.stop();
    setState({ ...LADDER_START, rung: Math.min(Math.max(to, 0), rungs.length - 1) });
  };
  const acts = {
    run: runAct(drilling.isRunning, 'Run this rung', () =>
      drilling.isRunning ? drilling.stop() : climb(rung),
    ),
    ...markActs(mark),
    lower: drillAct('lower', 'ArrowLeft', 'a rung lower', () => goTo(state.rung - 1), { label: '' }),
    higher: drillAct('higher', 'ArrowRight', 'a rung higher', () => goTo(state.rung + 1), { label: 'rung' }),
  };
  useActs('view', Object.values(acts));
  return (
    <section aria-label="Ladder" className="grid gap-6 @5xl:grid-cols-[minmax(0,1fr)_15.5rem]">
      <div>
        <p className="text-quiet">{state.isDone ? 'Climbed' : `Rung ${state.rung + 1} of ${rungs.length}`}</p>
        <p className="numeral text-[5rem] leading-[1.05] font-extrabold" data-testid="rung-percent">
          {round(rung.percent)} %
        </p>
        <p className="text-2xl">{rungWords(rung)}</p>
        <p className="mt-1 h-6 text-quiet" role="status">
          {state.isDone ? 'That was the top: let it rest, and try it without.' : streakWords(state, plan)}
        </p>
        <div className="mt-3 flex flex-wrap items-center gap-2.5">
          <ActButton act={acts.run} filled />
          <ActButton act={{ ...acts.good, label: 'Good' }} />
          <ActButton act={{ ...acts.again, label: 'Again' }} />
          <ActHint act={acts.lower} />
          <ActHint act={acts.higher} />
        </div>
        <p className="mt-2 text-[0.9rem] text-quiet">
          Right pedal or page down is good, left pedal or page up again; while it sounds, the next rung begins
          by itself.
        </p>
        <div className="mt-5">
          <LadderForm
            plan={plan}
            problem={problem}
            onPlan={(changed) => {
              goTo(0);
              onPlan(changed);
            }}
          />
        </div>
      </div>
      <Rungs rungs={rungs} state={state} onRung={goTo} />
    </section>
  );
}

interface Climb {
  readonly rungs: readonly Rung[];
  readonly problem: string | null;
}

function useRungs(target: Target, { drill }: Drilling, plan: LadderPlan): Climb {
  const proof = useProof();
  return useMemo(
    () => ({
      rungs: ladderOf(proof, target.place, plan, drill),
      problem: ladderProblemMaybe(plan, ladderGround(proof, target.place, drill)),
    }),
    [proof, target, drill, plan],
  );
}

interface RungsProps {
  readonly rungs: readonly Rung[];
  readonly state: LadderState;
  readonly onRung: (rung: number) => void;
}

/** The ladder itself, its lowest rung at the bottom. */
function Rungs({ rungs, state, onRung }: RungsProps) {
  const here = useRef<HTMLLIElement>(null);
  useEffect(() => {
    here.current?.scrollIntoView({ block: 'nearest', inline: 'nearest' });
  }, [state.rung]);
  return (
    <ol reversed className="max-h-[34rem] overflow-y-auto border-x-4 border-faint" aria-label="Rungs">
      {rungs
        .map((rung, index) => {
          const isHere = index === state.rung && !state.isDone;
          const isClimbed = state.isDone || index < state.rung;
          return (
            <li key={index} ref={isHere ? here : null} value={index + 1}>
              <button
                type="button"
                aria-current={isHere ? 'step' : undefined}
                onClick={() => onRung(index)}
                className={`grid w-full grid-cols-[3.6rem_1fr] gap-2 border-t-4 border-faint px-3 py-1 text-left ${isHere ? 'bg-selection font-semibold' : isClimbed ? 'text-quiet' : ''}`}
              >
                <span className="numeral">
                  {isClimbed && <span aria-label="climbed">✓ </span>}
                  {round(rung.percent)} %
                </span>
                <span className="text-[0.9rem] leading-snug">{rungWords(rung)}</span>
              </button>
            </li>
          );
        })
        .reverse()}
    </ol>
  );
}

function rungWords({ click, context: { before, after }, sections }: Rung): string {
  const around = before === after ? `${before} either side` : `${before} before, ${after} after`;
  return [click, around, sections.length > 0 && `${sections.join(', ')} alone`].filter(Boolean).join(' · ');
}

function streakWords({ streak }: LadderState, { rule }: LadderPlan): string {
  if (streak > 0 && rule === 'three good') return `${streak} good in a row: ${3 - streak} more and up`;
  return streak < 0 ? 'Once more; two in a row go down a rung' : '';
}

function round(percent: number): number {
  return Math.round(percent * 10) / 10;
}
