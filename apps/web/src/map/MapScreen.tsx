import { pieceSeconds, routeWords, type BarSpan, type Piece, type Proof } from '@anchorbeat/core';
import { useCallback, useState } from 'react';
import { useNavigate } from 'react-router';
import { toast } from 'sonner';
import type { Act } from '../acts/act.ts';
import { KeyCap, pressed } from '../acts/ActButton.tsx';
import { useActs } from '../acts/ActsContext.tsx';
import { useProof } from '../piece/PieceLayout.tsx';
import { compileInWorker } from '../compiled/compileInWorker.ts';
import { useCompiled } from '../compiled/useCompiled.ts';
import { Line } from '../line/Line.tsx';
import { useBeatNow } from '../line/useBeatNow.ts';
import type { Playback } from '../sound/playback.ts';
import { usePlayback } from '../sound/PlaybackContext.tsx';
import {
  barSelected,
  panelOpened,
  type PanelKind,
  spanSelected,
  trueToToggled,
  zoomed,
} from '../store/mapSlice.ts';
import { redone, undone } from '../store/pieceSlice.ts';
import { useAppDispatch, useAppSelector } from '../store/store.ts';
import { usePlaceTheme } from '../theme/useTheme.tsx';
import { durationText } from '../ui/durationText.ts';
import { CountOffWord } from './CountOffWord.tsx';
import type { EntryKind } from './entries.ts';
import { Entry } from './Entry.tsx';
import { allMapActs, mapActs } from './mapActs.ts';
import { MapHints } from './MapHints.tsx';
import { SaveLine } from './SaveLine.tsx';
import { StaleDialog } from './StaleDialog.tsx';
import { useEdit } from './useEdit.ts';
import { Builder } from './builder/Builder.tsx';
import { Panel } from './panels/Panel.tsx';
import { usePresent } from './usePresent.ts';

const WHOLE_PER_SECOND = 2.5;

/** The desk: the line, and everything that changes it. */
export function MapScreen() {
  usePlaceTheme('desk');
  const proof = useProof();
  const piece = usePresent();
  const { trueTo, pixelsPerSecond } = useAppSelector((state) => state.map);
  const isRunning = useAppSelector((state) => state.transport.run !== null);
  const [entry, setEntry] = useState<{ readonly kind: EntryKind; readonly initial: string } | null>(null);
  const openEntry = (kind: EntryKind, initial = '') => setEntry({ kind, initial });
  const [isBuilding, setBuilding] = useState(false);
  const { focusBar, span } = useSelection(piece);
  const actions = useMapActions(span);
  const { shown, isPreview, setPreview } = usePreview(proof);
  const drawn = spanInside(span, shown.piece);
  const acts = mapActs({
    ...actions,
    span,
    isRunning,
    barCount: piece.bars.length,
    focusBar,
    openEntry,
    openBuilder: () => setBuilding(true),
  });
  useActs('screen', allMapActs(acts));
  return (
    <main className="flex h-full flex-col overflow-y-auto">
      <header className="px-8 pt-6">
        <MapTitle trueToAct={acts.trueTo} />
        <div className="mt-2.5 min-h-[6.6rem]">
          {entry ? (
            <Entry key={entry.kind} {...entry} span={span} piece={piece} onClose={() => setEntry(null)} />
          ) : (
            <MapHints piece={piece} span={span} acts={acts} />
          )}
        </div>
      </header>
      <div className="flex min-h-[18rem] flex-1 basis-0">
        <div className="relative min-w-0 flex-1 pl-5">
          <Line
            proof={shown}
            scale={{ trueTo, pixelsPerSecond, pixelsPerWhole: pixelsPerSecond * WHOLE_PER_SECOND }}
            selection={drawn}
            focusBar={Math.min(focusBar, shown.piece.bars.length - 1)}
            onSelect={actions.select}
            onMove={isPreview ? null : actions.moveTo}
            beatNow={useBeatNow(proof)}
            isMoving={isRunning && !isPreview}
          />
          <CountOffWord />
          {isPreview && (
            <p className="pointer-events-none absolute top-1 right-4 rounded-md bg-carry px-3 py-1 font-semibold text-ground">
              Not taken in yet: this is what it would be
            </p>
          )}
        </div>
        <Panel onPreview={setPreview} />
      </div>
      {isBuilding && <Builder piece={piece} span={span} onClose={() => setBuilding(false)} />}
      <StaleDialog />
    </main>
  );
}

/** What the line shows: the piece, or what a panel would make of it once that is worked out. */
function usePreview(proof: Proof) {
  const [preview, setPreview] = useState<Piece | null>(null);
  const previewProof = useCompiled(preview);
  const isPreview = preview !== null && previewProof?.piece === preview;
  return { shown: isPreview ? previewProof : proof, isPreview, setPreview };
}

function spanInside(span: BarSpan, { bars }: Piece): BarSpan {
  const from = Math.min(span.from, bars.length - 1);
  return { from, count: Math.max(1, Math.min(span.count, bars.length - from)) };
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
  const navigate = useNavigate();
  const edit = useEdit();
  const canUndo = useAppSelector((state) => Boolean(state.piece.open?.past.length));
  const canRedo = useAppSelector((state) => Boolean(state.piece.open?.future.length));
  const select = useCallback(
    (bar: number, extend: boolean) => void dispatch(barSelected({ bar, extends: extend })),
    [dispatch],
  );
  const stepped = (action: ReturnType<typeof undone | typeof redone>) => {
    playback.stop();
    dispatch(action);
  };
  const moveTo = (before: number) => {
    const isInPlace = before >= span.from && before <= span.from + span.count;
    if (isInPlace || !edit({ kind: 'moveBars', ...span, before })) return;
    const from = before > span.from ? before - span.count : before;
    dispatch(spanSelected({ from, count: span.count }));
  };
  return {
    canUndo,
    canRedo,
    select,
    moveTo,
    moveBy: (bars: number) => {
      const before = bars < 0 ? span.from + bars : span.from + span.count + bars;
      if (before >= 0 && before <= piece.bars.length) moveTo(before);
    },
    openPanel: (kind: PanelKind) => void dispatch(panelOpened(kind)),
    toggleRun: () => {
      if (playback.isRunning) playback.stop();
      else countInto(playback, piece, span.from).catch((error: unknown) => toast((error as Error).message));
    },
    deleteSelection: () => {
      if (edit({ kind: 'deleteBars', ...span }))
        dispatch(spanSelected({ from: Math.max(0, span.from - 1), count: 1 }));
    },
    drill: () =>
      void navigate(`../seams?bars=${span.from}-${span.from + span.count - 1}`, { relative: 'path' }),
    undo: () => stepped(undone()),
    redo: () => stepped(redone()),
    zoom: (steps: number) => void dispatch(zoomed({ steps })),
    toggleTrueTo: () => void dispatch(trueToToggled()),
  };
}

/** Counts into a written bar of the piece as it now is, also when the last edit is still being compiled. */
async function countInto(playback: Playback, piece: Piece, barIndex: number): Promise<void> {
  const compiled = await compileInWorker(piece);
  const performed = Math.max(0, compiled.firstPerformed[barIndex] ?? 0);
  await playback.countIn({ piece, compiled }, performed, { subject: { kind: 'piece' } });
}

function MapTitle({ trueToAct }: { readonly trueToAct: Act }) {
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
        onClick={pressed(trueToAct)}
      >
        True to <TrueWord word="time" isOn={trueTo === 'time'} /> /{' '}
        <TrueWord word="ink" isOn={trueTo === 'ink'} />
        <span className="ml-2 inline-block">
          <KeyCap act={trueToAct} />
        </span>
      </button>
    </div>
  );
}

function TrueWord({ word, isOn }: { readonly word: string; readonly isOn: boolean }) {
  return <span className={isOn ? 'border-b-2 border-ink font-bold text-ink' : ''}>{word}</span>;
}
