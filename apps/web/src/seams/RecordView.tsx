import type { RunResponse } from '@anchorbeat/contract';
import { runsOver, seamTallies, verdictWords, WAYS, type SeamTally, type TakeRecord } from '@anchorbeat/core';
import { useState } from 'react';
import { toast } from '../ui/toast.ts';
import { useProof } from '../piece/PieceLayout.tsx';
import { logRun, removeRun } from '../store/runLog.ts';
import { useAppDispatch, useAppSelector } from '../store/store.ts';
import { KeptTake } from '../takes/KeptTake.tsx';
import { takeOf } from '../takes/takeOf.ts';
import type { ShownTake } from '../takes/TakesChart.tsx';
import type { PlacedRun } from './placedRun.ts';
import type { Target } from './target.ts';
import { dayText } from '../ui/dayText.ts';
import { Drawing } from '../ui/Drawing.tsx';
import { lazyPart } from '../ui/lazyNamed.tsx';
import { RowAct } from '../ui/RowAct.tsx';

/** Charts are loaded when one is first looked at. */
const RecordChart = lazyPart('RecordChart', () => import('./RecordChart.tsx'), <Drawing />);

const TakesChart = lazyPart('TakesChart', () => import('../takes/TakesChart.tsx'), <Drawing />);

interface RecordViewProps {
  readonly target: Target;
  readonly runs: readonly PlacedRun[];
}

/** What was reached here, and when: the tempo against its goal, then every run. */
export function RecordView({ target, runs }: RecordViewProps) {
  const { compiled } = useProof();
  const dispatch = useAppDispatch();
  const pieceId = useAppSelector((state) => state.piece.open?.id ?? '');
  const here = runsHere(compiled, runs, target);
  const [looked, setLooked] = useState<{ readonly run: PlacedRun; readonly section: string | null } | null>(
    null,
  );
  const forget = async (run: PlacedRun) => {
    const problem = await removeRun(dispatch, pieceId, run.id);
    const putBack = () => logRun(dispatch, pieceId, withoutPlace(run));
    if (problem) toast(problem);
    else
      toast('Taken out of the log', {
        duration: 8000,
        action: { label: 'Put it back', onClick: putBack },
      });
  };
  if (here.length === 0)
    return (
      <section aria-label="Record">
        <p className="mt-4 text-lg text-quiet">Not run yet. Press escape, then space to run it.</p>
      </section>
    );
  return (
    <section aria-label="Record">
      <p className="text-[0.95rem] text-quiet">
        Tempo reached, in percent of the printed one: <b className="text-carry-text">● good</b>,{' '}
        <b>× again</b>, ○ not marked, the goal dashed.
      </p>
      <div className="mt-2 h-60 max-w-3xl">
        <RecordChart runs={here} />
      </div>
      <Takes runs={here} target={target} />
      <table className="mt-5 w-full max-w-3xl text-left" aria-label="Every run, newest first">
        <thead className="text-sm text-quiet max-sm:sr-only">
          <tr>
            <th className="pr-3 font-normal">when</th>
            <th className="pr-3 font-normal">how</th>
            <th className="pr-3 font-normal">tempo</th>
            <th className="pr-3 font-normal">mark</th>
            <th className="pr-3 font-normal">played along</th>
            <th className="pr-3 font-normal">who</th>
            <th className="pr-3 font-normal">note</th>
            <td />
          </tr>
        </thead>
        <tbody>
          {[...here].reverse().map((run) => (
            <RunRow
              key={run.id}
              run={run}
              target={target}
              onTake={(section) => setLooked({ run, section })}
              onNote={(note) => logRun(dispatch, pieceId, { ...withoutPlace(run), note })}
              onForget={() => void forget(run)}
            />
          ))}
        </tbody>
      </table>
      {looked && <KeptTake {...looked} onClose={() => setLooked(null)} />}
    </section>
  );
}

/** From the second take on: whether it becomes better. */
function Takes({ runs, target }: RecordViewProps) {
  const takes = runs.flatMap(({ startedAt, take }): ShownTake[] => {
    const tally = take && tallyHere(take, target);
    if (!tally || tally.passed === 0) return [];
    const { effectMs } = tally.shown;
    return [
      {
        when: dayText(new Date(startedAt)),
        take,
        offMs: Math.abs(effectMs),
        isHeld: tally.held === tally.passed,
      },
    ];
  });
  if (takes.length < 2) return null;
  return (
    <section aria-label="Takes" className="mt-5">
      <p className="text-[0.95rem] text-quiet">
        Played along, take after take: how far off at most, <b className="text-carry-text">● held</b>,{' '}
        <b>× not</b>; the spread of the whole take dashed.
      </p>
      <div className="mt-2 h-44 max-w-3xl">
        <TakesChart takes={takes} />
      </div>
    </section>
  );
}

interface RunRowProps {
  readonly run: PlacedRun;
  readonly target: Target;
  /** A section's at its stand is to be looked at; null for the one at the podium. */
  readonly onTake: (section: string | null) => void;
  readonly onNote: (note: string) => void;
  readonly onForget: () => void;
}

function RunRow({ run, target, onTake, onNote, onForget }: RunRowProps) {
  return (
    <tr className="border-t border-faint max-sm:grid max-sm:grid-cols-4 max-sm:items-baseline max-sm:py-2">
      <td className="numeral py-1 pr-3 whitespace-nowrap">{dayText(new Date(run.startedAt))}</td>
      <td className="pr-3">{WAYS[run.way].name}</td>
      <td className="numeral pr-3 whitespace-nowrap">
        {Math.round(run.percent)} %{run.bpm !== null && ` · ${Math.round(run.bpm)}`}
      </td>
      <td className={`pr-3 ${run.mark === 'good' ? 'font-semibold text-carry-text' : ''}`}>
        {run.mark ?? '–'}
      </td>
      <td className="pr-3 max-sm:order-last max-sm:col-span-4">
        {playersOf(run).map((section) => (
          <button
            key={section}
            type="button"
            className="block py-0.5 text-left underline hover:text-ink"
            onClick={() => onTake(section)}
          >
            {section !== null && <b>{section} </b>}
            {takeWords(takeOf(run, section), target)}
          </button>
        ))}
      </td>
      <td className="pr-3">{run.sections.join(', ') || 'all'}</td>
      <td className="pr-3 max-sm:col-span-2">
        <NoteField run={run} onNote={onNote} />
        {ratingWords(run)}
      </td>
      <td>
        <RowAct words="take out" onPress={onForget} />
      </td>
    </tr>
  );
}

function tallyHere(take: Pick<TakeRecord, 'seams'>, { kind, place }: Target): SeamTally | undefined {
  const tallies = seamTallies(take);
  return kind === 'seam' ? tallies.find(({ barIndex }) => barIndex === place.barIndex) : tallies[0];
}

/** Who played along: at the podium (null), then sections at their stands. */
function playersOf({ take, sectionTakes = [] }: PlacedRun): readonly (string | null)[] {
  return [...(take ? [null] : []), ...sectionTakes.map(({ section }) => section)];
}

/** What was done at the place that is looked at; elsewhere the worst of it. */
function takeWords(take: Pick<TakeRecord, 'seams'> | null, target: Target): string {
  const here = take && tallyHere(take, target);
  return here ? verdictWords(here.shown) : 'measured';
}

function withoutPlace({ place: _place, ...run }: PlacedRun): RunResponse {
  return run;
}

/** A word about a run, typed where it is read. */
function NoteField({ run, onNote }: { readonly run: RunResponse; readonly onNote: (note: string) => void }) {
  const [text, setText] = useState(run.note);
  return (
    <input
      aria-label="Note on this run"
      value={text}
      maxLength={200}
      placeholder="…"
      className="w-full rounded border-b-2 border-transparent bg-transparent placeholder:text-quiet hover:border-faint focus:border-ink focus:outline-none"
      onChange={({ target }) => setText(target.value)}
      onKeyDown={({ key, currentTarget }) => key === 'Enter' && currentTarget.blur()}
      onBlur={() => text !== run.note && onNote(text)}
    />
  );
}

function runsHere(
  compiled: ReturnType<typeof useProof>['compiled'],
  runs: readonly PlacedRun[],
  target: Target,
): readonly PlacedRun[] {
  if (target.kind === 'seam') return runsOver(compiled, runs, target.place.barIndex);
  const { barIndex, bars } = target.place;
  return runs.filter(
    ({ place }) => place.kind === 'bars' && place.barIndex === barIndex && place.bars === bars,
  );
}

function ratingWords({ ratingBefore, ratingAfter }: RunResponse): string {
  if (ratingBefore === null && ratingAfter === null) return '';
  return `${ratingBefore ?? '–'} before, ${ratingAfter ?? '–'} after`;
}
