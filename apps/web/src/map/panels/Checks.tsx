import { CHECKS, type CorrectionNote, type ProvedFinding } from '@anchorbeat/core';
import { useEffect, useState, type ReactNode } from 'react';
import type { Act } from '../../acts/act.ts';
import { ActHint } from '../../acts/ActButton.tsx';
import { useActs } from '../../acts/ActsContext.tsx';
import { useProof } from '../../piece/PieceLayout.tsx';
import { openFindings } from '../../line/FindingMarks.tsx';
import { barSelected } from '../../store/mapSlice.ts';
import { useAppDispatch } from '../../store/store.ts';
import { useEdit } from '../useEdit.ts';
import { CorrectionForm, ReasonForm } from './answerForms.tsx';
import { Corrections } from './Corrections.tsx';

type Asking = 'correction' | 'reason' | null;

/** Everything the checks found, in reading order; each is put right, answered, or told to the ensemble. */
export function Checks() {
  const { compiled } = useProof();
  const dispatch = useAppDispatch();
  const edit = useEdit();
  const { findings } = compiled;
  const open = openFindings(compiled);
  const [chosen, setChosen] = useState<string | null>(() => (open[0] ? idOf(open[0]) : null));
  const [asking, setAsking] = useState<Asking>(null);
  const shown = findings.find((finding) => idOf(finding) === chosen);
  const choose = (finding: ProvedFinding | undefined) => {
    setAsking(null);
    setChosen(finding ? idOf(finding) : null);
    if (finding) dispatch(barSelected({ bar: finding.barIndex }));
  };
  const shownBar = shown?.barIndex;
  useEffect(() => {
    if (shownBar !== undefined) dispatch(barSelected({ bar: shownBar }));
  }, [shownBar, dispatch]);
  const goOn = (from: ProvedFinding) =>
    choose(open.find((finding) => idOf(finding) !== idOf(from) && finding.barIndex >= from.barIndex));
  const correct = (log: CorrectionNote) => {
    if (shown?.correction && edit({ kind: 'correct', edit: shown.correction.edit, log })) goOn(shown);
  };
  const answer = (finding: ProvedFinding, reason: string | null) => {
    const { barIndex, check } = finding;
    if (edit({ kind: 'answerFinding', bar: barIndex, check, reason }) && reason !== null) goOn(finding);
    else setAsking(null);
  };
  const check = (id: string, key: string, name: string, may: boolean, does: () => void): Act => ({
    id: `checks.${id}`,
    key,
    name,
    group: 'Checks',
    may,
    does,
  });
  const acts: FindingActs = {
    next: check('next', 'c', 'next one', open.length > 1, () => choose(nextOf(open, shown))),
    fix: check('fix', 'f', shown?.correction?.label ?? 'put it right', Boolean(shown?.correction), () =>
      setAsking('correction'),
    ),
    meant: check('meant', 'i', 'meant so', shown?.answer === null, () => setAsking('reason')),
  };
  useActs('panel', Object.values(acts));
  return (
    <>
      <p className="text-quiet">{summary(open.length, findings.length)}</p>
      {open.length > 1 && <ActHint act={acts.next} />}
      <ul className="mt-2 grid gap-1" aria-label="Findings in reading order">
        {findings.map((finding) => (
          <FindingRow
            key={idOf(finding)}
            finding={finding}
            isShown={finding === shown}
            onChoose={() => choose(finding)}
            onReopen={() => answer(finding, null)}
          >
            {finding === shown && (
              <Acts
                finding={finding}
                acts={acts}
                asking={asking}
                onAsk={setAsking}
                onCorrect={correct}
                onAnswer={answer}
              />
            )}
          </FindingRow>
        ))}
      </ul>
      <Corrections />
    </>
  );
}

function idOf({ check, barIndex }: ProvedFinding): string {
  return `${check} ${barIndex}`;
}

/** The next open finding after the shown one, then from the start. */
function nextOf(open: readonly ProvedFinding[], shown: ProvedFinding | undefined): ProvedFinding | undefined {
  const at = shown ? open.findIndex((finding) => idOf(finding) === idOf(shown)) : -1;
  return open[(at + 1) % Math.max(1, open.length)];
}

function summary(open: number, all: number): string {
  if (all === 0) return 'Nothing to look at: notes, numbers, tempi and repeats come out.';
  if (open === 0) return 'Everything that wanted an answer has one.';
  return open === 1 ? 'One place wants a look.' : `${open} places want a look.`;
}

interface FindingRowProps {
  readonly finding: ProvedFinding;
  readonly isShown: boolean;
  readonly onChoose: () => void;
  readonly onReopen: () => void;
  readonly children: ReactNode;
}

function FindingRow({ finding, isShown, onChoose, onReopen, children }: FindingRowProps) {
  const { severity, says, answer } = finding;
  const isOpen = answer === null && severity !== 'hint';
  return (
    <li className={`rounded-lg border-l-4 ${isShown ? 'border-problem bg-ground' : 'border-transparent'}`}>
      <button
        type="button"
        aria-current={isShown}
        onClick={onChoose}
        className="flex w-full gap-2.5 rounded-lg px-2 py-1.5 text-left hover:bg-selection"
      >
        <SeverityMark isOpen={isOpen} severity={severity} />
        <span className={isOpen ? 'font-semibold' : ''}>
          {says}
          {answer !== null && <span className="block text-[0.9rem] text-quiet">Meant so: {answer}</span>}
        </span>
      </button>
      {isShown && answer !== null && (
        <button type="button" className="ml-8 mb-2 text-[0.9rem] underline" onClick={onReopen}>
          Ask again
        </button>
      )}
      {children}
    </li>
  );
}

const SEVERITY_WORDS = { error: 'Cannot be played so', question: 'Question', hint: 'Worth knowing' } as const;

/** A filled diamond cannot be played as written, an open one asks, a dash is worth knowing. */
function SeverityMark({ severity, isOpen }: Pick<ProvedFinding, 'severity'> & { readonly isOpen: boolean }) {
  const shape =
    severity === 'hint'
      ? 'h-1 w-3 mt-2.5'
      : `size-3 rotate-45 mt-1.5 ${severity === 'error' ? '' : 'bg-transparent!'}`;
  return (
    <span
      role="img"
      aria-label={SEVERITY_WORDS[severity]}
      title={SEVERITY_WORDS[severity]}
      className={`shrink-0 border-2 ${isOpen ? 'border-problem bg-problem' : 'border-quiet bg-quiet'} ${shape}`}
    />
  );
}

type FindingActs = Readonly<Record<'next' | 'fix' | 'meant', Act>>;

interface ActsProps {
  readonly acts: FindingActs;
  readonly finding: ProvedFinding;
  readonly asking: Asking;
  readonly onAsk: (asking: Asking) => void;
  readonly onCorrect: (log: CorrectionNote) => void;
  readonly onAnswer: (finding: ProvedFinding, reason: string) => void;
}

function Acts({ finding, acts, asking, onAsk, onCorrect, onAnswer }: ActsProps) {
  const { check, correction, answer } = finding;
  const leave = () => onAsk(null);
  return (
    <div className="grid gap-2 px-2 pb-2.5 pl-8">
      <p className="text-[0.9rem] text-quiet">{CHECKS.find(({ id }) => id === check)?.explains}</p>
      {asking === 'correction' && correction ? (
        <CorrectionForm label={correction.label} onDone={onCorrect} onLeave={leave} />
      ) : asking === 'reason' ? (
        <ReasonForm onDone={(reason) => onAnswer(finding, reason)} onLeave={leave} />
      ) : (
        <div className="flex flex-wrap gap-x-3 gap-y-1">
          {correction && <ActHint act={acts.fix} />}
          {answer === null && <ActHint act={acts.meant} />}
        </div>
      )}
    </div>
  );
}
