import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import {
  MOST_NAMES,
  alsoText,
  entriesFrom,
  guessPasted,
  openTable,
  parseAlso,
  readMidnam,
  readPasted,
  readTable,
  writeMidnam,
  writeNamesCsv,
  type NameRow,
} from '../src/formats';
import type { PresetId } from '../src/show';

const row = (name: string, program: number, over: Partial<NameRow> = {}): NameRow => ({
  name,
  folder: '',
  msb: null,
  lsb: null,
  program,
  ...over,
});

const MIDNAM = `<?xml version="1.0" encoding="UTF-8"?>
<!DOCTYPE MIDINameDocument PUBLIC "-//MIDI Manufacturers Association//DTD MIDINameDocument 1.0//EN" "http://example.invalid/MIDINameDocument10.dtd">
<MIDINameDocument><Author>A player</Author>
<MasterDeviceNames><Manufacturer>Tern Ledge Works</Manufacturer><Model>Skerry</Model>
<ChannelNameSet Name="All"><AvailableForChannels><AvailableChannel Channel="1" Available="true"/></AvailableForChannels><UsesNoteNameList Name="Kit"/>
<PatchBank Name="Inner bank"><MIDICommands><ControlChange Control="0" Value="0"/><ControlChange Control="32" Value="1"/></MIDICommands>
<PatchNameList Name="Inner"><Patch Number="001" Name="Low &amp; Wide" ProgramChange="0"/><Patch Number="002" Name="Grey Choir"><PatchMIDICommands><ControlChange Control="32" Value="7"/><ProgramChange Number="9"/></PatchMIDICommands></Patch><Patch Number="003" Name=""/></PatchNameList></PatchBank>
<PatchBank Name="Outer bank"><MIDICommands><ControlChange Control="32" Value="2"/></MIDICommands><UsesPatchNameList Name="Shared"/></PatchBank>
<PatchBank Name="Lost"><UsesPatchNameList Name="Nowhere"/></PatchBank>
<PatchNameList Name="Shared"><Patch Number="1" Name="Deep Bell"/><Patch Number="2" Name="Far Horn"/></PatchNameList>
</ChannelNameSet>
<NoteNameList Name="Kit"><NoteGroup Name="Drums"><Note Number="38" Name="Box"/></NoteGroup><Note Number="36" Name="Boot"/></NoteNameList></MasterDeviceNames>
<MasterDeviceNames><Manufacturer>Tern Ledge Works</Manufacturer><Model>Second</Model><ChannelNameSet Name="s"><PatchBank Name="b"><PatchNameList Name="n"><Patch Number="1" Name="One" ProgramChange="0"/></PatchNameList></PatchBank></ChannelNameSet></MasterDeviceNames>
</MIDINameDocument>`;

describe('articulations in lists', () => {
  const rows: NameRow[] = [
    row('Long bows', 4, { folder: 'Bows' }),
    row('Short bows', 4, { folder: 'Bows', also: [{ kind: 'note', key: 24, velocity: 100 }] }),
    {
      ...row('Muted', 0, { folder: 'Bows' }),
      program: null,
      also: [
        { kind: 'controller', controller: 32 + 48, value: 5 },
        { kind: 'note', key: 12, velocity: 1 },
      ],
    },
  ];

  it('keep their key switches and controllers as MIDINameDocument, as CSV, and as text', () => {
    const read = readMidnam(
      writeMidnam({
        manufacturer: '',
        model: 'Skerry',
        rows,
        noteNames: [{ name: 'Kit', notes: [{ key: 36, name: 'Boot' }] }],
      }),
    );
    expect(
      read.ok &&
        new Set(read.value[0].rows.map((one) => JSON.stringify(entriesFrom([one], [], () => 'x' as PresetId)))),
    ).toEqual(
      new Set(
        rows.map((one) =>
          JSON.stringify(
            entriesFrom(
              [{ ...one, also: [...(one.also ?? [])].sort((a) => (a.kind === 'controller' ? -1 : 1)) }],
              [],
              () => 'x' as PresetId,
            ),
          ),
        ),
      ),
    );
    expect(read.ok && read.value[0].noteNames).toEqual([{ name: 'Kit', notes: [{ key: 36, name: 'Boot' }] }]);
    expect(readTable(openTable(writeNamesCsv(rows))).rows).toEqual(rows);
    for (const { also = [] } of rows) expect(parseAlso(alsoText(also))).toEqual(also);
  });

  it('that are typed wrongly are not taken', () => {
    expect(parseAlso('key 24')).toEqual([{ kind: 'note', key: 24, velocity: 100 }]);
    expect(parseAlso('cc 11 = 64; key 3 velocity 9')).toEqual([
      { kind: 'controller', controller: 11, value: 64 },
      { kind: 'note', key: 3, velocity: 9 },
    ]);
    for (const text of ['key 200', 'key', 'controller 0 = 3', 'controller 5', 'key 3 velocity 0', 'something'])
      expect(parseAlso(text)).toBeNull();
  });
});

describe('MIDINameDocument', () => {
  it('is read with banks as folders, bank select, shared lists, note names, several devices, and a report', () => {
    const read = readMidnam(MIDNAM);
    const devices = read.ok ? read.value : [];
    expect(devices.map(({ model }) => model)).toEqual(['Skerry', 'Second']);
    expect(devices[0].rows).toEqual([
      row('Low & Wide', 0, { folder: 'Inner bank', msb: 0, lsb: 1 }),
      row('Grey Choir', 9, { folder: 'Inner bank', msb: 0, lsb: 7 }),
      row('Deep Bell', 0, { folder: 'Outer bank', lsb: 2 }),
      row('Far Horn', 1, { folder: 'Outer bank', lsb: 2 }),
    ]);
    expect(devices[0].noteNames).toEqual([
      {
        name: 'Kit',
        notes: [
          { key: 36, name: 'Boot' },
          { key: 38, name: 'Box' },
        ],
      },
    ]);
    expect(devices[0].notUnderstood.map(({ why }) => why)).toEqual([
      'it has no name',
      'this bank names no list of patches, or one that is not there',
    ]);
  });

  it('written and read again is the same', () => {
    const name = fc
      .stringMatching(/^[A-Za-z0-9&<>"' äéø-]{1,20}$/)
      .map((text) => text.trim().replace(/\s+/g, ' '))
      .filter((text) => text !== '');
    const rows = fc.uniqueArray(
      fc.record({
        name,
        folder: fc.constantFrom('Inner bank', 'Outer & far'),
        msb: fc.option(fc.integer({ min: 0, max: 127 })),
        lsb: fc.option(fc.integer({ min: 0, max: 127 })),
        program: fc.integer({ min: 0, max: 127 }),
      }),
      { minLength: 1, maxLength: 30, selector: (one) => `${one.folder} ${one.msb} ${one.lsb} ${one.program}` },
    );
    fc.assert(
      fc.property(rows, (all) => {
        const read = readMidnam(writeMidnam({ manufacturer: 'Works', model: 'Skerry', rows: all }));
        const key = (one: NameRow): string => JSON.stringify([one.folder, one.msb, one.lsb, one.program, one.name]);
        expect((read.ok ? read.value[0].rows : []).map(key).sort()).toEqual(all.map(key).sort());
      }),
      { seed: 21, numRuns: 150 },
    );
  });

  it('that is broken, something else, or hostile is refused or read with a report, never more', () => {
    const code = (text: string): string => {
      const read = readMidnam(text);
      return read.ok ? 'read' : read.error.code;
    };
    expect(code('')).toBe('not-xml');
    expect(code('<MIDINameDocument><Author></MIDINameDocument>')).toBe('not-xml');
    expect(code('<other/>')).toBe('not-midnam');
    expect(code('<MIDINameDocument/>')).toBe('no-names');
    for (let length = 0; length < MIDNAM.length - 1; length += 7)
      expect(code(MIDNAM.slice(0, length))).not.toBe('read');
    const bomb = `<?xml version="1.0"?><!DOCTYPE x [<!ENTITY a "aaaaaaaaaa"><!ENTITY b "&a;&a;&a;&a;&a;&a;&a;&a;"><!ENTITY c "&b;&b;&b;&b;&b;&b;&b;&b;">]><MIDINameDocument><MasterDeviceNames><ChannelNameSet Name="s"><PatchBank Name="b"><PatchNameList Name="n"><Patch Number="1" Name="&c;" ProgramChange="0"/></PatchNameList></PatchBank></ChannelNameSet></MasterDeviceNames></MIDINameDocument>`;
    const read = readMidnam(bomb);
    if (read.ok) expect(read.value[0].rows[0].name.length).toBeLessThanOrEqual(120);
  });
});

describe('separated values', () => {
  it('with headings are read by them, in whatever order and with whatever separator', () => {
    const { rows, notUnderstood } = readTable(
      openTable(
        'Name;Bank MSB;Bank LSB;Prog;Group\n"Low; Shore";0;1;1;Inner\nGrey Choir;;;128;Inner\nNowhere;;;129;Inner\n;1;1;4;Inner\n',
      ),
    );
    expect(rows).toEqual([
      row('Low; Shore', 0, { folder: 'Inner', msb: 0, lsb: 1 }),
      row('Grey Choir', 127, { folder: 'Inner' }),
    ]);
    expect(notUnderstood).toEqual([
      { line: 4, text: 'Nowhere   129 Inner', why: 'its program is not 1 to 128' },
      { line: 5, text: '1 1 4 Inner', why: 'it has no name' },
    ]);
  });

  it('without headings are guessed by what stands in them; a 0 says that they count from 0', () => {
    expect(readTable(openTable('0\tLow Shore\n1\tGrey Choir')).rows).toEqual([
      row('Low Shore', 0),
      row('Grey Choir', 1),
    ]);
    expect(readTable(openTable('1,Low Shore\n2,Grey Choir')).rows.map(({ program }) => program)).toEqual([0, 1]);
    expect(readTable(openTable('Low Shore\nGrey Choir\n')).rows).toEqual([row('Low Shore', 0), row('Grey Choir', 1)]);
  });

  it('written and read again are the same', () => {
    const all = [
      row('Low, "wide"', 0, { folder: 'Inner', msb: 0, lsb: 1 }),
      row('Grey', 127),
      row('Bell ring', 3, { lsb: 5 }),
    ];
    expect(readTable(openTable(writeNamesCsv(all))).rows).toEqual(all);
  });

  it('of any bytes never throw, and never give more than a list can hold', () => {
    fc.assert(
      fc.property(fc.string({ maxLength: 400 }), (text) => {
        for (const { program, msb, lsb, name } of readTable(openTable(text)).rows) {
          expect([program ?? 0, msb ?? 0, lsb ?? 0].every((value) => value >= 0 && value <= 127)).toBe(true);
          expect(name).not.toBe('');
        }
      }),
      { seed: 3, numRuns: 400 },
    );
    const many = Array.from({ length: MOST_NAMES + 10 }, (_, i) => `${i % 128},Name ${i}`).join('\n');
    const read = readTable(openTable(many));
    expect(read.rows).toHaveLength(MOST_NAMES);
    expect(read.notUnderstood).toHaveLength(10);
  });
});

describe('a pasted list', () => {
  const read = (text: string) => readPasted(text, guessPasted(text));

  it('with numbers before, behind or nowhere is read as a player would', () => {
    expect(read('001 Low Shore\n002 Grey Choir').rows).toEqual([row('Low Shore', 0), row('Grey Choir', 1)]);
    expect(read('1. Low Shore\n2. Grey Choir 2').rows.map(({ name }) => name)).toEqual(['Low Shore', 'Grey Choir 2']);
    expect(
      read('Low Shore ....... 1\nGrey Choir ...... 2').rows.map(({ name, program }) => [
        name.replace(/[ .]+$/, ''),
        program,
      ]),
    ).toEqual([
      ['Low Shore', 0],
      ['Grey Choir', 1],
    ]);
    expect(read('Low Shore\nGrey Choir').rows).toEqual([row('Low Shore', 0), row('Grey Choir', 1)]);
  });

  it('takes banks as letters or numbers, and lines without a number as headings', () => {
    expect(
      read('A01 Low Shore\nA02 Grey Choir\nB01 Deep Bell').rows.map(({ name, lsb, program }) => [name, lsb, program]),
    ).toEqual([
      ['Low Shore', 0, 0],
      ['Grey Choir', 0, 1],
      ['Deep Bell', 1, 0],
    ]);
    expect(read('1-001 Low Shore\n2-128 Deep Bell').rows.map(({ lsb, program }) => [lsb, program])).toEqual([
      [0, 0],
      [1, 127],
    ]);
    expect(
      read('== Inner bank ==\n0 Low Shore\n1 Grey Choir\nOuter bank:\n0 Deep Bell').rows.map(({ folder, name }) => [
        folder,
        name,
      ]),
    ).toEqual([
      ['Inner bank', 'Low Shore'],
      ['Inner bank', 'Grey Choir'],
      ['Outer bank', 'Deep Bell'],
    ]);
  });

  it('tells line by line what it did not understand', () => {
    const text = '1 Low Shore\n200 Grey Choir\nno number here\n3 Deep Bell';
    expect(readPasted(text, { ...guessPasted(text), headings: false }).notUnderstood).toEqual([
      { line: 2, text: '200 Grey Choir', why: 'its number is not 1 to 128' },
      { line: 3, text: 'no number here', why: 'there is no number where one should be' },
    ]);
  });

  it('with lines of blanks without end is read as quickly as any other, and says what is too long', () => {
    const blanks = ' '.repeat(100_000);
    const found = read(`1 Low${blanks}Shore\n${blanks}\n2 ${'x'.repeat(5000)}\n3 Wide -${'-'.repeat(50_000)}\n4 Deep`);
    expect(found.rows.map(({ program }) => program)).toEqual([0, 3]);
    expect(found.notUnderstood.map(({ why }) => why)).toEqual([
      'it is too long for a name',
      'it is too long for a name',
    ]);
  });

  it('of two thousand names is read whole', () => {
    const text = Array.from({ length: 2000 }, (_, i) => `${Math.floor(i / 128) + 1}-${(i % 128) + 1} Name ${i}`).join(
      '\n',
    );
    expect(read(text).rows).toHaveLength(2000);
  });
});

it('entries keep the ids of the addresses that they had, so that songs go on playing them', () => {
  let made = 0;
  const mint = (): PresetId => `new${made++}` as PresetId;
  const first = entriesFrom([row('A', 0), row('B', 1)], [], mint);
  const second = entriesFrom([row('A, renamed', 0), row('C', 2)], first, mint);
  expect(second.map(({ id, name }) => [id, name])).toEqual([
    ['new0', 'A, renamed'],
    ['new2', 'C'],
  ]);
});
