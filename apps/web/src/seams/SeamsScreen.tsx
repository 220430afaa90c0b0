import type { DrillResponse } from '@anchorbeat/contract';
import {
  barOfPlaceMaybe,
  PLAIN_DRILL,
  PLAIN_LADDER,
  readinessOf,
  SEAM_KINDS,
  sectionsOf,
  type DrillSettings,
  type DrillWay,
  type LadderPlan,
  type SeamKind,
} from '@anchorbeat/core';
import { useEffect, useMemo, useRef, useState } from 'react';
import { useNavigate, useSearchParams } from 'react-router';
import { useProof } from '../app/PieceLayout.tsx';
import { LevelsDialog } from '../podium/LevelsDialog.tsx';
import { usePlayback } from '../sound/PlaybackContext.tsx';
import { useListRunsQuery } from '../store/api.ts';
import { barSelected } from '../store/mapSlice.ts';
import { sendWaiting } from '../store/runLog.ts';
import { useAppDispatch, useAppSelector } from '../store/store.ts';
import { usePlaceTheme } from '../theme/useTheme.tsx';
import { KeyHint } from '../ui/KeyHint.tsx';
import { useKeys } from '../ui/useKeys.ts';
import { ReadinessStrip } from './ReadinessStrip.tsx';
import { placedRun } from './RecordView.tsx';
import { SavedDrills } from './SavedDrills.tsx';
import { SeamRow } from './SeamRow.tsx';
import { barsTargetMaybe, seamTarget, targetKey, type Target, type ToldSeam } from './target.ts';
import { TargetView } from './TargetView.tsx';
import { useDrill } from './useDrill.ts';
import { useKeptDrills } from './useKeptDrills.ts';
import { ORDERS, REHEARSED, useToldSeams, type SeamWishes } from './useToldSeams.ts';
import { viewOfKeyMaybe, type SeamView } from './views.ts';

const KINDS: ReadonlyArray<SeamKind | null> = [null, ...SEAM_KINDS];
const FIRST_WISHES: SeamWishes = {
  order: 'worst first',
  kind: null,
  section: null,
  rehearsed: 'rehearsed or not',
};

/** Every transition of the piece, worst first: what changes, what holds, what goes wrong; each run, drilled and logged from here. */
export function SeamsScreen() {
  usePlaceTheme('desk');
  const { piece, compiled } = useProof();
  const dispatch = useAppDispatch();
  const navigate = useNavigate();
  const playback = usePlayback();
  const pieceId = useAppSelector((state) => state.piece.open?.id ?? '');
  const { runs, records } = useRecords(pieceId);
  const [wishes, setWishes] = useState(FIRST_WISHES);
  const [chosenBar, setChosenBar] = useState<number | null>(null);
  const [view, setView] = useState<SeamView>('card');
  const [drill, setDrill] = useState<DrillSettings>(PLAIN_DRILL);
  const [ladder, setLadder] = useState<LadderPlan>(PLAIN_LADDER);
  const [way, setWay] = useState<DrillWay>('speak');
  const [isLevelling, setLevelling] = useState(false);
  const [search, setSearch] = useSearchParams();
  const byBar = useMemo(() => new Map(records.map((record) => [record.barIndex, record])), [records]);
  const seams = useToldSeams(wishes, byBar);
  const sections = useMemo(() => sectionsOf(piece), [piece]);
  const index = Math.max(
    0,
    seams.findIndex(({ barIndex }) => barIndex === chosenBar),
  );
  const told = seams[index];
  const barsText = search.get('bars');
  const target = useMemo((): Target | null => {
    const bars = barsTargetMaybe(compiled, barsText);
    const atBar = bars?.place.bars === 1 && seams.find(({ barIndex }) => barIndex === bars.place.barIndex);
    const seam = atBar || told;
    if (bars && !atBar) return bars;
    return seam ? seamTarget(compiled, seam) : null;
  }, [compiled, barsText, told, seams]);
  const shownBar = target?.kind === 'seam' ? target.place.barIndex : null;
  const shownAt = seams.findIndex(({ barIndex }) => barIndex === shownBar);
  const drilling = useDrill(target, drill, setDrill);
  const kept = useKeptDrills(pieceId);
  const chooseBar = (barIndex: number) => {
    if (playback.isRunning) playback.stop();
    setChosenBar(barIndex);
    if (barsText !== null) setSearch({}, { replace: true });
  };
  const choose = (place: number) => {
    const next = seams[Math.min(Math.max(place, 0), seams.length - 1)];
    if (next) chooseBar(next.barIndex);
  };
  const wish = (changes: Partial<SeamWishes>) => setWishes({ ...wishes, ...changes });
  const next = <T,>(list: readonly T[], now: T) => list[(list.indexOf(now) + 1) % list.length] as T;
  const openDrill = (keptDrill: DrillResponse) => {
    if (playback.isRunning) playback.stop();
    const opened = kept.open(keptDrill);
    setDrill(opened.drill);
    setLadder(opened.ladder ?? PLAIN_LADDER);
    setWay(opened.way === 'play' ? 'speak' : opened.way);
    setView(opened.ladder ? 'ladder' : opened.way === 'play' ? 'card' : 'off');
    const bar = barOfPlaceMaybe(compiled.labels, opened.place) ?? 0;
    if (opened.place.kind === 'seam') {
      setWishes({ ...FIRST_WISHES, order: wishes.order });
      chooseBar(bar);
    } else setSearch({ bars: `${bar}-${bar + opened.place.bars - 1}` }, { replace: true });
  };
  const keep = () => {
    if (!target) return;
    kept.keep(target, {
      drill,
      ladder: view === 'ladder' ? ladder : null,
      way: view === 'off' ? way : 'play',
    });
  };
  const toMap = () => {
    if (!target) return;
    dispatch(barSelected({ bar: target.place.barIndex }));
    void navigate('../map', { relative: 'path' });
  };
  const act: Readonly<Record<string, () => void>> = {
    ArrowDown: () => choose(shownAt + 1),
    ArrowUp: () => choose(shownAt - 1),
    Home: () => choose(0),
    End: () => choose(seams.length - 1),
    o: () => wish({ order: next(ORDERS, wishes.order) }),
    k: () => wish({ kind: next(KINDS, wishes.kind) }),
    s: () => wish({ section: next([null, ...sections], wishes.section) }),
    n: () => wish({ rehearsed: next(REHEARSED, wishes.rehearsed) }),
    p: keep,
    m: toMap,
    v: () => setLevelling(true),
  };
  useKeys(({ key, command }) => {
    if (command) return false;
    const wanted = viewOfKeyMaybe(key);
    if (wanted && target) {
      if (playback.isRunning) drilling.stop();
      setView(wanted);
    } else if (act[key]) act[key]();
    else return false;
    return true;
  });
  const hint = (key: string, label: string) => (
    <KeyHint keyName={key} label={label} onPress={act[key] as () => void} />
  );
  return (
    <main className="flex h-full min-w-0 flex-col">
      <header className="border-b-2 border-faint px-6 pt-4 pb-1">
        <div className="flex items-baseline gap-4">
          <h1 className="text-3xl font-bold">{seams.length === 1 ? '1 seam' : `${seams.length} seams`}</h1>
          <p className="truncate text-lg text-quiet">{piece.title}</p>
          <div className="ml-auto flex flex-wrap gap-x-3">
            {hint('o', wishes.order)}
            {hint('k', wishes.kind ?? 'every kind')}
            {sections.length > 0 && hint('s', wishes.section ?? 'every section')}
            {hint('n', wishes.rehearsed)}
            {hint('v', 'levels')}
          </div>
        </div>
        <ReadinessStrip records={records} shownBar={shownBar} onChoose={chooseBar} />
      </header>
      <div className="flex min-h-0 flex-1">
        <section aria-label="Seams" className="flex w-[22rem] shrink-0 flex-col border-r-2 border-faint">
          <SeamList seams={seams} index={shownAt} onChoose={choose} byBar={byBar} />
          <SavedDrills drills={kept.drills} onOpen={openDrill} onRemove={kept.remove} />
        </section>
        <section
          aria-label={target?.kind === 'bars' ? 'The bars' : 'The seam'}
          className="min-w-0 flex-1 overflow-y-auto px-8 pt-4 pb-8"
        >
          {target ? (
            <TargetView
              key={targetKey(target)}
              target={target}
              drilling={drilling}
              view={view}
              onView={(wanted) => {
                if (playback.isRunning) drilling.stop();
                setView(wanted);
              }}
              onKeep={keep}
              onMap={toMap}
              ladder={ladder}
              onLadder={setLadder}
              way={way}
              onWay={setWay}
              runs={runs}
              record={target.kind === 'seam' ? (byBar.get(target.place.barIndex) ?? null) : null}
            />
          ) : (
            <p className="mt-10 text-lg text-quiet">{nothingWords(wishes, compiled.seams.length)}</p>
          )}
        </section>
      </div>
      {isLevelling && <LevelsDialog onClose={() => setLevelling(false)} />}
    </main>
  );
}

/** The log of the piece, and how ready each seam is by it. */
function useRecords(pieceId: string) {
  const { compiled } = useProof();
  const dispatch = useAppDispatch();
  const { data } = useListRunsQuery(pieceId, { refetchOnMountOrArgChange: true });
  useEffect(() => {
    void sendWaiting(dispatch);
  }, [dispatch]);
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
  readonly index: number;
  readonly onChoose: (index: number) => void;
  readonly byBar: ReadonlyMap<number, { readonly readiness: number | null }>;
}

function SeamList({ seams, index, onChoose, byBar }: SeamListProps) {
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
          onChoose={() => onChoose(place)}
        />
      ))}
    </ol>
  );
}
