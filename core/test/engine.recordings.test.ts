import { describe, expect, it } from '@jest/globals';
import { Setlist, standingStartedByRole, startedByRole, type Patch } from '../src/show';
import { TestRig, layer, part, song } from './build';

const FILE = 'a'.repeat(64);
const recording = (over: object): object => ({ id: 'r', name: 'Harbour', file: FILE, lengthSeconds: 2, ...over });

/** One layer that plays a recording, in the first of two patches; at 120 beats a minute a beat is 500 ms. */
function rig(over: object, layerOver: object = {}): TestRig {
  return new TestRig(
    [
      song('s', {
        layers: [
          { ...layer('a', layerOver as Record<string, unknown>), sound: { instrumentId: 'mine', presetId: 'r' } },
          layer('b'),
        ],
        patches: [
          { id: 'p', name: 'P', parts: [part('a')] },
          { id: 'q', name: 'Q', parts: [part('b')] },
        ],
        bindings: [{ role: 'Foot', action: { kind: 'trigger', layerId: 'a', key: 60 } }],
      }),
    ],
    {
      instruments: [{ kind: 'recordings', id: 'mine', name: 'Mine', presets: [recording(over)] }],
      gear: {
        id: 'loft',
        name: 'Loft',
        ports: [{ direction: 'in', alias: 'Keys', device: 'Aster 73' }],
        roles: [{ role: 'Foot', source: { port: 'Keys', kind: 'controller', number: 80 } }],
      },
    },
  );
}
const onOneKey = (patch: Patch): Patch => ({
  ...patch,
  parts: patch.parts.map((one) => ({ ...one, zone: { ...one.zone, lowKey: 60, highKey: 60 } })),
});
const events = ({ sent }: TestRig): [string, number, number][] =>
  sent
    .filter(({ status }) => (status & 0xe0) === 0x80)
    .map(({ status, data1, atMs }) => [(status & 0xf0) === 0x90 ? 'on' : 'off', data1, Math.round(atMs)]);

describe('whose its keys are', () => {
  const two = (over: object, setlist: object = {}): TestRig =>
    new TestRig(
      [
        song('s', {
          layers: [layer('low', { preset: 'sk0' }), layer('high', { preset: 'sk0', channel: 2 })],
          standing: [part('high', { zone: { lowKey: 60, highKey: 62 }, ...over })],
          patches: [{ id: 'p', name: 'P', parts: [part('low')] }],
        }),
      ],
      { setlist },
    );
  const played = (rig: TestRig, key: number, device?: string): string[] => {
    rig.take();
    rig.on(key, 10, 100, device);
    return rig.take();
  };

  it('a layer that stands sounds with what else lies there, unless it takes its keys', () => {
    expect(played(two({}), 61)).toHaveLength(2);
    expect(played(two({ keys: 'taken' }), 61)).toEqual(['Skerry ch2 on 61 100']);
    expect(played(two({ keys: 'taken' }), 63)).toEqual(['Skerry on 63 100']);
  });

  it('takes them on the keyboards that it hears, and leaves the others theirs', () => {
    const keys = two({ keys: 'taken', zone: { lowKey: 60, highKey: 62, input: 'Keys' } });
    expect(played(keys, 61)).toEqual(['Skerry ch2 on 61 100']);
    expect(played(keys, 62, 'Cobble 25')).toEqual(['Skerry on 62 100']);
  });

  it('a layer of the evening takes them in every song', () => {
    const evening = {
      layers: [layer('loop', { preset: 'sk0', channel: 3 })],
      standing: [part('loop', { keys: 'taken', zone: { lowKey: 61, highKey: 61 } })],
    };
    expect(played(two({}, evening), 61)).toEqual(['Skerry ch3 on 61 100']);
    expect(played(two({}, evening), 60)).toHaveLength(2);
  });

  it('one that no key plays is started by a role all the same', () => {
    const held = rig({});
    held.edit('s', (now) => startedByRole({ ...now, patches: now.patches.map(onOneKey) }, 'a'), 5);
    expect(held.show.songs[0].patches[0].parts[0].keys).toBe('none');
    held.on(60, 10);
    expect(events(held)).toEqual([]);
    held.cc(80, 127, 20);
    expect(events(held)).toEqual([['on', 60, 20]]);
  });

  it('a zone of several keys is left as it is when a role starts the layer too', () => {
    const [now] = rig({}).show.songs;
    expect(startedByRole(now, 'a').patches).toEqual(now.patches);
  });

  it('a layer of the evening is left to the role that starts it, too', () => {
    const zone = { lowKey: 60, highKey: 60 };
    const setlist = Setlist.parse({ id: 'night', name: 'Night', standing: [part('loop', { zone }), part('pad')] });
    expect(standingStartedByRole(setlist, 'loop').standing.map(({ keys }) => keys)).toEqual(['none', 'shared']);
  });
});

describe('a recording', () => {
  it('sounds while its key is held', () => {
    const held = rig({});
    held.on(60, 10);
    held.off(60, 700);
    expect(events(held)).toEqual([
      ['on', 60, 10],
      ['off', 60, 700],
    ]);
  });

  it('that plays once through sounds for its length, whatever the key does; higher keys are shorter', () => {
    const once = rig({ plays: 'oneShot', startSeconds: 0.5, endSeconds: 1.5 });
    once.on(60, 0);
    once.off(60, 50);
    once.on(72, 100);
    once.off(72, 150);
    once.engine.advance(5000);
    expect(events(once)).toEqual([
      ['on', 60, 0],
      ['on', 72, 100],
      ['off', 72, 600],
      ['off', 60, 1000],
    ]);
    expect(once.engine.sounding()).toEqual([]);
  });

  it('that loops goes on until it is struck again', () => {
    const loop = rig({ plays: 'loop' });
    loop.on(60, 0);
    loop.off(60, 100);
    loop.engine.advance(9000);
    expect(loop.engine.sounding()).toHaveLength(1);
    loop.on(60, 9100);
    loop.off(60, 9200);
    expect(events(loop)).toEqual([
      ['on', 60, 0],
      ['off', 60, 9100],
    ]);
  });

  it('starts and stops with the beat, and is said to wait for it', () => {
    const loop = rig({ plays: 'loop', starts: 'beat' });
    loop.engine.play(0);
    loop.on(60, 700);
    loop.off(60, 750);
    expect(loop.engine.waitingForBeat()).toEqual([{ layerId: 'a', layer: 'a' }]);
    loop.engine.advance(1100);
    expect(loop.engine.waitingForBeat()).toEqual([]);
    loop.on(60, 1300);
    loop.off(60, 1350);
    loop.engine.advance(3000);
    expect(events(loop)).toEqual([
      ['on', 60, 1000],
      ['off', 60, 1500],
    ]);
  });

  it('with the bar starts at the next bar line, also where the meter has changed and after an upbeat', () => {
    const loop = rig({ plays: 'loop', starts: 'bar' });
    const meters = [
      { bar: 1, beats: 4, unit: 4 as const, early: 0 },
      { bar: 2, beats: 3, unit: 4 as const, early: 0 },
    ];
    // At 120 the upbeat is 500 ms, bar 1 two seconds, every bar after it a second and a half.
    loop.edit('s', (edited) => ({ ...edited, map: { ...edited.map, meters, upbeatTicks: 960 } }), 0);
    loop.engine.perform('play', 0);
    loop.on(60, 900);
    loop.off(60, 950);
    loop.engine.advance(3000);
    loop.on(60, 3100);
    loop.off(60, 3150);
    for (let dueMs = loop.engine.advance(3200); dueMs < 9000; dueMs = loop.engine.advance(dueMs));
    expect(events(loop)).toEqual([
      ['on', 60, 2500],
      ['off', 60, 4000],
    ]);
  });

  it('struck again while it waits does not start at all', () => {
    const loop = rig({ plays: 'loop', starts: 'bar' });
    loop.engine.play(0);
    for (const atMs of [700, 900]) {
      loop.on(60, atMs);
      loop.off(60, atMs + 50);
    }
    loop.engine.advance(5000);
    expect(events(loop)).toEqual([]);
  });

  it('sets the beat for the next when nothing else does', () => {
    const loop = rig({ plays: 'loop', starts: 'beat' });
    loop.on(60, 130);
    loop.on(64, 800);
    loop.engine.advance(2000);
    expect(events(loop)).toEqual([
      ['on', 60, 130],
      ['on', 64, 1130],
    ]);
  });

  it('is started and stopped by foot', () => {
    const foot = rig({});
    for (const [value, atMs] of [
      [127, 0],
      [0, 100],
      [127, 900],
      [0, 1000],
    ])
      foot.cc(80, value, atMs);
    expect(events(foot)).toEqual([
      ['on', 60, 0],
      ['off', 60, 900],
    ]);
  });

  it('that loops ends when its patch is left: no key holds it; with a fade it fades', () => {
    const loop = rig({ plays: 'loop' });
    loop.on(60, 0);
    loop.off(60, 10);
    loop.engine.recall(1, 500);
    expect(loop.engine.sounding()).toEqual([]);
    const fading = rig({ plays: 'loop' }, { carry: { kind: 'fade', fadeMs: 400 } });
    fading.on(60, 0);
    fading.off(60, 10);
    fading.engine.recall(1, 500);
    fading.engine.advance(2000);
    expect(events(fading)).toEqual([
      ['on', 60, 0],
      ['off', 60, 900],
    ]);
  });

  it('that loops ends with panic', () => {
    const loop = rig({ plays: 'loop', starts: 'beat' });
    loop.on(60, 0);
    loop.engine.panic(50);
    loop.engine.advance(4000);
    expect(loop.engine.sounding()).toEqual([]);
    expect(events(loop)).toEqual([
      ['on', 60, 0],
      ['off', 60, 50],
    ]);
  });
});
