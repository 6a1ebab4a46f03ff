import type { Meter } from '../show';
import type { TempoMap } from './tempoMap';

/** Ticks to the quarter note. */
export const TICKS_PER_QUARTER = 960;

/** A place in a song: bars and beats from 1, ticks within the beat from 0; bar 0 is the upbeat. */
export interface Position {
  bar: number;
  beat: number;
  tick: number;
}

/** Ticks of one beat of a meter; 960 a quarter note. */
export const ticksPerBeat = (meter: Meter): number => (TICKS_PER_QUARTER * 4) / meter.unit;
/** Ticks of one bar of a meter. */
export const ticksPerBar = (meter: Meter): number => ticksPerBeat(meter) * meter.beats;

/** `29 : 2 + 480`; a tick of 0 is left out. */
export const formatPosition = ({ bar, beat, tick }: Position): string =>
  `${bar} : ${beat}${tick === 0 ? '' : ` + ${tick}`}`;

/**
 * Reads `29`, `29:2`, `29 : 2 + 480`, `29|2|480`.
 * @returns its tick; null when it cannot be read or the song has no such place
 */
export function parsePosition(text: string, map: TempoMap): number | null {
  const match = /^\s*(\d{1,6})(?:\s*[:|.]\s*(\d{1,3})(?:\s*[+|.:]\s*(\d{1,4}))?)?\s*$/.exec(text);
  if (!match) return null;
  return map.tickOf({ bar: Number(match[1]), beat: Number(match[2] ?? 1), tick: Number(match[3] ?? 0) });
}
