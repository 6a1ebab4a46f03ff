import { useNavigate } from 'react-router';
import {
  newSong,
  songEntry,
  withEntry,
  type EntryId,
  type LayerId,
  type PatchId,
  type Song,
  type SongId,
} from '@rackle/core/show';
import { useEdit, useSetlist } from './hooks';
import { newId } from './ids';

/** Puts a song (a new one, when none is given) at the end of the setlist and opens its sheet. */
export function useStartSong(): (song?: Song, label?: string) => void {
  const setlist = useSetlist();
  const edit = useEdit();
  const navigate = useNavigate();
  return (
    song = newSong(newId<SongId>('song'), 'New song', newId<LayerId>('layer'), newId<PatchId>('patch')),
    label = 'add a song',
  ) => {
    edit({
      label,
      songs: [song],
      setlists: setlist ? [withEntry(setlist, songEntry(newId<EntryId>('entry'), song.id))] : [],
    });
    void navigate(`/songs/${song.id}`);
  };
}
