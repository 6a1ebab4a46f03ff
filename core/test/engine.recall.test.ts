import { describe, expect, it } from '@jest/globals';
import { TestRig, layer, outboardInstrument, part, song } from './build';

const twoPatches = (carry: object = { kind: 'hold' }, over: object = {}) =>
  new TestRig([
    song('Tin', {
      layers: [layer('A', { carry }), layer('B')],
      patches: [
        { id: 'p1', name: 'P1', parts: [part('A')], ...over },
        { id: 'p2', name: 'P2', parts: [part('B')] },
      ],
    }),
  ]);

const onSkerry = (carry: object = { kind: 'hold' }, instrument: object = {}, options: object = {}) =>
  new TestRig(
    [
      song('Tin', {
        layers: [layer('A', { preset: 'sk0', carry }), layer('B', { preset: 'sk1' }), layer('C', { preset: 'sk2' })],
        patches: [
          { id: 'p1', name: 'P1', parts: [part('A')] },
          { id: 'p2', name: 'P2', parts: [part('B')] },
          { id: 'p3', name: 'P3', parts: [part('C')] },
        ],
      }),
    ],
    { instruments: [outboardInstrument(instrument)], ...options },
  );

describe('at a recall, held notes', () => {
  it('carry on until released, while new notes play the new patch', () => {
    const rig = twoPatches();
    rig.on(60, 1);
    rig.engine.recall(1, 2);
    rig.on(64, 3);
    rig.off(60, 4);
    rig.off(64, 5);
    expect(rig.take()).toEqual(['P1/A on 60 100', 'P2/B on 64 100', 'P1/A off 60', 'P2/B off 64']);
  });

  it('are cut before the leaving messages, notes first, then the pedal', () => {
    const rig = twoPatches(
      { kind: 'cut' },
      { leaving: [{ kind: 'controller', port: 'Skerry', channel: 3, controller: 80, value: 1 }] },
    );
    rig.on(60, 1);
    rig.cc(64, 127, 2);
    rig.take();
    rig.engine.recall(1, 3);
    expect(rig.take()).toEqual(['P1/A off 60', 'P1/A cc 64 0', 'Skerry ch3 cc 80 1', 'P2/B cc 64 127']);
    rig.off(60, 4);
    expect(rig.take()).toEqual([]);
  });

  it('fade from the recall on, key down or not, and coming back does not revive them', () => {
    const rig = twoPatches({ kind: 'fade', fadeMs: 500 });
    rig.on(60, 0);
    rig.engine.recall(1, 100);
    expect(rig.fades).toEqual([{ to: 'P1/A', fadeMs: 500, atMs: 100 }]);
    rig.engine.recall(0, 200);
    rig.on(62, 250);
    rig.take();
    rig.engine.advance(599);
    expect(rig.take()).toEqual([]);
    rig.engine.advance(600);
    expect(rig.take()).toEqual(['P1/A off 60']);
    rig.off(60, 700);
    rig.off(62, 701);
    expect(rig.take()).toEqual(['P1/A off 62']);
  });

  it('of an outboard layer that fades get note-off and pedal up when the time has passed', () => {
    const rig = onSkerry({ kind: 'fade', fadeMs: 300 });
    rig.on(60, 0);
    rig.cc(64, 127, 1);
    rig.engine.recall(1, 10);
    rig.take();
    rig.engine.advance(400);
    expect(rig.take()).toEqual(['Skerry off 60']); // the pedal is held by the new layer of the same channel too
    rig.cc(64, 0, 500);
    expect(rig.take()).toEqual(['Skerry cc 64 0']);
  });
});

describe('an outboard address', () => {
  it('is sent with its bank at the start, and only where it differs', () => {
    const rig = onSkerry();
    expect(rig.take()).toEqual(['Skerry cc 0 0', 'Skerry cc 32 0', 'Skerry program 5']);
    rig.engine.recall(0, 1);
    expect(rig.take()).toEqual([]);
    rig.engine.recall(1, 2);
    expect(rig.take()).toEqual(['Skerry cc 0 0', 'Skerry cc 32 1', 'Skerry program 7']);
  });

  it('sends 0 for a bank byte that the preset lacks when another preset there gives one', () => {
    const rig = onSkerry();
    rig.take();
    rig.engine.recall(2, 1);
    expect(rig.take()).toEqual(['Skerry cc 0 0', 'Skerry cc 32 0', 'Skerry program 9']);
  });

  it('goes out at once under held notes, with no note-off before it, and warns', () => {
    const rig = onSkerry();
    rig.on(60, 1);
    rig.take();
    rig.engine.recall(1, 2);
    expect(rig.take()).toEqual(['Skerry cc 0 0', 'Skerry cc 32 1', 'Skerry program 7']);
    expect(rig.records).toContainEqual(expect.objectContaining({ type: 'warning', code: 'program-under-held-notes' }));
    rig.off(60, 3);
    expect(rig.take()).toEqual(['Skerry off 60']);
  });

  it('waits while the instrument switches, and of a burst only the last is sent', () => {
    const rig = onSkerry({ kind: 'hold' }, { switchMs: 180 });
    rig.take();
    rig.engine.recall(1, 10);
    rig.engine.recall(2, 20);
    rig.engine.recall(1, 30);
    expect(rig.take()).toEqual([]);
    rig.engine.advance(180);
    expect(rig.take()).toEqual(['Skerry cc 0 0', 'Skerry cc 32 1', 'Skerry program 7']);
    rig.engine.advance(1000);
    expect(rig.take()).toEqual([]);
  });

  it('is not sent at all when a burst ends where it began', () => {
    const rig = onSkerry({ kind: 'hold' }, { switchMs: 180 });
    rig.take();
    rig.engine.recall(1, 10);
    rig.engine.recall(0, 20);
    rig.engine.advance(1000);
    expect(rig.take()).toEqual([]);
  });

  it('belongs to the first of two layers on one channel; the other is silent', () => {
    const rig = new TestRig([
      song('Tin', {
        layers: [layer('A', { preset: 'sk0' }), layer('B', { preset: 'sk1' })],
        patches: [{ id: 'p', name: 'P', parts: [part('A'), part('B', { shift: 12 })] }],
      }),
    ]);
    rig.take();
    rig.on(60, 1);
    expect(rig.take()).toEqual(['Skerry on 60 100']);
  });

  it('is owned by a standing layer against a patch layer', () => {
    const rig = new TestRig([
      song('Tin', {
        layers: [layer('A', { preset: 'sk0' }), layer('S', { preset: 'sk1' })],
        standing: [part('S', { shift: 12 })],
        patches: [{ id: 'p', name: 'P', parts: [part('A')] }],
      }),
    ]);
    expect(rig.take()).toEqual(['Skerry cc 0 0', 'Skerry cc 32 1', 'Skerry program 7']);
    rig.on(60, 1);
    expect(rig.take()).toEqual(['Skerry on 72 100']);
  });

  it('is sent again for the current patch only when the gear list says so', () => {
    const rig = onSkerry();
    rig.take();
    rig.show = { ...rig.show, gearLists: [{ ...rig.show.gearLists[0], sendAgain: true }] };
    rig.load(1);
    rig.take();
    rig.engine.recall(0, 2);
    expect(rig.take()).toEqual(['Skerry cc 0 0', 'Skerry cc 32 0', 'Skerry program 5']);
  });
});

describe('notes for a sound that is not ready', () => {
  it('wait, in order, until the switching time has passed; a key released meanwhile sounds shortly', () => {
    const rig = onSkerry({ kind: 'hold' }, { switchMs: 180 });
    rig.take();
    rig.on(60, 50);
    rig.on(64, 60);
    rig.off(60, 90);
    expect(rig.take()).toEqual([]);
    rig.engine.advance(180);
    expect(rig.take()).toEqual(['Skerry on 60 100', 'Skerry on 64 100']);
    rig.engine.advance(220);
    expect(rig.take()).toEqual(['Skerry off 60']);
    rig.off(64, 300);
    expect(rig.take()).toEqual(['Skerry off 64']);
  });

  it('wait at most 250 ms', () => {
    const rig = onSkerry({ kind: 'hold' }, { switchMs: 2000 });
    rig.take();
    rig.on(60, 100);
    rig.engine.advance(349);
    expect(rig.take()).toEqual([]);
    rig.engine.advance(350);
    expect(rig.take()).toEqual(['Skerry on 60 100']);
  });

  it('go out at once with a warning, or are silent, as the layer says', () => {
    for (const [notReady, sent] of [
      ['atOnce', ['Skerry on 60 100']],
      ['silent', []],
    ] as const) {
      const rig = new TestRig(
        [
          song('Tin', {
            layers: [layer('A', { preset: 'sk0', notReady })],
            patches: [{ id: 'p', name: 'P', parts: [part('A')] }],
          }),
        ],
        { instruments: [outboardInstrument({ switchMs: 100 })] },
      );
      rig.take();
      rig.on(60, 10);
      expect(rig.take()).toEqual(sent);
    }
  });

  it('are told of once, though the timeline plays the layer too', () => {
    const rig = new TestRig([
      song('Tin', {
        layers: [layer('A')],
        patches: [{ id: 'p', name: 'P', parts: [part('A', { zone: { lowKey: 60 } })] }],
        cues: [{ kind: 'note', id: 'n', atTick: 0, to: { kind: 'layer', layerId: 'A' }, key: 48, lengthTicks: 960 }],
      }),
    ]);
    const { layers } = rig.engine.step!.patch;
    expect(layers).toHaveLength(2);
    for (const { destination } of layers) rig.engine.setReady(destination, false, 0);
    expect(rig.engine.notReady()).toEqual([{ layerId: 'A', layer: 'A' }]);
  });

  it('go on in the old patch when the layer stays, until the new one is ready', () => {
    const rig = twoPatches({ kind: 'cut' });
    const b = rig.registry.destinations.findIndex((entry) => entry.kind === 'layer' && entry.label.layer === 'B');
    rig.engine.setReady(b, false, 0);
    rig.on(60, 1);
    rig.engine.recall(1, 2);
    rig.on(64, 3);
    expect(rig.take()).toEqual(['P1/A on 60 100', 'P1/A on 64 100']);
    rig.engine.setReady(b, true, 10);
    expect(rig.take().sort()).toEqual(['P1/A off 60', 'P1/A off 64']);
    rig.on(67, 11);
    expect(rig.take()).toEqual(['P2/B on 67 100']);
  });
});

describe('blends and standing layers', () => {
  const rigWithBlend = () =>
    new TestRig([
      song('Tin', {
        layers: [layer('A'), layer('S', { preset: 'sk0' })],
        standing: [part('S')],
        patches: [
          {
            id: 'p1',
            name: 'P1',
            parts: [part('A', { levelDb: -3 })],
            blends: [{ id: 'b', name: 'quiet', timeMs: 800, values: [{ layerId: 'A', levelDb: -20 }] }],
          },
          { id: 'p2', name: 'P2', parts: [part('A')] },
        ],
      }),
    ]);

  it('change values over their time and send nothing else', () => {
    const rig = rigWithBlend();
    rig.cc(64, 127, 1);
    rig.on(60, 2);
    rig.take();
    rig.balances.length = 0;
    rig.engine.recall(1, 3);
    expect(rig.take()).toEqual([]);
    expect(rig.balances).toEqual([{ to: 'P1/A', levelDb: -20, pan: 0, rampMs: 800, atMs: 3 }]);
  });

  it('keep a standing layer untouched from patch to patch', () => {
    const rig = rigWithBlend();
    rig.cc(64, 127, 1);
    rig.on(60, 2);
    rig.take();
    rig.engine.recall(2, 3);
    expect(rig.take()).toEqual(['P2/A cc 64 127']);
    rig.off(60, 4);
    rig.cc(64, 0, 5);
    expect(rig.take().sort()).toEqual([
      'P1/A cc 64 0',
      'P1/A off 60',
      'P2/A cc 64 0',
      'Skerry cc 64 0',
      'Skerry off 60',
    ]);
  });

  it('restore stored levels when what is current is recalled again', () => {
    const rig = rigWithBlend();
    rig.balances.length = 0;
    rig.engine.recall(0, 1);
    expect(rig.balances).toHaveLength(1);
    expect(rig.take().filter((line) => line.includes('program'))).toHaveLength(1);
  });
});

describe('entering messages', () => {
  it('update the known address, so that a recall does not trust what is no longer there', () => {
    const rig = new TestRig([
      song('Tin', {
        layers: [layer('A', { preset: 'sk0' }), layer('B')],
        patches: [
          { id: 'p1', name: 'P1', parts: [part('A')] },
          {
            id: 'p2',
            name: 'P2',
            parts: [part('B')],
            entering: [{ kind: 'program', port: 'Skerry', channel: 1, program: 99 }],
          },
        ],
      }),
    ]);
    rig.engine.recall(1, 1);
    rig.take();
    rig.engine.recall(0, 2);
    expect(rig.take()).toEqual(['Skerry cc 0 0', 'Skerry cc 32 0', 'Skerry program 5']);
  });

  it('hold their notes for their length, or until the patch is left', () => {
    const rig = twoPatches(
      { kind: 'hold' },
      {
        entering: [
          { kind: 'note', port: 'Skerry', channel: 2, key: 36, velocity: 90 },
          { kind: 'note', port: 'Skerry', channel: 2, key: 40, velocity: 90, lengthMs: 50 },
        ],
      },
    );
    expect(rig.take()).toEqual(['Skerry ch2 on 36 90', 'Skerry ch2 on 40 90']);
    rig.engine.advance(50);
    expect(rig.take()).toEqual(['Skerry ch2 off 40']);
    rig.engine.recall(1, 60);
    expect(rig.take()).toEqual(['Skerry ch2 off 36']);
  });

  it('send system exclusive only with permission', () => {
    const entering = [{ kind: 'sysex', port: 'Skerry', bytes: [125, 1, 2] }];
    expect(twoPatches({ kind: 'hold' }, { entering }).take()).toEqual([]);
    const allowed = new TestRig([song('Tin', { patches: [{ id: 'p', name: 'P', entering }] })], {
      gear: { id: 'g', name: 'G', ports: [{ direction: 'out', alias: 'Skerry', device: 'Skerry', allowsSysex: true }] },
    });
    expect(allowed.take()).toEqual(['Skerry sysex 3']);
  });
});

describe('edits', () => {
  it('of what is current recall the changed layers only', () => {
    const rig = onSkerry();
    rig.on(60, 1);
    rig.take();
    rig.edit(
      'Tin',
      (s) => ({
        ...s,
        layers: s.layers.map((l) => (l.id === 'A' ? { ...l, sound: { ...l.sound, presetId: 'sk1' as never } } : l)),
      }),
      2,
    );
    expect(rig.take()).toEqual(['Skerry cc 0 0', 'Skerry cc 32 1', 'Skerry program 7']);
    rig.off(60, 3);
    expect(rig.take()).toEqual(['Skerry off 60']);
  });

  it('that delete the current patch leave it playing, and next goes to what followed it', () => {
    const rig = new TestRig([
      song('Tin', {
        layers: [layer('A')],
        patches: ['p1', 'p2', 'p3'].map((id) => ({ id, name: id, parts: [part('A')] })),
      }),
    ]);
    rig.engine.recall(1, 1);
    rig.edit('Tin', (s) => ({ ...s, patches: s.patches.filter((p) => p.id !== 'p2') }), 2);
    rig.on(60, 3);
    expect(rig.take()).toEqual(['p2/A on 60 100']);
    rig.engine.perform('nextStep', 4);
    expect(rig.here).toBe('Tin/p3');
  });
});
