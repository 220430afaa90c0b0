import {
  applyEdit,
  auditionOf,
  barName,
  barLabels,
  beatNote,
  bpmOf,
  noteValueLength,
  rateAtBar,
  tempoMapOf,
  ZERO,
  type Bar,
  type BarSpan,
  type NoteValue,
  type Piece,
  type TempoMark,
} from '@anchorbeat/core';
import { useMemo, useState, type KeyboardEvent, type ReactNode } from 'react';
import { toast } from '../../ui/toast.ts';
import { EquivalenceText, Note } from '../../line/NoteText.tsx';
import { usePlayback } from '../../sound/PlaybackContext.tsx';
import { Button } from '../../ui/Button.tsx';
import { DialogShell } from '../../ui/DialogShell.tsx';
import { timedTouch } from '../../ui/timedTouch.ts';
import { useTaps } from '../../ui/useTaps.ts';
import { useEdit } from '../useEdit.ts';
import { JoinView } from './JoinView.tsx';
import { NotePicker, textOf } from './NotePicker.tsx';
import { exactBpmWords, missWords, solve, type BuilderFields, type Solution, type Unknown } from './solve.ts';

interface BuilderProps {
  readonly piece: Piece;
  readonly span: BarSpan;
  readonly onClose: () => void;
}

/** Works out a tempo, or the equivalence between two, lets it be heard, and writes it at the selected bar. */
export function Builder({ piece, span, onClose }: BuilderProps) {
  const edit = useEdit();
  const [fields, setFields] = useState(() => startingFields(piece, span.from));
  const [unknown, setUnknown] = useState<Unknown>('next');
  const [chosen, setChosen] = useState(0);
  const solution = useMemo(() => solve(fields, unknown, chosen), [fields, unknown, chosen]);
  const { hear, isHeard, stop } = useAudition();
  const nextTap = useTaps();
  const tap = (atMs: number) => {
    const bpm = nextTap(atMs);
    if (bpm === null) return;
    setFields((now) => ({
      ...now,
      [unknown === 'next' ? 'oldBpm' : 'nextBpm']: String(Math.round(bpm)),
    }));
  };
  const solved = solution.ok ? solution.value : null;
  const accept = () => {
    if (!solved) return;
    stop();
    if (edit({ kind: 'setTempoMark', bar: span.from, mark: markOf(solved, piece.bars[span.from] as Bar) }))
      onClose();
  };
  const onKeyDown = builderKeys({ accept, tap, hear: () => solved && hear(solved) });
  return (
    <DialogShell
      title={<>Work out a tempo at {barName(barLabels(piece), span.from)}</>}
      description={
        <>
          Give two, get the third. Note values by letter (q. e3) or from the drawn notes; tap a tempo with{' '}
          <kbd className="font-bold text-ink">t</kbd>.
        </>
      }
      width="middle"
      onClose={onClose}
      onKeyDown={onKeyDown}
    >
      <BuilderLines
        fields={fields}
        onFields={setFields}
        unknown={unknown}
        onUnknown={setUnknown}
        solution={solved}
        chosen={chosen}
        onChoose={setChosen}
      />
      <div className="mt-3 min-h-32" role="status">
        {solved ? (
          <JoinView join={{ old: solved.old, next: solved.next, carry: solved.equivalence }} />
        ) : (
          <p className="font-semibold text-problem">{solution.ok ? '' : solution.problem.message}</p>
        )}
      </div>
      {solved && <Written mark={markOf(solved, piece.bars[span.from] as Bar)} unknown={unknown} />}
      <div className="mt-4 flex flex-wrap justify-end gap-2 sm:gap-3">
        <Button {...timedTouch(tap)} className="mr-auto">
          Tap <kbd className="ml-1 font-text text-sm font-normal text-quiet">t</kbd>
        </Button>
        <Button disabled={!solved} onClick={() => (isHeard ? stop() : solved && hear(solved))}>
          {isHeard ? 'Stop' : 'Hear it'}{' '}
          <kbd className="ml-1 font-text text-sm font-normal text-quiet">h</kbd>
        </Button>
        <Button onClick={onClose}>
          Leave it <kbd className="ml-1 font-text text-sm font-normal text-quiet">esc</kbd>
        </Button>
        <Button filled disabled={!solved} onClick={accept}>
          Write it <kbd className="ml-1 font-text text-sm font-normal opacity-85">Enter</kbd>
        </Button>
      </div>
    </DialogShell>
  );
}

interface BuilderDoes {
  readonly accept: () => void;
  readonly tap: (atMs: number) => void;
  readonly hear: () => void;
}

/** Enter takes what was worked out; letters act where no note is being typed. */
function builderKeys({ accept, tap, hear }: BuilderDoes): (event: KeyboardEvent) => void {
  return (event) => {
    const { target, key } = event;
    const isInNote =
      target instanceof HTMLInputElement && target.inputMode !== 'decimal' && target.type !== 'radio';
    if (key === 'Enter' && !(target instanceof HTMLButtonElement)) accept();
    else if (isInNote || event.ctrlKey || event.metaKey) return;
    else if (key === 't') {
      if (!event.repeat) tap(event.timeStamp);
    } else if (key === 'h') hear();
    else return;
    event.preventDefault();
  };
}

interface BuilderLinesProps {
  readonly fields: BuilderFields;
  readonly onFields: (fields: BuilderFields) => void;
  readonly unknown: Unknown;
  readonly onUnknown: (unknown: Unknown) => void;
  readonly solution: Solution | null;
  readonly chosen: number;
  readonly onChoose: (chosen: number) => void;
}

/** The three of which two are given. */
function BuilderLines({
  fields,
  onFields,
  unknown,
  onUnknown,
  solution,
  chosen,
  onChoose,
}: BuilderLinesProps) {
  const set = (name: keyof BuilderFields) => (text: string) => onFields({ ...fields, [name]: text });
  const line = { unknown, onUnknown };
  return (
    <div className="mt-4 grid gap-3">
      <BuilderLine {...line} kind="old" name="Old tempo">
        <NotePicker label="Old beat" value={fields.oldUnit} onChange={set('oldUnit')} />
        <Bpm
          label="Old tempo, beats a minute"
          value={fields.oldBpm}
          onChange={set('oldBpm')}
          result={unknown === 'old' ? solution : null}
          side="old"
          isUnknown={unknown === 'old'}
        />
      </BuilderLine>
      <BuilderLine {...line} kind="equivalence" name="Note = note">
        {unknown === 'equivalence' ? (
          <Offered solution={solution} chosen={chosen} onChoose={onChoose} />
        ) : (
          <>
            <NotePicker label="Note before" value={fields.before} onChange={set('before')} />
            <span className="text-xl">=</span>
            <NotePicker label="Note after" value={fields.after} onChange={set('after')} />
          </>
        )}
      </BuilderLine>
      <BuilderLine {...line} kind="next" name="New tempo">
        <NotePicker label="New beat" value={fields.nextUnit} onChange={set('nextUnit')} />
        <Bpm
          label="New tempo, beats a minute"
          value={fields.nextBpm}
          onChange={set('nextBpm')}
          result={unknown === 'next' ? solution : null}
          side="next"
          isUnknown={unknown === 'next'}
        />
      </BuilderLine>
    </div>
  );
}

interface BuilderLineProps {
  readonly kind: Unknown;
  readonly name: string;
  readonly unknown: Unknown;
  readonly onUnknown: (unknown: Unknown) => void;
  readonly children: ReactNode;
}

function BuilderLine({ kind, name, unknown, onUnknown, children }: BuilderLineProps) {
  return (
    <div className="grid items-center gap-x-3 gap-y-1 sm:grid-cols-[8.5rem_1fr]">
      <div>
        <p className="font-display text-lg font-bold">{name}</p>
        <label className="flex items-center gap-1.5 text-[0.85rem] text-quiet">
          <input
            type="radio"
            name="unknown"
            aria-label={`Work out: ${name}`}
            checked={unknown === kind}
            onChange={() => onUnknown(kind)}
          />
          work it out
        </label>
      </div>
      <div className="flex flex-wrap items-center gap-2.5">{children}</div>
    </div>
  );
}

interface BpmProps {
  readonly label: string;
  readonly value: string;
  readonly onChange: (text: string) => void;
  readonly side: 'old' | 'next';
  readonly isUnknown: boolean;
  readonly result: Solution | null;
}

/** Beats a minute: typed, or what was worked out with its exact value. */
function Bpm({ label, value, onChange, side, isUnknown, result }: BpmProps) {
  if (isUnknown)
    return (
      <output aria-label={label} className="numeral text-2xl font-bold">
        = {result ? exactBpmWords(result[side].bpm) : '?'}
      </output>
    );
  return (
    <>
      <span className="text-xl">=</span>
      <input
        aria-label={label}
        autoFocus={side === 'old'}
        inputMode="decimal"
        autoComplete="off"
        value={value}
        onChange={(event) => onChange(event.target.value)}
        onFocus={(event) => event.target.select()}
        className="numeral w-24 rounded-lg border-2 border-faint bg-ground px-3 py-2 text-lg focus:border-ink"
      />
    </>
  );
}

interface OfferedProps {
  readonly solution: Solution | null;
  readonly chosen: number;
  readonly onChoose: (index: number) => void;
}

function Offered({ solution, chosen, onChoose }: OfferedProps) {
  if (!solution) return <span className="text-quiet">Give both tempi first</span>;
  if (solution.offered.length === 0)
    return (
      <span className="text-quiet">No plain note lasts equally long in both: it is simply a new tempo</span>
    );
  return (
    <div role="radiogroup" aria-label="Equivalences" className="grid gap-0.5">
      {solution.offered.map((offer, index) => (
        <label key={index} className="flex items-center gap-2.5">
          <input type="radio" name="offered" checked={index === chosen} onChange={() => onChoose(index)} />
          <span className="min-w-24 pt-2 text-lg">
            <EquivalenceText equivalence={offer} />
          </span>
          <span className={offer.missRatio === 0 ? 'font-semibold' : 'text-quiet'}>{missWords(offer)}</span>
        </label>
      ))}
    </div>
  );
}

/** What pressing Enter writes into the piece. */
function Written({ mark, unknown }: { readonly mark: TempoMark; readonly unknown: Unknown }) {
  const { equivalence, stated } = mark;
  return (
    <p className="flex items-baseline gap-2 pt-1">
      <span className="text-quiet">Writes</span>
      <span className="text-lg font-semibold">
        {equivalence && <EquivalenceText equivalence={equivalence} />}
        {equivalence && stated && <span className="mx-2 text-quiet">that is</span>}
        {stated && (
          <>
            <Note value={stated.unit} /> = <span className="numeral">{exactBpmWords(stated.bpm)}</span>
          </>
        )}
      </span>
      {unknown === 'old' && <span className="text-quiet">and leaves the old tempo as it is written</span>}
    </p>
  );
}

/** The equivalence where it is exact; the number where it is a whole one or the only thing that says it. */
function markOf({ next, equivalence, missRatio }: Solution, bar: Bar): TempoMark {
  const term = bar.tempoMarks.find(({ atWholes }) => atWholes.n === 0)?.term;
  const says = equivalence !== null && missRatio === 0;
  const isPlain = next.bpm.d === 1;
  return {
    atWholes: ZERO,
    ...(term !== undefined && { term }),
    ...(says && { equivalence }),
    ...((!says || isPlain) && { stated: next }),
  };
}

/** The tempo that the piece arrives with, and the beats on both sides of the selected bar's barline. */
function startingFields(piece: Piece, bar: number): BuilderFields {
  const cleared = applyEdit(piece, { kind: 'clearTempoMarks', from: bar, count: 1 });
  const rate = rateAtBar(tempoMapOf(cleared.ok ? cleared.value.piece : piece), bar);
  const oldUnit = beatNote(piece.bars[Math.max(0, bar - 1)] as Bar);
  const nextUnit = beatNote(piece.bars[bar] as Bar);
  const bpm = (unit: NoteValue) => trimmed(bpmOf(rate, noteValueLength(unit)));
  return {
    oldUnit: textOf(oldUnit),
    oldBpm: bpm(oldUnit),
    before: 'e',
    after: 'e',
    nextUnit: textOf(nextUnit),
    nextBpm: bpm(nextUnit),
  };
}

function trimmed({ n, d }: { readonly n: number; readonly d: number }): string {
  return String(Math.round((n / d) * 1000) / 1000);
}

function useAudition() {
  const playback = usePlayback();
  const [isHeard, setHeard] = useState(false);
  const stop = () => {
    playback.stop();
    setHeard(false);
  };
  const hear = ({ old, next, equivalence }: Solution) => {
    setHeard(true);
    playback
      .audition(auditionOf({ old, next, carry: equivalence }))
      .catch((error: unknown) => toast((error as Error).message))
      .finally(() => setHeard(false));
  };
  return { hear, isHeard, stop };
}
