import type { BarSpan, Edit, Piece, Proof } from '@anchorbeat/core';
import { useCallback, useRef, useState, type RefObject } from 'react';
import { useNavigate } from 'react-router';
import { toast } from '../ui/toast.ts';
import { useAsked } from '../app/useAsked.ts';
import { useActs } from '../acts/ActsContext.tsx';
import { useSheetAct } from '../acts/SheetProvider.tsx';
import { compileInWorker } from '../compiled/compileInWorker.ts';
import { useCompiled } from '../compiled/useCompiled.ts';
import { useKept } from '../kept/kept.ts';
import { Line } from '../line/Line.tsx';
import { useBeatNow } from '../line/useBeatNow.ts';
import { useLineView } from '../line/useLineView.ts';
import { useSize } from '../line/useSize.ts';
import { useProof } from '../piece/PieceLayout.tsx';
import type { Playback } from '../sound/playback.ts';
import { usePlayback } from '../sound/PlaybackContext.tsx';
import { useIsSounding } from '../sound/useIsSounding.ts';
import { barSelected, panelOpened, type PanelKind, spanSelected } from '../store/mapSlice.ts';
import { useAppDispatch, useAppSelector } from '../store/store.ts';
import { usePlaceTheme } from '../theme/useTheme.tsx';
import { BarStrip } from './BarStrip.tsx';
import { CountOffWord } from './CountOffWord.tsx';
import type { EntryKind } from './entries.ts';
import { Entry } from './Entry.tsx';
import { keptLanes } from './keptLanes.ts';
import { allMapActs, mapActs } from './mapActs.ts';
import { MapActRow, MapTitle } from './MapHeader.tsx';
import { mapOffers } from './mapOffers.ts';
import { Overview } from './Overview.tsx';
import { StaleDialog } from './StaleDialog.tsx';
import { useEdit } from './useEdit.ts';
import { Builder } from './builder/Builder.tsx';
import { Panel } from './panels/Panel.tsx';
import { usePresent } from './usePresent.ts';
import { useSelection } from './useSelection.ts';
import { useSteps } from './useSteps.ts';

/** The desk: the line, and everything that changes it. */
export function MapScreen() {
  usePlaceTheme('desk');
  const proof = useProof();
  const piece = usePresent();
  const isRunning = useIsSounding();
  const [entry, setEntry] = useState<{ readonly kind: EntryKind; readonly initial: string } | null>(null);
  const [isBuilding, setBuilding] = useState(false);
  const { focusBar, span } = useSelection(piece);
  const { shown, isPreview, setPreview } = usePreview(proof);
  const scroller = useRef<HTMLDivElement>(null);
  const page = useLinePage(shown, scroller);
  const beatNow = useBeatNow(proof);
  const sheet = useSheetAct();
  usePanelAsked();
  const actions = useMapActions(span);
  const drawn = spanInside(span, shown.piece);
  const acts = mapActs({
    ...actions,
    ...page.does,
    span,
    isRunning,
    barCount: piece.bars.length,
    focusBar,
    openEntry: (kind, initial = '') => setEntry({ kind, initial }),
    openBuilder: () => setBuilding(true),
  });
  useActs('screen', allMapActs(acts), undefined, (sought) => mapOffers(sought, piece, span, actions.offers));
  const sounding = { beatNow, isMoving: isRunning && !isPreview };
  return (
    <main className="@container flex h-full flex-col overflow-hidden">
      <header className="relative shrink-0 px-3 pt-2 @3xl:px-6 @3xl:pt-3 print:hidden">
        <MapTitle acts={acts} />
        <div className="mt-1.5 mb-2 flex min-h-11 flex-col justify-center">
          {entry ? (
            <Entry key={entry.kind} {...entry} span={span} piece={piece} onClose={() => setEntry(null)} />
          ) : (
            <MapActRow piece={piece} span={span} acts={acts} trueTo={page.trueTo} />
          )}
        </div>
        <Overview proof={shown} inView={page.inView} selection={drawn} {...sounding} onShow={page.show} />
      </header>
      <div className="relative flex min-h-0 flex-1">
        <div className="relative min-w-0 flex-1">
          <div
            ref={scroller}
            className="h-full overflow-x-hidden overflow-y-auto pt-1.5 pl-1 @3xl:pl-2 print:h-auto print:overflow-visible"
          >
            {page.layout && (
              <Line
                layout={page.layout}
                scroller={scroller}
                widthPx={page.widthPx}
                selection={drawn}
                focusBar={Math.min(focusBar, shown.piece.bars.length - 1)}
                onSelect={actions.select}
                onSelectSpan={actions.selectSpan}
                onMove={isPreview ? null : actions.moveTo}
                onZoom={page.does.zoom}
                onLongPress={sheet.does}
                onView={page.setInView}
                {...sounding}
              />
            )}
          </div>
          <CountOffWord />
          {isPreview && <PreviewNote />}
        </div>
        <Panel onPreview={setPreview} />
      </div>
      <BarStrip proof={shown} layout={page.layout} span={drawn} acts={acts} />
      {isBuilding && <Builder piece={piece} span={span} onClose={() => setBuilding(false)} />}
      <StaleDialog />
    </main>
  );
}

/** The page the line is laid out for, how near it is looked at, and what of the piece is on it. */
function useLinePage(shown: Proof, scroller: RefObject<HTMLDivElement | null>) {
  const pieceId = useAppSelector((state) => state.piece.open?.id ?? '');
  const size = useSize(scroller);
  const [lanes, keepLanes] = useKept(keptLanes);
  const { layout, zoom, zoomBy, fit, toggleTrueTo } = useLineView(pieceId, shown, size, lanes === 'shown');
  const [inView, setInView] = useState<BarSpan | null>(null);
  return {
    layout,
    widthPx: size.widthPx,
    trueTo: zoom.trueTo,
    inView,
    setInView,
    show: (barIndex: number) => {
      if (!layout || !scroller.current) return;
      const top = layout.topOf(layout.systemOfBar(barIndex));
      scroller.current.scrollTo({ top: top - size.heightPx / 3 });
    },
    does: {
      zoom: zoomBy,
      fit,
      toggleTrueTo,
      foldLanes: () => keepLanes(lanes === 'shown' ? 'folded' : 'shown'),
    },
  };
}

function PreviewNote() {
  return (
    <p className="pointer-events-none absolute top-1 right-4 rounded-md bg-carry px-3 py-1 font-semibold text-ground">
      Not taken in yet: this is what it would be
    </p>
  );
}

/** Whoever comes to write words finds them open. */
function usePanelAsked(): void {
  const dispatch = useAppDispatch();
  useAsked('panel', (asked) => {
    if (asked === 'words') dispatch(panelOpened(asked));
  });
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

/** What the keys and the buttons of the map do. */
function useMapActions(span: BarSpan) {
  const piece = usePresent();
  const dispatch = useAppDispatch();
  const playback = usePlayback();
  const navigate = useNavigate();
  const edit = useEdit();
  const { canUndo, canRedo, undo, redo } = useSteps();
  const select = useCallback(
    (bar: number, extend: boolean) => void dispatch(barSelected({ bar, extends: extend })),
    [dispatch],
  );
  const moveTo = (before: number) => {
    const isInPlace = before >= span.from && before <= span.from + span.count;
    if (isInPlace || !edit({ kind: 'moveBars', ...span, before })) return;
    const from = before > span.from ? before - span.count : before;
    dispatch(spanSelected({ from, count: span.count }));
  };
  const selectSpan = useCallback(
    (from: number, to: number) =>
      void dispatch(spanSelected({ from: Math.min(from, to), count: Math.abs(to - from) + 1 })),
    [dispatch],
  );
  return {
    canUndo,
    canRedo,
    select,
    selectSpan,
    offers: { edit: (wanted: Edit) => void edit(wanted), go: (bar: number) => select(bar, false) },
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
    undo,
    redo,
  };
}

/** Counts into a written bar of the piece as it now is, also when the last edit is still being compiled. */
async function countInto(playback: Playback, piece: Piece, barIndex: number): Promise<void> {
  const compiled = await compileInWorker(piece);
  const performed = Math.max(0, compiled.firstPerformed[barIndex] ?? 0);
  await playback.countIn({ piece, compiled }, performed, { subject: { kind: 'piece' } });
}
