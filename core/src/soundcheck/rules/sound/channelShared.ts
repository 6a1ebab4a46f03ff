import type { LayerSound, Song } from '../../../show';
import type { Found } from '../../finding';
import { counts, type SongRule } from '../../rule';
import { rowsIn } from '../../sounding';
import { inSong, type Around } from '../../tonight';

/** Port and channel of an outboard sound, and what it wants there; null: it is not outboard, or wants nothing. */
function placeOf(
  { instrumentId, presetId, channel }: LayerSound,
  { instruments }: Around,
): { at: string; words: string; wants: string } | null {
  const instrument = instruments.get(instrumentId);
  if (instrument?.kind !== 'outboard') return null;
  const entry = instrument.names.find(({ id }) => id === presetId);
  if (entry === undefined || (instrument.counted === null && entry.program === null)) return null;
  const on = channel ?? instrument.channel;
  const wants =
    instrument.counted === null ? `${entry.msb ?? 0} ${entry.lsb ?? 0} ${entry.program}` : `counted ${entry.id}`;
  return { at: `${instrument.port} ${on}`, words: `channel ${on} of ${instrument.port}`, wants };
}

/** A channel of its port that nothing of the song has. */
function freeChannel(song: Song, port: string, around: Around): number | undefined {
  const taken = new Set(
    [...song.layers, ...around.setlist.layers].flatMap(({ sound }) => {
      const instrument = around.instruments.get(sound.instrumentId);
      return instrument?.kind === 'outboard' && instrument.port === port ? [sound.channel ?? instrument.channel] : [];
    }),
  );
  return Array.from({ length: 16 }, (_, i) => i + 1).find((channel) => !taken.has(channel));
}

/** No two sounds want one outboard channel at once. */
export const channelShared: SongRule = {
  id: 'channel-shared',
  group: 'sound',
  sure: 'no two presets want one outboard channel in one patch',
  per: 'song',
  counts: counts.patches,
  find: ({ song }, around) =>
    song.patches.flatMap((patch) => {
      const owners = new Map<string, { wants: string; name: string }>();
      return rowsIn(song, patch, around).flatMap(({ layer, standsIn }): Found[] => {
        if (layer.source.kind === 'live') return [];
        const place = placeOf(layer.sound, around);
        if (place === null) return [];
        const owner = owners.get(place.at);
        if (owner === undefined) owners.set(place.at, { wants: place.wants, name: layer.name });
        if (owner === undefined || owner.wants === place.wants) return [];
        const free = freeChannel(song, place.at.slice(0, place.at.lastIndexOf(' ')), around);
        return [
          {
            severity: 'willFail',
            cause: `${layer.id} ${place.at} ${place.wants} / ${owner.wants}`,
            place: inSong(song, patch),
            message: `${layer.name} and ${owner.name} want different presets on ${place.words}`,
            why: `A channel plays one preset: ${layer.name} is silent.`,
            mend:
              standsIn === 'setlist' || free === undefined
                ? undefined
                : {
                    label: `play ${layer.name} on channel ${free}`,
                    steps: [
                      {
                        kind: 'songs',
                        id: song.id,
                        at: ['layers', { id: layer.id }, 'sound', 'channel'],
                        was: layer.sound.channel,
                        now: free,
                      },
                    ],
                  },
          },
        ];
      });
    }),
};
