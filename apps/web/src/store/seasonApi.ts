import type { DateResponse, SaveDateRequest } from '@anchorbeat/contract';
import { api } from './api.ts';

/** A date of an ensemble, by its own id. */
interface InEnsemble {
  readonly ensembleId: string;
  readonly id: string;
}

/** Rehearsals and concerts of an ensemble. */
const season = api.injectEndpoints({
  endpoints: (build) => ({
    listDates: build.query<DateResponse[], string>({
      query: (ensembleId) => `ensembles/${ensembleId}/dates`,
      providesTags: ['Dates'],
    }),
    saveDate: build.mutation<DateResponse, InEnsemble & { readonly date: SaveDateRequest }>({
      query: ({ ensembleId, id, date }) => ({
        url: `ensembles/${ensembleId}/dates/${id}`,
        method: 'PUT',
        body: date,
      }),
      // What was changed is seen at once, and again as the server has it.
      onQueryStarted: ({ ensembleId, id, date }, { dispatch, queryFulfilled }) => {
        const shown = dispatch(
          season.util.updateQueryData('listDates', ensembleId, (dates) => {
            const at = dates.findIndex((one) => one.id === id);
            if (at >= 0) dates[at] = { ...date, id };
          }),
        );
        queryFulfilled.catch(() => shown.undo());
      },
      invalidatesTags: ['Dates'],
    }),
    removeDate: build.mutation<null, InEnsemble>({
      query: ({ ensembleId, id }) => ({ url: `ensembles/${ensembleId}/dates/${id}`, method: 'DELETE' }),
      invalidatesTags: ['Dates'],
    }),
  }),
});

export const { useListDatesQuery, useSaveDateMutation, useRemoveDateMutation } = season;
