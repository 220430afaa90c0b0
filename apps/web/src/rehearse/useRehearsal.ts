import type { DateResponse, SaveDateRequest } from '@anchorbeat/contract';
import type { Plan, PlanItem } from '@anchorbeat/core';
import { useNavigate } from 'react-router';
import { toast } from '../ui/toast.ts';
import { problemText } from '../store/api.ts';
import { keepDone } from '../store/doneLog.ts';
import { fieldsOf, useSaveDateMutation } from '../store/seasonApi.ts';
import { itemBegun, rehearsalBegun, rehearsalEnded } from '../store/rehearsalSlice.ts';
import { useAppDispatch, useAppSelector } from '../store/store.ts';

/** What the keeping of a date says back where it fails. */
function failed(error: unknown): void {
  toast(`This was not kept: ${problemText(error)}`, { id: 'not kept' });
}

/** Keeps a date that was changed; tells where that fails. */
export function useKeepDate(ensembleId: string, date: DateResponse) {
  const [save] = useSaveDateMutation();
  const base = fieldsOf(date);
  return (changes: Partial<SaveDateRequest>) =>
    void save({ ensembleId, id: date.id, date: { ...base, ...changes }, base })
      .unwrap()
      .catch(failed);
}

export interface Rehearsing {
  /** This very date is under way. */
  readonly isOn: boolean;
  readonly endsAtMs: number;
  readonly item: PlanItem | null;
  /** What was done of the plan so far. */
  readonly done: DateResponse['done'];
  readonly begin: () => void;
  readonly end: () => void;
  /** Goes to an item's place; what was worked on until now is done. */
  readonly goTo: (item: PlanItem, plan: Plan) => void;
  /** What was worked on until now is done, and nothing else has begun. */
  readonly finish: () => void;
}

/** A rehearsal under way: what is worked on, and what was. */
export function useRehearsing(ensembleId: string, date: DateResponse): Rehearsing {
  const dispatch = useAppDispatch();
  const navigate = useNavigate();
  const rehearsal = useAppSelector((state) => state.rehearsal);
  const { dateId, endsAtMs, item, itemStartedAtMs } = rehearsal;
  const isOn = dateId === date.id;
  const done = isOn ? rehearsal.done : date.done;
  const current = isOn ? item : null;
  const finish = () => {
    if (!current) return;
    const { key, title, minutes: planned } = current;
    const seconds = Math.max(0, Math.round((Date.now() - itemStartedAtMs) / 1000));
    const now = [...done.filter((one) => one.key !== key), { key, title, planned, seconds }];
    void keepDone(dispatch, ensembleId, date, now);
    dispatch(itemBegun({ item: null, itemStartedAtMs: 0, next: null, done: now }));
  };
  return {
    isOn,
    endsAtMs,
    item: current,
    done,
    begin: () =>
      dispatch(
        rehearsalBegun({ dateId: date.id, endsAtMs: Date.now() + date.minutes * 60_000, done: date.done }),
      ),
    end: () => {
      finish();
      dispatch(rehearsalEnded());
    },
    finish,
    goTo: (wanted, plan) => {
      finish();
      const at = plan.items.findIndex(({ key }) => key === wanted.key);
      const next = plan.items[at + 1]?.title ?? null;
      dispatch(itemBegun({ item: wanted, itemStartedAtMs: Date.now(), next }));
      const address = addressOf(wanted, plan);
      if (address) void navigate(address);
    },
  };
}

/** Where an item is worked on; null for a rest. */
function addressOf(item: PlanItem, plan: Plan): string | null {
  const { kind, pieceId, bars, percent } = item;
  if (kind === 'whole') return `/piece/${pieceId}/podium?percent=${percent}`;
  if (kind === 'place') return `/piece/${pieceId}/seams?bars=${bars[0]}&do=drill&percent=${percent}`;
  const first = plan.items.find((other) => other.kind === 'place');
  return kind === 'warm-up' && first ? `/piece/${first.pieceId}/seams?bars=${first.bars[0]}&do=off` : null;
}
