import { formatPosition, tempoMapOfSong } from '../../../timeline';
import type { Found } from '../../finding';
import { counts, type SongRule } from '../../rule';
import { inSong } from '../../tonight';

/** Fourteen bits of sixteenths: farther no song position leads. */
const LAST_POSITION_TICK = 0x3fff * 240;

/** No song is so long that its end has no song position, where gear gets the clock. */
export const positionTooFar: SongRule = {
  id: 'position-too-far',
  group: 'time',
  sure: 'gear that gets the clock can be told every place of a song',
  per: 'song',
  counts: counts.songs,
  find({ song }, { outputs }): Found[] {
    const clocked = outputs.filter(({ sendsClock }) => sendsClock);
    if (clocked.length === 0) return [];
    const map = tempoMapOfSong(song);
    if (map.endTick <= LAST_POSITION_TICK) return [];
    return [
      {
        severity: 'mayFail',
        cause: clocked.map(({ alias }) => alias).join(' '),
        place: {
          ...inSong(song, null, 'timeline'),
          words: `${song.name}, ${formatPosition(map.positionAt(LAST_POSITION_TICK))}`,
        },
        message: `from here on ${clocked.map(({ alias }) => alias).join(', ')} cannot be told where the song is`,
        why: 'A song position goes no farther than 16,383 sixteenths. Started behind it, that gear goes on from where it stands.',
      },
    ];
  },
};
