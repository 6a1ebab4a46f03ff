import type { Meter } from '../show';

/** Ticks to the quarter note. */
export const TICKS_PER_QUARTER = 960;

/** A place in a song: bars and beats from 1, ticks within the beat from 0. */
export interface Position {
  bar: number;
  beat: number;
  tick: number;
}

/** Ticks of one beat of a meter; 960 a quarter note. */
export const ticksPerBeat = (meter: Meter): number => (TICKS_PER_QUARTER * 4) / meter.unit;
/** Ticks of one bar of a meter. */
export const ticksPerBar = (meter: Meter): number => ticksPerBeat(meter) * meter.beats;

/** Position of a tick (0 and up) in a song of one meter. */
export function positionAt(tick: number, meter: Meter): Position {
  const perBar = ticksPerBar(meter);
  const perBeat = ticksPerBeat(meter);
  const inBar = tick % perBar;
  return {
    bar: Math.floor(tick / perBar) + 1,
    beat: Math.floor(inBar / perBeat) + 1,
    tick: Math.floor(inBar % perBeat),
  };
}

/** Tick of a position; the inverse of `positionAt` for positions that exist in the meter. */
export const tickAt = (position: Position, meter: Meter): number =>
  (position.bar - 1) * ticksPerBar(meter) + (position.beat - 1) * ticksPerBeat(meter) + position.tick;

/** `29 : 2 + 480`; a tick of 0 is left out. */
export const formatPosition = ({ bar, beat, tick }: Position): string =>
  `${bar} : ${beat}${tick === 0 ? '' : ` + ${tick}`}`;

/**
 * Reads `29`, `29:2`, `29 : 2 + 480`, `29|2|480`.
 * @returns null when it cannot be read or does not exist in the meter.
 */
export function parsePosition(text: string, meter: Meter): Position | null {
  const match = /^\s*(\d{1,6})(?:\s*[:|.]\s*(\d{1,2})(?:\s*[+|.:]\s*(\d{1,4}))?)?\s*$/.exec(text);
  if (!match) return null;
  const position = { bar: Number(match[1]), beat: Number(match[2] ?? 1), tick: Number(match[3] ?? 0) };
  const exists =
    position.bar >= 1 && position.beat >= 1 && position.beat <= meter.beats && position.tick < ticksPerBeat(meter);
  return exists ? position : null;
}
