import { createSlice } from '@reduxjs/toolkit';
import { people } from './peopleApi.ts';
import type { AppDispatch, RootState } from './store.ts';

interface VisitorState {
  /** Whose page this is: the account that was signed in first; null while nobody here has one. It stays as they sign out. */
  readonly accountId: string | null;
  /** Somebody else has signed in since. */
  readonly hasChanged: boolean;
}

const initialState: VisitorState = { accountId: null, hasChanged: false };

/** Who has been here. What one did and the server has not heard of is never sent as another's. */
export const visitorSlice = createSlice({
  name: 'visitor',
  initialState,
  reducers: {},
  extraReducers: (build) =>
    build.addMatcher(people.endpoints.getSession.matchFulfilled, (state, { payload: { signedIn } }) => {
      if (!signedIn || signedIn.isLocal) return;
      state.accountId ??= signedIn.accountId;
      state.hasChanged = signedIn.accountId !== state.accountId;
    }),
});

/** Whose page this is. */
export const accountHere = (_: AppDispatch, getState: () => RootState) => getState().visitor.accountId;

/** Who sends what waits; null where that would be somebody else than whose page this is. */
export const senderHere = (_: AppDispatch, getState: () => RootState) => {
  const { accountId, hasChanged } = getState().visitor;
  return hasChanged ? null : { accountId };
};
