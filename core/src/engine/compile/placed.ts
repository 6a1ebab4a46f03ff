import { Part, type Layer, type LayerId, type Patch, type Song } from '../../show';
import { TICKS_PER_QUARTER, ticksPerBar } from '../../timeline';
import type { CompileNote } from './compiled';
import type { SetlistPart } from './surroundings';

/** A layer with its part, where a patch has it. */
export interface Placed {
  layer: Layer;
  part: Part;
  /** Whose it is: the setlist's and the song's standing layers sound in every patch under one identity. */
  scope: string;
  owner: string;
  /** In words; null: it stands in the whole setlist. */
  place: string | null;
  /** Only notes of the timeline play it: it hears no keys and no controllers. */
  byTimeline: boolean;
  transpose: number;
  barQuarters: number;
}

/**
 * Layers that notes and backing parts of the timeline play, besides the song's standing ones: they stand through the
 * whole song, and no key plays them.
 */
function timelineParts(song: Song): Part[] {
  const played = new Set<LayerId>();
  for (const cue of song.cues) if (cue.kind === 'note' && cue.to.kind === 'layer') played.add(cue.to.layerId);
  for (const { to, off } of song.backing) if (!off && to.kind === 'layer') played.add(to.layerId);
  for (const { layerId } of song.standing) played.delete(layerId);
  return song.layers.filter(({ id }) => played.has(id)).map(({ id }) => Part.parse({ layerId: id, keys: 'none' }));
}

/** Standing layers first (they own their channels), the setlist's before the song's. */
export function placedParts(song: Song, patch: Patch, setlist: SetlistPart, notes: CompileNote[]): Placed[] {
  const place = (
    parts: readonly Part[],
    layers: readonly Layer[],
    owner: string,
    where: string | null,
    scope = owner,
    byTimeline = false,
  ): Placed[] =>
    parts.flatMap((part) => {
      const layer = layers.find((candidate) => candidate.id === part.layerId);
      if (layer)
        return [
          {
            layer,
            part,
            scope,
            owner,
            place: where,
            byTimeline,
            transpose: song.transpose,
            barQuarters: ticksPerBar(song.map.meters[0]) / TICKS_PER_QUARTER,
          },
        ];
      notes.push({ code: 'no-such-layer', message: `${song.name}, ${patch.name}: a layer is not there` });
      return [];
    });
  return [
    ...place(setlist.standing, setlist.layers, `setlist ${setlist.id}`, null),
    ...place(song.standing, song.layers, `song ${song.id}`, `${song.name} / standing`),
    ...place(
      patch.parts,
      song.layers,
      `song ${song.id}`,
      `${song.name} / ${patch.name}`,
      `song ${song.id} patch ${patch.id}`,
    ),
    ...place(
      timelineParts(song),
      song.layers,
      `song ${song.id}`,
      `${song.name} / timeline`,
      `song ${song.id} timeline`,
      true,
    ),
  ];
}
