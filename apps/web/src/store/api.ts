import type {
  AddMemberRequest,
  BackupResponse,
  CreateAccountRequest,
  CreatePieceRequest,
  DrillResponse,
  EnsembleResponse,
  MemberResponse,
  PieceResponse,
  ProblemDocument,
  RevisionResponse,
  RoomResponse,
  RunResponse,
  SaveDrillRequest,
  SavedResponse,
  SaveRevisionRequest,
  SessionResponse,
  SignInRequest,
  SignInResponse,
  StaleProblemDocument,
  UpdateEnsembleRequest,
} from '@anchorbeat/contract';
import { createApi, fetchBaseQuery, type FetchBaseQueryError } from '@reduxjs/toolkit/query/react';

/** A drill or a run of a piece, by its own id. */
interface InPiece {
  readonly pieceId: string;
  readonly id: string;
}

const ask = fetchBaseQuery({ baseUrl: '/api/', timeout: 10_000 });

/** Whoever is no longer signed in is asked to do so; nothing that was not sent is lost by it. */
const askSignedIn: typeof ask = async (request, queryApi, options) => {
  const answer = await ask(request, queryApi, options);
  if (answer.error?.status === 401) queryApi.dispatch(api.util.invalidateTags(['Session']));
  return answer;
};

export const api = createApi({
  reducerPath: 'api',
  baseQuery: askSignedIn,
  tagTypes: ['Session', 'Members', 'Rooms', 'Pieces', 'Ensembles', 'Drills', 'Backups'],
  endpoints: (build) => ({
    getSession: build.query<SessionResponse, void>({ query: () => 'session', providesTags: ['Session'] }),
    openHere: build.mutation<null, void>({
      query: () => ({ url: 'session/here', method: 'POST' }),
      invalidatesTags: ['Session'],
    }),
    signIn: build.mutation<null, SignInRequest>({
      query: (body) => ({ url: 'session', method: 'POST', body }),
      invalidatesTags: ['Session', 'Ensembles', 'Pieces'],
    }),
    setUp: build.mutation<null, CreateAccountRequest>({
      query: (body) => ({ url: 'session/first-account', method: 'POST', body }),
      invalidatesTags: ['Session', 'Members'],
    }),
    signOut: build.mutation<null, void>({
      query: () => ({ url: 'session', method: 'DELETE' }),
      invalidatesTags: ['Session'],
    }),
    listPlaces: build.query<SignInResponse[], void>({
      query: () => 'session/places',
      providesTags: ['Session'],
    }),
    endPlace: build.mutation<null, string>({
      query: (id) => ({ url: `session/places/${id}`, method: 'DELETE' }),
      invalidatesTags: ['Session'],
    }),
    listMembers: build.query<MemberResponse[], string>({
      query: (ensembleId) => `ensembles/${ensembleId}/members`,
      providesTags: ['Members'],
    }),
    addMember: build.mutation<MemberResponse[], { readonly ensembleId: string } & AddMemberRequest>({
      query: ({ ensembleId, ...body }) => ({ url: `ensembles/${ensembleId}/members`, method: 'POST', body }),
      invalidatesTags: ['Members'],
    }),
    removeMember: build.mutation<null, { readonly ensembleId: string; readonly accountId: string }>({
      query: ({ ensembleId, accountId }) => ({
        url: `ensembles/${ensembleId}/members/${accountId}`,
        method: 'DELETE',
      }),
      invalidatesTags: ['Members'],
    }),
    listRooms: build.query<RoomResponse[], string>({
      query: (ensembleId) => `ensembles/${ensembleId}/rooms`,
      providesTags: ['Rooms'],
    }),
    openRoom: build.mutation<RoomResponse, string>({
      query: (ensembleId) => ({ url: `ensembles/${ensembleId}/rooms`, method: 'POST' }),
      invalidatesTags: ['Rooms'],
    }),
    endRoom: build.mutation<null, string>({
      query: (roomId) => ({ url: `rooms/${roomId}`, method: 'DELETE' }),
      invalidatesTags: ['Rooms'],
    }),
    changeRoomCode: build.mutation<RoomResponse, string>({
      query: (roomId) => ({ url: `rooms/${roomId}/code`, method: 'POST' }),
      invalidatesTags: ['Rooms'],
    }),
    removeStand: build.mutation<null, { readonly roomId: string; readonly standId: string }>({
      query: ({ roomId, standId }) => ({ url: `rooms/${roomId}/stands/${standId}`, method: 'DELETE' }),
    }),
    listEnsembles: build.query<EnsembleResponse[], void>({
      query: () => 'ensembles',
      providesTags: ['Ensembles'],
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
      invalidatesTags: ['Backups', 'Pieces', 'Ensembles', 'Drills'],
    }),
    getRevision: build.query<PieceResponse, { readonly id: string; readonly revision: number }>({
      query: ({ id, revision }) => `pieces/${id}/revisions/${revision}`,
    }),
    createPiece: build.mutation<PieceResponse, CreatePieceRequest>({
      query: (body) => ({ url: 'pieces', method: 'POST', body }),
      invalidatesTags: ['Pieces'],
    }),
    saveRevision: build.mutation<SavedResponse, { readonly pieceId: string } & SaveRevisionRequest>({
      query: ({ pieceId, ...body }) => ({ url: `pieces/${pieceId}/revisions`, method: 'POST', body }),
      invalidatesTags: (result) => (result ? ['Pieces'] : []),
    }),
    listDrills: build.query<DrillResponse[], string>({
      query: (pieceId) => `pieces/${pieceId}/drills`,
      providesTags: ['Drills'],
    }),
    saveDrill: build.mutation<DrillResponse, InPiece & { readonly drill: SaveDrillRequest }>({
      query: ({ pieceId, id, drill }) => ({
        url: `pieces/${pieceId}/drills/${id}`,
        method: 'PUT',
        body: drill,
      }),
      invalidatesTags: ['Drills'],
    }),
    removeDrill: build.mutation<null, InPiece>({
      query: ({ pieceId, id }) => ({ url: `pieces/${pieceId}/drills/${id}`, method: 'DELETE' }),
      invalidatesTags: ['Drills'],
    }),
    listRuns: build.query<RunResponse[], string>({ query: (pieceId) => `pieces/${pieceId}/runs` }),
    logRun: build.mutation<RunResponse, { readonly pieceId: string; readonly run: RunResponse }>({
      query: ({ pieceId, run: { id, ...body } }) => ({
        url: `pieces/${pieceId}/runs/${id}`,
        method: 'PUT',
        body,
      }),
    }),
    removeRun: build.mutation<null, InPiece>({
      query: ({ pieceId, id }) => ({ url: `pieces/${pieceId}/runs/${id}`, method: 'DELETE' }),
    }),
  }),
});

export const {
  useGetSessionQuery,
  useOpenHereMutation,
  useSignInMutation,
  useSetUpMutation,
  useSignOutMutation,
  useListPlacesQuery,
  useEndPlaceMutation,
  useListMembersQuery,
  useAddMemberMutation,
  useRemoveMemberMutation,
  useListRoomsQuery,
  useOpenRoomMutation,
  useEndRoomMutation,
  useChangeRoomCodeMutation,
  useRemoveStandMutation,
  useListEnsemblesQuery,
  useUpdateEnsembleMutation,
  useListPiecesQuery,
  useGetPieceQuery,
  useListBackupsQuery,
  useListRevisionsInfiniteQuery,
  useMakeBackupMutation,
  useRestoreBackupMutation,
  useGetRevisionQuery,
  useCreatePieceMutation,
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
