import {
  barsPlace,
  countBar,
  COUNT_SCHOOLS,
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
import { useProof } from '../app/PieceLayout.tsx';
import { Note } from '../line/NoteText.tsx';
import { Button } from '../ui/Button.tsx';
import { KeyHint } from '../ui/KeyHint.tsx';
import { useKeys } from '../ui/useKeys.ts';
import { BarsDrawing } from './BarsDrawing.tsx';
import { placeName, type Target } from './target.ts';
import type { Drilling } from './useDrill.ts';
import { useExercise } from './useExercise.ts';

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
  const acts: Readonly<Record<string, () => void>> = {
    w: () => setChosen(chosen + 1),
    ArrowLeft: () => setOffset(offset - 1),
    ArrowRight: () => setOffset(offset + 1),
    '[': () => drilling.change({ percent: percent - 5 }),
    ']': () => drilling.change({ percent: percent + 5 }),
  };
  useKeys(({ key, command }) => {
    const act = command ? undefined : acts[key];
    act?.();
    return act !== undefined;
  });
  return (
    <section aria-label="Reads as">
      <div className="flex flex-wrap items-center gap-x-3">
        <p className="text-lg">
          <span className="inline-block first-letter:uppercase">
            {placeName(compiled, barsPlace(compiled, barIndex, count))}
          </span>
          , read under <Note value={pulse} />
        </p>
        <KeyHint keyName="w" label="another pulse" onPress={acts['w'] as () => void} />
        <KeyHint keyName="←" label="" onPress={acts['ArrowLeft'] as () => void} />
        <KeyHint keyName="→" label="another bar" onPress={acts['ArrowRight'] as () => void} />
        <KeyHint keyName="]" label={`${Math.round(percent)} %`} onPress={acts[']'] as () => void} />
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
  useKeys(({ key, command }) => {
    if (key !== ' ' || command) return false;
    toggle();
    return true;
  });
  return (
    <>
      <div className="mt-2 flex flex-wrap items-center gap-4">
        <Button filled onClick={toggle} className="flex items-center gap-2">
          <kbd className="rounded border border-current px-1.5 text-xs">space</kbd>
          {isRunning ? 'Stop' : 'One after the other'}
        </Button>
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
  return countBar(bar, COUNT_SCHOOLS[0])
    .map(({ word }) => word)
    .join(' ');
}
