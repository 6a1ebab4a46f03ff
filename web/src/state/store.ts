import { configureStore } from '@reduxjs/toolkit';
import { checksSlice } from '../checks/checksSlice';
import { liveSlice } from '../live/liveSlice';
import type { EditKeeper } from '../show/edits';
import { showSlice } from '../show/showSlice';
import { newId } from './ids';
import { uiSlice } from './uiSlice';

/** Keeps nothing: for what is shown without being saved. */
const nowhere: EditKeeper = {
  take: () => undefined,
  isOpen: () => true,
  newId: () => newId('edit'),
  refuse: () => undefined,
};

/** A store with its middleware, for the application or for a test. */
export const makeStore = (keeper: EditKeeper = nowhere) =>
  configureStore({
    reducer: { show: showSlice.reducer, live: liveSlice.reducer, ui: uiSlice.reducer, checks: checksSlice.reducer },
    // Shows are large and checked by Zod at the doors; walking them at each action would only cost time.
    middleware: (defaults) =>
      defaults({ serializableCheck: false, immutableCheck: false, thunk: { extraArgument: keeper } }),
  });

/** The application’s store. */
export type Store = ReturnType<typeof makeStore>;
/** What is in it. */
export type RootState = ReturnType<Store['getState']>;
