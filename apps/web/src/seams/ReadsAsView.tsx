import {
  oddShown,
  barsPlace,
  countBar,
  formatRhythm,
  plainPulsesFor,
  practiceRate,
  rateAt,
  readsAs,
  ZERO,
  type Bar,
  type NoteValue,
  type Piece,
  type ReadsAs,
} from '@anchorbeat/core';
import { useMemo, useState } from 'react';
import { useProof } from '../piece/PieceLayout.tsx';
import { Note } from '../line/NoteText.tsx';
import { drillAct, runAct, tempoActs } from './drillActs.ts';
import { BarsDrawing } from '../line/BarsDrawing.tsx';
import { placeName, type Target } from './target.ts';
import { ActButton, ActHint } from '../acts/ActButton.tsx';
import { useActs } from '../acts/ActsContext.tsx';
import type { Drilling } from './useDrill.ts';
import { useExercise } from '../sound/useExercise.ts';

const MOST_BARS = 8;

/** The bar, or the bars of a span, as written, and the same sound under a plain pulse: to be seen, counted and heard one after the other. */
export function ReadsAsView({ target, drilling }: { readonly target: Target; readonly drilling: Drilling }) {
  const { piece, compiled } = useProof();
  const [offset, setOffset] = useState(0);
  const [chosen, setChosen] = useState(0);
  const barIndex = Math.min(Math.max(target.place.barIndex + offset, 0), piece.bars.length - 1);
  const bar = piece.bars[barIndex] as Bar;
  const count = offset === 0 ? Math.min(Math.max(target.place.bars, 1), MOST_BARS) : 1;
  const pulses = plainPulsesFor(bar);
  const pulse = pulses[chosen % pulses.length] as NoteValue;
  const { percent } = drilling.drill;
  const reading = useMemo(
    () =>
      readsAs(
        piece.bars.slice(barIndex, barIndex + count).map((each, index) => {
          const performed = Math.max(0, compiled.firstPerformed[barIndex + index] ?? 0);
          const rate = rateAt(compiled.timeline, { performed, atWholes: ZERO });
          return { bar: each, rate: practiceRate(rate, percent) };
        }),
        pulse,
      ),
    [piece, compiled, barIndex, count, percent, pulse],
  );
  const acts = {
    pulse: drillAct('pulse', 'w', 'another pulse', () => setChosen(chosen + 1)),
    back: drillAct('barBack', 'ArrowLeft', 'the bar before', () => setOffset(offset - 1), { label: '' }),
    on: drillAct('barOn', 'ArrowRight', 'another bar', () => setOffset(offset + 1)),
    ...tempoActs(drilling),
  };
  useActs('view', Object.values(acts));
  return (
    <section aria-label="Reads as">
      <div className="flex flex-wrap items-center gap-x-3">
        <p className="text-lg">
          <span className="inline-block first-letter:uppercase">
            {placeName(compiled, barsPlace(compiled, barIndex, count))}
          </span>
          , read under <Note value={pulse} />
        </p>
        {Object.values(acts).map((act) => (
          <ActHint key={act.id} act={act} />
        ))}
      </div>
      {!bar.rhythm && (
        <p className="mt-1 text-quiet">No notes are written in this bar, so its small notes are read.</p>
      )}
      {reading.ok ? (
        <BothReadings reading={reading.value} />
      ) : (
        <p className="mt-6 text-problem" role="alert">
          {reading.problem.message}
        </p>
      )}
    </section>
  );
}

function BothReadings({ reading }: { readonly reading: ReadsAs }) {
  const { written, plain, beatBefore, beatAfter } = reading;
  const both = useMemo(
    (): Piece => ({ ...written, bars: [...written.bars, ...plain.bars] }),
    [written, plain],
  );
  const { proof, isRunning, toggle } = useExercise(both, { soundsRhythm: true, countsEachRound: true });
  const seconds = proof.compiled.timeline.barStartSeconds[written.bars.length] ?? 0;
  const run = runAct(isRunning, 'One after the other', toggle);
  useActs('view', [run]);
  return (
    <>
      <div className="mt-2 flex flex-wrap items-center gap-4">
        <ActButton act={run} filled />
        <p className="text-lg">
          What was <Note value={beatBefore} /> is now <Note value={beatAfter} />; both last{' '}
          <span className="numeral">{seconds.toFixed(2)} s</span>.
        </p>
      </div>
      {[written, plain].map(({ bars }, place) => (
        <div key={place} data-testid={place === 0 ? 'as-written' : 'as-read'}>
          <h3 className="mt-2 font-display text-lg font-bold">{place === 0 ? 'As written' : 'Reads as'}</h3>
          <BarsDrawing proof={proof} from={place * bars.length} to={(place + 1) * bars.length} />
          <p className="numeral -mt-1 text-lg">
            <span className="mr-4 text-quiet">count</span>
            {bars.map(countText).join(' | ')}
            <span className="sr-only">
              {bars.map(({ rhythm }) => rhythm && formatRhythm(rhythm)).join(' | ')}
            </span>
          </p>
        </div>
      ))}
    </>
  );
}

function countText(bar: Bar): string {
  return countBar(bar, oddShown)
    .map(({ word }) => word)
    .join(' ');
}
