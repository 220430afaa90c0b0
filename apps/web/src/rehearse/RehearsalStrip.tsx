import { useEffect, useState } from 'react';
import { useLocation, useNavigate } from 'react-router';
import { toast } from '../ui/toast.ts';
import type { Act } from '../acts/act.ts';
import { ActHint } from '../acts/ActButton.tsx';
import { useActs } from '../acts/ActsContext.tsx';
import { useEnsemble } from '../ensemble/useEnsemble.ts';
import { useKept } from '../kept/kept.ts';
import { useToldStands } from '../together/useToldStands.ts';
import { useListPiecesQuery } from '../store/api.ts';
import { useListDatesQuery } from '../store/seasonApi.ts';
import { keepRehearsal } from '../store/rehearsalSlice.ts';
import { amendLastRun } from '../store/runLogging.ts';
import { useAppDispatch, useAppSelector } from '../store/store.ts';
import { MarksDialog } from './MarksDialog.tsx';
import { keptOwnMarks, noteWith, OWN_MARK_KEYS, USUAL_MARKS } from './ownMarks.ts';
import { useNow } from './useNow.ts';

/** While a rehearsal is under way: what is worked on, how long yet, and what comes next; over every other screen. */
export function RehearsalStrip() {
  const rehearsal = useAppSelector((state) => state.rehearsal);
  const { pathname } = useLocation();
  useEffect(() => keepRehearsal(rehearsal), [rehearsal]);
  useToldStands(rehearsal.item?.title ?? '');
  if (rehearsal.dateId === null || !rehearsal.item || pathname === '/rehearse') return null;
  return <Strip />;
}

function Strip() {
  useKeptAtHand();
  const { item, itemStartedAtMs, next, endsAtMs } = useAppSelector((state) => state.rehearsal);
  const lastLogged = useAppSelector((state) => state.transport.lastLogged);
  const dispatch = useAppDispatch();
  const navigate = useNavigate();
  const nowMs = useNow();
  const [own] = useKept(keptOwnMarks);
  const [isNaming, setNaming] = useState(false);
  const note = (mark: string, key: string): Act => ({
    id: `rehearsal.${mark}`,
    key,
    name: `note on the last run: ${mark}`,
    label: mark,
    group: 'Rehearsal',
    does: () => {
      const added = noteWith(lastLogged?.run.note ?? '', mark);
      if (!amendLastRun(dispatch, lastLogged, { note: added })) toast('Run it first: space');
      else toast(`Noted: ${mark}`);
    },
  });
  const acts = {
    next: {
      id: 'rehearsal.next',
      key: 'N',
      name: 'the next item of the plan',
      label: 'next',
      group: 'Rehearsal',
      does: () => void navigate('/rehearse?next=1'),
    },
    marks: {
      id: 'rehearsal.marks',
      key: 'F10',
      name: 'own marks: words for what went wrong',
      label: 'own marks',
      group: 'Rehearsal',
      does: () => setNaming(true),
    },
    notes: [
      ...USUAL_MARKS.map((mark, index) => note(mark, `F${index + 2}`)),
      ...own.map((mark, index) => note(mark, OWN_MARK_KEYS[index] ?? '')),
    ],
  };
  useActs('app', [acts.next, acts.marks, ...acts.notes]);
  if (!item) return null;
  const used = (nowMs - itemStartedAtMs) / 1000;
  const over = used - item.minutes * 60;
  // The clock shows whole seconds: what is left of one more is no minute.
  const left = Math.ceil(Math.floor((endsAtMs - nowMs) / 1000) / 60);
  return (
    <aside
      aria-label="Rehearsal"
      className="flex flex-wrap items-center gap-x-4 gap-y-1 border-b-2 border-faint bg-raised px-4 py-1 text-ink print:hidden"
    >
      <b className="min-w-0 truncate">{item.title}</b>
      <span className={`numeral ${over > 0 ? 'font-bold text-seam' : 'text-quiet'}`}>
        {over > 0 ? `${clock(over)} over` : `${clock(used)} of ${item.minutes}:00`}
      </span>
      <span className="text-[0.9rem] text-quiet">{left} min left</span>
      <span className="ml-auto flex flex-wrap items-center gap-x-2">
        {acts.notes.map((act) => (
          <ActHint key={act.id} act={act} />
        ))}
        <ActHint act={acts.marks} />
        {next && <span className="max-w-60 truncate text-[0.9rem] text-quiet">then {next}</span>}
        <ActHint act={acts.next} />
      </span>
      {isNaming && <MarksDialog onClose={() => setNaming(false)} />}
    </aside>
  );
}

/** What the next plan is made of is not let go while another screen is shown: the server may be away by then. */
function useKeptAtHand(): void {
  const { ensemble } = useEnsemble();
  useListDatesQuery(ensemble?.id ?? '', { skip: !ensemble });
  useListPiecesQuery();
}

/** "4:05" */
function clock(seconds: number): string {
  const whole = Math.max(0, Math.floor(seconds));
  return `${Math.floor(whole / 60)}:${String(whole % 60).padStart(2, '0')}`;
}
