import type {
  AddMemberRequest,
  ChangePasswordRequest,
  CreateAccountRequest,
  MemberPartRequest,
  MemberResponse,
  RoomResponse,
  SessionResponse,
  SignInRequest,
  SignInResponse,
} from '@anchorbeat/contract';
import { forgetAnswers } from '../kept/offline.ts';
import { api } from './api.ts';
import type { AppDispatch } from './store.ts';

/** What was answered to whoever was here before is not kept for who comes after; every window asks who that is. */
const forgottenAfter = async (_asked: unknown, asking: { readonly queryFulfilled: Promise<unknown> }) => {
  if (!(await asking.queryFulfilled.then(Boolean, () => false))) return;
  await forgetAnswers();
  tellWindows();
};

const DOOR = 'anchorbeat.door';

function tellWindows(): void {
  if (!('BroadcastChannel' in globalThis)) return;
  const door = new BroadcastChannel(DOOR);
  door.postMessage('somebody came or left');
  door.close();
}

/** What whoever is here may see is asked for anew where their own part may be another. */
const OWN_PART = ['Session', 'Ensembles', 'Pieces'] as const;

/** Who is signed in, and who leads. */
export const people = api.injectEndpoints({
  endpoints: (build) => ({
    getSession: build.query<SessionResponse, void>({ query: () => 'session', providesTags: ['Session'] }),
    openHere: build.mutation<null, void>({
      query: () => ({ url: 'session/here', method: 'POST' }),
      invalidatesTags: ['Session'],
    }),
    signIn: build.mutation<null, SignInRequest>({
      query: (body) => ({ url: 'session', method: 'POST', body }),
      onQueryStarted: forgottenAfter,
      invalidatesTags: ['Session', 'Ensembles', 'Pieces'],
    }),
    setUp: build.mutation<null, CreateAccountRequest>({
      query: (body) => ({ url: 'session/first-account', method: 'POST', body }),
      invalidatesTags: ['Session', 'Members'],
    }),
    signOut: build.mutation<null, void>({
      query: () => ({ url: 'session', method: 'DELETE' }),
      onQueryStarted: forgottenAfter,
      invalidatesTags: ['Session'],
    }),
    changePassword: build.mutation<null, ChangePasswordRequest>({
      query: (body) => ({ url: 'session/password', method: 'PUT', body }),
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
    setPart: build.mutation<
      MemberResponse[],
      { readonly ensembleId: string; readonly accountId: string } & MemberPartRequest
    >({
      query: ({ ensembleId, accountId, role }) => ({
        url: `ensembles/${ensembleId}/members/${accountId}`,
        method: 'PUT',
        body: { role },
      }),
      invalidatesTags: ['Members', ...OWN_PART],
    }),
    removeMember: build.mutation<null, { readonly ensembleId: string; readonly accountId: string }>({
      query: ({ ensembleId, accountId }) => ({
        url: `ensembles/${ensembleId}/members/${accountId}`,
        method: 'DELETE',
      }),
      invalidatesTags: ['Members', ...OWN_PART],
    }),
  }),
});

/** Rehearsals that stands join. */
const rooms = api.injectEndpoints({
  endpoints: (build) => ({
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
  }),
});

/** Asks the server who is here, before a screen does. */
export const askSession = () => people.endpoints.getSession.initiate();

/** Asks again whenever somebody signed in or out in another window of this browser. */
export function watchDoor(dispatch: AppDispatch): void {
  if (!('BroadcastChannel' in globalThis)) return;
  new BroadcastChannel(DOOR).onmessage = () => dispatch(api.util.invalidateTags(['Session']));
}

export const {
  useGetSessionQuery,
  useOpenHereMutation,
  useSignInMutation,
  useSetUpMutation,
  useSignOutMutation,
  useChangePasswordMutation,
  useListPlacesQuery,
  useEndPlaceMutation,
  useListMembersQuery,
  useAddMemberMutation,
  useRemoveMemberMutation,
  useSetPartMutation,
} = people;

/** Whether whoever is here directs an ensemble. */
export function useDirects(ensembleId: string | undefined): boolean {
  const { data } = useGetSessionQuery();
  const roles = data?.signedIn?.roles ?? [];
  return roles.some((one) => one.ensembleId === ensembleId && one.role === 'director');
}

export const {
  useListRoomsQuery,
  useOpenRoomMutation,
  useEndRoomMutation,
  useChangeRoomCodeMutation,
  useRemoveStandMutation,
} = rooms;
