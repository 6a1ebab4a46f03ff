import { describe, expect, it } from '@jest/globals';
import { SongMap, steadyMap } from '../src/show';
import { TempoMap, withTempoAt } from '../src/timeline';
import { GEAR, TestRig, layer, part, song } from './build';

/** Faster at bar 2, slowing down over bar 3, and a bar of three in between. */
const MAP = SongMap.parse({
  tempos: [
    { atTick: 0, bpm: 100 },
    { atTick: 3840, bpm: 160, ramp: true },
    { atTick: 3840 + 2880, bpm: 80 },
  ],
  meters: [
    { bar: 1, beats: 4, unit: 4 },
    { bar: 2, beats: 3, unit: 4 },
    { bar: 3, beats: 4, unit: 4 },
  ],
  bars: 4,
});
const CUES = [0, 1920, 3840, 5000, 6720, 9000];

const tin = (map: object) =>
  song('Tin', {
    layers: [layer('A')],
    map,
    patches: ['p0', 'p1'].map((id) => ({ id, name: id, parts: [part('A')] })),
    cues: CUES.map((atTick, i) => ({ kind: 'recall', id: `c${i}`, atTick, patchId: `p${i % 2}` })),
  });

/** Plays until the given time, each thing at its moment. */
function play(rig: TestRig, fromMs: number, untilMs: number): void {
  rig.engine.perform('play', fromMs);
  goOn(rig, fromMs, untilMs);
}
function goOn(rig: TestRig, fromMs: number, untilMs: number): void {
  for (let dueMs = rig.engine.advance(fromMs); dueMs <= untilMs; dueMs = rig.engine.advance(dueMs));
}
const recalls = (rig: TestRig): number[] =>
  rig.records.flatMap((record) => (record.type === 'recall' && record.cause === 'cue' ? [record.atMs] : []));

describe('a song whose tempo and meter change', () => {
  it('recalls at the exact time of each cue, and ends where its last bar does', () => {
    const rig = new TestRig([tin(MAP)]);
    const map = new TempoMap(MAP);
    play(rig, 1000, 60_000);
    const expected = CUES.slice(1).map((tick) => 1000 + map.msAt(tick));
    expect(recalls(rig)).toHaveLength(expected.length);
    recalls(rig).forEach((atMs, i) => expect(atMs).toBeCloseTo(expected[i], 6));
    const ends = rig.records.flatMap((record) =>
      record.type === 'timeline' && record.state === 'stop' ? [record.atMs] : [],
    );
    expect(ends[0]).toBeCloseTo(1000 + map.msAt(3840 + 2880 + 2 * 3840), 6);
  });

  it('tells its tempo as it changes: at a step at once, along a ramp by the quarter', () => {
    const rig = new TestRig([tin(MAP)]);
    rig.told.length = 0;
    play(rig, 0, 30_000);
    const tempos = rig.told
      .filter((words) => words.startsWith('tempo'))
      .map((words) => Number(words.split(' ').at(-1)));
    expect(tempos.map(Math.round)).toEqual([160, 133, 107, 80, 100]);
  });

  it('sends its clock along the map: every pulse where its tick is', () => {
    const ports = GEAR.ports.map((port) => (port.alias === 'Skerry' ? { ...port, sendsClock: true } : port));
    const rig = new TestRig([tin(MAP)], { gear: { ...GEAR, ports } });
    const map = new TempoMap(MAP);
    rig.sent.length = 0;
    play(rig, 500, 30_000);
    const pulses = rig.sent.filter(({ status }) => status === 0xf8);
    expect(pulses.length).toBeGreaterThanOrEqual(map.endTick / 40);
    pulses.forEach(({ atMs }, i) => expect(atMs).toBeCloseTo(500 + map.msAt(i * 40), 6));
  });

  it('started in the middle has the tempo and patch of that place, and goes on as from the start', () => {
    const rig = new TestRig([tin(MAP)]);
    const map = new TempoMap(MAP);
    rig.engine.locate(5200, 100);
    expect([rig.engine.tempoBpm, rig.engine.tempoTrim]).toEqual([map.bpmAt(5200), 1]);
    expect(recalls(rig)).toEqual([]);
    play(rig, 200, 30_000);
    expect(recalls(rig)[0]).toBe(200);
    expect(recalls(rig)[1]).toBeCloseTo(200 + map.msAt(6720) - map.msAt(5200), 6);
  });

  it('tapped is faster or slower as a whole, and never jumps', () => {
    const rig = new TestRig([tin(MAP)]);
    const map = new TempoMap(MAP);
    play(rig, 0, 5);
    rig.engine.perform('tapTempo', 10);
    goOn(rig, 10, 1200);
    const tick = rig.engine.tickAt(1210);
    rig.engine.perform('tapTempo', 1210);
    expect(rig.engine.tempoBpm).toBeCloseTo(50, 6);
    expect(rig.engine.tempoTrim).toBeCloseTo(0.5, 9);
    expect(Math.abs(rig.engine.tickAt(1210) - tick)).toBeLessThanOrEqual(1);
    goOn(rig, 1210, 60_000);
    // Half as fast from there on, in every tempo of the map.
    const here = map.tickAt(1210);
    const late = CUES.filter((cue) => cue > here).map((cue) => 1210 + 2 * (map.msAt(cue) - map.msAt(here)));
    expect(late).toHaveLength(4);
    recalls(rig)
      .slice(-late.length)
      .forEach((atMs, i) => expect(atMs).toBeCloseTo(late[i], 6));
  });

  it('edited while it plays keeps its tick, whatever the time; an edit of anything else keeps its course', () => {
    const rig = new TestRig([tin(MAP)]);
    play(rig, 0, 1000);
    const tick = rig.engine.tickAt(1300);
    rig.edit(
      'Tin',
      (edited) => ({ ...edited, map: withTempoAt(edited.map, { atTick: 0, bpm: 200, ramp: false }) }),
      1300,
    );
    expect(Math.abs(rig.engine.tickAt(1300) - tick)).toBeLessThanOrEqual(1);
    expect(rig.engine.tempoBpm).toBe(200);
    rig.edit('Tin', (edited) => ({ ...edited, name: 'Tin Roof' }), 1310);
    goOn(rig, 1310, 30_000);
    const map = new TempoMap(withTempoAt(MAP, { atTick: 0, bpm: 200, ramp: false }));
    const before = new TempoMap(MAP);
    const here = before.tickAt(1300);
    const left = CUES.slice(1).filter((cue) => cue > here);
    const late = recalls(rig).slice(-left.length);
    left.forEach((cue, i) => expect(late[i]).toBeCloseTo(1300 + map.msAt(cue) - map.msAt(here), 6));
  });

  it('another song begins with its own tempo, whatever was tapped before', () => {
    const rig = new TestRig([tin(MAP), { ...tin(steadyMap(90)), id: 'Kelp' as never, name: 'Kelp' }]);
    for (const atMs of [100, 600]) rig.engine.perform('tapTempo', atMs);
    expect(rig.engine.tempoBpm).toBeCloseTo(120, 6);
    rig.engine.recall(2, 700);
    expect(rig.engine.tempoBpm).toBe(90);
  });
});
