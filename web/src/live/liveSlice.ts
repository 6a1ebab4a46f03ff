import type { LastPlace } from '@rackle/core/engine';
import { createSlice, type PayloadAction } from '@reduxjs/toolkit';
import type {
  BenchState,
  HandOver,
  HostEvent,
  HostKept,
  HostPlace,
  Levels,
  PortState,
  Strike,
  Topics,
} from '../protocol';
import { withRun, type PlayedRuns } from './playedRuns';

/** What the host has told, topic by topic. */
export interface LiveState extends Topics {
  ports: PortState[];
  bench: BenchState | null;
  lastWord: string;
  levels: Levels | null;
  figures: HandOver | null;
  kept: HostKept | null;
  trouble: string | null;
  strikes: Strike[];
  host: HostPlace;
  /** Where the set was left before this page was opened: the running side takes it up there. */
  left: LastPlace | null;
  /** What hands played in the last runs of timelines. */
  played: PlayedRuns;
}

const initialState: LiveState = {
  place: {
    position: -1,
    entryId: null,
    songId: null,
    patchId: null,
    blendId: null,
    cursor: -1,
    nextPosition: -1,
  },
  restart: { last: null },
  transport: {
    playing: false,
    tick: 0,
    tempoBpm: 0,
    trim: 1,
    text: '',
    holdsCues: false,
    loop: null,
    jumpsTo: -1,
    leader: null,
  },
  calls: { list: [] },
  hands: { keys: [], pedal: false, transpose: 0, holding: false, carried: [], waiting: [] },
  controls: { controls: [], learn: null },
  sound: { sound: 'off', midi: 'unasked', sysex: false, warning: null, loading: [] },
  balance: { layers: [] },
  ports: [],
  bench: null,
  lastWord: '',
  levels: null,
  figures: null,
  kept: null,
  trouble: null,
  strikes: [],
  host: { where: 'starting', why: null, restarts: 0 },
  left: null,
  played: {},
};

/** What the pages know of the running side. They only read it. Records do not pass through here: see `MonitorLog`. */
export const liveSlice = createSlice({
  name: 'live',
  initialState,
  reducers: {
    /** What was played before this page was opened. */
    playedBefore: (state, { payload }: PayloadAction<PlayedRuns>) =>
      void (state.played = payload as typeof state.played),
    leftBefore: (state, { payload }: PayloadAction<LastPlace | null>) =>
      void (state.left = payload as typeof state.left),
    /** The player has read it. */
    troubleSeen: (state) => void (state.trouble = null),
    heard(state, { payload }: PayloadAction<HostEvent>) {
      switch (payload.type) {
        case 'topics':
          Object.assign(state, payload.topics);
          break;
        case 'strikes':
          state.strikes = payload.strikes;
          break;
        case 'ports':
          state.ports = payload.ports;
          break;
        case 'bench':
          state.bench = payload.bench;
          break;
        case 'lastWord':
          state.lastWord = payload.text;
          break;
        case 'levels':
          state.levels = payload.levels;
          break;
        case 'figures':
          state.figures = payload.handOver;
          state.kept = payload.kept;
          break;
        case 'hostPlace':
          state.host = payload.place;
          break;
        case 'trouble':
          state.trouble = payload.text;
          break;
        case 'played':
          state.played = withRun(state.played as PlayedRuns, payload.songId, payload.notes) as typeof state.played;
          break;
        // What is for other parts of the page.
        default:
          break;
      }
    },
  },
});

/** The host has told something. */
export const { heard, leftBefore, playedBefore, troubleSeen } = liveSlice.actions;
