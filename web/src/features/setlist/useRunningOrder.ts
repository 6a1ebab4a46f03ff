import { useMemo, useState } from 'react';
import {
  newSong,
  songEntry,
  songsToDrop,
  withEntry,
  withMovedEntry,
  withoutEntry,
  type EntryId,
  type LayerId,
  type PatchId,
  type Setlist,
  type SetlistEntry,
  type Song,
  type SongId,
} from '@rackle/core/show';
import { useEdit, useSongs, useTimes } from '../../state/hooks';
import { newId } from '../../state/ids';
import { madeNow } from '../../ui/newRow';
import { useLatest } from '../../ui/useLatest';

/** What is done to one entry of the running order; the same functions over all renderings. */
export interface EntryActions {
  move: (id: EntryId, to: number) => void;
  remove: (entry: SetlistEntry) => void;
  changeEntry: (entry: SetlistEntry) => void;
  changeSong: (song: Song) => void;
}

/** An entry as its row shows it. */
export interface RowState {
  entry: SetlistEntry;
  index: number;
  /** Of the song in the order; breaks have that of the song before. */
  number: number;
  song: Song | null;
  /** Minutes after midnight. */
  startsAt: number;
}

function rowsOf(
  entries: readonly SetlistEntry[],
  songs: Readonly<Record<string, Song>>,
  startsAt: readonly number[],
): RowState[] {
  let number = 0;
  return entries.map((entry, index) => {
    if (entry.kind === 'song') number++;
    const song = entry.kind === 'song' ? (songs[entry.songId] ?? null) : null;
    return { entry, index, number, song, startsAt: startsAt[index] };
  });
}

/** The running order: its rows, what it comes to, and what can be done with it. */
export function useRunningOrder(setlist: Setlist) {
  const songs = useSongs();
  const edit = useEdit();
  const times = useTimes();
  const [isAdding, setIsAdding] = useState(false);
  const change = (label: string, next: Setlist): void => edit({ label, setlists: [next] });
  const indexOf = (id: string): number => setlist.entries.findIndex((entry) => entry.id === id);
  const made = <Entry extends SetlistEntry>(entry: Entry): Entry => {
    madeNow(entry.id);
    return entry;
  };
  const entryOf = (songId: SongId): SetlistEntry => made(songEntry(newId<EntryId>('entry'), songId));

  const move = useLatest((id: EntryId, to: number): void => {
    const at = indexOf(id);
    if (at !== to && to >= 0) change('move a song', withMovedEntry(setlist, at, to));
  });
  const remove = useLatest(({ kind, id }: SetlistEntry): void =>
    change(kind === 'break' ? 'take the break out' : 'take a song out', withoutEntry(setlist, id)),
  );
  const changeEntry = useLatest((next: SetlistEntry): void =>
    change('change the setlist', {
      ...setlist,
      entries: setlist.entries.map((entry) => (entry.id === next.id ? next : entry)),
    }),
  );
  const changeSong = useLatest((next: Song): void => edit({ label: `change ${next.name}`, songs: [next] }));
  const entryActions: EntryActions = useMemo(
    () => ({ move, remove, changeEntry, changeSong }),
    [move, remove, changeEntry, changeSong],
  );

  const drop = useLatest((id: string, over: string): void => move(id as EntryId, indexOf(over)));

  // The same while nothing in it changes, so that another name of the setlist draws no row anew.
  const { entries } = setlist;
  const rows = useMemo(() => rowsOf(entries, songs, times.startsAt), [entries, songs, times.startsAt]);
  const songCount = rows.at(-1)?.number ?? 0;
  const { startsAt, curfew } = setlist;
  const toDrop = useMemo(() => songsToDrop({ entries, startsAt, curfew }, songs), [entries, startsAt, curfew, songs]);
  return {
    rows,
    songCount,
    setCount: 1 + entries.length - songCount,
    playsSeconds: times.playsSeconds,
    overAt: times.overAt,
    /** What to leave out to be over in time; null: it is. */
    toDrop,
    entryActions,
    /** Puts one in the place of another. */
    drop,
    rename: (name: string): void => change('rename the setlist', { ...setlist, name }),
    /** Leaves songs out tonight, as one step. */
    skip: (ids: readonly string[]): void =>
      change('skip songs tonight', {
        ...setlist,
        entries: entries.map((entry) =>
          entry.kind === 'song' && ids.includes(entry.id) ? { ...entry, skip: true } : entry,
        ),
      }),
    addBreak: (): void =>
      change(
        'add a break',
        withEntry(setlist, made({ kind: 'break', id: newId<EntryId>('entry'), name: 'Break', minutes: 20, note: '' })),
      ),
    addSong: (songId: string): void => {
      change(`add ${songs[songId].name}`, withEntry(setlist, entryOf(songId as SongId)));
      setIsAdding(false);
    },
    addNewSong: (name: string): void => {
      const song = newSong(newId<SongId>('song'), name, newId<LayerId>('layer'), newId<PatchId>('patch'));
      edit({ label: `add ${name}`, songs: [song], setlists: [withEntry(setlist, entryOf(song.id))] });
      setIsAdding(false);
    },
    isAdding,
    setIsAdding,
  };
}
