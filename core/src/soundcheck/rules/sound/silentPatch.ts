import type { Found } from '../../finding';
import { counts, type SongRule } from '../../rule';
import { playedByTimeline, rowsIn } from '../../sounding';
import { inSong } from '../../tonight';

/** Something sounds in every patch. */
export const silentPatch: SongRule = {
  id: 'silent-patch',
  group: 'sound',
  sure: 'every patch has a layer',
  per: 'song',
  counts: counts.patches,
  find: ({ song }, around) =>
    song.patches.flatMap((patch): Found[] => {
      if (rowsIn(song, patch, around).length > 0 || patch.entering.length > 0) return [];
      if (playedByTimeline(song).size > 0) return [];
      return [
        {
          severity: 'mayFail',
          cause: patch.id,
          place: inSong(song, patch),
          message: `nothing sounds in ${patch.name}`,
          why: 'It has no layer, and none stands. If it is a rest, say that it is meant so.',
        },
      ];
    }),
};
