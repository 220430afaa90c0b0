import type { DateResponse, EnsembleResponse } from '@anchorbeat/contract';
import {
  howMany,
  planChoices,
  planFor,
  type Plan,
  type PlanItem,
  type PlanRequest,
  type PlanWeights,
} from '@anchorbeat/core';
import { useEffect, useMemo, useRef, useState } from 'react';
import { useLocation, useSearchParams } from 'react-router';
import { toast } from '../ui/toast.ts';
import type { Act } from '../acts/act.ts';
import { ActButton, ActHint } from '../acts/ActButton.tsx';
import { useActs } from '../acts/ActsContext.tsx';
import { AddItemDialog } from './AddItemDialog.tsx';
import { HomePlan } from './HomePlan.tsx';
import { PlanRows } from './PlanRows.tsx';
import {
  itemLengthened,
  itemMoved,
  itemDragged,
  momentOf,
  planRequestFor,
  whenText,
  wishToggled,
} from './season.ts';
import { SetView } from './SetView.tsx';
import { usePlanSheet } from './usePlanSheet.ts';
import { useNow } from './useNow.ts';
import type { ProgrammePiece } from './useProgramme.ts';
import { useKeepDate, useRehearsing, type Rehearsing } from './useRehearsal.ts';
import { WeightsDialog } from './WeightsDialog.tsx';

interface PlanViewProps {
  readonly ensemble: EnsembleResponse;
  readonly date: DateResponse;
  readonly dates: readonly DateResponse[];
  /** Null until every piece is worked out. */
  readonly programme: readonly ProgrammePiece[] | null;
}

/** The order of work of one date: what is done, and what is proposed for what is left of it. */
export function PlanView(props: PlanViewProps) {
  const { ensemble, date, dates, programme } = props;
  const rehearsing = useRehearsing(ensemble.id, date);
  const minutes = useMinutesLeft(date, rehearsing.isOn ? rehearsing.endsAtMs : null);
  const { done } = rehearsing;
  const request = useMemo((): PlanRequest | null => {
    if (!programme || date.kind === 'concert') return null;
    const pieces = programme.map(({ toPlan }) => toPlan);
    return planRequestFor({ date, dates, pieces, sections: ensemble.sections, minutes, done });
  }, [programme, date, dates, ensemble.sections, minutes, done]);
  const plan = useMemo(() => request && planFor(request), [request]);
  const [opened, setOpened] = useState<'weights' | 'add' | null>(null);
  const [selected, setSelected] = useState(0);
  const items = plan?.items ?? [];
  const at = Math.min(selected, items.length - 1);
  const acts = usePlanActs({ ...props, plan, at, rehearsing, onSelect: setSelected, onOpen: setOpened });
  useNextAsked(plan, rehearsing);
  const pieces = (programme ?? []).map(({ toPlan }) => toPlan);
  return (
    <section aria-label="Plan" className="min-w-0 flex-1 overflow-y-auto px-4 py-3 @3xl:px-8">
      <h2 className="text-2xl font-bold">
        {whenText(date)}
        <span className="ml-3 text-lg font-normal text-quiet">
          {date.title}
          {date.absent.length > 0 && ` · without ${date.absent.join(', ')}`}
        </span>
      </h2>
      {date.kind === 'concert' && <SetView date={date} pieces={pieces} />}
      {plan && (
        <>
          <PlanHead plan={plan} minutes={minutes} date={date} />
          <div className="my-3 flex flex-wrap items-center gap-x-3 gap-y-1">
            <ActButton act={acts.go} filled />
            {rehearsing.isOn && <ActHint act={acts.end} />}
            {[
              acts.pin,
              acts.skip,
              acts.earlier,
              acts.later,
              acts.less,
              acts.more,
              acts.add,
              acts.weights,
              acts.again,
              acts.sheet,
            ].map((act) => (
              <ActHint key={act.id} act={act} />
            ))}
            <HomePlan ensemble={ensemble} date={date} dates={dates} pieces={pieces} />
          </div>
          <PlanRows
            items={items}
            at={at}
            nowKey={rehearsing.item?.key ?? null}
            onSelect={setSelected}
            onMoved={acts.place}
          />
          <Skipped date={date} onBack={(key) => acts.bringBack(key)} />
          <Done done={rehearsing.done} />
        </>
      )}
      {!plan && date.kind === 'rehearsal' && <p className="mt-4 text-quiet">Looking at the log …</p>}
      {opened === 'weights' && request && (
        <WeightsDialog weights={request.weights} onWeights={acts.weigh} onClose={() => setOpened(null)} />
      )}
      {opened === 'add' && request && (
        <AddItemDialog
          choices={planChoices(request).filter(({ key }) => !items.some((item) => item.key === key))}
          onChoose={acts.addItem}
          onClose={() => setOpened(null)}
        />
      )}
    </section>
  );
}

/** Whole minutes of a date that are left: all of them until it begins. */
function useMinutesLeft({ minutes }: DateResponse, endsAtMs: number | null): number {
  const nowMs = useNow();
  return endsAtMs === null ? minutes : Math.max(0, Math.ceil((endsAtMs - nowMs) / 60_000));
}

interface PlanActsOptions extends PlanViewProps {
  readonly plan: Plan | null;
  readonly at: number;
  readonly rehearsing: Rehearsing;
  readonly onSelect: (index: number) => void;
  readonly onOpen: (what: 'weights' | 'add') => void;
}

/** What can be done with a plan; every change of it is kept with its date, and the rest flows anew. */
function usePlanActs({ ensemble, date, plan, at, rehearsing, onSelect, onOpen }: PlanActsOptions) {
  const keep = useKeepDate(ensemble.id, date);
  const items = plan?.items ?? [];
  const item = items[at];
  const movable = items.filter(({ kind }) => kind === 'place').map(({ key }) => key);
  const act = (
    id: string,
    key: string,
    name: string,
    does: (one: PlanItem) => void,
    more: Partial<Act> = {},
  ) => ({
    id: `plan.${id}`,
    key,
    name,
    group: 'Plan',
    may: item !== undefined,
    does: () => item && does(item),
    ...more,
  });
  const wishes = (next: DateResponse['wishes']) => keep({ wishes: next });
  const isPlace = item?.kind === 'place';
  const plain = (id: string, key: string, name: string, label: string, does: () => void): Act => ({
    id: `plan.${id}`,
    key,
    name,
    label,
    group: 'Plan',
    may: plan !== null,
    does,
  });
  const acts = {
    go: act('go', ' ', rehearsing.isOn ? 'Go to it' : 'Begin the rehearsal', (one) => {
      if (!rehearsing.isOn) rehearsing.begin();
      if (plan) rehearsing.goTo(one, plan);
    }),
    end: act('end', 'q', 'end the rehearsal', () => rehearsing.end(), { may: rehearsing.isOn }),
    up: act('up', 'ArrowUp', 'the item before', () => onSelect(Math.max(0, at - 1))),
    down: act('down', 'ArrowDown', 'the next item', () => onSelect(Math.min(items.length - 1, at + 1))),
    pin: act('pin', 'p', item?.isPinned ? 'let it go' : 'pin it', (one) =>
      wishes(wishToggled(date.wishes, 'pinned', one.key)),
    ),
    skip: act('skip', 'x', 'skip it', (one) => wishes(wishToggled(date.wishes, 'skipped', one.key))),
    earlier: act('earlier', '<', 'earlier', (one) => wishes(itemMoved(date.wishes, movable, one.key, -1)), {
      may: isPlace,
    }),
    later: act('later', '>', 'later', (one) => wishes(itemMoved(date.wishes, movable, one.key, 1)), {
      may: isPlace,
    }),
    less: act(
      'less',
      '-',
      'a minute less',
      (one) => wishes(itemLengthened(date.wishes, one.key, one.minutes - 1)),
      { may: isPlace, label: '' },
    ),
    more: act(
      'more',
      '+',
      'a minute more',
      (one) => wishes(itemLengthened(date.wishes, one.key, one.minutes + 1)),
      { may: isPlace, label: 'minutes' },
    ),
    // These also where everything was skipped.
    add: plain('add', 'a', 'put a place or a piece into the plan', 'add', () => onOpen('add')),
    weights: plain('weights', 'w', 'what weighs how much', 'weights', () => onOpen('weights')),
    again: plain('again', 'z', 'as proposed', 'as proposed', () =>
      wishes({ pinned: [], skipped: [], order: [], minutes: [] }),
    ),
    sheet: usePlanSheet(ensemble.name, date, plan, rehearsing.done),
  };
  useActs('view', Object.values(acts));
  return {
    ...acts,
    bringBack: (key: string) => wishes(wishToggled(date.wishes, 'skipped', key)),
    addItem: (key: string) => wishes(wishToggled(date.wishes, 'pinned', key)),
    weigh: (weights: PlanWeights) => keep({ weights }),
    place: (from: number, to: number) => wishes(itemDragged(date.wishes, items, from, to)),
  };
}

/** Whoever comes with "next" has done with what was worked on: the rest is planned anew, and its first item begins. */
function useNextAsked(plan: Plan | null, rehearsing: Rehearsing): void {
  const [search] = useSearchParams();
  const { key } = useLocation();
  const isAsked = search.get('next') !== null && plan !== null && rehearsing.isOn;
  const isWorking = rehearsing.item !== null;
  const latest = useRef({ plan, rehearsing });
  /** How far each asking has come, by where in the browser's history it stands: it is answered once. */
  const answered = useRef({ key: '', hasFinished: false, hasBegun: false });
  useEffect(() => {
    latest.current = { plan, rehearsing };
  });
  useEffect(() => {
    if (!isAsked) return;
    if (answered.current.key !== key) answered.current = { key, hasFinished: false, hasBegun: false };
    const asking = answered.current;
    const now = latest.current;
    if (isWorking && !asking.hasFinished) {
      asking.hasFinished = true;
      now.rehearsing.finish();
    } else if (!isWorking && !asking.hasBegun && now.plan) {
      asking.hasBegun = true;
      beginFirst(now.plan, now.rehearsing);
    }
  }, [isAsked, isWorking, key]);
}

function beginFirst(plan: Plan, rehearsing: Rehearsing): void {
  const [first] = plan.items;
  if (first) rehearsing.goTo(first, plan);
  else {
    rehearsing.end();
    toast('That was all there is time for');
  }
}

interface PlanHeadProps {
  readonly plan: Plan;
  readonly minutes: number;
  readonly date: DateResponse;
}

/** What the plan comes to, and what it cannot reach. */
function PlanHead({ plan, minutes, date }: PlanHeadProps) {
  const { outOfReach, next, minutesLeft } = plan;
  const nowMs = useNow();
  const daysLeft = Math.max(0, Math.round((momentOf(date) - nowMs) / 86_400_000));
  return (
    <div className="mt-1 text-[1.05rem]">
      <p>
        <b className="numeral">{minutes - minutesLeft}</b> of {howMany(minutes, 'minute')} planned
        {daysLeft > 0 && `, in ${howMany(daysLeft, 'day')}`}.
      </p>
      {outOfReach && outOfReach.places > 0 && (
        <p className="mt-1 text-[1.2rem] font-bold text-seam">
          At this rate {outOfReach.places} of {howMany(outOfReach.of, 'place')} will not be ready for the
          concert.
        </p>
      )}
      {next.length > 0 && (
        <p className="mt-1 text-quiet">Left out today, and would gain most: {next.join('; ')}.</p>
      )}
    </div>
  );
}

/** What was skipped can come back. */
function Skipped({ date, onBack }: { readonly date: DateResponse; readonly onBack: (key: string) => void }) {
  const { skipped } = date.wishes;
  if (skipped.length === 0) return null;
  return (
    <p className="mt-4 text-quiet">
      Skipped:{' '}
      {skipped.map((key) => (
        <button key={key} type="button" className="mr-2 underline hover:text-ink" onClick={() => onBack(key)}>
          {key.includes(':') ? `a place (${key.split(':')[1]})` : key}
        </button>
      ))}
      <span className="text-sm">press one to bring it back</span>
    </p>
  );
}

/** Who went on sooner did not work on it. */
const PASSED_OVER_SECONDS = 20;

/** What was worked on, and how long it took against the plan. */
function Done({ done }: { readonly done: DateResponse['done'] }) {
  if (done.length === 0) return null;
  return (
    <section aria-label="Done">
      <h3 className="mt-5 text-lg font-bold">Done</h3>
      <ol>
        {done.map(({ key, title, planned, seconds }) => (
          <li key={key} className="flex max-w-4xl gap-3 border-b border-faint py-1">
            <span className="min-w-0 flex-1">{title}</span>
            <span className={`numeral ${seconds > 60 * planned ? 'text-seam' : 'text-quiet'}`}>
              {seconds < PASSED_OVER_SECONDS ? 'passed over' : `${Math.round(seconds / 60)}′ of ${planned}′`}
            </span>
          </li>
        ))}
      </ol>
    </section>
  );
}
