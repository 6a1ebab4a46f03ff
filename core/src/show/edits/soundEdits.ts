import { soundKindName, soundName } from '../known';
import type { LayerId, PatchId } from '../model/ids';
import type { Instrument } from '../model/instrument';
import type { Layer, LayerSound, Part } from '../model/layer';
import type { Setlist } from '../model/setlist';
import { Patch, type Song } from '../model/song';
import { changeLayer, withLayer, withSound } from './songEdits';

// Sounds as they come into a song: a layer is called what it is for, and a recording gets one key.

type SoundOf = Pick<LayerSound, 'instrumentId' | 'presetId'>;
type Stored = (id: string) => Instrument | undefined;

const WHOLE_KEYBOARD = { lowKey: 0, highKey: 127 };
/** Where a recording is started, unless its zone says otherwise: middle C. */
const RECORDING_KEY = 60;

const isRecording = ({ instrumentId }: SoundOf, stored: Stored): boolean => stored(instrumentId)?.kind === 'recordings';

const onOneKey = (part: Part): Part =>
  part.zone.lowKey === WHOLE_KEYBOARD.lowKey && part.zone.highKey === WHOLE_KEYBOARD.highKey
    ? { ...part, zone: { ...part.zone, lowKey: RECORDING_KEY, highKey: RECORDING_KEY } }
    : part;

/** The layers of a recording on one key, where the whole keyboard would start it. */
function withOneKey(song: Song, layerId: string): Song {
  const narrowed = (parts: Part[]): Part[] => parts.map((part) => (part.layerId === layerId ? onOneKey(part) : part));
  return {
    ...song,
    standing: narrowed(song.standing),
    patches: song.patches.map((patch) => ({ ...patch, parts: narrowed(patch.parts) })),
  };
}

/**
 * A song in which a role starts a layer: where a single key did, none does any more. A zone of several keys is kept: it
 * was made by hand.
 */
export const startedByRole = (song: Song, layerId: string): Song => ({
  ...song,
  standing: leftToRole(song.standing, layerId),
  patches: song.patches.map((patch) => ({ ...patch, parts: leftToRole(patch.parts, layerId) })),
});

/** The same of the standing layers of a setlist. */
export const standingStartedByRole = (setlist: Setlist, layerId: string): Setlist => ({
  ...setlist,
  standing: leftToRole(setlist.standing, layerId),
});

const leftToRole = (parts: Part[], layerId: string): Part[] =>
  parts.map((part) =>
    part.layerId === layerId && part.keys === 'shared' && part.zone.lowKey === part.zone.highKey
      ? { ...part, keys: 'none' }
      : part,
  );

/** Whether a layer has no name of the player's own: it is called by a number, by its preset, or by its kind. */
export function isNamedBySound({ name, sound }: Layer, stored: Stored): boolean {
  return /^Layer \d+$/.test(name) || name === soundName(sound, stored).preset || name === soundKindName(sound, stored);
}

/**
 * Another sound for a layer. One that has no name of the player's own is called by what it is now; a recording that the
 * whole keyboard would start gets one key.
 */
export function withKeptSound(song: Song, layerId: string, sound: SoundOf, stored: Stored): Song {
  const layer = song.layers.find(({ id }) => id === layerId);
  if (!layer) return song;
  const name = isNamedBySound(layer, stored) ? (soundKindName(sound, stored) as Layer['name']) : layer.name;
  const sounding = changeLayer(withSound(song, layerId, sound), layerId, (current) => ({ ...current, name }));
  return isRecording(sound, stored) ? withOneKey(sounding, layerId) : sounding;
}

/** A new layer with a sound in one patch, called by what it is. */
export function withSoundLayer(song: Song, id: LayerId, patchId: string, sound: SoundOf, stored: Stored): Song {
  const added = withLayer(song, id, patchId, soundKindName(sound, stored), { ...sound, channel: null });
  return isRecording(sound, stored) ? withOneKey(added, id) : added;
}

/** A patch for each of several sounds, in their order, behind the patches that are there; each has a layer of its own. */
export function withPatchesOf(
  song: Song,
  sounds: readonly SoundOf[],
  mint: { layer: () => LayerId; patch: () => PatchId },
  stored: Stored,
): Song {
  return sounds.reduce((current, sound) => {
    const patch = Patch.parse({ id: mint.patch(), name: soundName(sound, stored).preset, parts: [] });
    return withSoundLayer({ ...current, patches: [...current.patches, patch] }, mint.layer(), patch.id, sound, stored);
  }, song);
}
