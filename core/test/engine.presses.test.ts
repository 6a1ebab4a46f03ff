import { describe, expect, it } from '@jest/globals';
import { Engine, IGNORED_IN_WORDS, Registry, SilentSink } from '../src/engine';
import { LineMaker } from '../src/monitor';
import type { Song } from '../src/show';
import { GEAR, TestRig, layer, outboardInstrument, part, song } from './build';

// Every press counts: faults that cost a player a press, a note in tune, or the trust in what the monitor says.

const role = (name: string, source: object, over: object = {}) => ({
  role: name,
  source: { port: 'Keys', ...source },
  guardMs: 0,
  ...over,
});
const gearWith = (roles: object[], ports: object[] = GEAR.ports) => ({ ...GEAR, ports, roles });
const keys = (over: object) => GEAR.ports.map((port) => (port.alias === 'Keys' ? { ...port, ...over } : port));
const patch = (id: string, parts: object[], over: object = {}) => ({ id, name: id.toUpperCase(), parts, ...over });
const goTo = (number: number) => ({ role: 'Go', action: { kind: 'patch', number } });

describe('a role that is bound in one patch only', () => {
  const rigWith = (button: 'momentary' | 'latching', bindings = [goTo(2)]) =>
    new TestRig(
      [
        song('Tin', {
          layers: [layer('A')],
          patches: [patch('p1', [part('A')], { bindings }), patch('p2', [part('A')])],
        }),
      ],
      { gear: gearWith([role('Go', { kind: 'controller', number: 20 }, { button })]) },
    );

  it('recalls at every press: one that is released in another patch is up again in the first', () => {
    const rig = rigWith('momentary');
    for (let turn = 0; turn < 3; turn++) {
      rig.cc(20, 127, turn * 100 + 1);
      expect(rig.here).toBe('Tin/P2');
      rig.cc(20, 0, turn * 100 + 2);
      rig.engine.recall(0, turn * 100 + 50);
    }
  });

  it('stays in step with a latching switch', () => {
    const rig = rigWith('latching');
    rig.cc(20, 127, 1);
    expect(rig.here).toBe('Tin/P2');
    // It does nothing here, but the switch has moved all the same.
    rig.cc(20, 0, 2);
    rig.engine.recall(0, 3);
    rig.cc(20, 127, 4);
    expect(rig.here).toBe('Tin/P2');
  });
});

describe('a switch over a restart', () => {
  /** Down at the moment of a crash; what its next press does. */
  const afterCrash = (button: 'momentary' | 'latching', next: number): string => {
    const rig = new TestRig(
      [song('Tin', { layers: [layer('A')], patches: [patch('p1', [part('A')]), patch('p2', [part('A')])] })],
      {
        gear: gearWith([role('Next', { kind: 'controller', number: 20 }, { button })]),
        setlist: { bindings: [{ role: 'Next', action: { kind: 'nextStep' } }] },
      },
    );
    rig.cc(20, 127, 1);
    rig.engine.recall(0, 2);
    const { entryId, patch: present, balance } = rig.engine.step!;
    const [{ id: setlistId }] = rig.show.setlists;
    const hands = rig.engine.movedByHand();
    const again = new Engine(new Registry(), new SilentSink());
    const place = { setlistId, entryId, patchId: present.patchId, blendId: balance.blendId, counters: [], hands };
    again.apply({ type: 'show', show: rig.show, setlistId, place }, 1);
    again.receive(again.show.gear === null ? -1 : 0, 0xb0, 20, next, 2);
    return again.step!.patch.patchId;
  };

  it('that was held down is up again: its next press counts', () => {
    expect(afterCrash('momentary', 127)).toBe('p2');
  });

  it('that latches stands where it stood: its next change counts', () => {
    expect(afterCrash('latching', 0)).toBe('p2');
  });
});

describe('two instruments behind one port', () => {
  const beside = [
    outboardInstrument({ id: 'skerry', channel: 1, switchMs: 300 }),
    outboardInstrument({
      id: 'islet',
      name: 'Islet',
      channel: 2,
      switchMs: 0,
      names: [
        { id: 'is0', name: 'First', program: 3 },
        { id: 'is1', name: 'Second', program: 4 },
      ],
    }),
  ];
  const sound = (instrumentId: string, presetId: string, channel: number | null = null) => ({
    sound: { instrumentId, presetId, channel },
  });
  const songs = (): Song[] => [
    song('Tin', {
      layers: [
        layer('A', sound('skerry', 'sk0')),
        layer('B', sound('islet', 'is0')),
        layer('C', sound('islet', 'is1')),
        layer('D', sound('skerry', 'sk0', 5)),
      ],
      patches: [patch('p1', [part('A')]), patch('p2', [part('B')]), patch('p3', [part('C')]), patch('p4', [part('D')])],
    }),
  ];

  it('each has its own switching time and its own use of banks', () => {
    const rig = new TestRig(songs(), { instruments: beside });
    rig.take();
    rig.engine.recall(1, 10);
    expect(rig.take()).toEqual(['Skerry ch2 program 3']);
    rig.on(60, 11);
    expect(rig.take()).toEqual(['Skerry ch2 on 60 100']);
  });

  it('a counted one does not make its neighbour count', () => {
    const counted = {
      next: { kind: 'controller', number: 96, value: 127 },
      previous: { kind: 'controller', number: 97, value: 127 },
    };
    const rig = new TestRig(songs(), { instruments: [outboardInstrument({ channel: 1, counted }), beside[1]] });
    rig.take();
    rig.engine.recall(2, 10);
    expect(rig.take()).toEqual(['Skerry ch2 program 4']);
  });

  it('a layer that plays one on another channel takes its switching time and banks there', () => {
    const rig = new TestRig(songs(), { instruments: beside });
    rig.take();
    rig.engine.recall(3, 10);
    expect(rig.take()).toEqual(['Skerry ch5 cc 0 0', 'Skerry ch5 cc 32 0', 'Skerry ch5 program 5']);
    rig.on(60, 11);
    expect(rig.take()).toEqual([]);
  });
});

it('a channel that was left bent follows the wheel home, also under a patch that ignores the wheel', () => {
  const rig = new TestRig([
    song('Tin', {
      layers: [layer('A', { preset: 'sk0' }), layer('B', { preset: 'sk0', ignoresWheel: true })],
      patches: [patch('p1', [part('A')]), patch('p2', [part('B')])],
    }),
  ]);
  rig.wheel(12_000, 1);
  rig.engine.recall(1, 2);
  rig.take();
  rig.wheel(10_000, 3);
  rig.wheel(8192, 4);
  expect(rig.take()).toEqual(['Skerry wheel 10000', 'Skerry wheel 8192']);
  rig.wheel(12_000, 5);
  expect(rig.take()).toEqual([]);
});

it('a song’s own number passes over a patch that is no step', () => {
  const rig = new TestRig(
    [
      song('Tin', { layers: [layer('A')], patches: [patch('p1', [part('A')])] }),
      song('Kelp', {
        layers: [layer('A')],
        patches: [patch('pick', [part('A')], { isStep: false }), patch('up', [part('A')])],
      }),
    ],
    { setlist: { programs: [{ target: { songId: 'Kelp' }, program: 9 }] } },
  );
  rig.program(9, 1);
  expect(rig.here).toBe('Kelp/UP');
});

it('a preset without bank bytes beside one with 0, 0 is the same address: both sound', () => {
  const names = [
    { id: 'sk0', name: 'With', msb: 0, lsb: 0, program: 5 },
    { id: 'sk1', name: 'Without', program: 5 },
  ];
  const rig = new TestRig(
    [
      song('Tin', {
        layers: [layer('A', { preset: 'sk0' }), layer('B', { preset: 'sk1' })],
        patches: [patch('p1', [part('A'), part('B', { shift: 12 })])],
      }),
    ],
    { instruments: [outboardInstrument({ names })] },
  );
  rig.take();
  rig.on(60, 1);
  expect(rig.take()).toEqual(['Skerry on 60 100', 'Skerry on 72 100']);
});

describe('what a role uses up', () => {
  const one = (over: Record<string, unknown> = {}) => [
    song('Tin', {
      layers: [layer('A', over), layer('M')],
      patches: [patch('p1', [part('A')]), patch('p2', [part('A')])],
    }),
  ];

  it('is nothing for a pedal that the gear list ignores', () => {
    const gear = gearWith([role('Next', { kind: 'controller', number: 67 })], keys({ ignoredPedals: [67] }));
    const rig = new TestRig(one(), { gear, setlist: { bindings: [{ role: 'Next', action: { kind: 'nextStep' } }] } });
    rig.cc(67, 127, 1);
    expect([rig.here, rig.reasons()]).toEqual(['Tin/P1', ['pedal-ignored']]);
  });

  it('includes the pressure of a pad that is a switch, of its key and of its channel, until it is up', () => {
    const gear = gearWith([role('Next', { kind: 'note', number: 36 })]);
    const rig = new TestRig(one(), { gear, setlist: { bindings: [{ role: 'Next', action: { kind: 'nextStep' } }] } });
    const port = rig.port('Aster 73');
    rig.on(36, 1);
    rig.engine.receive(port, 0xa0, 36, 90, 2);
    rig.engine.receive(port, 0xd0, 90, 0, 3);
    rig.off(36, 4);
    rig.engine.receive(port, 0xd0, 0, 0, 5);
    expect(rig.take()).toEqual([]);
    // A key that sounds has its pressure.
    rig.on(60, 6);
    rig.engine.receive(port, 0xd0, 40, 0, 7);
    rig.off(60, 8);
    rig.engine.receive(port, 0xd0, 0, 0, 9);
    expect(rig.take()).toEqual(['P2/A on 60 100', 'P2/A pressure 40', 'P2/A off 60', 'P2/A pressure 0']);
  });
});

describe('controllers', () => {
  it('of a per-note keyboard that follow single notes do not reach outboard gear, at a recall neither', () => {
    const rig = new TestRig(
      [
        song('Tin', {
          layers: [layer('A'), layer('B', { preset: 'sk0' })],
          patches: [patch('p1', [part('A')]), patch('p2', [part('B')])],
        }),
      ],
      { gear: gearWith([], keys({ perNote: true })) },
    );
    rig.cc(74, 99, 1, 'Aster 73', 3);
    rig.cc(1, 50, 2);
    rig.take();
    rig.engine.recall(1, 3);
    expect(rig.take().filter((sent) => sent.includes('cc') && !/cc (0|32) /.test(sent))).toEqual(['Skerry cc 1 50']);
  });

  it('re-mapped to one number: the last moved counts, at a recall too', () => {
    const remapped = [
      { from: 1, to: 74 },
      { from: 11, to: 74 },
    ];
    for (const last of [1, 11]) {
      const rig = new TestRig([
        song('Tin', {
          layers: [layer('A'), layer('B', { remapped })],
          patches: [patch('p1', [part('A')]), patch('p2', [part('B')])],
        }),
      ]);
      rig.cc(last === 1 ? 11 : 1, 20, 1);
      rig.cc(last, 90, 2);
      rig.take();
      rig.engine.recall(1, 3);
      expect(rig.take()).toEqual(['P2/B cc 74 90']);
    }
  });
});

describe('pedals', () => {
  const shared = (over: object = {}) => [
    song('Tin', {
      layers: [layer('M', { preset: 'sk0' }), layer('A', { preset: 'sk0' })],
      patches: [patch('p1', [part('M', { mute: true }), part('A')], over)],
    }),
  ];

  it('half down behind a muted layer reaches the one that sounds on the same channel', () => {
    const rig = new TestRig(shared());
    rig.take();
    for (const [i, value] of [70, 100, 80].entries()) rig.cc(64, value, i + 1);
    expect(rig.take()).toEqual(['Skerry cc 64 70', 'Skerry cc 64 100', 'Skerry cc 64 80']);
  });

  it('two for one layer: down is sent once, the one that went down last leads, and up comes with the last', () => {
    const gear = gearWith(
      [],
      GEAR.ports.map((port) => (port.alias === 'Feet' ? { ...port, pedalsFor: ['Keys'] } : port)),
    );
    const rig = new TestRig([song('Tin', { layers: [layer('A')], patches: [patch('p1', [part('A')])] })], { gear });
    rig.cc(64, 127, 1);
    rig.cc(64, 127, 2, 'Treadle 6');
    expect(rig.take()).toEqual(['P1/A cc 64 127']);
    rig.cc(64, 90, 3);
    expect(rig.take()).toEqual([]);
    rig.cc(64, 100, 4, 'Treadle 6');
    expect(rig.take()).toEqual(['P1/A cc 64 100']);
    rig.cc(64, 0, 5, 'Treadle 6');
    rig.cc(64, 0, 6);
    expect(rig.take()).toEqual(['P1/A cc 64 90', 'P1/A cc 64 0']);
  });

  it('sostenuto goes up only where it went down', () => {
    const rig = new TestRig([
      song('Tin', { layers: [layer('A'), layer('B')], patches: [patch('p1', [part('A')]), patch('p2', [part('B')])] }),
    ]);
    rig.cc(66, 127, 1);
    rig.engine.recall(1, 2);
    rig.take();
    rig.cc(66, 20, 3);
    rig.cc(66, 0, 4);
    expect(rig.take()).toEqual(['P1/A cc 66 20']);
  });

  it('that were never sent count as up', () => {
    const rig = new TestRig([song('Tin', { layers: [layer('A')], patches: [patch('p1', [part('A')])] })]);
    rig.cc(64, 0, 1);
    rig.cc(67, 0, 2);
    expect(rig.take()).toEqual([]);
  });
});

describe('what is said', () => {
  const rig = () =>
    new TestRig([
      song('Tin', {
        layers: [layer('A'), layer('M')],
        patches: [
          patch('p1', [part('A', { zone: { lowKey: 60 } }), part('M', { mute: true, zone: { highKey: 40 } })]),
          patch('p2', [part('A', { zone: { channels: [2] } })]),
        ],
      }),
    ]);
  const warnings = (of: TestRig): string[] =>
    of.records.flatMap((record) => (record.type === 'warning' ? [record.code] : []));

  it('“go” without a cursor, and a cursor at either end', () => {
    const engine = rig();
    engine.engine.perform('go', 1);
    engine.engine.perform('cursorPrevious', 2);
    engine.engine.perform('cursorNext', 3);
    engine.engine.perform('cursorNext', 4);
    expect(warnings(engine)).toEqual(['no-cursor', 'at-first-step', 'at-last-step']);
  });

  it('a key without a layer: none here, a muted one, or one that plays from another channel', () => {
    const engine = rig();
    engine.on(50, 1);
    engine.on(30, 2);
    engine.engine.recall(1, 3);
    engine.on(70, 4);
    expect(engine.reasons()).toEqual(['no-layer-here', 'layer-muted', 'other-channel']);
  });

  it('a bank byte is used, not ignored', () => {
    const maker = new LineMaker(IGNORED_IN_WORDS);
    const engine = rig();
    engine.cc(0, 1, 1);
    for (const record of engine.records.slice(-2)) maker.add(record);
    const line = engine.records
      .slice(-2)
      .map((record) => maker.add(record))
      .find((made) => made !== null)!;
    expect(line.became).not.toContain('ignored');
  });

  it('a layer is called by its new name after a rename', () => {
    const engine = rig();
    engine.edit(
      'Tin',
      (one) => ({
        ...one,
        layers: one.layers.map((other) => (other.id === 'A' ? { ...other, name: 'Upper' as never } : other)),
      }),
      1,
    );
    engine.on(70, 2);
    expect(engine.take()).toEqual(['P1/Upper on 70 100']);
  });
});

it('“cut” cuts what sounds in this machine at once, also what rings on after its key', () => {
  const rig = new TestRig([
    song('Tin', {
      layers: [layer('A', { carry: { kind: 'cut' } }), layer('B')],
      patches: [patch('p1', [part('A')]), patch('p2', [part('B')])],
    }),
  ]);
  rig.on(60, 1);
  rig.off(60, 2);
  rig.engine.recall(1, 3);
  expect(rig.fades).toMatchObject([{ to: 'P1/A', atMs: 3 }]);
  expect(rig.fades[0].fadeMs).toBeLessThanOrEqual(20);
});
