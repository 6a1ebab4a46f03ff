import { configureStore } from '@reduxjs/toolkit';
import { liveSlice } from '../live/liveSlice';
import { showSlice } from '../show/showSlice';
import { uiSlice } from './uiSlice';

export const makeStore = () =>
  configureStore({
    reducer: { show: showSlice.reducer, live: liveSlice.reducer, ui: uiSlice.reducer },
    // Shows are large and checked by Zod at the doors; walking them at each action would only cost time.
    middleware: (defaults) => defaults({ serializableCheck: false, immutableCheck: false }),
  });

export type Store = ReturnType<typeof makeStore>;
export type RootState = ReturnType<Store['getState']>;
