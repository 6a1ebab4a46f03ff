import type { SetlistEntry, Song } from '@rackle/core/show';
import { shiftNote } from '../../ui/format';
import { tempoSign, tempoText } from '../tempo';

type SongEntry = Extract<SetlistEntry, { kind: 'song' }>;

/** “D minor”, “D minor +2”. */
export const keyTonight = (song: Song, { keyShift }: SongEntry): string =>
  [song.key, shiftNote(keyShift)].filter((words) => words !== '').join(' ');

/** “♩ 112”; of a song as it is played tonight. */
export const tempoTonight = (song: Song): string => `${tempoSign(song)} ${tempoText(song, song.map.tempos[0].bpm, 0)}`;
