import { ACCOUNT_HEADER } from '@anchorbeat/contract';
import type {
  BackupResponse,
  CreateEnsembleRequest,
  CreatePieceRequest,
  DrillResponse,
  EnsembleResponse,
  PieceResponse,
  ProblemDocument,
  RevisionResponse,
  RunResponse,
  SaveDrillRequest,
  SavedResponse,
  SaveRevisionRequest,
  ShelvePieceRequest,
  StaleProblemDocument,
  UpdateEnsembleRequest,
} from '@anchorbeat/contract';
import { createApi, fetchBaseQuery, type FetchBaseQueryError } from '@reduxjs/toolkit/query/react';
import type { RootState } from './store.ts';

/** A drill or a run of a piece, by its own id. */
interface InPiece {
  readonly pieceId: string;
  readonly id: string;
}

/** A run as it is logged; with `onlyNew` only where nobody has logged it. */
export interface LoggingRun {
  readonly pieceId: string;
  readonly run: RunResponse;
  readonly onlyNew?: boolean;
}

const ask = fetchBaseQuery({
  baseUrl: '/api/',
  timeout: 10_000,
  prepareHeaders: (headers, { getState }) => {
    const { accountId } = (getState() as RootState).visitor;
    if (accountId !== null) headers.set(ACCOUNT_HEADER, accountId);
  },
});

/** Whoever is no longer signed in is asked to do so; nothing that was not sent is lost by it. */
const askSignedIn: typeof ask = async (request, queryApi, options) => {
  const answer = await ask(request, queryApi, options);
  if (answer.error?.status === 401) queryApi.dispatch(api.util.invalidateTags(['Session']));
  return answer;
};

const runsPath = (pieceId: string) => `pieces/${pieceId}/runs`;

export const api = createApi({
  reducerPath: 'api',
  baseQuery: askSignedIn,
  tagTypes: ['Session', 'Members', 'Rooms', 'Pieces', 'Ensembles', 'Drills', 'Runs', 'Dates', 'Backups'],
  endpoints: (build) => ({
    listEnsembles: build.query<EnsembleResponse[], void>({
      query: () => 'ensembles',
      providesTags: ['Ensembles'],
    }),
    createEnsemble: build.mutation<EnsembleResponse, CreateEnsembleRequest>({
      query: (body) => ({ url: 'ensembles', method: 'POST', body }),
      invalidatesTags: ['Ensembles', 'Session'],
    }),
    updateEnsemble: build.mutation<EnsembleResponse, { readonly id: string } & UpdateEnsembleRequest>({
      query: ({ id, ...body }) => ({ url: `ensembles/${id}`, method: 'PUT', body }),
      invalidatesTags: ['Ensembles'],
    }),
    listPieces: build.query<PieceResponse[], void>({ query: () => 'pieces', providesTags: ['Pieces'] }),
    getPiece: build.query<PieceResponse, string>({ query: (id) => `pieces/${id}` }),
    listRevisions: build.infiniteQuery<RevisionResponse[], string, number | null>({
      infiniteQueryOptions: {
        initialPageParam: null,
        getNextPageParam: (page) =>
          (page.at(-1)?.revision ?? 1) > 1 ? (page.at(-1)?.revision ?? null) : null,
      },
      query: ({ queryArg: id, pageParam: before }) =>
        before === null ? `pieces/${id}/revisions` : `pieces/${id}/revisions?before=${before}`,
      providesTags: ['Pieces'],
    }),
    listBackups: build.query<BackupResponse[], void>({ query: () => 'backups', providesTags: ['Backups'] }),
    makeBackup: build.mutation<BackupResponse[], void>({
      query: () => ({ url: 'backups', method: 'POST' }),
      invalidatesTags: ['Backups'],
    }),
    restoreBackup: build.mutation<BackupResponse[], string>({
      query: (name) => ({ url: `backups/${encodeURIComponent(name)}/restore`, method: 'POST' }),
      invalidatesTags: ['Backups', 'Pieces', 'Ensembles', 'Drills', 'Runs'],
    }),
    getRevision: build.query<PieceResponse, { readonly id: string; readonly revision: number }>({
      query: ({ id, revision }) => `pieces/${id}/revisions/${revision}`,
    }),
    createPiece: build.mutation<PieceResponse, CreatePieceRequest>({
      query: (body) => ({ url: 'pieces', method: 'POST', body }),
      invalidatesTags: ['Pieces'],
    }),
    shelvePiece: build.mutation<PieceResponse, { readonly pieceId: string } & ShelvePieceRequest>({
      query: ({ pieceId, ...body }) => ({ url: `pieces/${pieceId}/shelf`, method: 'PUT', body }),
      invalidatesTags: ['Pieces'],
    }),
    saveRevision: build.mutation<SavedResponse, { readonly pieceId: string } & SaveRevisionRequest>({
      query: ({ pieceId, ...body }) => ({ url: `pieces/${pieceId}/revisions`, method: 'POST', body }),
      // Bars may have been put in or taken out: what speaks of others is elsewhere now.
      invalidatesTags: (result) => (result ? ['Pieces', 'Drills', 'Runs', 'Dates'] : []),
    }),
    listDrills: build.query<DrillResponse[], string>({
      query: (pieceId) => `pieces/${pieceId}/drills`,
      providesTags: ['Drills'],
    }),
    saveDrill: build.mutation<DrillResponse, InPiece & { readonly drill: SaveDrillRequest }>({
      query: ({ pieceId, id, drill: body }) => ({
        url: `pieces/${pieceId}/drills/${id}`,
        method: 'PUT',
        body,
      }),
      invalidatesTags: ['Drills'],
    }),
    removeDrill: build.mutation<null, InPiece>({
      query: ({ pieceId, id }) => ({ url: `pieces/${pieceId}/drills/${id}`, method: 'DELETE' }),
      invalidatesTags: ['Drills'],
    }),
    listRuns: build.query<RunResponse[], string>({ query: runsPath, providesTags: ['Runs'] }),
    getRun: build.query<RunResponse, InPiece>({ query: ({ pieceId, id }) => `${runsPath(pieceId)}/${id}` }),
    logRun: build.mutation<RunResponse, LoggingRun>({
      query: ({ pieceId, run: { id, placeNow: _now, ...body }, onlyNew = false }) => ({
        url: `${runsPath(pieceId)}/${id}${onlyNew ? '?onlyNew=true' : ''}`,
        method: 'PUT',
        body,
      }),
    }),
    removeRun: build.mutation<null, InPiece>({
      query: ({ pieceId, id }) => ({ url: `${runsPath(pieceId)}/${id}`, method: 'DELETE' }),
    }),
  }),
});

export const {
  useListEnsemblesQuery,
  useCreateEnsembleMutation,
  useUpdateEnsembleMutation,
  useLazyListPiecesQuery,
  useListPiecesQuery,
  useGetPieceQuery,
  useGetRunQuery,
  useListBackupsQuery,
  useListRevisionsInfiniteQuery,
  useMakeBackupMutation,
  useRestoreBackupMutation,
  useGetRevisionQuery,
  useCreatePieceMutation,
  useShelvePieceMutation,
  useListDrillsQuery,
  useSaveDrillMutation,
  useRemoveDrillMutation,
  useListRunsQuery,
} = api;

/** The server's own words about what went wrong, or plain words where it did not answer. */
export function problemText(error: unknown): string {
  const problem = problemOf(error);
  return problem?.detail ?? 'The server does not answer: check that Anchorbeat is still running';
}

/** Whether something is not for whoever asked. */
export function isForbidden(error: unknown): boolean {
  return (error as FetchBaseQueryError | undefined)?.status === 403;
}

function problemOf(error: unknown): ProblemDocument | null {
  const data = parsed((error as FetchBaseQueryError | undefined)?.data);
  return data && typeof data === 'object' && 'detail' in data ? (data as ProblemDocument) : null;
}

export function staleProblemOf(error: unknown): StaleProblemDocument | null {
  const problem = problemOf(error);
  return problem && 'currentRevision' in problem ? (problem as StaleProblemDocument) : null;
}

function parsed(data: unknown): unknown {
  if (typeof data !== 'string') return data;
  try {
    return JSON.parse(data);
  } catch {
    return null;
  }
}
