import {
  listedSounds,
  spanName,
  type BenchAnswer,
  type BenchSend,
  type HeardResult,
  type RunSounds,
  type TappedNote,
} from '@anchorbeat/core';
import { useEffect, useState, type ReactNode } from 'react';
import { toast } from '../ui/toast.ts';
import type { Act } from '../acts/act.ts';
import { ActButton } from '../acts/ActButton.tsx';
import { useActs } from '../acts/ActsContext.tsx';
import { BarsDrawing } from '../line/BarsDrawing.tsx';
import { useEdit } from '../map/useEdit.ts';
import { useSelection } from '../map/useSelection.ts';
import { useSteps } from '../map/useSteps.ts';
import { useProof } from '../piece/PieceLayout.tsx';
import { usePlayback } from '../sound/PlaybackContext.tsx';
import { useExercise } from '../sound/useExercise.ts';
import { copyWords } from '../ui/copyWords.ts';
import { AnswerChart } from './AnswerChart.tsx';
import { AnswerTable } from './AnswerTable.tsx';

const benchAct = (id: string, key: string, name: string, label: string, does: () => void): Act => ({
  id: `bench.${id}`,
  key,
  name,
  label,
  group: 'Bench',
  does,
});

/** What a tool found: in words, on the line, heard, as a table, and where it can be sent. */
export function AnswerView({ answer }: { readonly answer: BenchAnswer }) {
  const { says, table, chart, heard, sends = [] } = answer;
  const copy = benchAct('copy', 'c', 'copy the answer in words', 'Copy', () => {
    const rows = table ? [table.head, ...table.rows].map((row) => row.join('\t')) : [];
    void copyWords([...says, ...rows].join('\n')).then((isCopied) =>
      toast(isCopied ? 'Copied' : 'This browser does not let pages copy: select the words instead'),
    );
  });
  useActs('view', [copy]);
  const [first, ...rest] = says;
  return (
    <div className="mt-5">
      <div role="status">
        <p className="max-w-4xl font-display text-2xl font-bold">{first}</p>
        {rest.map((line) => (
          <p key={line} className="mt-1 max-w-4xl text-lg break-words">
            {line}
          </p>
        ))}
      </div>
      {heard ? (
        <Heard heard={heard}>
          <ActButton act={copy} />
          <Sends sends={sends} />
        </Heard>
      ) : (
        <Row>
          <ActButton act={copy} />
          <Sends sends={sends} />
        </Row>
      )}
      {chart && <AnswerChart chart={chart} />}
      {table && <AnswerTable table={table} />}
    </div>
  );
}

function Row({ children }: { readonly children: ReactNode }) {
  return <div className="mt-3 flex flex-wrap items-center gap-2">{children}</div>;
}

/** The result on the line, round and round. */
function Heard({ heard, children }: { readonly heard: HeardResult; readonly children: ReactNode }) {
  const { proof, isRunning, toggle } = useExercise(heard.piece, {
    overlay: heard.overlay ?? null,
    soundsRhythm: heard.soundsRhythm === true,
    clickOn: 'pulse',
  });
  const hear = benchAct('hear', ' ', isRunning ? 'stop' : 'hear it', isRunning ? 'Stop' : 'Hear it', toggle);
  const [areApart, setApart] = useState(false);
  const playback = usePlayback();
  useEffect(() => {
    playback.loudspeaker.setHands(areApart);
    return () => playback.loudspeaker.setHands(false);
  }, [areApart, playback]);
  const { tapped } = heard;
  const hasTwoHands = heard.overlay !== undefined || heard.soundsRhythm === true;
  const more = [
    ...(hasTwoHands
      ? [
          benchAct(
            'hands',
            'h',
            'two hands: the beat left, the notes right',
            areApart ? 'Both in both ears' : 'Two hands, left and right',
            () => setApart(!areApart),
          ),
        ]
      : []),
    ...(tapped
      ? [
          benchAct(
            'tapped',
            'g',
            'hear it as it was tapped',
            'As tapped',
            () =>
              void playback
                .audition(tappedSounds(tapped))
                .catch((error: unknown) => toast((error as Error).message)),
          ),
        ]
      : []),
  ];
  useActs('view', [hear, ...more]);
  return (
    <div className="mt-3">
      <BarsDrawing proof={proof} from={0} to={heard.piece.bars.length} />
      <Row>
        <ActButton act={hear} filled />
        {more.map((act) => (
          <ActButton key={act.id} act={act} />
        ))}
        {children}
      </Row>
    </div>
  );
}

/** Taps as they came, a strong one on another sound. */
function tappedSounds(tapped: readonly TappedNote[]): RunSounds {
  const clicks = tapped.map(({ ms, isStrong }) => ({
    timeSeconds: ms / 1000,
    kind: isStrong ? ('downbeat' as const) : ('overlay' as const),
  }));
  return listedSounds(clicks, (clicks.at(-1)?.timeSeconds ?? 0) + 0.5);
}

/** Each way to send the result to the selected bars of the piece, as one edit that can be taken back here. */
function Sends({ sends }: { readonly sends: readonly BenchSend[] }) {
  const { piece } = useProof();
  const edit = useEdit();
  const { span } = useSelection(piece);
  const { canUndo, undo: stepBack } = useSteps();
  const undo = {
    ...benchAct('undo', 'ctrl+z', 'take back what was sent', 'Take back', stepBack),
    may: canUndo,
  };
  const acts = sends.map(({ label, editFor }, index) =>
    benchAct(`send${index}`, SEND_KEYS[index] ?? '', `send: ${label}`, label, () => {
      const made = editFor(piece, span);
      if (!made.ok) {
        toast(made.problem.message);
        return;
      }
      if (edit(made.value)) toast(`In the piece: ${spanName(piece, span)}. ctrl z takes it back.`);
    }),
  );
  useActs('view', [...acts, undo]);
  if (sends.length === 0) return null;
  return (
    <>
      {acts.map((act) => (
        <ActButton key={act.id} act={act} />
      ))}
      <span className="text-quiet">
        Selected in {piece.title || 'the piece'}: {spanName(piece, span)}
      </span>
    </>
  );
}

const SEND_KEYS = ['e', 's', 'd', 'f'] as const;
