import type { Instrument, Recording } from '../../../show';
import type { Found } from '../../finding';
import { counts, type SongRule } from '../../rule';
import { isPlayedByKeys, rowsIn } from '../../sounding';
import { inSong } from '../../tonight';

/** The recording that a preset is; undefined: it is none. */
export const recordingOf = (instrument: Instrument | undefined, presetId: string): Recording | undefined =>
  instrument?.kind === 'recordings' ? instrument.presets.find(({ id }) => id === presetId) : undefined;

/** More keys than this under one loop are not meant as pads. */
const MOST_KEYS = 12;

/** A loop that goes round until it is stopped is not under every key. */
export const loopOverKeys: SongRule = {
  id: 'loop-over-keys',
  group: 'sound',
  sure: 'no loop lies over all keys',
  per: 'song',
  counts: counts.parts,
  find: ({ song }, around) =>
    song.patches.flatMap((patch) =>
      rowsIn(song, patch, around).flatMap((row): Found[] => {
        const { part, layer, standsIn } = row;
        const recording = recordingOf(around.instruments.get(layer.sound.instrumentId), layer.sound.presetId);
        const { lowKey, highKey } = part.zone;
        if (recording?.plays !== 'loop' || !isPlayedByKeys(row) || highKey - lowKey < MOST_KEYS) return [];
        const lists = standsIn === 'song' ? ['standing'] : ['patches', { id: patch.id }, 'parts'];
        return [
          {
            severity: 'mayFail',
            cause: `${layer.id} ${lowKey}-${highKey}`,
            place: inSong(song, patch),
            message: `the loop ${layer.name} lies over ${highKey - lowKey + 1} keys`,
            why: 'Each key that is touched starts another round of it, until each is struck again.',
            mend:
              standsIn === 'setlist'
                ? undefined
                : {
                    label: `leave it on its one key`,
                    steps: [
                      {
                        kind: 'songs',
                        id: song.id,
                        at: [...lists, { layerId: layer.id }, 'zone'],
                        was: part.zone,
                        now: { ...part.zone, lowKey: recording.rootKey, highKey: recording.rootKey },
                      },
                    ],
                  },
          },
        ];
      }),
    ),
};
