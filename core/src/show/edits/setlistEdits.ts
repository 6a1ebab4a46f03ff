import type { EntryId, GearListId, SetlistId, SongId } from '../model/ids';
import { Setlist, type SetlistEntry } from '../model/setlist';

/** A song at its place in a running order. */
export const songEntry = (id: EntryId, songId: SongId): SetlistEntry => ({
  kind: 'song',
  id,
  songId,
  skip: false,
  keyShift: 0,
  bpm: null,
  note: '',
  atEnd: 'stop',
});

/** A setlist without songs. */
export const newSetlist = (id: SetlistId, name: string): Setlist => Setlist.parse({ id, name });

/**
 * Another gig that starts as this one is: the same songs, numbers and roles, for a day and a place that are not
 * known yet.
 * @param entryId new ids, one an entry
 */
export const copiedSetlist = (setlist: Setlist, id: SetlistId, name: string, entryId: () => EntryId): Setlist => ({
  ...setlist,
  id,
  name,
  date: null,
  place: '',
  entries: setlist.entries.map((entry) => ({ ...entry, id: entryId() })),
});

/** A gig without songs, which plays by the same gear and counts as another one does. */
export const emptySetlistLike = (setlist: Setlist | null, id: SetlistId, name: string): Setlist => ({
  ...newSetlist(id, name),
  ...(setlist === null
    ? {}
    : { gearListId: setlist.gearListId, programsFrom: setlist.programsFrom, middleC: setlist.middleC }),
});

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

/** What of an edit takes a song away: the song, and its places in setlists. Its numbers follow by themselves. */
export const withoutSong = (
  setlists: readonly Setlist[],
  songId: SongId,
): { songs: { id: SongId; deleted: true }[]; setlists: Setlist[] } => ({
  songs: [{ id: songId, deleted: true }],
  setlists: setlists
    .map((setlist) => ({
      ...setlist,
      entries: setlist.entries.filter((entry) => entry.kind !== 'song' || entry.songId !== songId),
    }))
    .filter(({ entries }, i) => entries.length < setlists[i].entries.length),
});

/** What of an edit takes a gear list away: the list, and that setlists play by it; they play by another from then on. */
export const withoutGearList = (
  setlists: readonly Setlist[],
  gearListId: GearListId,
  instead: GearListId | null,
): { gearLists: { id: GearListId; deleted: true }[]; setlists: Setlist[] } => ({
  gearLists: [{ id: gearListId, deleted: true }],
  setlists: setlists
    .filter((setlist) => setlist.gearListId === gearListId)
    .map((setlist) => ({ ...setlist, gearListId: instead })),
});
