import type { Instrument, Layer } from '../../../show';
import type { Found } from '../../finding';
import { counts, type EveningRule } from '../../rule';
import { inSong } from '../../tonight';

/** Programs are told with their bank, where a bank counts. */
export const bankNotSent: EveningRule = {
  id: 'bank-not-sent',
  group: 'sound',
  sure: 'presets of outboard gear are told with their bank, where others on the channel have one',
  per: 'evening',
  counts: counts.layers,
  find({ songs, around }) {
    const outboard = songs.flatMap(({ song }) =>
      song.layers.flatMap((layer) => {
        const instrument = around.instruments.get(layer.sound.instrumentId);
        return instrument?.kind === 'outboard' && instrument.counted === null && layer.source.kind === 'midi'
          ? [
              {
                song,
                layer,
                at: `${instrument.port} ${layer.sound.channel ?? instrument.channel}`,
                entry: entryOf(instrument, layer),
              },
            ]
          : [];
      }),
    );
    const banked = new Map(
      outboard
        .filter(({ entry }) => ((entry?.msb ?? 0) || (entry?.lsb ?? 0)) > 0)
        .map(({ at, entry, layer }) => [at, { name: entry!.name, layer }]),
    );
    return outboard.flatMap(({ song, layer, at, entry }): Found[] => {
      const other = banked.get(at);
      if (!other || !entry || entry.program === null || entry.msb !== null || entry.lsb !== null) return [];
      const instrument = around.instruments.get(layer.sound.instrumentId)!;
      return [
        {
          severity: 'mayFail',
          cause: `${instrument.id} ${entry.id}`,
          place: inSong(song),
          message: `${entry.name} is called by its program alone, and ${other.name} on the same channel by bank and program`,
          why: 'Which bank is chosen then depends on what was played before.',
          mend: {
            label: `send bank 0 before ${entry.name}`,
            steps: (['msb', 'lsb'] as const).map((byte) => ({
              kind: 'instruments' as const,
              id: instrument.id,
              at: ['names', { id: entry.id }, byte],
              was: null,
              now: 0,
            })),
          },
        },
      ];
    });
  },
};

const entryOf = (instrument: Extract<Instrument, { kind: 'outboard' }>, { sound }: Layer) =>
  instrument.names.find(({ id }) => id === sound.presetId);
