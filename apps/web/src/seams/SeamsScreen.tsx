import type { DrillResponse } from '@anchorbeat/contract';
import { howMany, readinessOf, sectionsOf } from '@anchorbeat/core';
import { useEffect, useMemo, useReducer, useRef, useState, type ReactNode } from 'react';
import { useLocation, useSearchParams } from 'react-router';
import type { Act } from '../acts/act.ts';
import { ActHint } from '../acts/ActButton.tsx';
import { useActs } from '../acts/ActsContext.tsx';
import { useProof } from '../piece/PieceLayout.tsx';
import { LevelsDialog } from '../podium/LevelsDialog.tsx';
import { useListRunsQuery } from '../store/api.ts';
import { useAppSelector } from '../store/store.ts';
import { MicrophoneDialog } from '../takes/MicrophoneDialog.tsx';
import { ToldTake } from '../takes/ToldTake.tsx';
import { usePlaceTheme } from '../theme/useTheme.tsx';
import { ReadinessStrip } from './ReadinessStrip.tsx';
import { placedRun } from './placedRun.ts';
import { SavedDrills } from './SavedDrills.tsx';
import { SeamRow } from './SeamRow.tsx';
import { FIRST_SEAMS, seamsAfter, type SeamsState } from './seamsState.ts';
import { barsTargetMaybe, seamTarget, targetKey, type Target, type ToldSeam } from './target.ts';
import { TargetView } from './TargetView.tsx';
import { useDrill } from './useDrill.ts';
import { useKeptDrills, type OpenDrill } from './useKeptDrills.ts';
import { besidePlace, useSeamsActs, type SoundSheetName } from './useSeamsActs.ts';
import type { SeamWishes } from './seamWishes.ts';
import { useToldSeams } from './useToldSeams.ts';
import { viewActs, type SeamView } from './views.ts';

/** Every transition of the piece, worst first: what changes, what holds, what goes wrong; each run, drilled and logged from here. */
export function SeamsScreen() {
  usePlaceTheme('desk');
  const { compiled } = useProof();
  const pieceId = useAppSelector((state) => state.piece.open?.id ?? '');
  const { runs, records } = useRecords(pieceId);
  const [state, dispatchSeams] = useSeamsState();
  const byBar = useMemo(() => new Map(records.map((record) => [record.barIndex, record])), [records]);
  const { seams, kinds } = useToldSeams(state.wishes, byBar);
  const { target, barsText, setBars } = useTarget(seams, state.chosenBar);
  const shownBar = target?.kind === 'seam' ? target.place.barIndex : null;
  const drilling = useDrill(target, state.drill, (drill) => dispatchSeams({ kind: 'drillSet', drill }));
  const kept = useKeptDrills(pieceId);
  const [sheet, setSheet] = useState<SoundSheetName | null>(null);
  const [isListOpen, setListOpen] = useState(barsText === null);
  const chooseBar = (bar: number) => {
    setListOpen(false);
    drilling.stop();
    dispatchSeams({ kind: 'chosen', bar });
    if (barsText !== null) setBars(null);
  };
  const onView = (view: SeamView) => (drilling.stop(), dispatchSeams({ kind: 'viewed', view }));
  const openDrill = (keptDrill: DrillResponse) => {
    const drill = kept.openMaybe(keptDrill);
    if (!drill) return;
    drilling.stop();
    setListOpen(false);
    dispatchSeams({ kind: 'opened', drill, bar: drill.bar });
    setBars(drill.barsText);
  };
  const acts = useSeamsActs({
    state,
    dispatchSeams,
    seams,
    kinds,
    target,
    chooseBar,
    onKeep: (placed) => kept.keep(placed, drillToKeep(state)),
    onSheet: setSheet,
  });
  const views = viewActs(state.view, target !== null, onView);
  useActs('screen', [...Object.values(acts), ...views]);
  return (
    <main className="@container flex h-full min-w-0 flex-col overflow-y-auto">
      <SeamsHeader count={seams.length} filters={acts}>
        <ReadinessStrip records={records} shownBar={shownBar} onChoose={chooseBar} />
      </SeamsHeader>
      <div className="flex min-h-[55%] flex-1">
        <section
          aria-label="Seams"
          className={`w-full shrink-0 flex-col @3xl:flex @3xl:w-[min(22rem,38cqw)] @3xl:border-r-2 @3xl:border-faint ${isListOpen ? 'flex' : 'hidden'}`}
        >
          <SeamList seams={seams} shownBar={shownBar} onChoose={chooseBar} byBar={byBar} />
          <SavedDrills drills={kept.drills} onOpen={openDrill} onRemove={kept.remove} />
        </section>
        <PlaceSection
          name={target?.kind === 'bars' ? 'The bars' : 'The seam'}
          isListOpen={isListOpen}
          onList={() => setListOpen(true)}
        >
          {target ? (
            <TargetView
              key={targetKey(target)}
              target={target}
              drilling={drilling}
              state={state}
              dispatchSeams={dispatchSeams}
              acts={besidePlace(acts, views)}
              runs={runs}
              record={target.kind === 'seam' ? (byBar.get(target.place.barIndex) ?? null) : null}
            />
          ) : (
            <p className="mt-10 text-lg text-quiet">{nothingWords(state.wishes, compiled.seams.length)}</p>
          )}
        </PlaceSection>
      </div>
      <ToldTake />
      <SoundSheet sheet={sheet} onClose={() => setSheet(null)} />
    </main>
  );
}

function SoundSheet({
  sheet,
  onClose,
}: {
  readonly sheet: SoundSheetName | null;
  readonly onClose: () => void;
}) {
  if (sheet === 'levels') return <LevelsDialog onClose={onClose} />;
  return sheet === 'microphone' ? <MicrophoneDialog onClose={onClose} /> : null;
}

/** What is looked at. Whoever comes here from a take comes to work against what it showed. */
function useSeamsState() {
  const [state, dispatchSeams] = useReducer(seamsAfter, FIRST_SEAMS);
  const [search] = useSearchParams();
  const { key } = useLocation();
  const remedy = search.get('do');
  const percent = Number(search.get('percent')) || null;
  useEffect(() => {
    if (remedy !== null) dispatchSeams({ kind: 'remedied', remedy, percent });
  }, [key, remedy, percent]);
  return [state, dispatchSeams] as const;
}

interface PlaceSectionProps {
  readonly name: string;
  /** Where there is no room for both, the list stands instead of the place. */
  readonly isListOpen: boolean;
  readonly onList: () => void;
  readonly children: ReactNode;
}

/** The place that is looked at, beside the list or, on small screens, instead of it. */
function PlaceSection({ name, isListOpen, onList, children }: PlaceSectionProps) {
  return (
    <section
      aria-label={name}
      className={`min-w-0 flex-1 overflow-x-hidden overflow-y-auto px-4 pt-3 pb-8 @3xl:block @3xl:px-8 @3xl:pt-4 ${isListOpen ? 'hidden' : ''}`}
    >
      <button
        type="button"
        className="mb-1 rounded-lg px-1 font-semibold text-quiet @3xl:hidden"
        onClick={onList}
      >
        ← All seams
      </button>
      {children}
    </section>
  );
}

interface SeamsHeaderProps {
  readonly count: number;
  readonly filters: Readonly<Record<'order' | 'kind' | 'section' | 'rehearsed' | 'levels', Act>>;
  readonly children: ReactNode;
}

function SeamsHeader({ count, filters, children }: SeamsHeaderProps) {
  const { piece } = useProof();
  const { order, kind, section, rehearsed, levels } = filters;
  const shown = [order, kind, ...(sectionsOf(piece).length > 0 ? [section] : []), rehearsed, levels];
  return (
    <header className="border-b-2 border-faint px-4 pt-2 pb-1 @3xl:px-6 @3xl:pt-4">
      <div className="flex flex-wrap items-baseline gap-x-4 gap-y-1">
        <h1 className="text-2xl font-bold whitespace-nowrap @3xl:text-3xl">{howMany(count, 'seam')}</h1>
        <p className="min-w-0 truncate text-lg text-quiet">{piece.title}</p>
        <div className="flex flex-wrap gap-x-3 gap-y-1 @3xl:ml-auto pointer-coarse:gap-x-1.5">
          {shown.map((act) => (
            <ActHint key={act.id} act={act} />
          ))}
        </div>
      </div>
      {children}
    </header>
  );
}

/** What of a state is kept with a drill: the ladder or the way only where it is being looked at. */
function drillToKeep({ drill, ladder, way, view }: SeamsState): Omit<OpenDrill, 'place'> {
  return { drill, ladder: view === 'ladder' ? ladder : null, way: view === 'off' ? way : 'play' };
}

/** What is looked at: the bars in the address, else the chosen seam, else the first. */
function useTarget(seams: readonly ToldSeam[], chosenBar: number | null) {
  const { compiled } = useProof();
  const [search, setSearch] = useSearchParams();
  const barsText = search.get('bars');
  const told = seams.find(({ barIndex }) => barIndex === chosenBar) ?? seams[0];
  const target = useMemo((): Target | null => {
    const bars = barsTargetMaybe(compiled, barsText);
    const atBar = bars?.place.bars === 1 && seams.find(({ barIndex }) => barIndex === bars.place.barIndex);
    const seam = atBar || told;
    if (bars && !atBar) return bars;
    return seam ? seamTarget(compiled, seam) : null;
  }, [compiled, barsText, told, seams]);
  const setBars = (bars: string | null) => setSearch(bars === null ? {} : { bars }, { replace: true });
  return { target, barsText, setBars };
}

/** The log of the piece, and how ready each seam is by it. */
function useRecords(pieceId: string) {
  const { compiled } = useProof();
  const { data } = useListRunsQuery(pieceId, { refetchOnMountOrArgChange: true });
  const runs = useMemo(() => (data ?? []).map(placedRun), [data]);
  const records = useMemo(() => readinessOf(compiled, runs), [compiled, runs]);
  return { runs, records };
}

function nothingWords({ kind, section, rehearsed }: SeamWishes, count: number): string {
  if (count === 0) return 'Nothing changes in this piece, so there is nothing to fall apart at.';
  const wanted = [kind, section && `with ${section}`, rehearsed !== 'rehearsed or not' && rehearsed];
  return `No seam of this kind: ${wanted.filter(Boolean).join(', ')}.`;
}

interface SeamListProps {
  readonly seams: readonly ToldSeam[];
  readonly shownBar: number | null;
  readonly onChoose: (barIndex: number) => void;
  readonly byBar: ReadonlyMap<number, { readonly readiness: number | null }>;
}

function SeamList({ seams, shownBar, onChoose, byBar }: SeamListProps) {
  const index = seams.findIndex(({ barIndex }) => barIndex === shownBar);
  const list = useRef<HTMLOListElement>(null);
  useEffect(() => {
    list.current?.children[index]?.scrollIntoView({ block: 'nearest' });
  }, [index]);
  return (
    <ol ref={list} className="min-h-0 flex-1 overflow-y-auto px-2 py-2" tabIndex={-1}>
      {seams.map((told, place) => (
        <SeamRow
          key={told.barIndex}
          told={told}
          isShown={place === index}
          readiness={byBar.get(told.barIndex)?.readiness ?? null}
          onChoose={() => onChoose(told.barIndex)}
        />
      ))}
    </ol>
  );
}
