import { RecallRecords } from './recallRecords';
import { LayerPlans } from './layerPlans';
import type { AtEnd, CompiledEntry, CompiledPatch, CompiledSong, CompiledStep, RecallTables } from './compiled';

/** A song where it stands in the running order. */
export interface EntrySong<S extends CompiledSong = CompiledSong> {
  readonly entryId: string;
  readonly skip: boolean;
  /** For tonight, in semitones. */
  readonly keyShift: number;
  readonly atEnd: AtEnd;
  readonly song: S;
}

/**
 * Tables of songs, copied one behind the other in running order: stepping through a long set stays in memory that is at
 * hand. Numbers within a song become numbers within the set.
 */
export function joinTables(entries: readonly EntrySong[]): RecallTables & { patches: CompiledPatch[] } {
  const songs = entries.map(({ song }) => song);
  const joined = {
    records: new RecallRecords(total(songs, ({ records }) => records.count)),
    plans: LayerPlans.joined(songs.map(({ plans }) => plans)),
    values: new Float64Array(total(songs, ({ values }) => values.length)),
    mutes: new Uint8Array(total(songs, ({ mutes }) => mutes.length)),
    patches: [] as CompiledPatch[],
  };
  let position = 0;
  let plan = 0;
  let values = 0;
  let mutes = 0;
  songs.forEach((song, entry) => {
    joined.values.set(song.values, values);
    joined.mutes.set(song.mutes, mutes);
    joined.records.place(song.records, position, entry, { patch: joined.patches.length, plan, values, mutes });
    for (const patch of song.patches) joined.patches.push(patch);
    position += song.records.count;
    plan += song.plans.count;
    values += song.values.length;
    mutes += song.mutes.length;
  });
  return joined;
}

const total = (songs: readonly CompiledSong[], lengthOf: (song: CompiledSong) => number): number =>
  songs.reduce((sum, song) => sum + lengthOf(song), 0);

/** An entry with its steps, as it stands in one running order. */
export interface PlacedEntry {
  readonly of: EntrySong;
  readonly number: number;
  readonly compiled: CompiledEntry;
  readonly steps: readonly CompiledStep[];
}

/** @param old what stood at this number before: kept where nothing in it changed. */
export function placeEntry(of: EntrySong, number: number, first: number, old: PlacedEntry | undefined): PlacedEntry {
  if (
    old?.of.song === of.song &&
    old.of.entryId === of.entryId &&
    old.of.skip === of.skip &&
    old.of.atEnd === of.atEnd &&
    old.number === number &&
    old.compiled.first === first
  )
    return old;
  const { song, entryId, skip } = of;
  const steps = song.places.map(({ patch, balance, isStep }, place) => ({
    position: first + place,
    entry: number,
    entryId,
    patch: song.patches[patch],
    balance,
    isStep,
    walked: isStep && !skip,
  }));
  return {
    of,
    number,
    steps,
    compiled: {
      entryId,
      songId: song.songId,
      song: song.name,
      first,
      end: first + steps.length,
      map: song.map,
      echoNote: song.echoNote,
      track: song.track,
      sections: song.sections,
      countInBars: song.countInBars,
      atEnd: of.atEnd,
    },
  };
}
