import { RecallRecords } from './recallRecords';
import { LayerPlans } from './layerPlans';
import type { Binding, Effect, Instrument, Song } from '../../show';
import { tempoMapOfSong } from '../../timeline';
import type { Registry } from '../state/registry';
import {
  BALANCE_STRIDE,
  type CompiledPatch,
  type CompiledSong,
  type CompileNote,
  type RecallTables,
  type SongLanes,
} from './compiled';
import { compilePatch } from './patch';
import { compileTrack } from './track';
import type { SongSurroundings } from './surroundings';

/** A compiled song, with what it was compiled for. */
export interface KeptSong extends CompiledSong {
  readonly of: Song;
  readonly token: object;
  /** Instruments that it uses, as they were. */
  readonly uses: ReadonlyMap<string, Instrument | undefined>;
  /** Effects of the setlist that its roles may move; null: they move none. */
  readonly setlistEffects: readonly Effect[] | null;
}

/** Whether a song is as it was compiled: it, the instruments it uses, and what of setlist and gear is in it. */
export function holds(kept: KeptSong, song: Song, around: SongSurroundings): boolean {
  if (kept.of !== song || kept.token !== around.token) return false;
  if (kept.setlistEffects !== null && kept.setlistEffects !== around.setlistEffects) return false;
  for (const [id, instrument] of kept.uses) if (around.instrument(id) !== instrument) return false;
  return true;
}

/** @param layout of the song as it was compiled before: where nothing in it changed, the same text is kept. */
export function compileSong(song: Song, around: SongSurroundings, registry: Registry, layout = ''): KeptSong {
  const notes: CompileNote[] = [];
  const patches = song.patches.map((patch) => compilePatch(song, patch, around, registry, notes));
  const places = patches.flatMap((patch, p) =>
    patch.balances.map((balance, b) => ({
      patch: p,
      balance,
      isStep: b === 0 ? song.patches[p].isStep : balance.isStep,
    })),
  );
  const laidOut = [
    song.id,
    ...places.map(({ patch, balance, isStep }) => `${patches[patch].patchId} ${balance.blendId ?? ''} ${isStep}`),
  ].join('|');
  const movesSetlistEffects =
    around.setlist.bindings.some(movesSetlistEffect) ||
    song.bindings.some(movesSetlistEffect) ||
    song.patches.some(({ bindings }) => bindings.some(movesSetlistEffect));
  return {
    songId: song.id,
    name: song.name,
    map: tempoMapOfSong(song),
    echoNote: song.echoNote,
    patches,
    places,
    layout: laidOut === layout ? layout : laidOut,
    track: compileTrack(song, patches, around, registry, notes),
    sections: Float64Array.from(song.sections.flatMap(({ fromTick, toTick }) => [fromTick, toTick])),
    countInBars: song.countInBars,
    notes,
    lanes: lanesOf(patches),
    ...recallTables(patches, places),
    of: song,
    token: around.token,
    uses: usesOf(song, around),
    setlistEffects: movesSetlistEffects ? around.setlistEffects : null,
  };
}

function usesOf(song: Song, around: SongSurroundings): KeptSong['uses'] {
  const ids = new Set<string>();
  for (const { sound } of song.layers) ids.add(sound.instrumentId);
  for (const { sound } of around.setlist.layers) ids.add(sound.instrumentId);
  for (const cue of song.cues) if (cue.kind === 'preset') ids.add(cue.instrumentId);
  return new Map([...ids].map((id) => [id, around.instrument(id)]));
}

const movesSetlistEffect = ({ action }: Binding): boolean =>
  action.kind === 'sharedEffectValue' || action.kind === 'sharedEffectOnOff';

function lanesOf(patches: readonly CompiledPatch[]): SongLanes {
  const msb = new Set<number>();
  const lsb = new Set<number>();
  const played = new Map<string, Set<number>>();
  for (const patch of patches) {
    for (const { instrumentId, lane } of patch.layers)
      if (instrumentId !== null) played.set(instrumentId, (played.get(instrumentId) ?? new Set()).add(lane));
    for (const message of [...patch.entering, ...patch.leaving]) {
      if (message.kind !== 'program' && message.kind !== 'controller') continue;
      if (message.msb >= 0 || (message.kind === 'controller' && message.data1 === 0)) msb.add(message.lane);
      if (message.lsb >= 0 || (message.kind === 'controller' && message.data1 === 32)) lsb.add(message.lane);
    }
  }
  return { msb: [...msb], lsb: [...lsb], played };
}

/** What recalls read, of all places of a song one behind the other. Blends of a patch share its plan. */
function recallTables(patches: readonly CompiledPatch[], places: CompiledSong['places']): RecallTables {
  const starts: number[] = [];
  let planRows = 0;
  for (const patch of patches) {
    starts.push(planRows);
    planRows += patch.plan.count;
  }
  const layers = places.reduce((sum, { patch }) => sum + patches[patch].layers.length, 0);
  const tables = {
    records: new RecallRecords(places.length),
    plans: LayerPlans.joined(patches.map(({ plan }) => plan)),
    values: new Float64Array(layers * BALANCE_STRIDE),
    mutes: new Uint8Array(layers),
  };
  let valuesAt = 0;
  let mutesAt = 0;
  places.forEach(({ patch: p, balance }, place) => {
    const patch = patches[p];
    tables.records.set(place, {
      patch: p,
      plan: starts[p],
      planEnd: starts[p] + patch.plan.count,
      values: valuesAt,
      mutes: mutesAt,
      rampMs: Math.round(balance.rampMs),
      keymap: patch.keymap,
      entersWithMessages: patch.entering.length > 0,
      leavesWithMessages: patch.leaving.length > 0,
      setsParameters: patch.parameters.length > 0,
      sends: balance.sendsKey !== '',
      hasLiveSound: patch.lives.length > 0,
    });
    tables.values.set(balance.values, valuesAt);
    tables.mutes.set(balance.mute, mutesAt);
    valuesAt += balance.values.length;
    mutesAt += balance.mute.length;
  });
  return tables;
}
