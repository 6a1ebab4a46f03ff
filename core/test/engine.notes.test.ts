import { describe, expect, it } from '@jest/globals';
import { TestRig, layer, part, song } from './build';

const stack = () =>
  new TestRig([
    song('Tin', {
      layers: [layer('A'), layer('B')],
      patches: [
        {
          id: 'p1',
          name: 'P1',
          parts: [
            part('A', { zone: { lowKey: 40, highKey: 60 } }),
            part('B', { zone: { lowKey: 60, highKey: 80, lowVelocity: 50 }, shift: 12 }),
          ],
        },
      ],
    }),
  ]);

describe('zones', () => {
  it('include both ends, and overlapping layers play together', () => {
    const rig = stack();
    rig.on(40, 1);
    rig.on(60, 2);
    rig.on(80, 3);
    rig.on(81, 4);
    expect(rig.take()).toEqual(['P1/A on 40 100', 'P1/A on 60 100', 'P1/B on 72 100', 'P1/B on 92 100']);
    expect(rig.reasons()).toEqual(['no-layer-here']);
  });

  it('test the incoming velocity, inclusively', () => {
    const rig = stack();
    rig.on(70, 1, 49);
    rig.on(71, 2, 50);
    expect(rig.take()).toEqual(['P1/B on 83 50']);
  });

  it('come after the keyboard’s own shift and before the song’s transposition', () => {
    const rig = new TestRig(
      [
        song('Tin', {
          transpose: 2,
          layers: [layer('A'), layer('Drums', { followsTranspose: false })],
          patches: [{ id: 'p', name: 'P', parts: [part('A', { zone: { lowKey: 60, highKey: 60 } }), part('Drums')] }],
        }),
      ],
      { gear: { id: 'g', name: 'G', ports: [{ direction: 'in', alias: 'Keys', device: 'Aster 73', keyShift: 12 }] } },
    );
    rig.on(48, 1);
    expect(rig.take()).toEqual(['P/A on 62 100', 'P/Drums on 60 100']);
    rig.on(120, 2);
    expect(rig.reasons()).toEqual(['out-of-range']);
  });

  it('leave a key silent that a shift would carry beyond 127', () => {
    const rig = new TestRig([
      song('Tin', {
        layers: [layer('A'), layer('B')],
        patches: [{ id: 'p', name: 'P', parts: [part('A', { shift: 24 }), part('B')] }],
      }),
    ]);
    rig.on(110, 1);
    rig.off(110, 2);
    expect(rig.take()).toEqual(['P/B on 110 100', 'P/B off 110']);
    expect(rig.reasons()).toEqual(['out-of-range']);
  });

  it('can ask for one input and for channels', () => {
    const rig = new TestRig([
      song('Tin', {
        layers: [layer('A'), layer('B')],
        patches: [
          {
            id: 'p',
            name: 'P',
            parts: [part('A', { zone: { input: 'Lower' } }), part('B', { zone: { channels: [2] } })],
          },
        ],
      }),
    ]);
    rig.on(60, 1);
    rig.on(61, 2, 100, 'Cobble 25');
    rig.on(62, 3, 100, 'Aster 73', 1);
    expect(rig.take()).toEqual(['P/A on 61 100', 'P/B on 62 100']);
  });
});

describe('a note-off', () => {
  it('goes to where its note-on went, whatever has been recalled and rezoned since', () => {
    const rig = stack();
    rig.on(60, 1);
    rig.take();
    rig.edit(
      'Tin',
      (s) => ({
        ...s,
        patches: s.patches.map((p) => ({
          ...p,
          parts: p.parts.map((x) => ({ ...x, shift: 5, zone: { ...x.zone, lowKey: 0, highKey: 10 } })),
        })),
      }),
      2,
    );
    rig.off(60, 3);
    expect(rig.take().sort()).toEqual(['P1/A off 60', 'P1/B off 72']);
  });

  it('may be a note-on of velocity 0', () => {
    const rig = stack();
    rig.on(50, 1);
    rig.on(50, 2, 0);
    expect(rig.take()).toEqual(['P1/A on 50 100', 'P1/A off 50']);
  });

  it('that is stray is dropped and counted', () => {
    const rig = stack();
    rig.off(50, 1);
    expect(rig.take()).toEqual([]);
    expect(rig.engine.ignoredCounts()['stray-note-off']).toBe(1);
  });

  it('comes before a second note-on of a key that is still down', () => {
    const rig = stack();
    rig.on(50, 1);
    rig.on(50, 2);
    rig.off(50, 3);
    expect(rig.take()).toEqual(['P1/A on 50 100', 'P1/A off 50', 'P1/A on 50 100', 'P1/A off 50']);
  });

  it('waits for the last of several owners of one out key, then comes as often as note-ons went out', () => {
    const rig = new TestRig([
      song('Tin', {
        layers: [layer('A', { preset: 'sk2' }), layer('B', { preset: 'sk2' })],
        patches: [{ id: 'p', name: 'P', parts: [part('A'), part('B', { shift: 12 })] }],
      }),
    ]);
    rig.take();
    rig.on(60, 1);
    rig.on(72, 2);
    rig.take();
    rig.off(60, 3);
    expect(rig.take()).toEqual(['Skerry off 60']);
    rig.off(72, 4);
    expect(rig.take().sort()).toEqual(['Skerry off 72', 'Skerry off 72', 'Skerry off 84']);
  });

  it('is sent even when its port has been switched off', () => {
    const rig = stack();
    rig.on(50, 1);
    rig.show = {
      ...rig.show,
      gearLists: [{ ...rig.show.gearLists[0], ports: rig.show.gearLists[0].ports.map((p) => ({ ...p, on: false })) }],
    };
    rig.load(2);
    rig.on(51, 3);
    rig.off(50, 4);
    expect(rig.take()).toEqual(['P1/A on 50 100', 'P1/A off 50']);
    expect(rig.reasons()).toContain('port-off');
  });
});

describe('velocity', () => {
  const withCurve = (velocity: object) =>
    new TestRig([
      song('Tin', { layers: [layer('A')], patches: [{ id: 'p', name: 'P', parts: [part('A', { velocity })] }] }),
    ]);

  it('never becomes 0', () => {
    const rig = withCurve({ curve: 100 });
    rig.on(60, 1, 1);
    expect(rig.take()).toEqual(['P/A on 60 1']);
  });

  it('is curved first and limited then', () => {
    const rig = withCurve({ curve: -100, lowest: 20, highest: 90 });
    rig.on(60, 1, 1);
    rig.on(62, 2, 127);
    expect(rig.take()).toEqual(['P/A on 60 38', 'P/A on 62 90']);
  });
});

describe('mute and solo', () => {
  it('silence new notes; held ones go on as the carry says', () => {
    const rig = new TestRig([
      song('Tin', {
        layers: [layer('Hold'), layer('Cut', { carry: { kind: 'cut' } })],
        patches: [
          {
            id: 'p',
            name: 'P',
            parts: [part('Hold'), part('Cut')],
            blends: [
              {
                id: 'b',
                name: 'quiet',
                values: [
                  { layerId: 'Hold', mute: true },
                  { layerId: 'Cut', mute: true },
                ],
              },
            ],
          },
        ],
      }),
    ]);
    rig.on(60, 1);
    rig.take();
    rig.engine.recall(1, 2);
    expect(rig.take()).toEqual(['P/Cut off 60']);
    rig.on(62, 3);
    rig.off(60, 4);
    expect(rig.take()).toEqual(['P/Hold off 60']);
  });

  it('let only soloed layers sound', () => {
    const rig = new TestRig([
      song('Tin', {
        layers: [layer('A'), layer('B')],
        patches: [{ id: 'p', name: 'P', parts: [part('A'), part('B', { solo: true })] }],
      }),
    ]);
    rig.on(60, 1);
    expect(rig.take()).toEqual(['P/B on 60 100']);
  });
});

describe('what is no playable message', () => {
  it('is counted by its reason and never throws', () => {
    const rig = stack();
    rig.engine.receive(0, 0x90, 200, 10, 1);
    rig.engine.receive(0, 0x10, 20, 10, 1);
    rig.engine.receive(99, 0x90, 20, 10, 1);
    rig.engine.receive(-4, 0x80, 20, 10, 1);
    rig.engine.receive(0, 0xf8, 0, 0, 1);
    rig.engine.receive(0, 0xf2, 0, 0, 1);
    rig.engine.receiveSysex(0, 50_000_000, 1);
    expect(rig.reasons()).toEqual([
      'malformed',
      'malformed',
      'unknown-port',
      'unknown-port',
      'clock',
      'clock',
      'system-exclusive',
    ]);
    expect(rig.take()).toEqual([]);
  });

  it('takes an earlier time as the present', () => {
    const rig = stack();
    rig.on(50, 10);
    rig.off(50, 5);
    expect(rig.sent.map((message) => message.atMs)).toEqual([10, 10]);
  });
});
