import { songEntry } from '../src/show';
import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { TestRig, layer, part, song } from './build';

const show = () => [
  song('Tin', {
    layers: [layer('A'), layer('B', { preset: 'sk0' })],
    patches: [
      { id: 'p1', name: 'P1', parts: [part('A'), part('B')] },
      { id: 'p2', name: 'P2', parts: [part('A')] },
    ],
  }),
];

describe('whatever comes in', () => {
  it('never makes the engine throw, and never leaves it with a message that is no MIDI', () => {
    const anything = fc.oneof(
      fc.integer({ min: -300, max: 700 }),
      fc.integer({ min: 0, max: 255 }),
      fc.constantFrom(0x7fffffff, -1, 128),
    );
    fc.assert(
      fc.property(
        fc.array(
          fc.tuple(
            fc.integer({ min: -2, max: 70 }),
            anything,
            anything,
            anything,
            fc.integer({ min: -100, max: 5000 }),
          ),
          { maxLength: 80 },
        ),
        (messages) => {
          const rig = new TestRig(show());
          for (const [port, status, data1, data2, atMs] of messages)
            rig.engine.receive(port, status, data1, data2, atMs);
          for (const sent of rig.sent) {
            expect(sent.status).toBeGreaterThanOrEqual(0x80);
            expect(sent.status).toBeLessThan(0xf0);
            expect(sent.data1 >= 0 && sent.data1 <= 127 && sent.data2 >= 0 && sent.data2 <= 127).toBe(true);
          }
        },
      ),
      { seed: 31, numRuns: 300 },
    );
  });

  it('of positions, destinations and ports that are not there changes nothing', () => {
    const rig = new TestRig(show());
    rig.take();
    const { here } = rig;
    for (const number of [-1, 99, 2.5, NaN]) {
      rig.engine.recall(number, 1);
      rig.engine.inputGone(number, 1);
      rig.engine.inputBack(number, 1);
      rig.engine.outputGone(number, 1);
      rig.engine.outputBack(number, 1);
      rig.engine.setReady(number, false, 1);
    }
    expect(rig.here).toBe(here);
    expect(rig.take()).toEqual([]);
  });

  it('is counted when it is more than can be held: nothing sticks', () => {
    const rig = new TestRig([
      song('Tin', {
        layers: Array.from({ length: 20 }, (_, i) => layer(`L${i}`)),
        patches: [{ id: 'p', name: 'P', parts: Array.from({ length: 20 }, (_, i) => part(`L${i}`)) }],
      }),
    ]);
    for (let channel = 0; channel < 16; channel++)
      for (let key = 0; key < 128; key++) rig.on(key, 1, 90, 'Aster 73', channel);
    expect(rig.engine.ignoredCounts()['too-many-notes']).toBeGreaterThan(0);
    for (let channel = 0; channel < 16; channel++)
      for (let key = 0; key < 128; key++) rig.off(key, 2, 'Aster 73', channel);
    expect(rig.engine.sounding()).toEqual([]);
    expect(rig.sent.filter((sent) => (sent.status & 0xf0) === 0x90)).toHaveLength(
      rig.sent.filter((sent) => (sent.status & 0xf0) === 0x80).length,
    );
  });

  it('floods of system exclusive are counted and cost nothing else', () => {
    const rig = new TestRig(show());
    rig.take();
    for (let i = 0; i < 10_000; i++) rig.engine.receiveSysex(0, 1_000_000, i);
    expect(rig.engine.ignoredCounts()['system-exclusive']).toBe(10_000);
    expect(rig.take()).toEqual([]);
  });
});

describe('an empty show', () => {
  it('plays nothing, steps nowhere, and takes songs when they come', () => {
    const rig = new TestRig([]);
    rig.on(60, 1);
    rig.engine.perform('nextStep', 2);
    rig.engine.play(3);
    rig.engine.panic(4);
    expect(rig.take()).toEqual([]);
    expect(rig.reasons()).toEqual(['no-layer-here'].map(() => 'no-patch'));
    const [tin] = show();
    rig.show = {
      ...rig.show,
      songs: [tin],
      setlists: [{ ...rig.show.setlists[0], entries: [songEntry('e' as never, tin.id)] }],
    };
    rig.load(5);
    rig.on(62, 6);
    expect(rig.take()).toContain('P1/A on 62 100');
  });
});
