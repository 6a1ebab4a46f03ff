import { createSlice, original, type PayloadAction } from '@reduxjs/toolkit';
import type { GearList, Instrument, LibraryItem, Setlist, Shelf, Song } from '@rackle/core';
import { KINDS, type Kind, type Kinds, type SavedShow } from './api';

/** The show as it is edited: by kind and id. */
export type Working = { [K in Kind]: Record<string, Kinds[K]> };

export interface SaveState {
  kind: 'saved' | 'saving' | 'waiting' | 'stale' | 'refused';
  /** ms since 1970, of the last save; null before the first. */
  at: number | null;
  /** Unsaved things. */
  waiting: number;
  message: string | null;
}

/** Two versions of one thing: the player chooses. */
export interface Conflict {
  kind: Kind;
  id: string;
  theirs: { revision: number; body: unknown };
}

interface Past {
  label: string;
  before: Working;
  mergeKey: string | null;
}

export interface ShowState {
  status: 'loading' | 'ready' | 'failed';
  failure: string | null;
  working: Working;
  setlistId: string | null;
  past: Past[];
  future: Past[];
  saveState: SaveState;
  conflict: Conflict | null;
}

const UNDO_STEPS = 200;
const nothing = (): Working => ({
  songs: {},
  setlists: {},
  instruments: {},
  gearLists: {},
  libraryItems: {},
  shelves: {},
});

const initialState: ShowState = {
  status: 'loading',
  failure: null,
  working: nothing(),
  setlistId: null,
  past: [],
  future: [],
  saveState: { kind: 'saved', at: null, waiting: 0, message: null },
  conflict: null,
};

/**
 * One edit: what changes (null deletes), what it is called in undo, and (mergeKey) with which edits before it makes one
 * step.
 */
export interface Edit {
  label: string;
  mergeKey?: string;
  songs?: (Song | { id: string; deleted: true })[];
  setlists?: Setlist[];
  gearLists?: GearList[];
  instruments?: (Instrument | { id: string; deleted: true })[];
  libraryItems?: (LibraryItem | { id: string; deleted: true })[];
  shelves?: Shelf[];
}

export const showSlice = createSlice({
  name: 'show',
  initialState,
  reducers: {
    loaded(
      state,
      { payload }: PayloadAction<{ show: SavedShow; unsaved: Partial<Working>; setlistId: string | null }>,
    ) {
      for (const kind of KINDS)
        state.working[kind] = Object.fromEntries([
          ...payload.show[kind].map(({ body }) => [body.id, body]),
          ...Object.entries(payload.unsaved[kind] ?? {}),
        ]);
      const ids = Object.keys(state.working.setlists);
      state.setlistId =
        payload.setlistId !== null && ids.includes(payload.setlistId) ? payload.setlistId : (ids[0] ?? null);
      state.status = 'ready';
      state.past = [];
      state.future = [];
    },
    failed(state, { payload }: PayloadAction<string>) {
      state.status = 'failed';
      state.failure = payload;
    },
    edited(state, { payload }: PayloadAction<Edit>) {
      const last = state.past.at(-1);
      const merges = payload.mergeKey !== undefined && last?.mergeKey === payload.mergeKey && state.future.length === 0;
      if (!merges)
        state.past.push({ label: payload.label, before: original(state.working)!, mergeKey: payload.mergeKey ?? null });
      if (state.past.length > UNDO_STEPS) state.past.shift();
      state.future = [];
      for (const kind of KINDS) {
        const things = state.working[kind] as Record<string, unknown>;
        for (const thing of payload[kind] ?? []) {
          if ('deleted' in thing) delete things[thing.id];
          else things[thing.id] = thing;
        }
      }
      state.setlistId ??= payload.setlists?.[0]?.id ?? null;
    },
    undone(state) {
      const step = state.past.pop();
      if (!step) return;
      state.future.push({ ...step, before: original(state.working)! });
      state.working = step.before;
    },
    redone(state) {
      const step = state.future.pop();
      if (!step) return;
      state.past.push({ ...step, before: original(state.working)! });
      state.working = step.before;
    },
    /** The other version takes the place of ours, with no undo step. */
    replaced(state, { payload }: PayloadAction<{ kind: Kind; id: string; body: unknown }>) {
      if (payload.body === null) delete state.working[payload.kind][payload.id];
      else (state.working[payload.kind] as Record<string, unknown>)[payload.id] = payload.body;
    },
    setlistChosen(state, { payload }: PayloadAction<string>) {
      state.setlistId = payload;
    },
    saveStateChanged(state, { payload }: PayloadAction<SaveState>) {
      state.saveState = payload;
    },
    conflictFound(state, { payload }: PayloadAction<Conflict | null>) {
      state.conflict = payload;
    },
  },
});

export const { loaded, failed, edited, undone, redone, replaced, setlistChosen, saveStateChanged, conflictFound } =
  showSlice.actions;
