import type { Layer, Part, Setlist } from '@rackle/core/show';
import { useSetlist } from './hooks';

/** A layer that stands through the evening, and how it plays. */
export interface EveningLayer {
  layer: Layer;
  part: Part;
  /** Its place among them, from 0. */
  at: number;
}

const eveningOf = ({ layers, standing }: Setlist): EveningLayer[] =>
  standing.flatMap((part, at) => {
    const layer = layers.find(({ id }) => id === part.layerId);
    return layer ? [{ layer, part, at }] : [];
  });

/** Layers of the setlist, which sound in every patch of its songs; of a song that is not in it: none. */
export function useEvening(songId: string): EveningLayer[] {
  const setlist = useSetlist();
  const isInSet = setlist?.entries.some((entry) => entry.kind === 'song' && entry.songId === songId) ?? false;
  return setlist && isInSet ? eveningOf(setlist) : [];
}

/** A setlist with another zone for one of its standing layers. */
export const withEveningZone = (setlist: Setlist, layerId: string, zone: Partial<Part['zone']>): Setlist => ({
  ...setlist,
  standing: setlist.standing.map((part) =>
    part.layerId === layerId ? { ...part, zone: { ...part.zone, ...zone } } : part,
  ),
});
