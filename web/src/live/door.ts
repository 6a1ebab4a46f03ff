import type { Action, EngineRecord, GearList, Instrument, Setlist, Song } from '@rackle/core';

/** Version of the messages between pages and host; both ends refuse another. */
export const DOOR_VERSION = 1;

/** A hand or foot on simulated gear. */
export type BenchGesture =
  | { device: 'Aster 73'; kind: 'key'; key: number; velocity: number }
  | { device: 'Aster 73'; kind: 'wheel'; value: number }
  | { device: 'Aster 73'; kind: 'controller'; controller: number; value: number }
  | { device: 'Treadle 6'; kind: 'pedal'; pedal: number }
  | { device: 'Treadle 6'; kind: 'page'; direction: 1 | -1 }
  | { device: 'Updown 2'; kind: 'switch'; direction: 1 | -1; down: boolean }
  | { device: 'Clack 2'; kind: 'pedal'; pedal: number; down: boolean }
  | { device: 'Pilot Cutter'; kind: 'song'; entryId: string }
  | { device: 'Pilot Cutter'; kind: 'play' | 'stop' }
  | { device: BenchDevice; kind: 'plug'; plugged: boolean };

export const BENCH_DEVICES = ['Aster 73', 'Treadle 6', 'Updown 2', 'Clack 2', 'Skerry', 'Pilot Cutter'] as const;
export type BenchDevice = (typeof BENCH_DEVICES)[number];

/** From a page to the host. Plain and serialisable. */
export type HostCommand =
  | { type: 'show'; songs: Song[]; instruments: Instrument[]; setlist: Setlist; gear: GearList | null }
  | { type: 'song'; song: Song }
  | { type: 'recall'; position: number }
  | { type: 'perform'; action: Action }
  | { type: 'cursor'; position: number }
  | { type: 'locate'; tick: number }
  | { type: 'startSound' }
  | { type: 'connectMidi' }
  | { type: 'bench'; gesture: BenchGesture }
  | { type: 'watch'; monitor: boolean; meters: boolean }
  | { type: 'askFigures' };

export interface PortState {
  name: string;
  direction: 'in' | 'out';
  origin: 'bench' | 'midi';
  alive: boolean;
}

export interface BenchState {
  treadle: { page: number; lit: number | null };
  updown: { counter: number };
  clack: boolean[];
  aster: { sustain: boolean; wheel: number; modulation: number };
  skerry: { channels: { channel: number; name: string; bank: string; program: number; switching: boolean }[]; held: number; heard: string[] };
  pilot: { entryId: string | null; playing: boolean; bar: number; beat: number };
  unplugged: string[];
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
  sound: 'off' | 'starting' | 'on' | 'failed';
  midi: 'unasked' | 'asking' | 'on' | 'refused' | 'absent';
  warning: string | null;
}

export interface StampedRecord {
  number: number;
  record: EngineRecord;
}

export interface Levels {
  output: { peakDb: number; clipped: boolean };
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
