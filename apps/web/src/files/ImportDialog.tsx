import { capital, howMany, pieceSeconds, turnEquivalences, type Piece, type Problem } from '@anchorbeat/core';
import { bundledNotes, type ReadingNote, type ReadingNotes } from '@anchorbeat/formats';
import type { EnsembleResponse } from '@anchorbeat/contract';
import { useEffect, useRef, useState } from 'react';
import { useCompiled } from '../compiled/useCompiled.ts';
import { Miniature } from '../line/Miniature.tsx';
import { useWidth } from '../line/useWidth.ts';
import { useKeepPiece } from '../piece/useKeepPiece.ts';
import { Button } from '../ui/Button.tsx';
import { DialogShell } from '../ui/DialogShell.tsx';
import { durationText } from '../ui/durationText.ts';
import { ToggleGroup } from '../ui/ToggleGroup.tsx';
import { Progress } from './Progress.tsx';
import { useFileTask } from './useFileTask.ts';

interface ImportDialogProps {
  readonly file: File;
  readonly ensemble: EnsembleResponse;
  readonly onClose: () => void;
}

interface Read {
  readonly piece: Piece;
  readonly notes: ReadingNotes | null;
}

const MOST_BYTES = 40 * 1024 * 1024;

/** A file before anything of it is kept: what was read, what was guessed, what was left out. */
export function ImportDialog({ file, ensemble, onClose }: ImportDialogProps) {
  const task = useFileTask();
  const [read, setRead] = useState<Read | null>(null);
  const [problems, setProblems] = useState<readonly Problem[]>([]);
  const begun = useRef<File | null>(null);
  const { run } = task;
  useEffect(() => {
    if (begun.current === file) return;
    begun.current = file;
    void readFile(file, run).then((result) => {
      if (result.kind === 'refused') setProblems(result.problems);
      else if (result.kind === 'piece') setRead(result);
    });
  }, [file, run]);
  return (
    <DialogShell
      title={read ? read.piece.title : file.name}
      description={
        read
          ? `From ${file.name}. Nothing is kept yet.`
          : 'Nothing is kept before you have seen what it holds.'
      }
      width="wide"
      onClose={onClose}
    >
      {task.share !== null && (
        <div className="mt-6">
          <Progress
            label="Reading …"
            share={task.share}
            onCancel={() => {
              task.cancel();
              onClose();
            }}
          />
        </div>
      )}
      {problems.length > 0 && <Refused problems={problems} onClose={onClose} />}
      {read && <ReadPiece read={read} ensemble={ensemble} onClose={onClose} />}
    </DialogShell>
  );
}

async function readFile(file: File, run: ReturnType<typeof useFileTask>['run']) {
  if (file.size > MOST_BYTES)
    return {
      kind: 'refused' as const,
      problems: [{ message: `${file.name} is larger than any piece needs` }],
    };
  return run({ kind: 'read', name: file.name, bytes: new Uint8Array(await file.arrayBuffer()) });
}

function Refused({
  problems,
  onClose,
}: {
  readonly problems: readonly Problem[];
  readonly onClose: () => void;
}) {
  return (
    <>
      <ul role="alert" className="mt-5 grid gap-1.5">
        {problems.slice(0, 12).map((problem, index) => (
          <li key={index} className="border-l-4 border-problem pl-3 text-lg">
            {placeOf(problem) && <b>{placeOf(problem)}: </b>}
            {problem.message}
          </li>
        ))}
      </ul>
      {problems.length > 12 && <p className="mt-2 text-quiet">and {problems.length - 12} more</p>}
      <Button className="mt-6" onClick={onClose}>
        Back to the shelf
      </Button>
    </>
  );
}

/** Where it stands, for whoever has the file before them: its bar, or the row or line of its text. */
function placeOf({ bar, field = '' }: Problem): string {
  if (bar !== undefined) return `Bar ${bar}`;
  return /^(row|line) \d/.test(field) ? capital(field) : '';
}

const WAYS_ROUND = ['before = after', 'after = before'] as const;

function ReadPiece({ read, ensemble, onClose }: { readonly read: Read } & Omit<ImportDialogProps, 'file'>) {
  const { keep, isLoading } = useKeepPiece(ensemble, onClose);
  const [isTurned, setTurned] = useState(false);
  const [problem, setProblem] = useState('');
  const [turned] = useState(() => turnEquivalences(read.piece));
  const piece = isTurned ? turned : read.piece;
  const hasEquivalences = piece.bars.some(({ tempoMarks }) =>
    tempoMarks.some(({ equivalence }) => equivalence),
  );
  const proof = useCompiled(piece);
  const holder = useRef<HTMLDivElement>(null);
  const width = useWidth(holder);
  return (
    <>
      <p className="mt-3 text-lg">
        {[
          ...(read.notes?.read.filter((text) => !text.startsWith('0 ')) ?? [
            howMany(piece.bars.length, 'bar'),
          ]),
          proof && durationText(pieceSeconds(proof.compiled.timeline)),
          proof && howMany(proof.compiled.seams.length, 'seam'),
        ]
          .filter(Boolean)
          .join(' · ')}
      </p>
      <div ref={holder} className="mt-3 h-[52px]">
        {proof && width > 0 && <Miniature proof={proof} width={width} />}
      </div>
      {hasEquivalences && (
        <div className="mt-2">
          <ToggleGroup
            label="This score prints equivalences as"
            options={WAYS_ROUND.map((value) => ({ value, name: value }))}
            isOn={(value) => (value === 'after = before') === isTurned}
            onToggle={(value) => setTurned(value === 'after = before')}
          />
        </div>
      )}
      {read.notes && (
        <div className="mt-4 grid gap-4">
          <Told title="The file contradicts itself" notes={read.notes.findings} tone="border-problem" />
          <Told title="Guessed" notes={read.notes.guessed} tone="border-entry" />
          <Told title="Left out" notes={read.notes.leftOut} tone="border-quiet" />
        </div>
      )}
      {problem && <p className="mt-4 text-problem">{problem}</p>}
      <div className="mt-6 flex gap-3">
        <Button
          filled
          disabled={isLoading}
          onClick={() => void keep(piece).then((reason) => setProblem(reason ?? ''))}
          autoFocus
        >
          Put it on the shelf
        </Button>
        <Button onClick={onClose}>Leave it</Button>
      </div>
    </>
  );
}

interface ToldProps {
  readonly title: string;
  readonly notes: readonly ReadingNote[];
  readonly tone: string;
}

/** Notes of one kind; what is said of many bars is said once, with their numbers. */
function Told({ title, notes, tone }: ToldProps) {
  if (notes.length === 0) return null;
  return (
    <section aria-label={title} className={`border-l-4 pl-4 ${tone}`}>
      <h3 className="font-display font-bold">{title}</h3>
      <ul className="mt-1 grid gap-0.5">
        {bundledNotes(notes).map(({ says, where }) => (
          <li key={says}>
            <span className="inline-block first-letter:uppercase">{says}</span>
            {where !== null && <span className="numeral ml-2 text-quiet">{where}</span>}
          </li>
        ))}
      </ul>
    </section>
  );
}
