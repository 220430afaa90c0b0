import type { DateResponse, KeepDateRequest, SaveDateRequest } from '@anchorbeat/contract';
import { api } from './api.ts';

/** A date of an ensemble, by its own id. */
interface InEnsemble {
  readonly ensembleId: string;
  readonly id: string;
}

/** What was done of the plan of a date. */
type Done = InEnsemble & Pick<DateResponse, 'done'>;

/** A date as it is to be, and as it was seen before it was changed: what others change meanwhile stays. Null for a new one. */
type Kept = InEnsemble & { readonly date: SaveDateRequest; readonly base: SaveDateRequest | null };

const requestOf = ({ date, base }: Kept): KeepDateRequest => ({ ...date, base });

/** What is said of a date besides its id. */
export function fieldsOf({ id: _id, ...fields }: DateResponse): SaveDateRequest {
  return fields;
}

/** Counts on with everything that is asked or acknowledged, so that it can be told what came after what. */
let moment = 0;

/** Dates as they were changed here last, by their ids, and at which moment the server had acknowledged that; null until then. */
const changedLately = new Map<string, { readonly kept: Kept; keptAt: number | null }>();

/** Saves of one date are sent one after the other: each is the whole date, and the last one holds. */
const turns = new Map<string, Promise<unknown>>();

function inTurn<Result>(id: string, work: () => Promise<Result>): Promise<Result> {
  const before = turns.get(id) ?? Promise.resolve();
  const mine = before.then(work, work);
  turns.set(id, mine);
  return mine.finally(() => {
    if (turns.get(id) === mine) turns.delete(id);
  });
}

/** Where a date is kept on the server. */
const pathOf = ({ ensembleId, id }: InEnsemble) => `ensembles/${ensembleId}/dates/${id}`;

/** Dates as they were changed here last of which the server has not said that it keeps them, each with where it is sent. */
export function unkeptDates(): readonly { readonly path: string; readonly date: KeepDateRequest }[] {
  return [...changedLately.values()].flatMap(({ kept, keptAt }) =>
    keptAt === null ? [{ path: pathOf(kept), date: requestOf(kept) }] : [],
  );
}

/** Rehearsals and concerts of an ensemble. */
export const season = api.injectEndpoints({
  endpoints: (build) => ({
    listDates: build.query<DateResponse[], string>({
      query: (ensembleId) => `ensembles/${ensembleId}/dates`,
      providesTags: ['Dates'],
      // A list that was asked for before something was changed here does not know of it.
      onQueryStarted: async (ensembleId, { dispatch, queryFulfilled }) => {
        const askedAt = ++moment;
        if (!(await queryFulfilled.then(Boolean, () => false))) return;
        for (const [id, { kept, keptAt }] of changedLately) {
          if (kept.ensembleId !== ensembleId) continue;
          if (keptAt !== null && keptAt < askedAt) changedLately.delete(id);
          else dispatch(shownAs(kept));
        }
      },
    }),
    saveDate: build.mutation<DateResponse, Kept>({
      queryFn: (kept, _api, _options, ask) =>
        inTurn(kept.id, async () => {
          const answer = await ask({ url: pathOf(kept), method: 'PUT', body: requestOf(kept) });
          const lately = changedLately.get(kept.id);
          if (lately?.kept === kept && !answer.error) lately.keptAt = ++moment;
          return answer as { data: DateResponse };
        }),
      // What was changed is seen at once, and again as the server has it.
      onQueryStarted: (kept, { dispatch, queryFulfilled }) => {
        changedLately.set(kept.id, { kept, keptAt: null });
        const shown = dispatch(shownAs(kept));
        queryFulfilled.catch(() => {
          if (changedLately.get(kept.id)?.kept === kept) changedLately.delete(kept.id);
          shown.undo();
        });
      },
      invalidatesTags: ['Dates'],
    }),
    // The date may have been changed elsewhere since this was done: it is asked for, and gets what it does not have yet.
    addDone: build.mutation<DateResponse | null, Done>({
      queryFn: (added, _api, _options, ask) =>
        inTurn(added.id, async () => {
          const list = await ask(`ensembles/${added.ensembleId}/dates`);
          if (list.error) return { error: list.error };
          const known = (list.data as readonly DateResponse[]).find(({ id }) => id === added.id);
          if (!known) return { data: null };
          const base = fieldsOf(known);
          const body = requestOf({ ...added, base, date: fieldsOf(withDone(known, added)) });
          return (await ask({ url: pathOf(added), method: 'PUT', body })) as { data: DateResponse };
        }),
      onQueryStarted: (added, { dispatch }) => {
        const showDone = season.util.updateQueryData('listDates', added.ensembleId, (dates) =>
          dates.map((date) => (date.id === added.id ? withDone(date, added) : date)),
        );
        dispatch(showDone);
      },
      invalidatesTags: (_, error) => (error ? [] : ['Dates']),
    }),
    removeDate: build.mutation<null, InEnsemble>({
      query: (date) => ({ url: pathOf(date), method: 'DELETE' }),
      onQueryStarted: ({ id }) => void changedLately.delete(id),
      invalidatesTags: ['Dates'],
    }),
  }),
});

/** A date with what was done of its plan; what it says of the same items already is replaced. */
function withDone(date: DateResponse, { done }: Pick<DateResponse, 'done'>): DateResponse {
  const added = new Set(done.map(({ key }) => key));
  return { ...date, done: [...date.done.filter(({ key }) => !added.has(key)), ...done] };
}

/** Puts a date into the list that is shown, as it was changed; one that is not there yet comes with the next list. */
function shownAs({ ensembleId, id, date }: Kept) {
  return season.util.updateQueryData('listDates', ensembleId, (dates) => {
    const at = dates.findIndex((one) => one.id === id);
    if (at >= 0) dates[at] = { ...date, id };
  });
}

export const { useListDatesQuery, useSaveDateMutation, useRemoveDateMutation } = season;
