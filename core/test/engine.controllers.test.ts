import { describe, expect, it } from '@jest/globals';
import { GEAR, TestRig, layer, part, song } from './build';

const rigOf = (over: Record<string, Record<string, unknown>> = {}, options: object = {}) =>
  new TestRig(
    [
      song('Tin', {
        layers: [layer('A', over.A), layer('B', over.B)],
        patches: [
          { id: 'p1', name: 'P1', parts: [part('A')] },
          { id: 'p2', name: 'P2', parts: [part('B')] },
        ],
      }),
    ],
    options,
  );

describe('the sustain pedal', () => {
  it('that is down at a recall goes to the new patch at once, and both get their up', () => {
    const rig = rigOf();
    rig.cc(64, 100, 1);
    rig.take();
    rig.engine.recall(1, 2);
    expect(rig.take()).toEqual(['P2/B cc 64 100']);
    rig.cc(64, 10, 3);
    expect(rig.take().sort()).toEqual(['P1/A cc 64 10', 'P2/B cc 64 10']);
  });

  it('is sent down once and up once for several layers on one channel', () => {
    const rig = new TestRig([
      song('Tin', {
        layers: [layer('A', { preset: 'sk0' }), layer('B', { preset: 'sk0' })],
        patches: [{ id: 'p', name: 'P', parts: [part('A'), part('B')] }],
      }),
    ]);
    rig.take();
    rig.cc(64, 127, 1);
    rig.cc(64, 0, 2);
    expect(rig.take()).toEqual(['Skerry cc 64 127', 'Skerry cc 64 0']);
  });

  it('passes half-pedalling on as it is', () => {
    const rig = rigOf();
    for (const [i, value] of [20, 70, 110, 30, 0].entries()) rig.cc(64, value, i + 1);
    expect(rig.take()).toEqual([20, 70, 110, 30, 0].map((value) => `P1/A cc 64 ${value}`));
  });

  it('stays down while any assigned one is down', () => {
    const gear = {
      ...GEAR,
      ports: GEAR.ports.map((port) => (port.alias === 'Feet' ? { ...port, pedalsFor: ['Keys'] } : port)),
    };
    const rig = rigOf({}, { gear });
    rig.cc(64, 127, 1);
    rig.cc(64, 127, 2, 'Treadle 6');
    rig.cc(64, 0, 3);
    rig.take();
    rig.cc(64, 0, 4, 'Treadle 6');
    expect(rig.take()).toEqual(['P1/A cc 64 0']);
  });

  it('can be reversed, or ignored, by the gear list', () => {
    const reversed = rigOf(
      {},
      { gear: { ...GEAR, ports: [{ ...GEAR.ports[0], reversedPedals: [64], ignoredPedals: [67] }] } },
    );
    reversed.cc(64, 0, 1);
    reversed.cc(67, 127, 2);
    expect(reversed.take()).toEqual(['P1/A cc 64 127']);
    expect(reversed.reasons()).toEqual(['pedal-ignored']);
  });

  it('is given to a muted layer only when it is unmuted', () => {
    const rig = new TestRig([
      song('Tin', {
        layers: [layer('A')],
        patches: [
          {
            id: 'p',
            name: 'P',
            parts: [part('A', { mute: true })],
            blends: [{ id: 'b', name: 'loud', values: [{ layerId: 'A', mute: false }] }],
          },
        ],
      }),
    ]);
    rig.cc(64, 127, 1);
    expect(rig.take()).toEqual([]);
    rig.engine.recall(1, 2);
    expect(rig.take()).toEqual(['P/A cc 64 127']);
  });
});

it('does not give sostenuto to a new patch: it caught nothing there', () => {
  const rig = rigOf();
  rig.cc(66, 127, 1);
  rig.cc(67, 127, 2);
  rig.take();
  rig.engine.recall(1, 3);
  expect(rig.take()).toEqual(['P2/B cc 67 127']);
});

describe('wheels and other controllers', () => {
  it('bring a new patch to where the hands stand; what was never moved sends nothing', () => {
    const rig = rigOf();
    rig.cc(1, 90, 1);
    rig.cc(11, 70, 2);
    rig.take();
    rig.engine.recall(1, 3);
    expect(rig.take().sort()).toEqual(['P2/B cc 1 90', 'P2/B cc 11 70']);
    rig.engine.recall(0, 4);
    rig.engine.recall(1, 5);
    expect(rig.take()).toEqual([]);
  });

  it('follow a layer left behind back to rest only, then leave it alone', () => {
    const rig = rigOf();
    rig.on(60, 0);
    rig.wheel(12000, 1);
    rig.engine.recall(1, 2);
    rig.take();
    rig.wheel(14000, 3);
    rig.wheel(9000, 4);
    rig.wheel(8192, 5);
    rig.wheel(3000, 6);
    expect(rig.take()).toEqual([
      'P2/B wheel 14000',
      'P2/B wheel 9000',
      'P1/A wheel 9000',
      'P2/B wheel 8192',
      'P1/A wheel 8192',
      'P2/B wheel 3000',
    ]);
  });

  it('of two inputs, the last moved wins', () => {
    const rig = rigOf();
    rig.cc(1, 30, 1);
    rig.cc(1, 80, 2, 'Cobble 25');
    rig.cc(1, 31, 3);
    rig.take();
    rig.engine.recall(1, 4);
    expect(rig.take()).toEqual(['P2/B cc 1 31']);
  });

  it('are not heard by a layer that ignores them', () => {
    const rig = rigOf({ A: { ignoredControllers: [1, 64], ignoresWheel: true } });
    rig.cc(1, 5, 1);
    rig.cc(64, 127, 2);
    rig.wheel(0, 3);
    expect(rig.take()).toEqual([]);
  });

  it('never carry bank select or program changes from a keyboard to a layer', () => {
    const rig = rigOf({ A: { preset: 'sk0' } });
    rig.take();
    rig.cc(0, 3, 1);
    rig.cc(32, 4, 2);
    rig.program(9, 3, 'Aster 73');
    expect(rig.take()).toEqual([]);
  });

  it('send parameter data only after its number, since the last recall', () => {
    const rig = rigOf();
    rig.cc(6, 12, 1);
    rig.cc(101, 0, 2);
    rig.cc(100, 0, 3);
    rig.cc(6, 12, 4);
    expect(rig.take()).toEqual(['P1/A cc 101 0', 'P1/A cc 100 0', 'P1/A cc 6 12']);
    rig.engine.recall(1, 5);
    rig.cc(38, 1, 6);
    expect(rig.take()).toEqual([]);
    expect(rig.reasons()).toEqual(['parameter-number-missing', 'parameter-number-missing']);
  });

  it('let polyphonic pressure follow its note', () => {
    const rig = rigOf();
    rig.on(60, 1);
    rig.engine.recall(1, 2);
    rig.take();
    rig.engine.receive(0, 0xa0, 60, 77, 3);
    expect(rig.take()).toEqual(['P1/A keypressure 60 77']);
  });
});

describe('mode messages from an input', () => {
  it('end its keys, lift its pedal, and are not passed on', () => {
    const rig = rigOf();
    rig.on(60, 1);
    rig.cc(64, 127, 2);
    rig.take();
    rig.cc(123, 0, 3);
    expect(rig.take()).toEqual(['P1/A off 60']);
    rig.cc(120, 0, 4);
    expect(rig.take()).toEqual(['P1/A cc 64 0']);
  });

  it('121 puts pedals, wheel, pressure, modulation and expression to rest as if played', () => {
    const rig = rigOf();
    rig.cc(64, 127, 1);
    rig.wheel(100, 2);
    rig.cc(1, 60, 3);
    rig.cc(11, 20, 4);
    rig.take();
    rig.cc(121, 0, 5);
    expect(rig.take()).toEqual(['P1/A cc 64 0', 'P1/A wheel 8192', 'P1/A cc 1 0', 'P1/A cc 11 127']);
  });
});

describe('an input with one channel a note', () => {
  const perNote = {
    ...GEAR,
    ports: GEAR.ports.map((port) => (port.alias === 'Keys' ? { ...port, perNote: true } : port)),
  };

  it('bends its own notes in a built-in instrument', () => {
    const rig = rigOf({}, { gear: perNote });
    rig.on(60, 1, 100, 'Aster 73', 2);
    rig.on(64, 2, 100, 'Aster 73', 3);
    rig.engine.receive(0, 0xe3, 0, 100, 3);
    expect(rig.take()).toEqual(['P1/A ch3 on 60 100', 'P1/A ch4 on 64 100', 'P1/A ch4 wheel 12800']);
  });

  it('does not bend outboard gear; that is counted', () => {
    const rig = rigOf({ A: { preset: 'sk0' } }, { gear: perNote });
    rig.take();
    rig.engine.receive(0, 0xe3, 0, 100, 3);
    expect(rig.take()).toEqual([]);
    expect(rig.reasons()).toEqual(['per-note-to-outboard']);
  });
});

describe('panic', () => {
  it('ends exactly what sounds; later offs are swallowed, a pedal still down counts as up until pressed again', () => {
    const rig = rigOf();
    rig.on(60, 1);
    rig.cc(64, 127, 2);
    rig.wheel(9000, 3);
    rig.take();
    rig.engine.panic(4);
    expect(rig.take()).toEqual(['P1/A off 60', 'P1/A cc 64 0', 'P1/A wheel 8192']);
    rig.off(60, 5);
    rig.engine.recall(1, 6);
    expect(rig.take().filter((line) => line.includes('cc 64'))).toEqual([]);
    rig.cc(64, 0, 7);
    rig.cc(64, 127, 8);
    expect(rig.take().filter((line) => line.endsWith('cc 64 127'))).toEqual(['P2/B cc 64 127']);
  });

  it('twice within two seconds resets every channel of every output, then gives the controllers anew; addresses stay', () => {
    const rig = rigOf({ A: { preset: 'sk0' } });
    rig.cc(1, 44, 1);
    rig.take();
    rig.engine.panic(1000);
    rig.engine.panic(2900);
    const sent = rig.take();
    expect(sent.filter((line) => line.startsWith('Skerry'))).toHaveLength(16 * 4 + 1);
    expect(sent.slice(0, 4)).toEqual(['Skerry cc 64 0', 'Skerry cc 120 0', 'Skerry cc 123 0', 'Skerry cc 121 0']);
    expect(sent.at(-1)).toBe('Skerry cc 1 44');
    rig.engine.recall(1, 3000);
    rig.engine.recall(0, 3001);
    expect(rig.take().filter((line) => line.includes('program'))).toEqual([]);
  });
});

describe('active sensing', () => {
  it('that stops warns once, and never ends a note', () => {
    const rig = rigOf();
    rig.on(60, 0);
    for (let atMs = 0; atMs <= 900; atMs += 300) rig.engine.receive(rig.port('Aster 73'), 0xfe, 0, 0, atMs);
    rig.cc(1, 20, 1100);
    rig.engine.advance(1429);
    expect(rig.records.filter((record) => record.type === 'warning')).toEqual([]);
    rig.engine.advance(5000);
    expect(rig.records.filter((record) => record.type === 'warning')).toEqual([
      { type: 'warning', atMs: 1430, code: 'active-sensing-lost', about: 'Keys' },
    ]);
    expect(rig.engine.sounding()).toHaveLength(1);
  });
});

describe('ports that go and come', () => {
  it('an input that goes ends its keys, lifts its pedals, centres its wheel, forgets its bank', () => {
    const rig = rigOf();
    rig.on(60, 1);
    rig.cc(64, 127, 2);
    rig.wheel(16000, 3);
    rig.take();
    rig.engine.inputGone(rig.port('Aster 73'), 4);
    expect(rig.take()).toEqual(['P1/A off 60', 'P1/A cc 64 0', 'P1/A wheel 8192']);
    rig.engine.inputBack(rig.port('Aster 73'), 5);
    expect(rig.take()).toEqual([]);
  });

  it('an output that comes back first gets the offs and pedals up it is owed, then address and controllers', () => {
    const rig = rigOf({ A: { preset: 'sk0' } });
    const skerry = rig.registry.findOutputPort('Skerry');
    rig.on(60, 1);
    rig.cc(64, 127, 2);
    rig.cc(1, 30, 3);
    rig.take();
    rig.engine.outputGone(skerry, 4);
    rig.off(60, 5);
    rig.cc(64, 0, 6);
    rig.on(67, 7);
    expect(rig.take()).toEqual([]);
    rig.engine.outputBack(skerry, 8);
    expect(rig.take()).toEqual([
      'Skerry off 60',
      'Skerry cc 64 0',
      'Skerry cc 0 0',
      'Skerry cc 32 0',
      'Skerry program 5',
      'Skerry cc 1 30',
    ]);
    rig.off(67, 9);
    expect(rig.take()).toEqual([]);
  });

  it('of two ports marked as doubles of one device only one is heard, the other when that one is away', () => {
    const gear = {
      ...GEAR,
      ports: [...GEAR.ports, { direction: 'in', alias: 'Keys again', device: 'Aster 73 DIN', doubleOf: 'Keys' }],
    };
    const rig = rigOf({}, { gear });
    rig.on(60, 1);
    rig.on(60, 1, 100, 'Aster 73 DIN');
    rig.off(60, 2);
    rig.off(60, 2, 'Aster 73 DIN');
    expect(rig.take()).toEqual(['P1/A on 60 100', 'P1/A off 60']);
    rig.engine.inputGone(rig.port('Aster 73'), 3);
    rig.on(62, 4, 100, 'Aster 73 DIN');
    expect(rig.take()).toEqual(['P1/A on 62 100']);
  });
});
