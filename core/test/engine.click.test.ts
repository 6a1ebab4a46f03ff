import { describe, expect, it } from '@jest/globals';
import { GEAR, TestRig, layer, part, song, type RigOptions } from './build';

/** At 120 a beat is half a second. */
const MAP = {
  tempos: [{ atTick: 0, bpm: 120 }],
  meters: [
    { bar: 1, beats: 3, unit: 4 },
    { bar: 2, beats: 6, unit: 8 },
  ],
  bars: 4,
};
const tin = (over: Record<string, unknown> = {}) =>
  song('Tin', {
    layers: [layer('A')],
    patches: ['p0', 'p1'].map((id) => ({ id, name: id, parts: [part('A')] })),
    cues: [{ kind: 'recall', id: 'c0', atTick: 0, patchId: 'p1' }],
    map: MAP,
    ...over,
  });
const gearWith = (click: object, out: object = {}): RigOptions => ({
  gear: {
    ...GEAR,
    ports: GEAR.ports.map((port) => (port.direction === 'out' ? { ...port, ...out } : port)),
    click,
  },
});
const ON_PORT = { on: true, to: { kind: 'port', port: 'Skerry', channel: 10, accentKey: 34, key: 33 } };

class ClickRig extends TestRig {
  readonly clicks: string[] = [];
  override click(output: string, isAccent: boolean, _levelDb: number, [atMs]: Float64Array): void {
    this.clicks.push(`${Math.round(atMs * 10) / 10} ${output}${isAccent ? ' accent' : ''}`);
  }
}
function play(rig: TestRig, fromMs: number, untilMs: number): void {
  rig.engine.perform('play', fromMs);
  for (let dueMs = rig.engine.advance(fromMs); dueMs <= untilMs; dueMs = rig.engine.advance(dueMs));
}
const recalled = (rig: TestRig): number[] =>
  rig.records.flatMap((record) => (record.type === 'recall' && record.cause === 'cue' ? [record.atMs] : []));

describe('the click', () => {
  it('sounds on every beat of the map, accented where a bar begins, up to the end', () => {
    const rig = new ClickRig([tin()], gearWith({ on: true }));
    play(rig, 1000, 60_000);
    expect(rig.clicks.slice(0, 6)).toEqual([
      '1000 Main accent',
      '1500 Main',
      '2000 Main',
      '2500 Main accent',
      '2750 Main',
      '3000 Main',
    ]);
    // Three beats, then three bars of six.
    expect(rig.clicks).toHaveLength(21);
    expect(rig.clicks.filter((words) => words.endsWith('accent'))).toHaveLength(4);
  });

  it('is a short note where it goes to a port, that much behind the beat; off, there is none', () => {
    const rig = new ClickRig([tin()], gearWith({ ...ON_PORT, offsetMs: 12 }));
    play(rig, 1000, 1600);
    const sent = rig.sent.filter((message) => message.to === 'Skerry');
    expect(sent.map(({ atMs, status, data1 }) => `${atMs} ${status.toString(16)} ${data1}`)).toEqual([
      '1012 99 34',
      '1012 89 34',
      '1512 99 33',
      '1512 89 33',
    ]);
    expect(rig.clicks).toEqual([]);
    const silent = new ClickRig([tin()], gearWith({ on: false }));
    play(silent, 1000, 60_000);
    expect(silent.clicks).toEqual([]);
  });

  it('clicks once where a loop goes on, and from the place that is jumped to', () => {
    const rig = new ClickRig([tin()], gearWith({ on: true }));
    rig.feed({ type: 'loop', range: { fromTick: 0, toTick: 2880 } }, 500);
    play(rig, 1000, 4100);
    expect(rig.clicks.map((words) => words.split(' ')[0])).toEqual([
      '1000',
      '1500',
      '2000',
      '2500',
      '3000',
      '3500',
      '4000',
    ]);
    expect(rig.clicks[3]).toContain('accent');
  });

  it('counts its bars before the start: what belongs there comes at once, cues, start and pulses at the end of them', () => {
    const rig = new ClickRig([tin({ countInBars: 2 })], gearWith({ on: false }, { sendsClock: true }));
    rig.sent.length = 0;
    play(rig, 1000, 4100);
    expect(rig.clicks).toEqual([
      '1000 Main accent',
      '1500 Main',
      '2000 Main',
      '2500 Main accent',
      '3000 Main',
      '3500 Main',
    ]);
    expect(recalled(rig)).toEqual([4000]);
    const clock = rig.sent.filter(({ status }) => status >= 0xf8);
    expect(clock[0]).toMatchObject({ status: 0xfa, atMs: 4000 });
    expect(clock[1]).toMatchObject({ status: 0xf8, atMs: 4000 });
    expect(rig.engine.tickAt(4100)).toBe(192);
  });

  it('counts from within a bar to its beat, and between two beats to the rest of it', () => {
    const rig = new ClickRig([tin({ countInBars: 1 })], gearWith({ on: false }));
    rig.feed({ type: 'locate', tick: 960 }, 500);
    play(rig, 1000, 2400);
    expect(rig.clicks).toEqual(['1000 Main', '1500 Main', '2000 Main accent']);
    const between = new ClickRig([tin({ countInBars: 1 })], gearWith({ on: true }));
    between.feed({ type: 'locate', tick: 480 }, 500);
    play(between, 1000, 3100);
    // Three beats and a half, then the song goes on in the middle of its first.
    expect(between.clicks).toEqual(['1000 Main accent', '1500 Main', '2000 Main', '2500 Main accent', '3000 Main']);
  });

  it('stopped within a count-in sends neither start nor stop, and stands where it was', () => {
    const rig = new ClickRig([tin({ countInBars: 2 })], gearWith({ on: true }, { sendsClock: true }));
    rig.sent.length = 0;
    play(rig, 1000, 2100);
    rig.engine.perform('stop', 2200);
    rig.engine.advance(9000);
    expect(rig.sent.filter(({ status }) => status >= 0xf8)).toEqual([]);
    expect(rig.clicks).toHaveLength(3);
    expect(rig.engine.tickAt(9000)).toBe(0);
    expect(recalled(rig)).toEqual([]);
  });

  it('an edit within a count-in leaves what stands at the start to be done', () => {
    const rig = new ClickRig([tin({ countInBars: 2 })], gearWith({ on: false }));
    play(rig, 1000, 1600);
    rig.show = { ...rig.show, songs: [tin({ countInBars: 2, description: 'edited' })] };
    rig.show.songs[0] = { ...rig.show.songs[0], cues: [...rig.show.songs[0].cues] };
    rig.load(1700);
    for (let dueMs = rig.engine.advance(1700); dueMs <= 4100; dueMs = rig.engine.advance(dueMs));
    expect(recalled(rig)).toEqual([4000]);
    expect(rig.clicks).toHaveLength(6);
  });
});
