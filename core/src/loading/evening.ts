import { songTonight, type EntryId, type LayerSound, type PatchId, type Setlist, type Song } from '../show';
import { placedCues, tempoMapOfSong } from '../timeline';
import type { SoundPart } from './soundParts';
import type { LoadStop, LoadTask, LoadUnit } from './task';

/** What an evening is planned with. */
export interface EveningOptions extends Pick<LoadTask, 'budgetBytes' | 'parallel' | 'beforeMs'> {
  /** By their keys. */
  pinned: ReadonlySet<string>;
  /** What has to be loaded for a sound; nothing where it is made as it is played, or stands elsewhere. */
  partsOf: (sound: LayerSound) => readonly SoundPart[];
}

/** A recall: which patch, and of which entry of the setlist. */
export interface RecallPlace {
  entryId: string;
  patchId: string;
}

/** An evening as a task, and where its stops are in the setlist. */
export interface Evening {
  task: LoadTask;
  places: readonly { entryId: EntryId; patchId: PatchId }[];
  /** Of how many units the time has been measured. */
  measured: number;
}

/**
 * Every planned recall of a setlist with what has to be loaded for it. Songs follow each other by their lengths, breaks
 * between them; within a song recalls come as its cues have them, else evenly. What is skipped tonight is not loaded.
 * @param here a recall that has been made: if it is not among the planned ones, it is the first of its song
 */
export function eveningOf(
  setlist: Pick<Setlist, 'entries' | 'layers' | 'standing'>,
  songs: Readonly<Record<string, Song>>,
  { pinned, partsOf, ...rest }: EveningOptions,
  here: RecallPlace | null = null,
): Evening {
  const units: LoadUnit[] = [];
  const known = new Map<string, number>();
  let measured = 0;
  const unitOf = ({ key, bytes, loadMs, isMeasured }: SoundPart): number => {
    if (isMeasured && !known.has(key)) measured++;
    const unit = known.get(key) ?? units.push({ key, bytes, loadMs, isPinned: pinned.has(key) }) - 1;
    known.set(key, unit);
    return unit;
  };
  const standing = soundsOf(setlist.layers, setlist.standing);
  const stops: LoadStop[] = [];
  const places: Evening['places'][number][] = [];
  let beganMs = 0;
  for (const entry of setlist.entries) {
    if (entry.kind === 'break') beganMs += entry.minutes * 60_000;
    const isHere = entry.id === here?.entryId;
    const own = entry.kind === 'song' && (isHere || !entry.skip) ? songs[entry.songId] : undefined;
    if (entry.kind !== 'song' || !own) continue;
    const song = songTonight(own, entry);
    const always = [...standing, ...soundsOf(song.layers, song.standing)];
    recallsOf(song, isHere ? here.patchId : null).forEach(({ patchId, atMs }, i) => {
      const patch = song.patches.find(({ id }) => id === patchId)!;
      const needs = [...always, ...soundsOf(song.layers, patch.parts)].flatMap((sound) => partsOf(sound).map(unitOf));
      stops.push({ atMs: beganMs + atMs, needs: [...new Set(needs)], isFirstOfSong: i === 0 });
      places.push({ entryId: entry.id, patchId });
    });
    beganMs += song.durationSeconds * 1000;
  }
  return { task: { ...rest, units, stops, resident: [] }, places, measured };
}

/** Of the layers that parts name; live sound needs none. */
const soundsOf = (layers: Song['layers'], parts: Song['standing']): LayerSound[] =>
  parts.flatMap(({ layerId }) => {
    const layer = layers.find(({ id }) => id === layerId);
    return layer?.source.kind === 'midi' ? [layer.sound] : [];
  });

/** Which patch of a song is recalled when, in ms from its beginning. */
interface Recall {
  patchId: PatchId;
  atMs: number;
}

/** By its cues, or evenly. @param also is the first where it is none of these */
function recallsOf(song: Song, also: string | null): Recall[] {
  const planned = plannedIn(song);
  const other = song.patches.find(({ id }) => id === also);
  return !other || planned.some(({ patchId }) => patchId === also)
    ? planned
    : [{ patchId: other.id, atMs: 0 }, ...planned];
}

/** None comes after the song is over. */
function plannedIn(song: Song): Recall[] {
  const lengthMs = song.durationSeconds * 1000;
  const there = new Set(song.patches.map(({ id }) => id));
  const map = tempoMapOfSong(song);
  const cued = placedCues(song).flatMap(({ cue, atTick }) =>
    cue.kind === 'recall' && there.has(cue.patchId)
      ? [{ patchId: cue.patchId, atMs: Math.min(lengthMs, map.msAt(atTick)) }]
      : [],
  );
  const steps = song.patches.filter(({ isStep }) => isStep);
  const first = steps[0] ?? song.patches[0];
  if (!first) return [];
  if (cued.length === 0)
    return (steps.length > 0 ? steps : [first]).map(({ id }, i, all) => ({
      patchId: id,
      atMs: (i * lengthMs) / all.length,
    }));
  // A song is stood on its first patch before its timeline starts.
  return cued[0].atMs === 0 ? cued : [{ patchId: first.id, atMs: 0 }, ...cued];
}
