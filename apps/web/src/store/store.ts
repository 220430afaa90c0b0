import { configureStore } from '@reduxjs/toolkit';
import { useDispatch, useSelector } from 'react-redux';
import { api } from './api.ts';
import { autosave } from './autosave.ts';
import { followedBars } from './followedBars.ts';
import { keptWishes } from './keptWishes.ts';
import { mapSlice } from './mapSlice.ts';
import { pieceSlice } from './pieceSlice.ts';
import { rehearsalSlice } from './rehearsalSlice.ts';
import { runLogging } from './runLogging.ts';
import { transportSlice } from './transportSlice.ts';
import { visitorSlice } from './visitorSlice.ts';

/** A store of its own; the page has one, a test as many as it likes. */
export function createStore() {
  return configureStore({
    reducer: {
      piece: pieceSlice.reducer,
      map: mapSlice.reducer,
      transport: transportSlice.reducer,
      rehearsal: rehearsalSlice.reducer,
      visitor: visitorSlice.reducer,
      [api.reducerPath]: api.reducer,
    },
    middleware: (getDefault) =>
      getDefault({ serializableCheck: false, immutableCheck: false })
        .prepend(autosave.middleware, runLogging.middleware, keptWishes.middleware, followedBars.middleware)
        .concat(api.middleware),
  });
}

export const store = createStore();

export type AppStore = ReturnType<typeof createStore>;
export type RootState = ReturnType<AppStore['getState']>;
export type AppDispatch = AppStore['dispatch'];

export const useAppDispatch = useDispatch.withTypes<AppDispatch>();
export const useAppSelector = useSelector.withTypes<RootState>();
