import { describe, expect, it } from '@jest/globals';
import { soundcheck } from '../src/soundcheck';
import { GEAR, TestRig, layer, part, song } from './build';

const codes = (
  patches: object[],
  over: { layers?: object[]; setlist?: object; instruments?: object[] } = {},
): string[] =>
  soundcheck(
    new TestRig([song('s', { layers: over.layers ?? [layer('a')], patches })], {
      setlist: over.setlist,
      instruments: over.instruments,
    }).show,
  )
    // Nothing steps here, and nothing has a number or a control; that is looked at below.
    .findings.filter(({ rule }) => !['no-step', 'no-number', 'role-open', 'live-feedback'].includes(rule))
    .map((finding) => `${finding.severity} ${finding.rule}`);

describe('the soundcheck', () => {
  it('tells of sends to a shared effect that the setlist does not have, in patches and in blends', () => {
    const sends = [{ to: 'Cathedral', percent: 30 }];
    expect(codes([{ id: 'p', name: 'P', parts: [part('a', { sends })] }])).toEqual(['willFail no-shared-effect']);
    expect(
      codes([
        { id: 'p', name: 'P', parts: [part('a')], blends: [{ id: 'b', name: 'B', values: [{ layerId: 'a', sends }] }] },
      ]),
    ).toEqual(['willFail no-shared-effect']);
    expect(
      codes([{ id: 'p', name: 'P', parts: [part('a', { sends })] }], {
        setlist: { sharedEffects: [{ id: 'e', name: 'Cathedral', effects: [] }] },
      }),
    ).toEqual([]);
    expect(codes([{ id: 'p', name: 'P', parts: [part('a', { sends: [{ to: 'Cathedral', percent: 0 }] })] }])).toEqual(
      [],
    );
  });

  it('tells of roles that move an effect which is not there', () => {
    const moves = (effectId: string): object => ({
      bindings: [{ role: 'Dirt', action: { kind: 'effectOnOff', layerId: 'a', effectId } }],
    });
    const layers = [layer('a', { effects: [{ id: 'd', kind: 'drive' }] })];
    expect(codes([{ id: 'p', name: 'P', parts: [part('a')], ...moves('d') }], { layers })).toEqual([]);
    expect(codes([{ id: 'p', name: 'P', parts: [part('a')], ...moves('gone') }], { layers })).toEqual([
      'mayFail effect-gone',
    ]);
    expect(
      codes([{ id: 'p', name: 'P', parts: [part('a')] }], {
        setlist: {
          bindings: [{ role: 'Hall', action: { kind: 'sharedEffectValue', effectId: 'gone', parameter: 'mix' } }],
        },
      }),
    ).toEqual(['mayFail setlist-effect-gone']);
  });

  it('knows presets of banks, of recordings and of the player’s own; a layer of live sound needs none', () => {
    const FILE = 'd'.repeat(64);
    const instruments = [
      {
        kind: 'bank',
        id: 'bank',
        name: 'Bank',
        file: FILE,
        bytes: 10,
        presets: [{ id: 'lamp', name: 'Lamp', bank: 0, program: 0 }],
      },
      {
        kind: 'own',
        id: 'own',
        name: 'Own',
        of: 'causeway',
        presets: [{ id: 'dark', name: 'Dark', from: 'causeway/late-boat' }],
      },
      {
        kind: 'recordings',
        id: 'mine',
        name: 'Mine',
        presets: [{ id: 'wave', name: 'Wave', file: FILE, lengthSeconds: 2 }],
      },
    ];
    const played = (instrumentId: string, presetId: string, over: object = {}): string[] =>
      codes([{ id: 'p', name: 'P', parts: [part('a')] }], {
        instruments,
        layers: [{ ...layer('a'), sound: { instrumentId, presetId }, ...over }],
      });
    expect([played('bank', 'lamp'), played('own', 'dark'), played('mine', 'wave')]).toEqual([[], [], []]);
    expect(played('bank', 'gone')).toEqual(['willFail sound-missing']);
    expect(played('gone', 'lamp')).toEqual(['willFail sound-missing']);
    expect(played('gone', 'lamp', { source: { kind: 'live', input: 'Quay mic' } })).toEqual([]);
  });
});

describe('ways to play the set', () => {
  const patches = [{ id: 'p', name: 'P', parts: [part('a')] }];
  const line = { target: { songId: 's', patchId: 'p' }, program: 4 };
  const foot = (over: object = {}) => ({
    direction: 'in',
    alias: 'Feet',
    device: 'Treadle 6',
    programs: { kind: 'direct', channels: null, bank: 'none' },
    ...over,
  });
  const findings = (gear: object, setlist: object = {}) =>
    soundcheck(
      new TestRig([song('s', { layers: [layer('a')], patches })], { gear: gear as never, setlist }).show,
    ).findings.map(({ rule, message }) => `${rule}: ${message}`);
  const next = { role: 'Next', action: { kind: 'nextStep' } };
  const gearOf = (ports: object[], roles: object[] = []) => ({ ...GEAR, name: 'Loft', ports, roles });

  it('says that nothing goes on, that no patch has a number, and which role is open', () => {
    expect(findings(gearOf([foot()]), { bindings: [next], roles: ['Next'] })).toEqual([
      'no-step: nothing of Loft goes to the next patch',
      'role-open: nothing of Loft plays “Next”',
      'no-number: no patch has a number yet',
    ]);
  });

  it('is content with a pedal that steps, a counter, or numbers that can be called', () => {
    const pedal = { role: 'Next', source: { port: 'Feet', kind: 'controller', number: 80 } };
    const off = { programs: { kind: 'off' } };
    expect(findings(gearOf([foot(off)], [pedal]), { bindings: [next], roles: ['Next'] })).toEqual([]);
    const counter = { programs: { kind: 'counter', channels: null, lowest: 0, highest: 9, guardMs: 0 } };
    expect(findings(gearOf([foot(counter)]))).toEqual([]);
    expect(findings(gearOf([foot()]), { programs: [line] })).toEqual([]);
  });

  it('a number that a role has taken is reached by nobody, and it is said whose it is', () => {
    const taken = { role: 'Next', source: { port: 'Feet', kind: 'program', number: 4 } };
    const set = { bindings: [next], roles: ['Next'], programs: [line] };
    expect(findings(gearOf([foot()], [taken]), set)).toEqual([
      'number-unreachable: no input of Loft can call program 5: “Next” has taken it',
    ]);
    const onOne = { ...taken, source: { ...taken.source, channel: 2 } };
    expect(findings(gearOf([foot()], [onOne]), set)).toEqual([]);
    expect(findings(gearOf([foot({ channels: [2] })], [onOne]), set)).toHaveLength(1);
  });
});

describe('what gear does not get in time', () => {
  const chord = (count: number, atTick: number): object[] =>
    Array.from({ length: count }, (_, i) => ({
      kind: 'note',
      id: `n${atTick}-${i}`,
      atTick,
      to: { kind: 'port', port: 'Skerry', channel: 1 },
      key: 40 + i,
      lengthTicks: 100,
    }));
  const found = (over: object, gear: object = GEAR): string[] =>
    soundcheck(
      new TestRig(
        [song('s', { layers: [layer('a')], patches: [{ id: 'p', name: 'P', parts: [part('a')] }], ...over })],
        {
          gear,
        },
      ).show,
    )
      .findings.filter(({ rule }) => rule === 'cable-full' || rule === 'position-too-far')
      .map(({ where, message }) => `${where}: ${message}`);

  it('is more than a cable carries at one moment, by running status', () => {
    // A status byte and two for each note: fifteen notes are 31 bytes, which take 9.92 ms.
    expect(found({ cues: chord(15, 960) })).toEqual([]);
    expect(found({ cues: [...chord(16, 960), ...chord(20, 1920)] })).toEqual([
      's, 1 : 3: Skerry gets 41 bytes at one moment, and so at 4 places',
    ]);
  });

  it('is a place that no song position leads to, where a clock is sent', () => {
    const clocked = {
      ...GEAR,
      ports: GEAR.ports.map((port) => (port.direction === 'out' ? { ...port, sendsClock: true } : port)),
    };
    const map = { tempos: [{ atTick: 0, bpm: 120 }], meters: [{ bar: 1, beats: 4, unit: 4 }], bars: 1024 };
    expect(found({ map }, clocked)).toEqual([
      's, 1024 : 4 + 720: from here on Skerry cannot be told where the song is',
    ]);
    expect(found({ map: { ...map, bars: 1023 } }, clocked)).toEqual([]);
    expect(found({ map })).toEqual([]);
  });
});
