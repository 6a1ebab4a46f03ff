import type { EntryId, SetlistId } from '../model/ids';
import { Setlist, type SetlistEntry } from '../model/setlist';

/** A setlist without songs. */
export const newSetlist = (id: SetlistId, name: string): Setlist => Setlist.parse({ id, name });

/** The same items with one of them at another place. */
export function moved<T>(items: readonly T[], from: number, to: number): T[] {
  const result = [...items];
  const [item] = result.splice(from, 1);
  result.splice(Math.max(0, Math.min(result.length, to)), 0, item);
  return result;
}

/** Puts an entry in, at its end or at a place. */
export const withEntry = (setlist: Setlist, entry: SetlistEntry, at = setlist.entries.length): Setlist => ({
  ...setlist,
  entries: [...setlist.entries.slice(0, at), entry, ...setlist.entries.slice(at)],
});
/** Takes an entry out; its song stays in the show. */
export const withoutEntry = (setlist: Setlist, id: EntryId): Setlist => ({
  ...setlist,
  entries: setlist.entries.filter((entry) => entry.id !== id),
});
/** Moves an entry from one place to another, both from 0. */
export const withMovedEntry = (setlist: Setlist, from: number, to: number): Setlist => ({
  ...setlist,
  entries: moved(setlist.entries, from, to),
});
