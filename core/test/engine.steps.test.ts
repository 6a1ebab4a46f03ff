import { describe, expect, it } from '@jest/globals';
import { steadyMap } from '../src/show';
import { GEAR, TestRig, layer, part, song } from './build';

const songs = () =>
  ['Tin', 'Moth', 'Kelp'].map((id) =>
    song(id, {
      layers: [layer('A')],
      patches: [
        { id: `${id}1`, name: '1', parts: [part('A')], blends: [{ id: `${id}1b`, name: 'quiet' }] },
        { id: `${id}2`, name: '2', parts: [part('A')] },
      ],
    }),
  );

const numbered = {
  programs: [
    { target: { songId: 'Tin', patchId: 'Tin1' }, program: 1 },
    { target: { songId: 'Moth', patchId: 'Moth2' }, program: 2 },
    { target: { songId: 'Kelp' }, program: 3 },
    { target: { songId: 'Tin', patchId: 'Tin1', blendId: 'Tin1b' }, program: 4 },
    { target: { songId: 'Kelp', patchId: 'Kelp2' }, msb: 1, lsb: 2, program: 1 },
  ],
};

describe('program changes in', () => {
  it('recall what the program map says; unknown ones change nothing and are reported', () => {
    const rig = new TestRig(songs(), { setlist: numbered });
    rig.program(2, 1);
    expect(rig.here).toBe('Moth/2');
    rig.program(4, 2);
    expect(rig.here).toBe('Tin/1/quiet');
    rig.program(99, 3);
    expect(rig.here).toBe('Tin/1/quiet');
    expect(rig.reasons()).toEqual(['no-such-program']);
  });

  it('remember the bank by port and channel', () => {
    const rig = new TestRig(songs(), { setlist: numbered });
    rig.cc(0, 1, 1, 'Treadle 6');
    rig.cc(32, 2, 2, 'Treadle 6');
    rig.program(1, 3);
    expect(rig.here).toBe('Kelp/2');
    rig.program(1, 4, 'Aster 73');
    expect(rig.here).toBe('Tin/1');
    const bankOf = (device: string, channel: number) => rig.engine.bankOn(rig.registry.findInput(device), channel);
    expect(bankOf('Treadle 6', 0)).toEqual({ msb: 1, lsb: 2 });
    expect(bankOf('Treadle 6', 1)).toEqual({ msb: 0, lsb: 0 });
    expect(bankOf('nowhere', 0)).toBeNull();
  });

  it('can leave the bank out of account', () => {
    const gear = {
      ...GEAR,
      ports: GEAR.ports.map((port) =>
        port.alias === 'Feet' ? { ...port, programs: { kind: 'direct', bank: 'none' } } : port,
      ),
    };
    const rig = new TestRig(songs(), { setlist: numbered, gear });
    rig.cc(0, 99, 1, 'Treadle 6');
    rig.program(2, 2);
    expect(rig.here).toBe('Moth/2');
    expect(rig.engine.bankOn(rig.registry.findInput('Treadle 6'), 0)).toEqual({ msb: 0, lsb: 0 });
  });

  it('lead a song’s own number to its first step, or to where it was left', () => {
    for (const [songRecall, expected] of [
      ['first', 'Kelp/1'],
      ['left', 'Kelp/2'],
    ] as const) {
      const rig = new TestRig(songs(), { setlist: numbered, gear: { ...GEAR, songRecall } });
      rig.engine.recall(8, 1);
      rig.program(1, 2);
      rig.program(3, 3);
      expect(rig.here).toBe(expected);
    }
  });

  it('of a song that stands twice recall the nearest entry at or after the present one', () => {
    const all = songs();
    const rig = new TestRig(all, {
      setlist: {
        ...numbered,
        entries: ['Tin', 'Moth', 'Tin', 'Kelp'].map((songId, i) => ({ kind: 'song', id: `e${i}`, songId })),
      },
    });
    rig.program(2, 1);
    rig.program(1, 2);
    expect(rig.engine.step?.entryId).toBe('e2');
    rig.program(3, 3);
    rig.program(1, 4);
    expect(rig.engine.step?.entryId).toBe('e2');
  });

  it('are not listened to where the gear list says so', () => {
    const gear = {
      ...GEAR,
      ports: GEAR.ports.map((port) => (port.alias === 'Feet' ? { ...port, programs: { kind: 'off' } } : port)),
    };
    const rig = new TestRig(songs(), { setlist: numbered, gear });
    rig.program(2, 1);
    expect(rig.here).toBe('Tin/1');
    expect(rig.reasons()).toEqual(['program-not-listened']);
  });
});

describe('a counting controller', () => {
  const counting = (over: object = {}) => ({
    ...GEAR,
    ports: GEAR.ports.map((port) =>
      port.alias === 'Feet'
        ? { ...port, programs: { kind: 'counter', lowest: 0, highest: 9, guardMs: 0, ...over } }
        : port,
    ),
  });
  const go = (rig: TestRig, ...programs: number[]) =>
    programs.map((program, i) => {
      rig.program(program, rig.engine.nowMs + 200 + i);
      return rig.here;
    });

  it('counts by direction only, from a first number that does nothing', () => {
    const rig = new TestRig(songs(), { gear: counting() });
    expect(go(rig, 5, 6, 7, 6)).toEqual(['Tin/1', 'Tin/1/quiet', 'Tin/2', 'Tin/1/quiet']);
    expect(rig.reasons()).toEqual(['counter-reference']);
  });

  it('wraps between its ends', () => {
    const rig = new TestRig(songs(), { gear: counting() });
    expect(go(rig, 9, 0, 1, 0, 9)).toEqual(['Tin/1', 'Tin/1/quiet', 'Tin/2', 'Tin/1/quiet', 'Tin/1']);
  });

  it('that is stuck at an end and sends it again counts as one more step the same way', () => {
    const rig = new TestRig(songs(), { gear: counting() });
    expect(go(rig, 8, 9, 9, 9)).toEqual(['Tin/1', 'Tin/1/quiet', 'Tin/2', 'Moth/1']);
  });

  it('keeps its reference over a replug', () => {
    const rig = new TestRig(songs(), { gear: counting() });
    go(rig, 5);
    rig.engine.inputGone(rig.port('Treadle 6'), 1000);
    rig.engine.inputBack(rig.port('Treadle 6'), 1001);
    expect(go(rig, 6)).toEqual(['Tin/1/quiet']);
  });

  it('moves its reference even when the guard refuses the hit', () => {
    const rig = new TestRig(songs(), { gear: counting({ guardMs: 120 }) });
    rig.program(5, 1000);
    rig.program(6, 1200);
    rig.program(7, 1250);
    expect(rig.here).toBe('Tin/1/quiet');
    rig.program(8, 1400);
    expect(rig.here).toBe('Tin/2');
  });
});

describe('steps', () => {
  it('walk patches and blends song after song, past skipped entries, and do not wrap', () => {
    const all = songs();
    const rig = new TestRig(all, {
      setlist: {
        entries: [
          { kind: 'song', id: 'e1', songId: 'Tin' },
          { kind: 'break', id: 'b' },
          { kind: 'song', id: 'e2', songId: 'Moth', skip: true },
          { kind: 'song', id: 'e3', songId: 'Kelp' },
        ],
      },
    });
    const walked = Array.from({ length: 7 }, (_, i) => {
      const { here } = rig;
      rig.engine.perform('nextStep', i + 1);
      return here;
    });
    expect(walked).toEqual(['Tin/1', 'Tin/1/quiet', 'Tin/2', 'Kelp/1', 'Kelp/1/quiet', 'Kelp/2', 'Kelp/2']);
    expect(rig.records).toContainEqual(expect.objectContaining({ code: 'at-last-step' }));
    rig.engine.perform('previousSong', 20);
    expect(rig.here).toBe('Tin/1');
    rig.engine.perform('previousStep', 21);
    expect(rig.here).toBe('Tin/1');
  });

  it('pass over what is not a step, which its number still recalls', () => {
    const [tin] = songs();
    const rig = new TestRig(
      [
        {
          ...tin,
          patches: tin.patches.map((p, i) => ({
            ...p,
            isStep: i === 0,
            blends: p.blends.map((b) => ({ ...b, isStep: false })),
          })),
        },
      ],
      { setlist: numbered },
    );
    rig.engine.perform('nextStep', 1);
    expect(rig.here).toBe('Tin/1');
    rig.program(4, 2);
    expect(rig.here).toBe('Tin/1/quiet');
  });

  it('let the cursor move without a sound, then go', () => {
    const rig = new TestRig(songs());
    rig.engine.perform('cursorNext', 1);
    rig.engine.perform('cursorNext', 2);
    expect(rig.here).toBe('Tin/1');
    rig.engine.perform('go', 3);
    expect(rig.here).toBe('Tin/2');
  });
});

describe('roles', () => {
  const gear = (over: object, source: object) => ({
    ...GEAR,
    roles: [{ role: 'Next', source: { port: 'Keys', ...source }, ...over }],
  });
  const setlist = { bindings: [{ role: 'Next', action: { kind: 'nextStep' } }] };

  it('on a controller act on the press, once, and use the controller up', () => {
    const rig = new TestRig(songs(), { setlist, gear: gear({}, { kind: 'controller', number: 80 }) });
    for (const [value, at] of [
      [127, 1000],
      [127, 1200],
      [0, 1300],
      [127, 1350],
      [0, 1360],
    ])
      rig.cc(80, value, at);
    expect(rig.here).toBe('Tin/2');
    rig.cc(80, 127, 1400);
    expect(rig.here).toBe('Tin/2');
    expect(rig.reasons()).toEqual(['guard']);
    expect(rig.take()).toEqual([]);
  });

  it('on a latching switch act on each change', () => {
    const rig = new TestRig(songs(), {
      setlist,
      gear: gear({ button: 'latching' }, { kind: 'controller', number: 80 }),
    });
    rig.cc(80, 127, 1000);
    rig.cc(80, 0, 2000);
    expect(rig.here).toBe('Tin/2');
  });

  it('on a key make no sound, and their release makes none either', () => {
    const rig = new TestRig(songs(), { setlist, gear: gear({}, { kind: 'note', number: 21 }) });
    rig.on(21, 1000);
    rig.off(21, 1010);
    expect(rig.here).toBe('Tin/1/quiet');
    expect(rig.take()).toEqual([]);
    expect(rig.reasons()).toEqual([]);
  });

  it('can pass their message on', () => {
    const rig = new TestRig(songs(), { setlist, gear: gear({ passOn: true }, { kind: 'controller', number: 80 }) });
    rig.cc(80, 127, 1000);
    expect(rig.take()).toEqual(['1/A cc 80 127']);
  });
});

describe('the timeline', () => {
  const withCues = () => {
    const tin = song('Tin', {
      map: steadyMap(137, { beats: 3, unit: 4 }, 40),
      layers: [layer('A')],
      patches: ['1', '2', '3'].map((name) => ({ id: `p${name}`, name, parts: [part('A')] })),
      cues: [
        { kind: 'recall', id: 'c1', atTick: 0, patchId: 'p1' },
        { kind: 'recall', id: 'c2', atTick: 2880, patchId: 'p2' },
        { kind: 'recall', id: 'c3', atTick: 28801, patchId: 'p3' },
      ],
    });
    return new TestRig([tin, ...songs().slice(1)]);
  };
  const recalls = (rig: TestRig) =>
    rig.records.flatMap((record) =>
      record.type === 'recall' && record.cause === 'cue' ? [[record.patch, record.atMs] as const] : [],
    );

  it('recalls the patch of a cue at its exact time', () => {
    const rig = withCues();
    rig.engine.play(1000);
    rig.engine.advance(60_000);
    expect(recalls(rig).map(([patch]) => patch)).toEqual(['2', '3']);
    expect(recalls(rig)[0][1]).toBeCloseTo(1000 + (2880 * 60_000) / (137 * 960), 6);
    expect(recalls(rig)[1][1]).toBeCloseTo(1000 + (28801 * 60_000) / (137 * 960), 6);
  });

  it('chases: a start in the middle gives the patch that belongs there', () => {
    const rig = withCues();
    rig.engine.locate(20_000, 1);
    rig.engine.play(2);
    expect(rig.here).toBe('Tin/2');
  });

  it('stops, stands, and goes on from there', () => {
    const rig = withCues();
    rig.engine.play(0);
    rig.engine.stop(100);
    expect(rig.engine.advance(50_000)).toBe(Infinity);
    expect(rig.here).toBe('Tin/1');
    expect(rig.engine.tickAt(50_000)).toBe(Math.floor((100 * 137 * 960) / 60_000));
  });

  it('ends at the end of the song, and when another song is recalled', () => {
    const rig = withCues();
    rig.engine.play(0);
    expect(rig.engine.isPlaying).toBe(true);
    rig.engine.recall(5, 100);
    expect(rig.engine.isPlaying).toBe(false);
    rig.engine.recall(0, 200);
    rig.engine.play(300);
    rig.engine.advance(10_000_000);
    expect(rig.engine.isPlaying).toBe(false);
  });

  it('keeps its place when cues are edited while it plays', () => {
    const rig = withCues();
    rig.engine.play(0);
    rig.engine.advance(500);
    rig.edit('Tin', (s) => ({ ...s, cues: s.cues.slice(0, 2) }), 500);
    rig.engine.advance(100_000);
    expect(recalls(rig).map(([patch]) => patch)).toEqual(['2']);
  });
});
