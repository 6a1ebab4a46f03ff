import {
  RECORD_ENTRY,
  RECORD_MUTES,
  RECORD_PATCH,
  RECORD_PLAN,
  RECORD_PLAN_END,
  RECORD_STRIDE,
  RECORD_VALUES,
  type CompiledEntry,
  type CompiledPatch,
  type CompiledSong,
  type CompiledStep,
  type RecallTables,
} from './compiled';

/** A song where it stands in the running order. */
export interface EntrySong<S extends CompiledSong = CompiledSong> {
  readonly entryId: string;
  readonly skip: boolean;
  readonly song: S;
}

/**
 * Tables of songs, copied one behind the other in running order: stepping through a long set stays in memory that is at
 * hand. Numbers within a song become numbers within the set.
 */
export function joinTables(entries: readonly EntrySong[]): RecallTables & { patches: CompiledPatch[] } {
  let records = 0;
  let plans = 0;
  let values = 0;
  let mutes = 0;
  for (const { song } of entries) {
    records += song.records.length;
    plans += song.plans.length;
    values += song.values.length;
    mutes += song.mutes.length;
  }
  const joined = {
    records: new Int32Array(records),
    plans: new Int32Array(plans),
    values: new Float64Array(values),
    mutes: new Uint8Array(mutes),
    patches: [] as CompiledPatch[],
  };
  records = plans = values = mutes = 0;
  entries.forEach(({ song }, entry) => {
    joined.plans.set(song.plans, plans);
    joined.values.set(song.values, values);
    joined.mutes.set(song.mutes, mutes);
    joined.records.set(song.records, records);
    for (let at = records; at < records + song.records.length; at += RECORD_STRIDE) {
      joined.records[at + RECORD_PATCH] += joined.patches.length;
      joined.records[at + RECORD_PLAN] += plans;
      joined.records[at + RECORD_PLAN_END] += plans;
      joined.records[at + RECORD_VALUES] += values;
      joined.records[at + RECORD_MUTES] += mutes;
      joined.records[at + RECORD_ENTRY] = entry;
    }
    for (const patch of song.patches) joined.patches.push(patch);
    records += song.records.length;
    plans += song.plans.length;
    values += song.values.length;
    mutes += song.mutes.length;
  });
  return joined;
}

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
      tempoBpm: song.tempoBpm,
      echoNote: song.echoNote,
      endTick: song.endTick,
      cueTicks: song.cues.ticks,
      cuePositions: song.cues.places.map((place) => first + place),
    },
  };
}
