import type { Setlist, Song } from '../show';
import { eveningOf, type Evening, type EveningOptions, type RecallPlace } from './evening';
import { heldBy, type HeldByStep } from './held';
import { planLoading } from './plan';

/** Somewhere else than the plan comes to next: where the evening is now, and what is in memory there. */
export interface Jump extends RecallPlace {
  /** From 1, for whoever follows the plan. */
  number: number;
  /** Keys of what is loaded. */
  resident: readonly string[];
}

/**
 * What the rest of an evening has in memory, planned anew after a jump, from what is there. It begins with the recall that
 * was jumped to, whether that was planned or not.
 * @returns null: there is no such recall in this setlist
 */
export function heldFrom(
  setlist: Pick<Setlist, 'entries' | 'layers' | 'standing'>,
  songs: Readonly<Record<string, Song>>,
  options: EveningOptions,
  jump: Jump,
): HeldByStep | null {
  // It is there already: nothing is loaded ahead of it.
  const evening = eveningOf(setlist, songs, { ...options, beforeMs: 0 }, jump);
  const at = evening.places.findIndex(({ entryId, patchId }) => entryId === jump.entryId && patchId === jump.patchId);
  if (at < 0) return null;
  const rest = restOf(evening, at, new Set(jump.resident));
  return heldBy(rest, planLoading(rest.task), jump.number);
}

/** An evening from one of its recalls on, with what it still needs, and what is pinned. */
function restOf({ task, places, measured }: Evening, from: number, resident: ReadonlySet<string>): Evening {
  const stops = task.stops.slice(from);
  const needed = new Set(stops.flatMap(({ needs }) => needs));
  const stays = task.units.map((_, unit) => unit).filter((unit) => needed.has(unit) || task.units[unit].isPinned);
  const placeOf = new Map(stays.map((unit, place) => [unit, place]));
  const units = stays.map((unit) => task.units[unit]);
  return {
    task: {
      ...task,
      units,
      stops: stops.map((stop) => ({ ...stop, needs: stop.needs.map((unit) => placeOf.get(unit)!) })),
      resident: units.flatMap(({ key }, unit) => (resident.has(key) ? [unit] : [])),
    },
    places: places.slice(from),
    measured,
  };
}
