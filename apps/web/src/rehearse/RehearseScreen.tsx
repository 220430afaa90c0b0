import type { DateResponse, EnsembleResponse, PieceResponse } from '@anchorbeat/contract';
import { useMemo, useState } from 'react';
import { useSearchParams } from 'react-router';
import type { Act } from '../acts/act.ts';
import { ActButton, ActHint } from '../acts/ActButton.tsx';
import { useActs } from '../acts/ActsContext.tsx';
import { NoEnsemble } from '../ensemble/NoEnsemble.tsx';
import { useEnsemble, usePiecesOf } from '../ensemble/useEnsemble.ts';
import { problemText } from '../store/api.ts';
import { useListDatesQuery } from '../store/seasonApi.ts';
import { usePlaceTheme } from '../theme/useTheme.tsx';
import { download } from '../ui/download.ts';
import { DateDialog } from './DateDialog.tsx';
import { DateList } from './DateList.tsx';
import { LogView } from './LogView.tsx';
import { PlanView } from './PlanView.tsx';
import { dateToShow } from './season.ts';
import { useProgramme } from './useProgramme.ts';
import { lazyPart } from '../ui/lazyNamed.tsx';

/** What to rehearse when, in which order and why; what was done. */
export function RehearseScreen() {
  usePlaceTheme('desk');
  const { ensemble, isNone, error } = useEnsemble();
  if (ensemble) return <Rehearse ensemble={ensemble} />;
  return (
    <main className="p-10">
      <h1 className="text-3xl font-bold">Rehearse</h1>
      {isNone && <NoEnsemble />}
      {!isNone && <p className="mt-3 text-quiet">{error ? problemText(error) : 'Opening …'}</p>}
    </main>
  );
}

/** What reads calendar files is loaded when one is opened. */
const CalendarDialog = lazyPart('CalendarDialog', () => import('./CalendarDialog.tsx'));

const act = (id: string, key: string, name: string, does: () => void, more: Partial<Act> = {}): Act => ({
  id: `rehearse.${id}`,
  key,
  name,
  group: 'Rehearse',
  does,
  ...more,
});

type Editing = 'new' | 'this' | 'calendar' | null;

function Rehearse({ ensemble }: { readonly ensemble: EnsembleResponse }) {
  const { data: dates, error } = useListDatesQuery(ensemble.id);
  const { pieces: all } = usePiecesOf(ensemble);
  const pieces = useMemo(() => all?.filter(({ isSetAside }) => !isSetAside), [all]);
  const [search, setSearch] = useSearchParams();
  const [openedAtMs] = useState(() => Date.now());
  const date = dates && (dates.find(({ id }) => id === search.get('date')) ?? dateToShow(dates, openedAtMs));
  const programme = useProgramme(pieces);
  const [editing, setEditing] = useState<Editing>(null);
  const isLog = search.get('view') === 'log';
  const saveCalendar = async () => {
    const { calendarOf } = await import('./calendar.ts');
    download([calendarOf(dates ?? [], ensemble.name, new Date())], 'rehearsals.ics', 'text/calendar');
  };
  const acts = {
    make: act('make', 'n', 'New date', () => setEditing('new')),
    change: act('change', 'e', 'change this date', () => setEditing('this'), { may: date !== undefined }),
    calendar: act('calendar', 'c', 'the dates as a calendar file', () => void saveCalendar(), {
      label: 'save calendar',
      may: (dates?.length ?? 0) > 0,
    }),
    open: act('open', 'o', 'dates from a calendar file', () => setEditing('calendar'), {
      label: 'open calendar',
    }),
    log: act('log', 'l', isLog ? 'to the plan' : 'to the log', () =>
      setSearch(isLog ? {} : { view: 'log' }, { replace: true }),
    ),
  };
  useActs('screen', Object.values(acts));
  return (
    <main className="@container flex h-full min-w-0 flex-col overflow-y-auto">
      <header className="flex flex-wrap items-baseline gap-x-4 gap-y-1 border-b-2 border-faint px-4 py-3 @3xl:px-6">
        <h1 className="text-2xl font-bold @3xl:text-3xl">{isLog ? 'Log' : 'Rehearse'}</h1>
        <p className="min-w-0 truncate text-lg text-quiet">{ensemble.name}</p>
        <span className="flex flex-wrap items-center gap-x-3 @3xl:ml-auto">
          <ActHint act={acts.log} />
          {!isLog && <ActHint act={acts.calendar} />}
          {!isLog && <ActHint act={acts.open} />}
          {!isLog && <ActHint act={acts.change} />}
          <ActButton act={acts.make} />
        </span>
      </header>
      {isLog ? (
        <LogView programme={programme} dates={dates ?? []} sections={ensemble.sections} />
      ) : (
        <div className="flex min-h-[55%] flex-1 flex-col @3xl:flex-row">
          <DateList
            dates={dates ?? []}
            shownId={date?.id ?? null}
            onChoose={(id) => setSearch({ date: id }, { replace: true })}
          />
          {date ? (
            <PlanView
              key={date.id}
              ensemble={ensemble}
              date={date}
              dates={dates ?? []}
              programme={programme}
            />
          ) : (
            <NothingToShow problem={error && !dates ? problemText(error) : null} />
          )}
        </div>
      )}
      <Dialogs
        editing={editing}
        ensemble={ensemble}
        pieces={pieces ?? []}
        dates={dates ?? []}
        date={date ?? null}
        onKept={(id) => setSearch({ date: id }, { replace: true })}
        onClose={() => setEditing(null)}
      />
    </main>
  );
}

interface DialogsProps {
  readonly editing: Editing;
  readonly ensemble: EnsembleResponse;
  readonly pieces: readonly PieceResponse[];
  readonly dates: readonly DateResponse[];
  readonly date: DateResponse | null;
  readonly onKept: (id: string) => void;
  readonly onClose: () => void;
}

function Dialogs({ editing, ensemble, pieces, dates, date, onKept, onClose }: DialogsProps) {
  if (editing === null) return null;
  if (editing === 'calendar') return <CalendarDialog ensemble={ensemble} dates={dates} onClose={onClose} />;
  return (
    <DateDialog
      ensemble={ensemble}
      pieces={pieces}
      date={editing === 'this' ? date : null}
      onKept={onKept}
      onClose={onClose}
    />
  );
}

function NothingToShow({ problem }: { readonly problem: string | null }) {
  return (
    <p className="p-6 text-lg text-quiet">
      {problem ?? 'No rehearsal yet. Press n and say when: the program then proposes what to work on.'}
    </p>
  );
}
