import { XMLBuilder } from 'fast-xml-parser';
import type { EntryMessage, NoteNames } from '../../show';
import type { NameRow } from './nameRows';

/**
 * Writes a MIDINameDocument (MIDI Name Document 1.0) of one device: folders and banks as patch banks, for all sixteen
 * channels.
 */
export function writeMidnam(device: {
  manufacturer: string;
  model: string;
  rows: readonly NameRow[];
  noteNames?: readonly NoteNames[];
}): string {
  const banks = new Map<string, NameRow[]>();
  for (const row of device.rows) {
    const key = `${row.folder} ${row.msb ?? '-'} ${row.lsb ?? '-'}`;
    banks.set(key, [...(banks.get(key) ?? []), row]);
  }
  const builder = new XMLBuilder({
    ignoreAttributes: false,
    attributeNamePrefix: '@',
    format: true,
    suppressEmptyNode: true,
    suppressBooleanAttributes: false,
  });
  const body = builder.build({
    MIDINameDocument: {
      Author: '',
      MasterDeviceNames: {
        Manufacturer: device.manufacturer,
        Model: device.model,
        ChannelNameSet: {
          '@Name': 'All channels',
          AvailableForChannels: {
            AvailableChannel: Array.from({ length: 16 }, (_, i) => ({
              '@Channel': String(i + 1),
              '@Available': 'true',
            })),
          },
          PatchBank: [...banks.values()].map((rows, i) => bankElement(rows, i)),
        },
        ...(device.noteNames?.length
          ? {
              NoteNameList: device.noteNames.map(({ name, notes }) => ({
                '@Name': name,
                Note: notes.map((note) => ({ '@Number': String(note.key), '@Name': note.name })),
              })),
            }
          : {}),
      },
    },
  }) as string;
  return `<?xml version="1.0" encoding="UTF-8"?>\n<!DOCTYPE MIDINameDocument PUBLIC "-//MIDI Manufacturers Association//DTD MIDINameDocument 1.0//EN" "http://www.midi.org/dtds/MIDINameDocument10.dtd">\n${body}`;
}

function bankElement(rows: readonly NameRow[], number: number): object {
  const [{ folder, msb, lsb }] = rows;
  const changes = [
    ...(msb === null ? [] : [{ '@Control': '0', '@Value': String(msb) }]),
    ...(lsb === null ? [] : [{ '@Control': '32', '@Value': String(lsb) }]),
  ];
  return {
    '@Name': folder || `Bank ${number + 1}`,
    ...(changes.length === 0 ? {} : { MIDICommands: { ControlChange: changes } }),
    PatchNameList: { '@Name': `${folder || 'Bank'} ${number + 1}`, Patch: rows.map((row, i) => patchElement(row, i)) },
  };
}

/** Most names are a program change and no more; one that sends more, or no program, says so in commands of its own. */
function patchElement({ name, program, also = [] }: NameRow, at: number): object {
  const common = { '@Number': String((program ?? at) + 1).padStart(3, '0'), '@Name': name };
  if (also.length === 0 && program !== null) return { ...common, '@ProgramChange': String(program) };
  const controllers = also.flatMap((message) =>
    message.kind === 'controller'
      ? [{ '@Channel': '1', '@Control': String(message.controller), '@Value': String(message.value) }]
      : [],
  );
  const notes = also
    .filter((message): message is Extract<EntryMessage, { kind: 'note' }> => message.kind === 'note')
    .map((note) => ({ '@Channel': '1', '@Note': String(note.key), '@Velocity': String(note.velocity) }));
  return {
    ...common,
    PatchMIDICommands: {
      ...(program === null ? {} : { ProgramChange: [{ '@Channel': '1', '@Number': String(program) }] }),
      ...(controllers.length === 0 ? {} : { ControlChange: controllers }),
      ...(notes.length === 0 ? {} : { NoteOn: notes }),
    },
  };
}
