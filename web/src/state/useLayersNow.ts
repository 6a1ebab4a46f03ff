import { createSelector } from '@reduxjs/toolkit';
import { knownInstrument } from '@rackle/core/show';
import { useApp } from './hooks';
import type { RootState } from './store';

/** What a layer of the patch that plays is now, as hands have left it. */
export interface LayerNow {
  isMuted: boolean;
  /** Name of the preset that it has been stepped to; null: its own. */
  steppedTo: string | null;
}

const NOTHING: ReadonlyMap<string, LayerNow> = new Map();

const layersNowIn = createSelector(
  [
    ({ live }: RootState) => live.balance.layers,
    ({ live, show }: RootState) => (live.place.songId === null ? undefined : show.working.songs[live.place.songId]),
    ({ show }: RootState) => (show.setlistId === null ? undefined : show.working.setlists[show.setlistId]),
    ({ show }: RootState) => show.working.instruments,
  ],
  (balance, song, setlist, instruments): ReadonlyMap<string, LayerNow> => {
    if (!song) return NOTHING;
    const layers = new Map([...song.layers, ...(setlist?.layers ?? [])].map((layer) => [layer.id as string, layer]));
    const nameOf = (layerId: string, at: number): string | null => {
      const layer = layers.get(layerId);
      const known = layer ? knownInstrument(layer.sound.instrumentId, (id) => instruments[id]) : null;
      return known?.presets[at]?.name ?? null;
    };
    return new Map(
      balance.map(({ layerId, mute, steppedTo }) => [
        layerId,
        { isMuted: mute, steppedTo: steppedTo === null ? null : nameOf(layerId, steppedTo) },
      ]),
    );
  },
);

/** The layers of the patch that plays, by id, as they are now; of a song that does not play: none. */
export const useLayersNow = (songId: string): ReadonlyMap<string, LayerNow> =>
  useApp((state) => (state.live.place.songId === songId ? layersNowIn(state) : NOTHING));
