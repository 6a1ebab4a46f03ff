import type { Coding, ControlSource } from '../show';
import type { Track } from './tracks';

/** What kind of control something seems to be. */
export const CONTROL_KINDS = [
  'note',
  'momentary',
  'latching',
  'program',
  'counter',
  'absolute',
  'fine',
  'twos',
  'offset',
  'signed',
  'wheel',
  'pressure',
  'computerKey',
] as const;
/** What a control looks like by what it sends. */
export type ControlKind = (typeof CONTROL_KINDS)[number];

/** One reading of what came in. */
export interface Reading {
  kind: ControlKind;
  source: ControlSource;
  /** How sure, 0–1. */
  sure: number;
  /** Which gesture matters more, when several things moved. */
  weight: number;
  reversed: boolean;
  /** Counter only: the lowest and highest number seen. */
  counter: { lowest: number; highest: number } | null;
  /** Until when more may come that would change the reading, in ms. */
  settledMs: number;
  firstMs: number;
  track: Track;
}

const QUIET_MS = 450;
const PROGRAM_QUIET_MS = 900;
const ALONE_MS = 1500;
/** A press of a foot is let go within this; two presses of a latching switch are further apart. */
const PRESS_MS = 480;
/** A pedal at rest trembles by this much and no more. */
const TREMBLE = 7;
const LEAST_TRAVEL = 14;
const LEAST_BEND = 1200;
const SUSTAIN = 64;
const CENTRE = 8192;

const values = (track: Track): number[] => track.events.map((event) => event.value);
const spread = (numbers: readonly number[]): number => Math.max(...numbers) - Math.min(...numbers);
const firstMs = (track: Track): number => track.events[0].atMs;
const lastMs = (track: Track): number => track.events[track.events.length - 1].atMs;
const from = (track: Track) => ({ port: track.port, channel: track.channel });

const reading = (
  track: Track,
  kind: ControlKind,
  source: ControlSource,
  sure: number,
  weight: number,
  quietMs = QUIET_MS,
): Reading => ({
  kind,
  source,
  sure,
  weight,
  reversed: false,
  counter: null,
  settledMs: lastMs(track) + quietMs,
  firstMs: firstMs(track),
  track,
});

/** What a track may be, likeliest first; empty when it says nothing. */
export function readTrack(track: Track, all: readonly Track[]): Reading[] {
  switch (track.kind) {
    case 'note':
      return [reading(track, 'note', { kind: 'note', ...from(track), number: track.number }, 0.98, 100)];
    case 'program':
      return readProgram(track);
    case 'wheel':
      return readWheel(track);
    case 'pressure':
      return readPressure(track, all);
    case 'controller':
      return readController(track, all);
  }
}

/** A wheel at rest may tremble on for ever; what counts is when it was last bent. */
function readWheel(track: Track): Reading[] {
  const bent = track.events.filter(({ value }) => Math.abs(value - CENTRE) >= LEAST_BEND / 2);
  if (!bent.some(({ value }) => Math.abs(value - CENTRE) >= LEAST_BEND)) return [];
  return [
    {
      ...reading(track, 'wheel', { kind: 'wheel', ...from(track) }, 0.97, 75),
      firstMs: bent[0].atMs,
      settledMs: bent[bent.length - 1].atMs + QUIET_MS,
    },
  ];
}

function readPressure(track: Track, all: readonly Track[]): Reading[] {
  // Pressure that comes with a key is the key's.
  const withKey = all.some(
    (other) => other.kind === 'note' && other.port === track.port && other.channel === track.channel,
  );
  return withKey || spread([0, ...values(track)]) < LEAST_TRAVEL
    ? []
    : [reading(track, 'pressure', { kind: 'pressure', ...from(track) }, 0.95, 60)];
}

function readProgram(track: Track): Reading[] {
  const [first] = track.events;
  const numbers = values(track);
  const one = reading(
    track,
    'program',
    { kind: 'program', ...from(track), number: first.value, msb: first.msb, lsb: first.lsb },
    0.9,
    95,
    PROGRAM_QUIET_MS,
  );
  const steps = numbers
    .slice(1)
    .map((value, i) => value - numbers[i])
    .filter((step) => step !== 0);
  if (steps.length === 0) return [one];
  const ups = steps.filter((step) => step === 1).length;
  const downs = steps.filter((step) => step === -1).length;
  const wraps = steps.length - ups - downs;
  // One long jump among steps is where the counter wraps; nothing but jumps is a hand on several buttons.
  const direction =
    ups === downs
      ? wraps > 0 && steps.find((step) => Math.abs(step) > 1)! < 0
        ? 'up'
        : 'down'
      : ups > downs
        ? 'up'
        : 'down';
  if (wraps > Math.max(ups, downs) && !(steps.length === 1 && Math.abs(steps[0]) > 3)) return [{ ...one, sure: 0.6 }];
  const counter: Reading = {
    ...one,
    kind: 'counter',
    source: { kind: 'count', ...from(track), direction },
    sure: steps.length > 1 ? 0.95 : 0.85,
    counter: { lowest: wraps > 0 ? Math.min(...numbers) : 0, highest: wraps > 0 ? Math.max(...numbers) : 127 },
  };
  return [counter, { ...one, sure: 0.3 }];
}

const source7 = (track: Track, coding: Coding = 'absolute'): ControlSource => ({
  kind: 'controller',
  ...from(track),
  number: track.number,
  coding,
});

function readController(track: Track, all: readonly Track[]): Reading[] {
  const numbers = values(track);
  if (track.number === SUSTAIN && isHeld(track)) return [];
  const fine = readFine(track, all);
  if (fine === 'lsb') return [];
  if (fine) return [fine];
  const switched = readSwitch(track, numbers);
  if (switched.length > 0) return switched;
  const relative = readRelative(track, numbers);
  if (relative.length > 0) return relative;
  const travel = spread(numbers);
  if (travel <= TREMBLE || travel < LEAST_TRAVEL || numbers.length < 3) return [];
  const [first] = numbers;
  const last = numbers[numbers.length - 1];
  const reversed = first >= 118 && last >= 118 && Math.min(...numbers) < 64;
  return [{ ...reading(track, 'absolute', source7(track), 0.9, 70 + travel / 12.7), reversed }];
}

/** A sustain pedal that is held, and trembles or is let go meanwhile, is no gesture; a short press of it is one. */
function isHeld({ events }: Track): boolean {
  const up = events.find(({ value }) => value < 64);
  return events[0].value >= 64 && (up === undefined || up.atMs - events[0].atMs > 2 * PRESS_MS);
}

/** 14 bit: this controller and the one 32 above it move together. */
function readFine(track: Track, all: readonly Track[]): Reading | 'lsb' | null {
  const other = (number: number): Track | undefined =>
    all.find(
      (candidate) =>
        candidate.kind === 'controller' &&
        candidate.port === track.port &&
        candidate.channel === track.channel &&
        candidate.number === number,
    );
  const isPair = (msb: Track, lsb: Track): boolean => {
    const together = msb.events.filter(({ atMs }) =>
      lsb.events.some((event) => Math.abs(event.atMs - atMs) <= 6),
    ).length;
    return msb.events.length >= 3 && together >= msb.events.length * 0.7;
  };
  if (track.number >= 32 && track.number < 64) {
    const msb = other(track.number - 32);
    return msb && isPair(msb, track) ? 'lsb' : null;
  }
  if (track.number >= 32) return null;
  const lsb = other(track.number + 32);
  if (!lsb || !isPair(track, lsb) || spread(values(track)) < 2) return null;
  return {
    ...reading(track, 'fine', { kind: 'controller14', ...from(track), number: track.number }, 0.95, 82),
    settledMs: Math.max(lastMs(track), lastMs(lsb)) + QUIET_MS,
  };
}

/** Two values far apart and nothing between: a switch. */
function readSwitch(track: Track, numbers: readonly number[]): Reading[] {
  const low = Math.min(...numbers);
  const high = Math.max(...numbers);
  const isSwitch =
    numbers.length === 1
      ? low === 0 || low >= 100
      : high - low >= 60 &&
        numbers.every((value) => value - low <= 4 || high - value <= 4) &&
        low <= 16 &&
        numbers.slice(1).every((value, i) => Math.abs(value - numbers[i]) >= 50);
  if (!isSwitch || (low !== 0 && numbers.length > 1 && low > 4)) return [];
  const weight = track.number === SUSTAIN ? 20 : 90;
  const gaps = track.events.slice(1).map((event, i) => event.atMs - track.events[i].atMs);
  const momentary = (sure: number, reversed = false): Reading => ({
    ...reading(track, 'momentary', source7(track), sure, weight),
    reversed,
  });
  const latching = (sure: number): Reading => reading(track, 'latching', source7(track), sure, weight);
  // One value alone: a press that is still held, or a latching switch that has been hit once.
  if (gaps.length === 0) {
    const alone = { ...latching(0.7), settledMs: lastMs(track) + ALONE_MS };
    return [alone, momentary(0.3)];
  }
  const pressed = gaps.filter((_, i) => i % 2 === 0);
  const between = gaps.filter((_, i) => i % 2 === 1);
  const longestPress = Math.max(...pressed);
  const isPress =
    between.length > 0 ? longestPress < PRESS_MS && longestPress < Math.min(...between) * 1.5 : longestPress < PRESS_MS;
  if (isPress) return [momentary(between.length > 0 ? 0.97 : 0.85, numbers[0] <= 4), latching(0.15)];
  return [latching(between.length > 0 ? 0.9 : 0.75), momentary(0.25, numbers[0] <= 4)];
}

const within = (value: number, low: number, high: number): boolean => value >= low && value <= high;

/** Values that stay near a middle, repeat themselves and never stand on it: an encoder. */
function readRelative(track: Track, numbers: readonly number[]): Reading[] {
  if (numbers.length < 3) return [];
  const repeats = numbers.slice(1).filter((value, i) => value === numbers[i]).length / (numbers.length - 1);
  const small = (value: number): boolean => within(value, 1, 15);
  const as = (coding: 'twos' | 'offset' | 'signed', sure: number): Reading =>
    reading(track, coding, source7(track, coding), sure, 85);
  const right = numbers.filter(small).length;
  const twosLeft = numbers.filter((value) => within(value, 113, 127)).length;
  const signedLeft = numbers.filter((value) => within(value, 65, 79)).length;
  const offsetLeft = numbers.filter((value) => within(value, 49, 63)).length;
  const total = numbers.length;
  if (right > 0 && twosLeft > 0 && right + twosLeft === total) return [as('twos', 0.97)];
  if (right > 0 && signedLeft > 0 && right + signedLeft === total) return [as('signed', 0.97)];
  if (repeats < 0.2) return [];
  if (signedLeft > 0 && offsetLeft > 0 && signedLeft + offsetLeft === total) return [as('offset', 0.97)];
  // Turned one way only, two codings look alike.
  if (right === total) return [as('twos', 0.6), as('signed', 0.4)];
  if (twosLeft === total) return [as('twos', 0.9)];
  if (offsetLeft === total) return [as('offset', 0.9)];
  if (signedLeft === total) return [as('offset', 0.6), as('signed', 0.4)];
  return [];
}
