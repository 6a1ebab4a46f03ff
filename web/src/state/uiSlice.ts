import { createSlice, type PayloadAction } from '@reduxjs/toolkit';

/** What is open and chosen. Only what `remembered.ts` names outlives the window. */
export interface UiState {
  benchOpen: boolean;
  monitorOpen: boolean;
  paletteOpen: boolean;
  keysOpen: boolean;
  /** What waits to be settled of what was edited. */
  keepingOpen: boolean;
  /** The stage lock: on any page the strip and the links only move the cursor. */
  locked: boolean;
  night: boolean;
  /** Single letters are shortcuts (S, L, B, M, P). */
  letterKeys: boolean;
  /** A newer version waits; `putOff`: it could not be taken just now. */
  newVersion: 'waits' | 'putOff' | null;
  /** Patch, blend and layer that are looked at, by song. */
  chosen: Record<string, { patchId: string | null; blendId: string | null; layerId: string | null }>;
}

/** What is the same on the next visit. */
export type Remembered = Pick<UiState, 'night' | 'letterKeys'>;

const initialState: UiState = {
  benchOpen: false,
  monitorOpen: false,
  paletteOpen: false,
  keysOpen: false,
  keepingOpen: false,
  locked: false,
  night: false,
  letterKeys: true,
  newVersion: null,
  chosen: {},
};

/** Every change of it. */
export const uiSlice = createSlice({
  name: 'ui',
  initialState,
  reducers: {
    toggled(
      state,
      {
        payload,
      }: PayloadAction<
        'benchOpen' | 'monitorOpen' | 'paletteOpen' | 'keysOpen' | 'keepingOpen' | 'locked' | 'night' | 'letterKeys'
      >,
    ) {
      state[payload] = !state[payload];
    },
    /** What this browser kept of an earlier visit. */
    remembered(state, { payload }: PayloadAction<Partial<Remembered>>) {
      Object.assign(state, payload);
    },
    newVersionCame(state) {
      state.newVersion = 'waits';
    },
    newVersionPutOff(state) {
      state.newVersion = 'putOff';
    },
    newVersionClosed(state) {
      state.newVersion = null;
    },
    keepingShown(state) {
      state.keepingOpen = true;
    },
    closed(state, { payload }: PayloadAction<'paletteOpen' | 'keysOpen'>) {
      state[payload] = false;
    },
    chose(
      state,
      {
        payload,
      }: PayloadAction<{ songId: string; patchId?: string | null; blendId?: string | null; layerId?: string | null }>,
    ) {
      const { songId, ...rest } = payload;
      state.chosen[songId] = { ...(state.chosen[songId] ?? { patchId: null, blendId: null, layerId: null }), ...rest };
    },
  },
});

/** A switch of the frame is turned over. */
export const { toggled, remembered, closed, chose, keepingShown, newVersionCame, newVersionPutOff, newVersionClosed } =
  uiSlice.actions;
