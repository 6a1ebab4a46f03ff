import type { Part } from '../../../show';
import type { Found } from '../../finding';
import { counts, type SongRule } from '../../rule';
import { inSong } from '../../tonight';

/** The keyboards and outputs that songs name are in tonight's gear. */
export const portNames: SongRule = {
  id: 'port-names',
  group: 'reach',
  sure: 'every keyboard and output that a song names is in tonight’s gear, and on',
  per: 'song',
  counts: counts.parts,
  find({ song }, { inputs, outputs, gear, instruments }) {
    const playing = new Set(inputs.filter(({ plays }) => plays).map(({ alias }) => alias as string));
    const sounding = new Set(outputs.map(({ alias }) => alias as string));
    const named = new Set<string>();
    const name = ({ zone }: Part): void => {
      if (zone.input !== null) named.add(zone.input);
    };
    song.standing.forEach(name);
    for (const { parts } of song.patches) parts.forEach(name);
    const ports = new Set(
      song.layers.flatMap(({ source, sound }) => {
        const instrument = instruments.get(sound.instrumentId);
        return source.kind === 'midi' && instrument?.kind === 'outboard' ? [instrument.port as string] : [];
      }),
    );
    const isOff = (direction: 'in' | 'out', alias: string): boolean =>
      gear.ports.some((port) => port.direction === direction && port.alias === alias && !port.on);
    const missing = (direction: 'in' | 'out', alias: string, message: string, why: string): Found => ({
      severity: 'willFail',
      cause: `${direction} ${alias} ${isOff(direction, alias)}`,
      place: inSong(song),
      message,
      why,
      mend: isOff(direction, alias)
        ? {
            label: `switch ${alias} on`,
            steps: [
              { kind: 'gearLists', id: gear.id, at: ['ports', { direction, alias }, 'on'], was: false, now: true },
            ],
          }
        : undefined,
    });
    return [
      ...[...named]
        .filter((alias) => !playing.has(alias))
        .map((alias) =>
          missing(
            'in',
            alias,
            `${gear.name} has no keyboard “${alias}” that plays`,
            'Zones that only it plays are silent.',
          ),
        ),
      ...[...ports]
        .filter((alias) => !sounding.has(alias))
        .map((alias) =>
          missing('out', alias, `${gear.name} has no output “${alias}”`, 'Layers that sound there are silent.'),
        ),
    ];
  },
};
