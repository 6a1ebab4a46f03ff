import type { TempoMap } from './tempoMap';

/** A place in a song: bars and beats from 1, ticks within the beat from 0; bar 0 is the upbeat. */
export interface Position {
  bar: number;
  beat: number;
  tick: number;
}

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
