import { useEffect, useMemo, useRef } from 'react';
import type { Layer, LayerSound, Shelf, Song } from '@rackle/core/show';
import { useApp, useHost } from '../../state/hooks';
import { useKeeping } from './useKeeping';

/** Hearing sounds in the place of a layer’s own. */
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
  /** A new layer with it, in the patch that is looked at; null: there is no patch. */
  addLayer: ((sound: Pick<LayerSound, 'instrumentId' | 'presetId'>, shelf?: Shelf) => void) | null;
}

/**
 * Hearing sounds in the place of a layer, without changing the song: only the running side is told. The song is the one
 * that is played,
 * or one that is asked for. Null when there is none. What is heard ends when the page is left.
 */
export function useAudition(chosenLayer: string | null, wantedSong: string | null = null): Audition | null {
  const host = useHost();
  const place = useApp(({ live }) => live.place);
  const songId = wantedSong ?? place.songId;
  const isPlayed = songId === place.songId;
  const patchId = isPlayed ? place.patchId : null;
  const song = useApp(({ show }) => (songId ? (show.working.songs[songId] ?? null) : null));
  const looked = useApp(({ ui }) => (songId ? (ui.chosen[songId]?.layerId ?? null) : null));
  const lookedPatch = useApp(({ ui }) => (songId ? (ui.chosen[songId]?.patchId ?? null) : null));
  const isHeard = useRef(false);
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
      if (isHeard.current) host.post({ type: 'audition', audition: null });
      isHeard.current = false;
    },
    [host, songId],
  );
  const restore = (): void => {
    if (isHeard.current) host.post({ type: 'audition', audition: null });
    isHeard.current = false;
  };
  const keeping = useKeeping();
  if (!song || !layer) return null;
  const into = song.patches.find(({ id }) => id === (lookedPatch ?? patchId)) ?? song.patches[0] ?? null;
  return {
    song,
    patchId,
    layer,
    isPlayed,
    hear(sound) {
      if (!isPlayed) return;
      isHeard.current = true;
      host.post({ type: 'audition', audition: { songId: song.id, layerId: layer.id, sound } });
    },
    restore,
    keep(sound, shelf) {
      keeping.keep(song, lookedPatch ?? patchId, layer, sound, shelf);
      // What was tried is the layer's own now.
      restore();
    },
    addLayer:
      into === null
        ? null
        : (sound, shelf) => {
            keeping.addLayer(song, into, sound, shelf);
            restore();
          },
  };
}
