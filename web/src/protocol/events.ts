import type { Learned } from '@rackle/core/controls';
import type { BalanceView, Call, ControlView, EngineRecord, LastPlace, NamedLayer } from '@rackle/core/engine';
import type { Jump, LoadHeard } from '@rackle/core/loading';
import type { Stereo } from '@rackle/core/loudness';
import type { HeardProgram } from '@rackle/core/soundcheck';
import type { HandNote } from '@rackle/core/timeline';
import type { BenchState } from './bench';

/** A port that the host sees, and whether it is there. */
export interface PortState {
  name: string;
  direction: 'in' | 'out';
  origin: 'bench' | 'midi';
  alive: boolean;
}

/** A control of tonight's gear, and a layer of the present patch as it is now, as the engine has them. */
export type ControlState = ControlView;
/** A layer’s balance as it is heard now. */
export type BalanceNow = BalanceView;

/** How a learn session stands. */
export interface LearnState {
  waitsFor: string;
  left: number;
  isMoving: boolean;
  /** A control that was moved and plays another role already. */
  taken: { by: string; saw: string } | null;
}

/**
 * What the pages show of the running side, by topic. A topic is sent when something in it has changed, at most thirty
 * times a second. Layers are named by id; their names are for people.
 */
export interface Topics {
  place: {
    position: number;
    entryId: string | null;
    songId: string | null;
    patchId: string | null;
    blendId: string | null;
    cursor: number;
    nextPosition: number;
  };
  /** Where a restart comes back to, with what hands have moved; null before the first recall. */
  restart: { last: LastPlace | null };
  transport: {
    playing: boolean;
    tick: number;
    tempoBpm: number;
    trim: number;
    /** What the timeline has for the player to read; empty: nothing. */
    text: string;
    /** Its recalls and presets are passed over. */
    holdsCues: boolean;
    loop: { fromTick: number; toTick: number } | null;
    /** Where the jump that is to come leads, −1: none is. */
    jumpsTo: number;
    /** The clock that it follows, in tenths (beats a minute, ms); null: its own. */
    leader: { port: string; bpm: number; jitterMs: number; isLost: boolean } | null;
  };
  /** What another player has recalled since the timeline was last started. */
  calls: { list: readonly Call[] };
  hands: {
    keys: { key: number; carried: boolean }[];
    pedal: boolean;
    transpose: number;
    holding: boolean;
    carried: (NamedLayer & { notes: number })[];
    /** Layers whose recording waits for the beat. */
    waiting: NamedLayer[];
  };
  controls: { controls: ControlState[]; learn: LearnState | null };
  sound: {
    /** `waits`: the browser lets nothing sound before somebody has clicked, or has interrupted the sound. */
    sound: 'off' | 'starting' | 'waits' | 'on' | 'failed';
    midi: 'unasked' | 'asking' | 'on' | 'refused' | 'absent';
    /** Whether the browser lets system exclusive go out to the machine's ports. */
    sysex: boolean;
    warning: string | null;
    /** Layers of the present patch whose sound is not ready. */
    loading: NamedLayer[];
  };
  balance: { layers: BalanceNow[] };
}

/** A key that was struck, before any zone or curve; `key` after the keyboard’s own shift. */
export interface Strike {
  serial: number;
  key: number;
  velocity: number;
  /** In which patch no layer was under it; null: one was. */
  silent: { device: string; songId: string; patchId: string } | null;
}

/** What the engine did, with its number in the log. */
export interface StampedRecord {
  number: number;
  record: EngineRecord;
}

/** How loud everything is, and how late. */
export interface Levels {
  output: { peakDb: number; clipped: boolean };
  /** By name, in the order of the gear list. */
  outputs: { name: string; peakDb: number; clipped: boolean; isHere: boolean }[];
  /** From a key to its sound, as far as the browser knows: ms in the sound system, and ms in Rackle. */
  delay: { systemMs: number; rackleMs: number };
  /** About how many voices this machine can sound at once; null while that is not known. */
  voicesPossible: number | null;
  /** What sampled sounds take in memory now. */
  loadedMb: number;
  /** Layers of the present patch. */
  layers: { layerId: string; peakDb: number }[];
}

/** How late messages were on their way to the engine. */
export interface HandOver {
  messages: number;
  medianMs: number;
  p99Ms: number;
  /** Of getting sounds ready, the longest stretch in which no message could come in between. */
  longestSliceMs: number;
}

/** Where the running side lives, for Gear; made by the page's end of the connection, not by the host. */
export interface HostPlace {
  /** In a frame with a process of its own, in the page itself, in another window of this browser, or not yet. */
  where: 'starting' | 'frame' | 'page' | 'elsewhere';
  /** Why it is in the page. */
  why: 'no-second-port' | 'no-answer' | 'stopped-again' | 'other-build' | null;
  /** How often it had stopped and was started again. */
  restarts: number;
}

/** What the host finds in this browser with the server stopped. */
export interface HostKept {
  /** Its own document opens. */
  isInstalled: boolean;
  /** Banks and recordings that were loaded before. */
  files: number;
  mb: number;
  mostMb: number;
}

/** From the host to its pages. */
export type HostEvent =
  | { type: 'topics'; topics: Partial<Topics> }
  /** A show or a change has been taken; the next one may come. */
  | { type: 'took'; number: number }
  /** A change is missing: the whole show is wanted. */
  /** @param anew it has just been started, and comes back to where the set was. */
  | { type: 'askShow'; anew?: boolean; afterCrash?: boolean }
  | { type: 'pong'; number: number }
  /** All that the host may need of the server's programs is here. */
  | { type: 'fetched' }
  | { type: 'hostPlace'; place: HostPlace }
  | { type: 'ports'; ports: PortState[] }
  | { type: 'bench'; bench: BenchState }
  | { type: 'records'; records: StampedRecord[] }
  /** A role has been learned; by `port` the control came, which may not stand in the gear list yet; `from`: it leaves that role. */
  | { type: 'learned'; role: string; learned: Learned; from: string | null }
  | { type: 'unlearned'; role: string }
  /** The last keys that were struck on any keyboard, oldest first; at most a hundred. */
  | { type: 'strikes'; strikes: Strike[] }
  /** What hands played while the timeline of a song ran, in order; sent when it has stopped. */
  | { type: 'played'; songId: string; notes: HandNote[] }
  | { type: 'lastWord'; text: string }
  /** A program change has come in and recalled nothing. */
  | { type: 'unanswered'; heard: HeardProgram }
  | { type: 'levels'; levels: Levels }
  /** What has just been loaded, and how long it took. */
  | { type: 'loads'; loads: LoadHeard[] }
  /** The evening has gone another way than its plan of loading, which is to be made anew from there. */
  | { type: 'jumped'; jump: Jump }
  /** What was asked for as a take, before any limiter; null: a sound of it is not to be had. */
  | { type: 'takeRendered'; number: number; sound: Stereo | null }
  | { type: 'figures'; handOver: HandOver; kept: HostKept | null }
  | { type: 'trouble'; text: string };
