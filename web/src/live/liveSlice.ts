import { createSlice, type PayloadAction } from '@reduxjs/toolkit';
import type { BenchState, HandOver, HostEvent, Levels, PortState, Snapshot, StampedRecord } from './door';

const KEPT_LINES = 2000;

export interface LiveState {
  snapshot: Snapshot;
  ports: PortState[];
  bench: BenchState | null;
  records: StampedRecord[];
  lastWord: string;
  levels: Levels | null;
  figures: HandOver | null;
  trouble: string | null;
}

const initialState: LiveState = {
  snapshot: {
    position: -1, entryId: null, songId: null, patchId: null, blendId: null, cursor: -1, nextPosition: -1, playing: false, tick: 0, keys: [], carried: [], pedal: false, sound: 'off', midi: 'unasked', warning: null,
  },
  ports: [], bench: null, records: [], lastWord: '', levels: null, figures: null, trouble: null,
};

/** What the pages know of the running side. They only read it. */
export const liveSlice = createSlice({
  name: 'live',
  initialState,
  reducers: {
    heard(state, { payload }: PayloadAction<HostEvent>) {
      switch (payload.type) {
        case 'snapshot': state.snapshot = payload.snapshot; break;
        case 'ports': state.ports = payload.ports; break;
        case 'bench': state.bench = payload.bench; break;
        case 'records': state.records = [...state.records, ...payload.records].slice(-KEPT_LINES); break;
        case 'lastWord': state.lastWord = payload.text; break;
        case 'levels': state.levels = payload.levels; break;
        case 'figures': state.figures = payload.handOver; break;
        case 'trouble': state.trouble = payload.text; break;
      }
    },
    recordsCleared(state) {
      state.records = [];
    },
  },
});

export const { heard, recordsCleared } = liveSlice.actions;
