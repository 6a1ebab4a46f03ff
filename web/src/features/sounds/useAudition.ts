import { useEffect, useMemo, useRef } from 'react';
import { changeLayer, soundName, type LayerId, type Layer, type LayerSound, type Shelf, type Song } from '@rackle/core';
import { useApp, useDoor, useEdit } from '../../state/hooks';

export interface Audition {
  song: Song;
  patchId: string | null;
  layer: Layer;
  /** Whether the song is played now: only then can anything be heard in it. */
  isPlayed: boolean;
  /** Sounds under the player's hands, in the place of the layer's own. */
  hear(sound: Pick<LayerSound, 'instrumentId' | 'presetId'>): void;
  /** The layer's own sound again. */
  restore(): void;
  /** Takes it for the layer; the shelf that remembers it, where one does, is part of the same step. */
  keep(sound: Pick<LayerSound, 'instrumentId' | 'presetId'>, shelf?: Shelf): void;
}

const withSound = (song: Song, layerId: LayerId, sound: Pick<LayerSound, 'instrumentId' | 'presetId'>): Song =>
  changeLayer(song, layerId, (layer) => ({
    ...layer,
    sound: {
      ...layer.sound,
      ...sound,
      channel: sound.instrumentId === layer.sound.instrumentId ? layer.sound.channel : null,
    },
  }));

/**
 * Hearing sounds in the place of a layer, without changing the song: only the running side is told. The song is the one
 * that is played,
 * or one that is asked for. Null when there is none. What is heard ends when the page is left.
 */
export function useAudition(chosenLayer: string | null, wantedSong: string | null = null): Audition | null {
  const door = useDoor();
  const edit = useEdit();
  const instruments = useApp(({ show }) => show.working.instruments);
  const snapshot = useApp(({ live }) => live.snapshot);
  const songId = wantedSong ?? snapshot.songId;
  const isPlayed = songId === snapshot.songId;
  const patchId = isPlayed ? snapshot.patchId : null;
  const song = useApp(({ show }) => (songId ? (show.working.songs[songId] ?? null) : null));
  const looked = useApp(({ ui }) => (songId ? (ui.chosen[songId]?.layerId ?? null) : null));
  const heard = useRef<Song | null>(null);
  const layer = useMemo(() => {
    if (!song) return null;
    const parts = song.patches.find((patch) => patch.id === patchId)?.parts ?? [];
    const wanted = [chosenLayer, looked, parts[0]?.layerId ?? null, song.layers[0]?.id ?? null];
    for (const id of wanted) {
      const found = song.layers.find((candidate) => candidate.id === id);
      if (found) return found;
    }
    return null;
  }, [song, patchId, chosenLayer, looked]);
  useEffect(
    () => () => {
      if (heard.current) door.post({ type: 'song', song: heard.current });
      heard.current = null;
    },
    [door, songId],
  );
  if (!song || !layer) return null;
  return {
    song,
    patchId,
    layer,
    isPlayed,
    hear(sound) {
      if (!isPlayed) return;
      heard.current = song;
      door.post({ type: 'song', song: withSound(song, layer.id, sound) });
    },
    restore() {
      if (heard.current) door.post({ type: 'song', song: heard.current });
      heard.current = null;
    },
    keep(sound, shelf) {
      heard.current = null;
      // A layer that has no name of its own yet takes that of its sound.
      const name = /^Layer \d+$/.test(layer.name) ? soundName(sound, (id) => instruments[id]).preset : layer.name;
      edit({
        label: `change the sound of ${layer.name}`,
        songs: [
          changeLayer(withSound(song, layer.id, sound), layer.id, (current) => ({
            ...current,
            name: name as Layer['name'],
          })),
        ],
        shelves: shelf ? [shelf] : [],
      });
    },
  };
}
