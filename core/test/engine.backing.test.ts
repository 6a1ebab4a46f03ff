import { describe, expect, it } from '@jest/globals';
import { packed } from '../src/midi';
import { backingEvents, madeIndependent, madeRepeat, Song, type CueId, type SectionId } from '../src/show';
import { soundcheck } from '../src/soundcheck';
import { TestRig, layer, part, song } from './build';

/** At 125 a minute a tick is half a millisecond. */
const MAP = { tempos: [{ atTick: 0, bpm: 125 }], meters: [{ bar: 1, beats: 4, unit: 4 }], bars: 8 };
const MESSAGES = [
  { atTick: 0, status: 0xb0, data1: 0, data2: 3 },
  { atTick: 0, status: 0xc0, data1: 9, data2: 0 },
  { atTick: 0, status: 0x90, data1: 60, data2: 90 },
  { atTick: 960, status: 0x90, data1: 60, data2: 80 },
  { atTick: 960, status: 0x80, data1: 60, data2: 11 },
  { atTick: 1440, status: 0xb0, data1: 64, data2: 127 },
  { atTick: 1920, status: 0x80, data1: 60, data2: 12 },
];
const backed = (over: Record<string, unknown> = {}, part0: Record<string, unknown> = {}): Song =>
  song('Tin', {
    layers: [layer('A'), layer('B')],
    patches: [{ id: 'p0', name: 'p0', parts: [part('A')] }],
    map: MAP,
    backing: [
      { id: 'b', name: 'Drone', to: { kind: 'port', port: 'Skerry', channel: 2 }, events: packed(MESSAGES), ...part0 },
    ],
    ...over,
  });
function played(tin: Song, untilMs: number, to = 'Skerry'): string[] {
  const rig = new TestRig([tin]);
  rig.sent.length = 0;
  rig.feed({ type: 'perform', action: 'play' }, 100);
  for (let dueMs = rig.engine.advance(100); dueMs <= untilMs; dueMs = rig.engine.advance(dueMs));
  return rig.sent
    .filter((message) => message.to === to)
    .map(({ atMs, status, data1, data2 }) => `${atMs - 100} ${status.toString(16)} ${data1} ${data2}`);
}

describe('a backing part', () => {
  it('plays its notes, first on with first off, with its controllers and programs, at their exact times', () => {
    expect(played(backed(), 2000)).toEqual([
      '0 b1 0 3',
      '0 c1 9 0',
      '0 91 60 90',
      '480 81 60 11',
      '480 91 60 80',
      '720 b1 64 127',
      '960 81 60 12',
    ]);
  });

  it('that is off plays nothing; through a layer it plays without programs, and is heard there by no key', () => {
    expect(played(backed({}, { off: true }), 2000)).toEqual([]);
    const layered = backed({}, { to: { kind: 'layer', layerId: 'B' } });
    const rig = new TestRig([layered]);
    rig.sent.length = 0;
    rig.feed({ type: 'perform', action: 'play' }, 100);
    rig.engine.advance(150);
    const notes = rig.sent.filter(({ status }) => (status & 0xf0) === 0x90);
    expect(notes.map(({ data1 }) => data1)).toEqual([60]);
    expect(rig.sent.filter(({ status }) => (status & 0xf0) === 0xc0)).toEqual([]);
    rig.sent.length = 0;
    rig.feed({ type: 'message', device: 'Aster 73', status: 0x90, data1: 72, data2: 90 }, 160);
    const sounded = new Set(rig.sent.map((message) => message.to));
    expect(sounded.size).toBeGreaterThan(0);
    expect(sounded.has(notes[0].to)).toBe(false);
  });

  it('runs in a section that repeats another one, and is copied where that goes its own way', () => {
    const sections = [
      { id: 's0', name: 'Verse', fromTick: 0, toTick: 3840 },
      { id: 's1', name: 'Verse 2', fromTick: 7680, toTick: 11_520 },
    ];
    const repeated = madeRepeat(backed({ sections }), 's1', 's0' as SectionId)!;
    const ons = (tin: Song): string[] => played(tin, 9000).filter((words) => words.includes(' 91 '));
    expect(ons(repeated)).toEqual(['0 91 60 90', '480 91 60 80', '3840 91 60 90', '4320 91 60 80']);
    let count = 0;
    const independent = madeIndependent(repeated, 's1', () => `n${count++}` as CueId);
    expect(ons(independent)).toEqual(ons(repeated));
    expect(backingEvents(independent.backing[0]).filter(({ kind }) => kind === 'note')).toHaveLength(4);
  });

  it('whose layer is not there does nothing, and the soundcheck names it', () => {
    const tin = backed({}, { to: { kind: 'layer', layerId: 'gone' } });
    const rig = new TestRig([tin]);
    expect(rig.engine.leftOut.map(({ message }) => message)).toContain(
      'Tin, the backing part Drone: the layer that it plays is not there',
    );
    expect(
      soundcheck(rig.show, null)
        .findings.map(({ message, why }) => `${message} ${why}`)
        .join(),
    ).toContain('Drone');
  });

  it('is refused where its events are none', () => {
    for (const events of [
      '?',
      btoa('\x00\x90\x3c'),
      btoa('\x00\xff\x2f\x00'),
      btoa('\x00\x91\x3c\x40'),
      btoa('\x80\x80\x80\x80\x00\x90\x3c\x40'),
    ])
      expect(Song.safeParse({ ...backed(), backing: [{ ...backed().backing[0], events }] }).success).toBe(false);
  });
});
