import type { GroupTarget, ImportChoices } from '@rackle/core/midiFile';
import { BUILT_INS, type GearList, type Instrument, type OutboardInstrument, type Song } from '@rackle/core/show';
import type { ChoiceGroup } from '../../ui/Choice';
import type { GroupSeen } from './midiFiles';

/** A target as the value of a choice. */
export const targetValue = (target: GroupTarget): string => JSON.stringify(target);
/** The target of such a value. */
export const targetOfValue = (value: string): GroupTarget => JSON.parse(value) as GroupTarget;

const keyed = (label: string, target: GroupTarget): { value: string; label: string } => ({
  value: targetValue(target),
  label,
});

/** All that a group can become. */
export function targetsFor(
  group: GroupSeen,
  proposed: GroupTarget,
  { gear, instruments, song }: { gear: GearList | null; instruments: readonly Instrument[]; song: Song },
): ChoiceGroup[] {
  const channel = Math.max(1, group.channel);
  const outputs = (gear?.ports ?? []).flatMap((port) => (port.direction === 'out' ? [port.alias as string] : []));
  const named = proposed.kind === 'port' && !outputs.includes(proposed.port) ? [proposed.port] : [];
  const outboard = instruments.filter((one): one is OutboardInstrument => one.kind === 'outboard');
  const ports = [...outputs, ...named].flatMap((port) => {
    const shown = named.includes(port) ? `${port} (not in the gear)` : port;
    const instrument = outboard.find((one) => one.port === port && one.channel === channel);
    const plain = keyed(`${shown}, channel ${channel}`, { kind: 'port', port, channel, instrumentId: null });
    return instrument && group.programs > 0
      ? [
          keyed(`${shown}, channel ${channel}, presets of ${instrument.name}`, {
            kind: 'port',
            port,
            channel,
            instrumentId: instrument.id,
          }),
          plain,
        ]
      : instrument
        ? [keyed(`${shown}, channel ${channel}`, { kind: 'port', port, channel, instrumentId: instrument.id })]
        : [plain];
  });
  const sounds = group.channel > 0 && group.notes + group.controllers > 0;
  return [
    { name: '', items: [keyed('left out', { kind: 'leave' })] },
    { name: 'to a port', items: ports },
    ...(group.programs > 0
      ? [{ name: 'of Rackle', items: [keyed('recalls, by tonight’s numbers', { kind: 'recalls' })] }]
      : []),
    ...(sounds && song.layers.length > 0
      ? [
          {
            name: 'played by a layer',
            items: song.layers.map(({ id, name }) => keyed(name, { kind: 'layer', layerId: id })),
          },
        ]
      : []),
    ...(sounds
      ? [
          {
            name: 'played by a new layer',
            items: BUILT_INS.map(({ id, name, presets }) =>
              keyed(`a new layer: ${name}`, { kind: 'newLayer', instrumentId: id, presetId: presets[0].id }),
            ),
          },
        ]
      : []),
  ];
}

/** What a group holds, in words. */
export function heldWords({ notes, programs, controllers, others }: GroupSeen): string {
  const counts: [number, string][] = [
    [notes, 'note'],
    [programs, 'program'],
    [controllers, 'controller value'],
    [others, 'other message'],
  ];
  return counts.flatMap(([count, word]) => (count > 0 ? [`${count} ${word}${count === 1 ? '' : 's'}`] : [])).join(', ');
}

/** Choices with another target for one group. */
export const withTarget = (choices: ImportChoices, id: string, target: GroupTarget): ImportChoices => ({
  ...choices,
  groups: { ...choices.groups, [id]: target },
});
