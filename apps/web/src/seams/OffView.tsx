import type { RunResponse } from '@anchorbeat/contract';
import { DRILL_WAYS, drillSpanMaybe, writtenBar, promptFor, WAYS, type DrillWay } from '@anchorbeat/core';
import { useState } from 'react';
import { useProof } from '../piece/PieceLayout.tsx';
import { nextOf } from '../ui/nextOf.ts';
import { drillAct, markActs, runAct, tempoActs } from './drillActs.ts';
import { ToggleGroup } from '../ui/ToggleGroup.tsx';
import type { Target } from './target.ts';
import type { Act } from '../acts/act.ts';
import { ActButton, ActHint } from '../acts/ActButton.tsx';
import { useActs } from '../acts/ActsContext.tsx';
import type { Drilling } from './useDrill.ts';

const OFF_WAYS = DRILL_WAYS.filter((way) => way !== 'play');
const RATINGS = ['1', '2', '3', '4', '5'] as const;

interface OffViewProps {
  readonly target: Target;
  readonly drilling: Drilling;
  readonly way: DrillWay;
  readonly onWay: (way: DrillWay) => void;
}

/** The same place with voice, hands and feet: what each bar wants, said before the count-off, rated before and after. */
export function OffView({ target, drilling, way, onWay }: OffViewProps) {
  const proof = useProof();
  const [before, setBefore] = useState<number | null>(null);
  const { drill, isRunning, last } = drilling;
  const shown: DrillWay = way === 'play' ? 'speak' : way;
  const { name, does, caution, click, spoken } = WAYS[shown];
  const span = drillSpanMaybe(proof.compiled, target.place, drill.context);
  const bars = span
    ? Array.from({ length: span.to - span.from }, (_, index) => writtenBar(proof, span.from + index))
    : [];
  const rate = (rating: number) =>
    isOffRun(last) ? drilling.amend({ ratingAfter: rating }) : setBefore(rating);
  const run = () =>
    isRunning
      ? drilling.stop()
      : void drilling.start({ drill: { ...drill, click, spoken }, way: shown, ratingBefore: before });
  const acts = {
    run: runAct(isRunning, name, run),
    way: drillAct('way', 'w', 'next way', () => onWay(nextOf(OFF_WAYS, shown))),
    ...tempoActs(drilling),
    ...markActs(drilling.mark),
  };
  const rates = RATINGS.map((rating) =>
    drillAct(`rate${rating}`, rating, `it went ${rating} of 5`, () => rate(Number(rating))),
  );
  useActs('view', [...Object.values(acts), ...rates]);
  return (
    <section aria-label="Off the instruments">
      <Ways shown={shown} onWay={onWay} next={acts.way} />
      <p className="mt-4 text-xl">{does}</p>
      <ol className="mt-3 grid gap-1" aria-label={`${name}, bar by bar`}>
        {promptFor(shown, bars).map((prompt, index) => (
          <li key={index} className="numeral text-3xl font-semibold">
            {prompt}
          </li>
        ))}
      </ol>
      {caution && (
        <p className="mt-4 rounded-lg border-l-4 border-entry bg-raised px-4 py-2.5" role="note">
          {caution}
        </p>
      )}
      <div className="mt-5 flex flex-wrap items-center gap-3">
        <ActButton act={acts.run} filled />
        {[acts.slower, acts.faster, acts.good, acts.again].map((act) => (
          <ActHint key={act.id} act={act} />
        ))}
      </div>
      <Ratings
        last={last}
        before={before}
        onBefore={setBefore}
        onAfter={(ratingAfter) => drilling.amend({ ratingAfter })}
      />
    </section>
  );
}

/** Before anything was run off the instruments a rating says how it went before, after it how it goes now. */
function isOffRun(last: RunResponse | null): last is RunResponse {
  return last !== null && last.way !== 'play';
}

interface WaysProps {
  readonly shown: DrillWay;
  readonly onWay: (way: DrillWay) => void;
  readonly next: Act;
}

function Ways({ shown, onWay, next }: WaysProps) {
  return (
    <div className="flex flex-wrap gap-3">
      {OFF_WAYS.map((each) => (
        <button
          key={each}
          type="button"
          aria-pressed={each === shown}
          onClick={() => onWay(each)}
          className={`rounded-xl border-2 px-4 py-3 text-left text-xl font-semibold ${each === shown ? 'border-ink bg-selection' : 'border-faint text-quiet'}`}
        >
          {WAYS[each].name}
        </button>
      ))}
      <ActHint act={next} />
    </div>
  );
}

interface RatingsProps {
  readonly last: RunResponse | null;
  /** How it went before, where no run has been made yet. */
  readonly before: number | null;
  readonly onBefore: (rating: number) => void;
  readonly onAfter: (rating: number) => void;
}

function Ratings({ last, before, onBefore, onAfter }: RatingsProps) {
  const options = RATINGS.map((value) => ({ value, name: value }));
  const isAfter = isOffRun(last);
  const ratedBefore = isAfter ? last.ratingBefore : before;
  return (
    <div className="mt-5 grid gap-2">
      <ToggleGroup
        label="How it went before, 1 to 5"
        options={options}
        isOn={(value) => Number(value) === ratedBefore}
        onToggle={(value) => onBefore(Number(value))}
      />
      {isAfter && (
        <ToggleGroup
          label="How it goes now, 1 to 5"
          options={options}
          isOn={(value) => Number(value) === last.ratingAfter}
          onToggle={(value) => onAfter(Number(value))}
        />
      )}
      <p className="text-[0.9rem] text-quiet">
        {isAfter
          ? 'Play it once more on the instruments, then say how it goes now.'
          : 'Play it once, say how it went, then put the instruments down.'}
      </p>
    </div>
  );
}
