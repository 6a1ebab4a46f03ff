import { LEVEL } from '../../../show';
import type { Found } from '../../finding';
import { counts, type SongRule } from '../../rule';
import { actionsIn, isAbout, rowsIn } from '../../sounding';
import { inSong } from '../../tonight';

/** At this level and below nothing is heard of a layer. */
const NOTHING_DB = -40;

/** No hand leaves the only layer of a patch at nothing. */
export const leftAtNothing: SongRule = {
  id: 'left-at-nothing',
  group: 'sound',
  sure: 'no pedal or knob that stays where it was left has the only layer of a patch at nothing',
  per: 'song',
  counts: counts.patches,
  find: ({ song }, around) =>
    song.patches.flatMap((patch) => {
      const rows = rowsIn(song, patch, around);
      return actionsIn(song, patch, around).flatMap(({ role, action, low, high, onRecall }): Found[] => {
        if (onRecall !== 'hand') return [];
        const isOnly =
          action.kind === 'layerValue' &&
          action.value === 'levelDb' &&
          rows.length === 1 &&
          isAbout(action, rows[0].layer.id);
        const isWhole = action.kind === 'wholeValue' && action.value === 'levelDb' && rows.length > 0;
        if (!isOnly && !isWhole) return [];
        const lowest = Math.min(low ?? LEVEL.low, high ?? LEVEL.high);
        if (lowest > NOTHING_DB) return [];
        return [
          {
            severity: 'mayFail',
            cause: `${role} ${lowest}`,
            place: inSong(song, patch),
            message: `“${role}” can have left ${isOnly ? rows[0].layer.name : 'everything'} at nothing`,
            why: 'It stays as the hand left it, and nothing else sounds there: the first chord may not be heard.',
          },
        ];
      });
    }),
};
