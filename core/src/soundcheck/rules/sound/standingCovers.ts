import type { Found } from '../../finding';
import { counts, type SongRule } from '../../rule';
import { isPlayedByKeys, meet, rowsIn, zoneKeys } from '../../sounding';
import { inSong } from '../../tonight';

/** What stands does not take the keys of what a patch plays. */
export const standingCovers: SongRule = {
  id: 'standing-covers',
  group: 'sound',
  sure: 'no standing layer takes keys from what patches play',
  per: 'song',
  counts: counts.patches,
  find: ({ song }, around) =>
    song.patches.flatMap((patch) => {
      const rows = rowsIn(song, patch, around);
      const takers = rows.filter(({ part, standsIn }) => standsIn !== null && part.keys === 'taken');
      return takers.flatMap((taker): Found[] => {
        const losing = rows.filter(
          (row) =>
            row.standsIn === null &&
            isPlayedByKeys(row) &&
            row.part.keys === 'shared' &&
            meet(zoneKeys(row.part), zoneKeys(taker.part)) &&
            (taker.part.zone.input === null ||
              row.part.zone.input === null ||
              row.part.zone.input === taker.part.zone.input),
        );
        if (losing.length === 0) return [];
        const whole = losing.filter(
          ({ part: { zone } }) =>
            zone.lowKey >= taker.part.zone.lowKey &&
            zone.highKey <= taker.part.zone.highKey &&
            (taker.part.zone.input === null || taker.part.zone.input === zone.input),
        );
        return [
          {
            severity: whole.length > 0 ? 'willFail' : 'mayFail',
            cause: `${taker.layer.id} ${taker.part.zone.lowKey}-${taker.part.zone.highKey}`,
            place: inSong(song, patch),
            message: `${taker.layer.name}, which stands, takes keys of ${losing.map(({ layer }) => layer.name).join(', ')}`,
            why:
              whole.length > 0
                ? `Of ${whole.map(({ layer }) => layer.name).join(', ')} nothing is left to play.`
                : 'On those keys only what stands is heard.',
            mend: {
              label: `let ${taker.layer.name} share its keys`,
              steps: [
                {
                  ...(taker.standsIn === 'song'
                    ? { kind: 'songs' as const, id: song.id }
                    : { kind: 'setlists' as const, id: around.setlist.id }),
                  at: ['standing', { layerId: taker.layer.id }, 'keys'],
                  was: 'taken',
                  now: 'shared',
                },
              ],
            },
          },
        ];
      });
    }),
};
