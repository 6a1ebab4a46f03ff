import type { Found } from '../../finding';
import { counts, type SongRule } from '../../rule';
import { isPlayedByKeys, rowsIn, zoneKeys } from '../../sounding';
import { inSong } from '../../tonight';

/** So many keys two hands hold down. */
const FINGERS = 10;

/** Ten fingers do not ask for more notes than the machine sounds. */
export const tooManyVoices: SongRule = {
  id: 'too-many-voices',
  group: 'time',
  sure: 'ten keys at once ask for no more notes than this machine can sound',
  per: 'song',
  counts: counts.patches,
  find({ song }, around) {
    const { voices } = around.here;
    if (voices === null) return [];
    return song.patches.flatMap((patch): Found[] => {
      const rows = rowsIn(song, patch, around).filter(
        (row) =>
          isPlayedByKeys(row) &&
          !row.part.mute &&
          around.instruments.get(row.layer.sound.instrumentId)?.kind !== 'outboard',
      );
      const lows = rows.map(({ part }) => part.zone.lowKey);
      const most = Math.max(
        0,
        ...lows.map((key) =>
          rows
            .filter(({ part }) => zoneKeys(part).low <= key && zoneKeys(part).high >= key)
            .reduce((sum, { part }) => sum + 1 + part.chord.length, 0),
        ),
      );
      if (most * FINGERS <= voices) return [];
      return [
        {
          severity: 'mayFail',
          cause: String(voices),
          place: inSong(song, patch),
          message: `ten fingers are more notes than this machine sounds, which is ${voices}`,
          why: 'A key there is so many notes that the oldest would be let go, or the sound breaks up.',
        },
      ];
    });
  },
};
