import {
  barName,
  capital,
  constantWords,
  EXPLANATION_WORDS,
  seamTallies,
  silenceWords,
  takeBars,
  verdictWords,
  writtenIndex,
  type Proof,
  type Remedy,
  type SeamTally,
  type TakeRecord,
  type TakeSilence,
} from '@anchorbeat/core';
import { useMemo, useState } from 'react';
import { Button } from '../ui/Button.tsx';
import { DialogShell } from '../ui/DialogShell.tsx';
import { TakeLine, toldFromMs } from './TakeLine.tsx';
import { Drawing } from '../ui/Drawing.tsx';
import { lazyPart } from '../ui/lazyNamed.tsx';

/** Charts are loaded when one is first looked at. */
const TakeChart = lazyPart('TakeChart', () => import('./TakeChart.tsx'), <Drawing />);

/** A take that was made before, at the same place; its seams are where they are now. */
export interface EarlierTake {
  readonly when: string;
  readonly take: TakeRecord;
  readonly percent: number;
  /** The piece that it was played with. */
  readonly proof: Proof;
}

interface TakeSheetProps {
  readonly proof: Proof;
  readonly take: TakeRecord;
  readonly percent: number;
  /** Simulated sections played it. */
  readonly isSimulated?: boolean;
  /** The one before it, to hold this one against. */
  readonly before?: EarlierTake | null;
  /** Where a bar of the piece as it was played is now; null where it was taken out. */
  readonly barNow?: (barIndex: number) => number | null;
  /** What a bar of the piece as it was played is now, where that is another: "now bar 12"; else empty. */
  readonly whereNow?: (barIndex: number) => string;
  readonly onRemedy: (remedy: Remedy, barIndex: number) => void;
  readonly onClose: () => void;
}

/** What a take shows: which seam fell apart, how, and what helps; the bars on the line as they were played. */
export function TakeSheet({
  proof,
  take,
  percent,
  isSimulated = false,
  before,
  barNow = (barIndex) => barIndex,
  whereNow,
  onRemedy,
  onClose,
}: TakeSheetProps) {
  const tallies = useMemo(() => seamTallies(take), [take]);
  const [chosen, setChosen] = useState(0);
  const tally = tallies[Math.min(chosen, tallies.length - 1)];
  return (
    <DialogShell
      title={headline(proof, tallies)}
      description={`${isSimulated ? 'Simulated players, not logged. ' : ''}${summary(take)}`}
      width="widest"
      onClose={onClose}
      onKeyDown={({ key }) => {
        const step = key === 'ArrowDown' ? 1 : key === 'ArrowUp' ? -1 : 0;
        if (step !== 0) setChosen(Math.min(Math.max(0, chosen + step), tallies.length - 1));
      }}
    >
      {tally && (
        <>
          <SeamChoice proof={proof} tallies={tallies} tally={tally} onChoose={setChosen} />
          <Told
            tally={tally}
            whereNow={whereNow?.(tally.barIndex) ?? ''}
            onRemedy={(remedy) => onRemedy(remedy, tally.barIndex)}
          />
          <div className="mt-5">
            <TakeLine proof={proof} take={take} atOnset={tally.shown.atOnset} percent={percent} />
          </div>
          {before && <Before before={before} barIndex={barNow(tally.barIndex)} />}
        </>
      )}
      <Silences proof={proof} silences={take.silences ?? []} />
      <h3 className="mt-5 font-bold">Bar after bar, early below and late above</h3>
      <div className="mt-1 h-44">
        <TakeChart bars={takeBars(proof, take)} toldMs={toldFromMs(take)} />
      </div>
    </DialogShell>
  );
}

function nameOf({ compiled }: Proof, barIndex: number): string {
  return capital(barName(compiled.labels, barIndex));
}

/** The worst thing first: "Bar 11: filled the bar up, 118 ms late". */
function headline(proof: Proof, tallies: readonly SeamTally[]): string {
  const [worst] = tallies;
  if (!worst) return 'No seam was passed: play on over one';
  const wrong = tallies.filter(({ passed, held }) => passed > held);
  if (wrong.length > 0) return `${nameOf(proof, worst.barIndex)}: ${verdictWords(worst.shown)}`;
  const heard = tallies.filter(({ passed }) => passed > 0).length;
  if (heard === 0) return 'Too few onsets to tell: play along with every beat';
  return heard === 1 ? `${nameOf(proof, worst.barIndex)} held` : `All ${heard} seams held`;
}

function summary(take: TakeRecord): string {
  const played = take.onsets.filter(({ offMs }) => offMs !== null).length;
  const missing = take.onsets.length - played;
  return [
    `${played} onsets within ±${Math.round(take.spreadMs)} ms`,
    missing > 0 && `${missing} left out`,
    take.extra > 0 && `${take.extra} too many`,
    constantWords(take),
  ]
    .filter(Boolean)
    .join(' · ');
}

interface SeamChoiceProps {
  readonly proof: Proof;
  readonly tallies: readonly SeamTally[];
  readonly tally: SeamTally;
  readonly onChoose: (index: number) => void;
}

function SeamChoice({ proof, tallies, tally, onChoose }: SeamChoiceProps) {
  if (tallies.length < 2) return null;
  return (
    <ol aria-label="Seams of this take, the worst first" className="mt-4 flex flex-wrap gap-1.5">
      {tallies.map((one, index) => (
        <li key={one.barIndex}>
          <button
            type="button"
            aria-pressed={one === tally}
            onClick={() => onChoose(index)}
            className={`rounded-lg border-2 px-3 py-1 ${one === tally ? 'border-ink bg-selection font-semibold' : one.passed > one.held ? 'border-seam' : 'border-faint'}`}
          >
            {nameOf(proof, one.barIndex)} {tallyWords(one)}
          </button>
        </li>
      ))}
    </ol>
  );
}

/** "✓ held", "held 2 of 3", "rushed". */
function tallyWords({ passed, held, shown }: SeamTally): string {
  if (passed === 0) return 'too few';
  if (passed === held) return '✓';
  return passed === 1 ? EXPLANATION_WORDS[shown.explanation].did : `held ${held} of ${passed}`;
}

interface ToldProps {
  readonly tally: SeamTally;
  readonly whereNow: string;
  readonly onRemedy: (remedy: Remedy) => void;
}

const REMEDY_NAMES: Readonly<Record<Remedy, string>> = {
  none: '',
  trainer: 'To the meter trainer',
  carry: 'Drill it with the carry',
  slower: 'Drill it slower',
  off: 'Off the instruments',
  again: 'Drill it, click up to the seam',
};

function Told({ tally: { shown, passed, held }, whereNow, onRemedy }: ToldProps) {
  const { means, next, remedy } = EXPLANATION_WORDS[shown.explanation];
  const sure = Math.round(100 * shown.probability);
  return (
    <div className="mt-4 flex flex-wrap items-center gap-x-5 gap-y-2">
      <p data-testid="verdict" className="text-xl font-bold first-letter:uppercase">
        {verdictWords(shown)}
        {passed > 1 && ` · held ${held} of ${passed} times`}
      </p>
      {shown.explanation !== 'too-few' && <p className="text-quiet">{sure} % sure</p>}
      {whereNow !== '' && <p className="text-quiet">{whereNow}</p>}
      <p className="basis-full">
        {means} {next}
      </p>
      {remedy !== 'none' && (
        <Button filled onClick={() => onRemedy(remedy)}>
          {REMEDY_NAMES[remedy]}
        </Button>
      )}
    </div>
  );
}

/** Where the click dropped out: how far off one was when it came back. */
function Silences({ proof, silences }: { readonly proof: Proof; readonly silences: readonly TakeSilence[] }) {
  if (silences.length === 0) return null;
  return (
    <section aria-label="Without the click" className="mt-5">
      <h3 className="font-bold">
        Without the click: <span data-testid="silences">{silenceWords(silences)}</span>
      </h3>
      <ul className="mt-1 flex flex-wrap gap-1.5">
        {silences.map(({ performed, backAt, seconds, offMs, isHeld }) => (
          <li
            key={`${performed} ${offMs}`}
            className={`rounded-lg border-2 px-3 py-1 ${isHeld ? 'border-faint' : 'border-seam font-semibold'}`}
          >
            {nameOf(proof, writtenIndex(proof, backAt))}, after {seconds.toFixed(1)} s:{' '}
            <span className="numeral">{backWords(offMs, isHeld)}</span>
          </li>
        ))}
      </ul>
    </section>
  );
}

/** "✓ 12 ms late", "84 ms early". */
function backWords(offMs: number, isHeld: boolean): string {
  const off = Math.round(Math.abs(offMs));
  const words = off === 0 ? 'on it' : `${off} ms ${offMs > 0 ? 'late' : 'early'}`;
  return isHeld ? `✓ ${words}` : words;
}

interface BeforeProps {
  readonly before: EarlierTake;
  /** As it is now; null where it is gone. */
  readonly barIndex: number | null;
}

/** How the same seam went the time before. */
function Before({ before: { when, take, percent, proof }, barIndex }: BeforeProps) {
  const earlier = seamTallies(take).find((tally) => tally.barIndex === barIndex);
  if (!earlier || take.onsets.length === 0) return null;
  return (
    <section aria-label="The take before">
      <h3 className="mt-4 font-bold">
        Before, {when}: <span className="text-quiet">{verdictWords(earlier.shown)}</span>
      </h3>
      <div className="mt-5">
        <TakeLine proof={proof} take={take} atOnset={earlier.shown.atOnset} percent={percent} />
      </div>
    </section>
  );
}
