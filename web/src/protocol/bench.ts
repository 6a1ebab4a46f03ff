import type { TreadleButton } from '../host/bench/treadle6';

/** The simulated audio input of the bench, as layers name it. */
export const BENCH_INPUT = 'Quay mic';

/** The simulated devices, by name. */
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
/** Name of a simulated device. */
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
  /** Whether it sends its clock, and its calls for patches. */
  | { device: 'Pilot Cutter'; kind: 'clock' | 'calls'; on: boolean }
  /** The simulated audio input plays its loop, or is silent. */
  | { device: 'Quay mic'; kind: 'loop'; on: boolean }
  | { device: BenchDevice; kind: 'plug'; plugged: boolean };

/** How the simulated devices stand. */
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
  pilot: {
    entryId: string | null;
    playing: boolean;
    bar: number;
    beat: number;
    sendsClock: boolean;
    sendsCalls: boolean;
  };
  quayMic: { loops: boolean };
  unplugged: string[];
}
