import type {
  Action,
  Effect,
  EffectChange,
  EngineRecord,
  EntryMessage,
  GearList,
  Instrument,
  Learned,
  PlainAction,
  Setlist,
  Song,
  SoundParameter,
} from '@rackle/core';
import type { TreadleButton } from './bench/treadle6';

/** Version of the messages between pages and host; both ends refuse another. */
export const DOOR_VERSION = 3;

/** The simulated audio input of the bench, as layers name it. */
export const BENCH_INPUT = 'Quay mic';

export const BENCH_DEVICES = [
  'Aster 73',
  'Cobble 25',
  'Treadle 6',
  'Updown 2',
  'Clack 2',
  'Heel 1',
  'Creaker',
  'Keg 4',
  'Pilot Cutter',
  'Skerry',
  'Beacon',
] as const;
export type BenchDevice = (typeof BENCH_DEVICES)[number];

/** A hand or foot on simulated gear. */
export type BenchGesture =
  | { device: 'Aster 73' | 'Cobble 25'; kind: 'key'; key: number; velocity: number }
  | { device: 'Aster 73'; kind: 'wheel'; value: number }
  | { device: 'Aster 73'; kind: 'controller'; controller: number; value: number }
  | { device: 'Cobble 25'; kind: 'pad'; pad: number; velocity: number }
  /** To a value for a knob with ends; for one without the sum of its turns. */
  | { device: 'Cobble 25'; kind: 'knob'; knob: number; value: number }
  | { device: 'Keg 4'; kind: 'hit'; pad: number; zone: 'head' | 'rim'; velocity: number }
  /** 0 heel down, 1 toe down. */
  | { device: 'Heel 1' | 'Creaker'; kind: 'heel'; stands: number }
  | { device: 'Creaker'; kind: 'tremble'; on: boolean }
  | { device: 'Treadle 6'; kind: 'pedal'; pedal: number }
  | { device: 'Treadle 6'; kind: 'page'; direction: 1 | -1 }
  | { device: 'Treadle 6'; kind: 'write'; buttons: TreadleButton[] }
  | { device: 'Updown 2'; kind: 'switch'; direction: 1 | -1; down: boolean }
  | { device: 'Clack 2'; kind: 'pedal'; pedal: number; down: boolean }
  | { device: 'Clack 2'; kind: 'latching'; on: boolean }
  | { device: 'Pilot Cutter'; kind: 'song'; entryId: string }
  | { device: 'Pilot Cutter'; kind: 'play' | 'stop' | 'toStart' }
  | { device: 'Pilot Cutter'; kind: 'clock'; on: boolean }
  /** The simulated audio input plays its loop, or is silent. */
  | { device: 'Quay mic'; kind: 'loop'; on: boolean }
  | { device: BenchDevice; kind: 'plug'; plugged: boolean };

/** From a page to the host. Plain and serialisable. */
export type HostCommand =
  | { type: 'show'; songs: Song[]; instruments: Instrument[]; setlist: Setlist; gear: GearList | null }
  | { type: 'song'; song: Song }
  | { type: 'recall'; position: number }
  | { type: 'perform'; action: PlainAction }
  | { type: 'cursor'; position: number }
  | { type: 'locate'; tick: number }
  | { type: 'startSound' }
  | { type: 'connectMidi' }
  | { type: 'bench'; gesture: BenchGesture }
  | { type: 'watch'; monitor: boolean; meters: boolean }
  /** Waits for controls for these roles, one after the other; an empty list ends it. */
  | { type: 'learn'; roles: string[] }
  | { type: 'learnUndo' }
  | { type: 'learnSkip' }
  | { type: 'computerKey'; code: string; down: boolean }
  /** Plays a tone through an output of the gear list, or (null) ends it. */
  | { type: 'testTone'; output: string | null }
  /** Selects an address on outboard gear at once, to hear it; the next recall selects what belongs there. */
  | {
      type: 'tryName';
      port: string;
      channel: number;
      msb: number | null;
      lsb: number | null;
      program: number | null;
      also: EntryMessage[];
    }
  /** Says where an instrument that is stepped by counting stands. */
  | { type: 'setCount'; instrumentId: string; count: number }
  | { type: 'askFigures' };

export interface PortState {
  name: string;
  direction: 'in' | 'out';
  origin: 'bench' | 'midi';
  alive: boolean;
}

export interface BenchState {
  treadle: { page: number; lit: number | null; written: boolean; pedals: (TreadleButton | null)[] };
  updown: { counter: number };
  clack: { down: boolean[]; lit: boolean[]; latching: boolean };
  aster: { sustain: boolean; wheel: number; modulation: number };
  cobble: { knobs: number[]; padsDown: boolean[] };
  heel: { stands: number };
  creaker: { stands: number; trembles: boolean };
  skerry: {
    channels: { channel: number; name: string; bank: string; program: number; switching: boolean }[];
    held: number;
    heard: string[];
  };
  beacon: { fields: boolean[]; brightness: number; heard: string[] };
  pilot: { entryId: string | null; playing: boolean; bar: number; beat: number; sendsClock: boolean };
  quayMic: { loops: boolean };
  unplugged: string[];
}

/** A control of tonight's gear as pages show it: what it stands at (0–1) and what it does now. */
export interface ControlState {
  key: string;
  role: string;
  stands: number | null;
  isMoving: boolean;
  does: {
    action: Action;
    layer: string | null;
    effect: Effect['kind'] | null;
    value: number | null;
    share: number | null;
  }[];
}

export interface LearnState {
  waitsFor: string;
  left: number;
  isMoving: boolean;
  /** A control that was moved and plays another role already. */
  taken: { by: string; saw: string } | null;
}

/** What the pages show of the running side; sent when it has changed, at most thirty times a second. */
export interface Snapshot {
  position: number;
  entryId: string | null;
  songId: string | null;
  patchId: string | null;
  blendId: string | null;
  cursor: number;
  nextPosition: number;
  playing: boolean;
  tick: number;
  keys: { key: number; carried: boolean }[];
  carried: { layer: string; notes: number }[];
  pedal: boolean;
  transpose: number;
  holding: boolean;
  tempoBpm: number;
  controls: ControlState[];
  learn: LearnState | null;
  sound: 'off' | 'starting' | 'on' | 'failed';
  midi: 'unasked' | 'asking' | 'on' | 'refused' | 'absent';
  warning: string | null;
  /** Layers whose sound loads, and those whose recording waits for the beat. */
  loading: string[];
  waiting: string[];
  /** The balance of the present patch as it is now, with what hands have moved, by layer. */
  balance: {
    layer: string;
    levelDb: number;
    pan: number;
    room: number;
    echo: number;
    mute: boolean;
    effects: EffectChange[];
    parameters: SoundParameter[];
  }[];
}

/** A key that was struck, before any zone or curve; `key` after the keyboard’s own shift. */
export interface Strike {
  serial: number;
  key: number;
  velocity: number;
}

export interface StampedRecord {
  number: number;
  record: EngineRecord;
}

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
  /** By layer name of the present patch. */
  layers: { layer: string; peakDb: number }[];
}

export interface HandOver {
  messages: number;
  medianMs: number;
  p99Ms: number;
}

/** From the host to its pages. */
export type HostEvent =
  | { type: 'snapshot'; snapshot: Snapshot }
  | { type: 'ports'; ports: PortState[] }
  | { type: 'bench'; bench: BenchState }
  | { type: 'records'; records: StampedRecord[] }
  /** A role has been learned; by `port` the control came, which may not stand in the gear list yet. */
  | { type: 'learned'; role: string; learned: Learned }
  | { type: 'unlearned'; role: string }
  /** The last keys that were struck on any keyboard, oldest first; at most a hundred. */
  | { type: 'strikes'; strikes: Strike[] }
  | { type: 'lastWord'; text: string }
  | { type: 'levels'; levels: Levels }
  | { type: 'figures'; handOver: HandOver }
  | { type: 'trouble'; text: string };

/** The pages' end of the door. */
export interface HostDoor {
  post(command: HostCommand): void;
  listen(listener: (event: HostEvent) => void): () => void;
}

interface Envelope<T> {
  v: typeof DOOR_VERSION;
  body: T;
}

/** Wraps one end of a message port; messages of another version are dropped. */
export function doorOn(port: MessagePort): HostDoor {
  const listeners = new Set<(event: HostEvent) => void>();
  port.onmessage = ({ data }: MessageEvent<Envelope<HostEvent>>) => {
    if (data.v === DOOR_VERSION) for (const listener of listeners) listener(data.body);
  };
  return {
    post: (body) => port.postMessage({ v: DOOR_VERSION, body } satisfies Envelope<HostCommand>),
    listen: (listener) => {
      listeners.add(listener);
      return () => listeners.delete(listener);
    },
  };
}

/** The host's end: hears commands, and answers. */
export function hostEndOn(port: MessagePort, onCommand: (command: HostCommand) => void): (event: HostEvent) => void {
  port.onmessage = ({ data }: MessageEvent<Envelope<HostCommand>>) => {
    if (data.v === DOOR_VERSION) onCommand(data.body);
  };
  return (body) => port.postMessage({ v: DOOR_VERSION, body } satisfies Envelope<HostEvent>);
}
