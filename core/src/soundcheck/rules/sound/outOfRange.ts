import type { Found } from '../../finding';
import { counts, type SongRule } from '../../rule';
import { hears, isPlayedByKeys, meet, reached, rowsIn, shiftsOf, zoneKeys, type Keys } from '../../sounding';
import { inSong } from '../../tonight';

const ALL: Keys = { low: 0, high: 127 };

/** In tonight's key every key of a zone still has a note. */
export const outOfRange: SongRule = {
  id: 'out-of-range',
  group: 'sound',
  sure: 'in tonight’s key no key of a zone is shifted off the notes that there are',
  per: 'song',
  counts: counts.parts,
  find: (of, around) =>
    of.song.patches.flatMap((patch) =>
      rowsIn(of.song, patch, around).flatMap((row): Found[] => {
        if (!isPlayedByKeys(row)) return [];
        const shifts = shiftsOf(row, of);
        const keys = around.keyboards
          // Only of a keyboard whose keys are known it can be said which of them are played.
          .filter((input) => input.keys !== null && hears(row.part, input))
          .flatMap((input) => reached(row.part, input) ?? []);
        const shifted = shifts.flatMap((by) => keys.map(({ low, high }) => ({ low: low + by, high: high + by })));
        if (shifted.every(({ low, high }) => low >= ALL.low && high <= ALL.high)) return [];
        const whole = zoneKeys(row.part);
        // Where none is left, that is told by itself.
        if (!shifts.some((by) => meet({ low: whole.low + by, high: whole.high + by }, ALL))) return [];
        return [
          {
            severity: 'mayFail',
            cause: `${row.layer.id} ${shifts.join(' ')}`,
            place: inSong(of.song, patch),
            message: `some keys of ${row.layer.name} are shifted off the notes that there are`,
            why: `It is shifted by ${shifts.join(' and ')} semitones: the keys at that end are silent.`,
          },
        ];
      }),
    ),
};
