import { TICKS_PER_QUARTER } from './position';

/**
 * Milliseconds from tick 0 at one tempo. Computed from the whole distance each time, never by adding steps up,
 * so that an hour is exact to well under a microsecond.
 */
export const msAtTick = (tick: number, tempoBpm: number): number => (tick * 60_000) / (tempoBpm * TICKS_PER_QUARTER);

/** The inverse of `msAtTick`; not rounded. */
export const tickAtMs = (ms: number, tempoBpm: number): number => (ms * tempoBpm * TICKS_PER_QUARTER) / 60_000;
