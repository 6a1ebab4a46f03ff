import type { Engine } from '@rackle/core/engine';
import type { SoundIds } from './audio/loadOrder';

/** Sounds of the setlist in the order in which they are needed from the present song on; those of one song by its patches. */
export function eveningOrder({ show, step }: Pick<Engine, 'show' | 'step'>): SoundIds[] {
  const { setlist } = show;
  if (setlist === null) return [];
  const at = Math.max(
    0,
    setlist.entries.findIndex(({ id }) => id === step?.entryId),
  );
  const entries = [...setlist.entries.slice(at), ...setlist.entries.slice(0, at)];
  const order = new Map<string, SoundIds>();
  const add = ({ instrumentId, presetId }: SoundIds): void => {
    const key = `${instrumentId} ${presetId}`;
    if (!order.has(key)) order.set(key, { instrumentId, presetId });
  };
  for (const { sound } of setlist.layers) add(sound);
  for (const entry of entries) {
    const song = entry.kind === 'song' && !entry.skip ? show.song(entry.songId) : undefined;
    if (!song) continue;
    const layers = new Map(song.layers.map((layer) => [layer.id, layer]));
    for (const { layerId } of [...song.standing, ...song.patches.flatMap(({ parts }) => parts)]) {
      const layer = layers.get(layerId);
      if (layer) add(layer.sound);
    }
  }
  return [...order.values()];
}
