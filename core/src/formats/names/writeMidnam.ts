import { XMLBuilder } from 'fast-xml-parser';
import type { NameRow } from './nameRows';

/** Writes a MIDINameDocument (MIDI Name Document 1.0) of one device: folders and banks as patch banks, for all sixteen channels. */
export function writeMidnam(device: { manufacturer: string; model: string; rows: readonly NameRow[] }): string {
  const banks = new Map<string, NameRow[]>();
  for (const row of device.rows) {
    const key = `${row.folder} ${row.msb ?? '-'} ${row.lsb ?? '-'}`;
    banks.set(key, [...(banks.get(key) ?? []), row]);
  }
  const builder = new XMLBuilder({ ignoreAttributes: false, attributeNamePrefix: '@', format: true, suppressEmptyNode: true, suppressBooleanAttributes: false });
  const body = builder.build({
    MIDINameDocument: {
      Author: '',
      MasterDeviceNames: {
        Manufacturer: device.manufacturer, Model: device.model,
        ChannelNameSet: {
          '@Name': 'All channels',
          AvailableForChannels: { AvailableChannel: Array.from({ length: 16 }, (_, i) => ({ '@Channel': String(i + 1), '@Available': 'true' })) },
          PatchBank: [...banks.values()].map((rows, i) => bankElement(rows, i)),
        },
      },
    },
  }) as string;
  return `<?xml version="1.0" encoding="UTF-8"?>\n<!DOCTYPE MIDINameDocument PUBLIC "-//MIDI Manufacturers Association//DTD MIDINameDocument 1.0//EN" "http://www.midi.org/dtds/MIDINameDocument10.dtd">\n${body}`;
}

function bankElement(rows: readonly NameRow[], number: number): object {
  const [{ folder, msb, lsb }] = rows;
  const changes = [...(msb === null ? [] : [{ '@Control': '0', '@Value': String(msb) }]), ...(lsb === null ? [] : [{ '@Control': '32', '@Value': String(lsb) }])];
  return {
    '@Name': folder || `Bank ${number + 1}`,
    ...(changes.length === 0 ? {} : { MIDICommands: { ControlChange: changes } }),
    PatchNameList: { '@Name': `${folder || 'Bank'} ${number + 1}`, Patch: rows.map((row) => ({ '@Number': String(row.program + 1).padStart(3, '0'), '@Name': row.name, '@ProgramChange': String(row.program) })) },
  };
}
