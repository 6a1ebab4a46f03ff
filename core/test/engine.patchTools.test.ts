import { describe, expect, it } from '@jest/globals';
import { TestRig, layer, outboardInstrument, part, song } from './build';

const keys = (rig: TestRig, from = 0): number[] =>
  rig.sent.slice(from).flatMap(({ status, data1 }) => ((status & 0xf0) === 0x90 ? [data1] : []));
const velocities = (rig: TestRig): number[] =>
  rig.sent.flatMap(({ status, data2 }) => ((status & 0xf0) === 0x90 ? [data2] : []));
const down = (rig: TestRig, key: number, velocity = 100, atMs = 0): void => rig.on(key, atMs, velocity);
const up = (rig: TestRig, key: number, atMs = 0): void => rig.off(key, atMs);
/** A song of these layers and patches. */
const sheet = (layers: object[], patches: object[]) => song('s', { layers, patches });

const one = (over: object, layerOver: Record<string, unknown> = {}): TestRig =>
  new TestRig([
    sheet([layer('a', layerOver)], [{ id: 'p', name: 'P', parts: [part('a', over as Record<string, unknown>)] }]),
  ]);

describe('chord memory', () => {
  it('plays the further notes with each key, and ends them with it', () => {
    const rig = one({ chord: [4, 7, -12] });
    down(rig, 60);
    expect(keys(rig)).toEqual([60, 64, 67, 48]);
    up(rig, 60);
    expect(rig.engine.sounding()).toEqual([]);
    expect(rig.sent.filter(({ status }) => (status & 0xf0) === 0x80)).toHaveLength(4);
  });

  it('leaves out what is beyond the last key, and counts it', () => {
    const rig = one({ chord: [12] });
    down(rig, 120);
    expect(keys(rig)).toEqual([120]);
    expect(rig.engine.ignoredCounts()['out-of-range']).toBe(1);
  });
});

describe('zones that fade', () => {
  it('play softer towards the end of their keys, and never not at all', () => {
    const rig = one({ zone: { lowKey: 48, highKey: 72, fadeLowKeys: 3, fadeHighKeys: 0 } });
    for (const key of [48, 49, 50, 51, 60]) down(rig, key, 100);
    expect(velocities(rig)).toEqual([25, 50, 75, 100, 100]);
  });

  it('meet between velocities: one fades out as the other fades in', () => {
    const rig = new TestRig([
      sheet(
        [layer('soft'), layer('hard')],
        [
          {
            id: 'p',
            name: 'P',
            parts: [
              part('soft', { zone: { highVelocity: 80, fadeHard: 20 } }),
              part('hard', { zone: { lowVelocity: 61, fadeSoft: 20 } }),
            ],
          },
        ],
      ),
    ]);
    down(rig, 60, 70);
    const [soft, hard] = velocities(rig);
    expect(soft).toBeGreaterThan(0);
    expect(Math.abs(soft + hard - 70)).toBeLessThanOrEqual(5);
    down(rig, 62, 50);
    expect(velocities(rig).slice(2)).toEqual([50]);
  });
});

describe('a layer that hears controllers under other numbers', () => {
  it('gets them under its own, at once and at a recall; pedals stay what they are', () => {
    const rig = new TestRig([
      sheet(
        [
          layer('a', {
            remapped: [
              { from: 1, to: 74 },
              { from: 64, to: 20 },
            ],
          }),
        ],
        [
          { id: 'p', name: 'P', parts: [] },
          { id: 'q', name: 'Q', parts: [part('a')] },
        ],
      ),
    ]);
    rig.cc(1, 90, 0);
    rig.engine.recall(1, 1);
    rig.cc(1, 33, 2);
    rig.cc(64, 127, 3);
    expect(rig.sent.filter(({ status }) => status === 0xb0).map(({ data1, data2 }) => [data1, data2])).toEqual([
      [74, 90],
      [74, 33],
      [64, 127],
    ]);
  });
});

describe('articulations', () => {
  const names = [
    { id: 'sk0', name: 'Long', program: 5 },
    { id: 'sk1', name: 'Short', program: 5, also: [{ kind: 'note', key: 12, velocity: 90 }] },
    { id: 'sk2', name: 'Muted', program: null, also: [{ kind: 'controller', controller: 80, value: 3 }] },
  ];
  const rig = (switchMs = 0): TestRig =>
    new TestRig(
      [
        sheet(
          [layer('a', { preset: 'sk1' })],
          [
            {
              id: 'p',
              name: 'P',
              parts: [part('a')],
              blends: [{ id: 'b', name: 'Muted', values: [{ layerId: 'a', articulation: 'sk2' }] }],
            },
          ],
        ),
      ],
      { instruments: [outboardInstrument({ names, switchMs })] },
    );
  const plain = ({ sent }: TestRig, from = 0): number[][] =>
    sent.slice(from).map(({ status, data1, data2 }) => [status, data1, data2]);

  it('send their key switch behind the program, as a note that is over at once', () => {
    expect(plain(rig())).toEqual([
      [0xc0, 5, 0],
      [0x90, 12, 90],
      [0x80, 12, 64],
    ]);
  });

  it('wait with it until the instrument has switched', () => {
    const slow = rig(180);
    expect(plain(slow)).toEqual([[0xc0, 5, 0]]);
    slow.engine.advance(200);
    expect(plain(slow, 1)).toEqual([
      [0x90, 12, 90],
      [0x80, 12, 64],
    ]);
    expect(slow.sent[1].atMs).toBe(180);
  });

  it('belong to blends: going there and back sends what differs, and no program', () => {
    const blends = rig();
    const before = blends.sent.length;
    blends.engine.recall(1, 10);
    expect(plain(blends, before)).toEqual([[0xb0, 80, 3]]);
    blends.engine.recall(1, 20);
    expect(plain(blends, before + 1)).toEqual([]);
    blends.engine.recall(0, 30);
    expect(plain(blends, before + 1)).toEqual([
      [0x90, 12, 90],
      [0x80, 12, 64],
    ]);
  });

  it('does not end a note of the player’s on the same key', () => {
    const blends = rig();
    blends.engine.recall(1, 1);
    down(blends, 12, 70, 5);
    const before = blends.sent.length;
    blends.engine.recall(0, 10);
    expect(plain(blends, before)).toEqual([[0x90, 12, 90]]);
    up(blends, 12, 20);
    expect(plain(blends, before + 1)).toEqual([
      [0x80, 12, 64],
      [0x80, 12, 64],
    ]);
  });
});

describe('the arpeggiator', () => {
  const arpeggio = { order: 'up', note: '1/8', octaves: 1, gate: 50 };
  const onsAt = (rig: TestRig): [number, number][] =>
    rig.sent.flatMap(({ status, data1, atMs }) =>
      (status & 0xf0) === 0x90 ? [[Math.round(atMs), data1] as [number, number]] : [],
    );

  it('plays the held keys in turn, in time with the tempo, each for its share of the step', () => {
    const rig = one({ arpeggio });
    down(rig, 67, 100, 0);
    down(rig, 60, 100, 10);
    rig.engine.advance(1000);
    // 120 beats a minute: an eighth is 250 ms.
    expect(onsAt(rig)).toEqual([
      [0, 67],
      [250, 67],
      [500, 60],
      [750, 67],
      [1000, 60],
    ]);
    const [on, off] = rig.sent;
    expect([off.status & 0xf0, off.data1, Math.round(off.atMs - on.atMs)]).toEqual([0x80, 67, 125]);
    up(rig, 60, 1010);
    up(rig, 67, 1010);
    rig.engine.advance(5000);
    expect(rig.engine.sounding()).toEqual([]);
    expect(onsAt(rig)).toHaveLength(5);
  });

  it.each([
    ['down', 1, [67, 64, 60, 67]],
    ['upDown', 1, [60, 64, 67, 64]],
    ['asPlayed', 1, [64, 67, 60, 64]],
    ['up', 2, [60, 64, 67, 72]],
  ] as const)('goes %s over %i octaves', (order, octaves, wanted) => {
    const rig = one({ arpeggio: { ...arpeggio, order, octaves } });
    // All are held before its first note: the timeline runs, and the next eighth is to come.
    rig.engine.play(0);
    [64, 67, 60].forEach((key, i) => down(rig, key, 100, 60 + i));
    rig.engine.advance(1100);
    expect(onsAt(rig).slice(0, 4)).toEqual(wanted.map((key, i) => [250 * (i + 1), key]));
  });

  it('goes on in the old sound over a recall while its keys are held, and stops with them', () => {
    const rig = new TestRig([
      sheet(
        [layer('a'), layer('b')],
        [
          { id: 'p', name: 'P', parts: [part('a', { arpeggio })] },
          { id: 'q', name: 'Q', parts: [part('b')] },
        ],
      ),
    ]);
    down(rig, 60, 100, 0);
    rig.engine.recall(1, 100);
    rig.engine.advance(600);
    expect(new Set(rig.sent.filter(({ status }) => (status & 0xf0) === 0x90).map(({ to }) => to)).size).toBe(1);
    expect(onsAt(rig)).toHaveLength(3);
    up(rig, 60, 700);
    rig.engine.advance(3000);
    expect(onsAt(rig)).toHaveLength(3);
    expect(rig.engine.sounding()).toEqual([]);
  });

  it('ends with panic', () => {
    const rig = one({ arpeggio });
    down(rig, 60, 100, 0);
    rig.engine.panic(10);
    rig.engine.advance(3000);
    expect(onsAt(rig)).toHaveLength(1);
    expect(rig.engine.sounding()).toEqual([]);
  });
});

describe('a layer of live sound', () => {
  it('plays no notes, and is open while its patch is there and it is not muted', () => {
    const live = { source: { kind: 'live', input: 'Harbour loop' } };
    const rig = new TestRig([
      sheet(
        [layer('voice', live), layer('keys')],
        [
          {
            id: 'p',
            name: 'P',
            parts: [part('voice'), part('keys')],
            blends: [{ id: 'b', name: 'Without', values: [{ layerId: 'voice', mute: true }] }],
          },
          { id: 'q', name: 'Q', parts: [part('keys')] },
        ],
      ),
    ]);
    down(rig, 60);
    expect(rig.sent.filter(({ status }) => (status & 0xf0) === 0x90)).toHaveLength(1);
    expect([...rig.lives.values()]).toMatchObject([{ input: 'Harbour loop', mono: true, open: true }]);
    rig.cc(64, 127, 5);
    rig.wheel(11_520, 6);
    rig.engine.recall(1, 10);
    expect([...rig.lives.values()]).toMatchObject([{ open: false }]);
    rig.engine.recall(2, 20);
    expect([...rig.lives.values()]).toEqual([]);
  });
});
