import { pieceSeconds, routeWords, type BarSpan, type Piece } from '@anchorbeat/core';
import { useCallback, useState } from 'react';
import { toast } from 'sonner';
import { useProof } from '../app/PieceLayout.tsx';
import { compileInWorker } from '../compiled/compileInWorker.ts';
import { Line } from '../line/Line.tsx';
import { useBeatNow } from '../line/useBeatNow.ts';
import type { Playback } from '../sound/playback.ts';
import { usePlayback } from '../sound/PlaybackContext.tsx';
import { barSelected, spanSelected, trueToToggled, zoomed } from '../store/mapSlice.ts';
import { redone, undone } from '../store/pieceSlice.ts';
import { useAppDispatch, useAppSelector } from '../store/store.ts';
import { usePlaceTheme } from '../theme/useTheme.tsx';
import { durationText } from '../ui/durationText.ts';
import { CountOffWord } from './CountOffWord.tsx';
import type { EntryKind } from './entries.ts';
import { Entry } from './Entry.tsx';
import { KeyHints } from './KeyHints.tsx';
import { SaveLine } from './SaveLine.tsx';
import { StaleDialog } from './StaleDialog.tsx';
import { useEdit } from './useEdit.ts';
import { useMapKeys } from './useMapKeys.ts';

const WHOLE_PER_SECOND = 2.5;

/** The desk: the line, and everything that changes it. */
export function MapScreen() {
  usePlaceTheme('desk');
  const proof = useProof();
  const piece = usePresent();
  const { trueTo, pixelsPerSecond } = useAppSelector((state) => state.map);
  const isRunning = useAppSelector((state) => state.transport.status !== 'stopped');
  const [entry, setEntry] = useState<{ readonly kind: EntryKind; readonly initial: string } | null>(null);
  const openEntry = (kind: EntryKind, initial = '') => setEntry({ kind, initial });
  const { focusBar, span } = useSelection(piece);
  const actions = useMapActions(span);
  useMapKeys({ ...actions, barCount: piece.bars.length, focusBar, openEntry });
  return (
    <main className="flex h-full flex-col">
      <header className="px-8 pt-6">
        <MapTitle onToggle={actions.toggleTrueTo} />
        <div className="mt-3 min-h-[5.4rem]">
          {entry ? (
            <Entry key={entry.kind} {...entry} span={span} piece={piece} onClose={() => setEntry(null)} />
          ) : (
            <KeyHints
              piece={piece}
              span={span}
              isRunning={isRunning}
              onEntry={openEntry}
              onRun={actions.toggleRun}
              onDelete={actions.deleteSelection}
              onUndo={actions.undo}
              onRedo={actions.redo}
              onZoom={actions.zoom}
            />
          )}
        </div>
      </header>
      <div className="relative min-h-0 flex-1 pl-5">
        <Line
          proof={proof}
          scale={{ trueTo, pixelsPerSecond, pixelsPerWhole: pixelsPerSecond * WHOLE_PER_SECOND }}
          selection={span}
          focusBar={focusBar}
          onSelect={actions.select}
          beatNow={useBeatNow(proof)}
          isMoving={isRunning}
        />
        <CountOffWord />
      </div>
      <StaleDialog />
    </main>
  );
}

/** The piece as it now is. What is drawn and heard follows as soon as it is compiled; the keys do not wait for that. */
function usePresent(): Piece {
  const { piece } = useProof();
  return useAppSelector((state) => state.piece.open?.present) ?? piece;
}

/** The selected bars, held inside the piece as it now is. */
function useSelection(piece: Piece): { readonly focusBar: number; readonly span: BarSpan } {
  const { anchorBar, focusBar } = useAppSelector((state) => state.map);
  const inside = (bar: number) => Math.min(bar, piece.bars.length - 1);
  const [a, b] = [inside(anchorBar), inside(focusBar)];
  return { focusBar: b, span: { from: Math.min(a, b), count: Math.abs(a - b) + 1 } };
}

/** What the keys and the buttons of the map do. */
function useMapActions(span: BarSpan) {
  const piece = usePresent();
  const dispatch = useAppDispatch();
  const playback = usePlayback();
  const edit = useEdit();
  const select = useCallback(
    (bar: number, extend: boolean) => void dispatch(barSelected({ bar, extends: extend })),
    [dispatch],
  );
  const stepped = (action: ReturnType<typeof undone | typeof redone>) => {
    playback.stop();
    dispatch(action);
  };
  return {
    select,
    toggleRun: () => {
      if (playback.isRunning) playback.stop();
      else countInto(playback, piece, span.from).catch((error: unknown) => toast((error as Error).message));
    },
    deleteSelection: () => {
      if (edit({ kind: 'deleteBars', ...span }))
        dispatch(spanSelected({ from: Math.max(0, span.from - 1), count: 1 }));
    },
    undo: () => stepped(undone()),
    redo: () => stepped(redone()),
    zoom: (steps: number) => void dispatch(zoomed({ steps })),
    toggleTrueTo: () => void dispatch(trueToToggled()),
  };
}

/** Counts into a written bar of the piece as it now is, also when the last edit is still being compiled. */
async function countInto(playback: Playback, piece: Piece, barIndex: number): Promise<void> {
  const compiled = await compileInWorker(piece);
  await playback.countIn({ piece, compiled }, Math.max(0, compiled.firstPerformed[barIndex] ?? 0));
}

function MapTitle({ onToggle }: { readonly onToggle: () => void }) {
  const { piece, compiled } = useProof();
  const trueTo = useAppSelector((state) => state.map.trueTo);
  const order = routeWords(piece, compiled.timeline.route);
  const isPlain = compiled.timeline.route.barIndex.length === piece.bars.length;
  const facts = [piece.subtitle, `${piece.bars.length} bars`, durationText(pieceSeconds(compiled.timeline))];
  return (
    <div className="flex items-baseline gap-4">
      <h1 className="text-4xl font-bold whitespace-nowrap">{piece.title}</h1>
      <p className="min-w-0 truncate text-quiet" title={isPlain ? undefined : `Played: ${order}`}>
        {facts.filter(Boolean).join(' · ')}
        {!isPlain && ` · played ${order}`}
      </p>
      <SaveLine />
      <button
        type="button"
        className="ml-auto whitespace-nowrap text-quiet hover:text-ink"
        aria-label={`The line is true to ${trueTo}; press to switch`}
        onClick={onToggle}
      >
        True to <TrueWord word="time" isOn={trueTo === 'time'} /> /{' '}
        <TrueWord word="ink" isOn={trueTo === 'ink'} />
        <kbd className="ml-2 rounded-md border border-quiet px-1.5 py-px font-text text-xs font-bold text-ink">
          v
        </kbd>
      </button>
    </div>
  );
}

function TrueWord({ word, isOn }: { readonly word: string; readonly isOn: boolean }) {
  return <span className={isOn ? 'border-b-2 border-ink font-bold text-ink' : ''}>{word}</span>;
}
