import type { ThunkAction, UnknownAction } from '@reduxjs/toolkit';
import { toast } from 'sonner';
import {
  changeLayer,
  isNamedBySound,
  soundKindName,
  withKeptSound,
  withSoundLayer,
  type Instrument,
  type Layer,
  type LayerId,
  type Patch,
  type Shelf,
  type Song,
} from '@rackle/core/show';
import { edited, type EditKeeper } from '../../show/edits';
import { useAct, useApp, useEdit } from '../../state/hooks';
import { newId } from '../../state/ids';
import type { RootState } from '../../state/store';
import { chose } from '../../state/uiSlice';
import { useChangeLayer } from '../shared-layers';
import type { SoundOf } from './soundIndex';

/** Takes sounds into songs: for a layer, or as a new one. */
export function useKeeping() {
  const act = useAct();
  const edit = useEdit();
  const change = useChangeLayer();
  const instruments = useApp(({ show }) => show.working.instruments);
  const stored = (id: string): Instrument | undefined => instruments[id];
  /** It has a name of the player's own, which stays; what it could be called now is a press away. */
  const offerName = (songId: string, { id, name }: Layer, kind: string): void =>
    void toast(`${name} sounds otherwise now. Its name stays.`, {
      action: { label: `call it ${kind}`, onClick: () => act(renamedLayer(songId, id, kind)) },
    });
  return {
    keep(song: Song, patchId: string | null, layer: Layer, sound: SoundOf, shelf?: Shelf): void {
      change({
        song,
        patchId,
        layerId: layer.id,
        label: `change the sound of ${layer.name}`,
        apply: (of, id) => withKeptSound(of, id, sound, stored),
        shelf,
      });
      const kind = soundKindName(sound, stored);
      if (!isNamedBySound(layer, stored) && layer.name !== kind) offerName(song.id, layer, kind);
    },
    addLayer(song: Song, into: Patch, sound: SoundOf, shelf?: Shelf): void {
      const id = newId<LayerId>('layer');
      edit({
        label: `a new layer in ${into.name}`,
        songs: [withSoundLayer(song, id, into.id, sound, stored)],
        shelves: shelf ? [shelf] : [],
      });
      act(chose({ songId: song.id, patchId: into.id, layerId: id }));
    },
  };
}

/** Another name for a layer of a song as it is then. */
const renamedLayer =
  (songId: string, layerId: string, name: string): ThunkAction<void, RootState, EditKeeper, UnknownAction> =>
  (dispatch, getState) => {
    const song = getState().show.working.songs[songId];
    if (!song) return;
    const songs = [changeLayer(song, layerId, (layer) => ({ ...layer, name: name as Layer['name'] }))];
    dispatch(edited({ label: `call it ${name}`, songs }));
  };
