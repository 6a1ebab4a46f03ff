import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { steadyMap } from '../src/show';
import { GEAR, TestRig, layer, part, song } from './build';

const CLOCK = 0xf8;
const [START, CONTINUE, STOP, POSITION] = [0xfa, 0xfb, 0xfc, 0xf2];

/** A song that another player leads: a note every twenty ticks, so that their times tell where the timeline is. */
function led(every = 20, bars = 64) {
  const count = Math.min(2000, (bars * 3840) / every);
  const tin = song('Tin', {
    map: steadyMap(100, { beats: 4, unit: 4 }, bars),
    layers: [layer('A')],
    patches: ['p0', 'p1'].map((id) => ({ id, name: id, parts: [part('A')] })),
    cues: [
      ...Array.from({ length: count - 1 }, (_, i) => ({
        kind: 'controller',
        id: `c${i}`,
        atTick: i * every,
        port: 'Skerry',
        channel: 1,
        controller: 20 + Math.floor(i / 128),
        value: i % 128,
      })),
      { kind: 'recall', id: 'r', atTick: 3840, patchId: 'p1' },
    ],
  });
  const ports = [...GEAR.ports, { direction: 'in', alias: 'Pilot', device: 'Pilot Cutter', plays: false }];
  const rig = new TestRig([tin], { gear: { ...GEAR, ports, clockFrom: 'Pilot' } });
  const pilot = rig.port('Pilot Cutter');
  rig.sent.length = 0;
  return {
    rig,
    send: (status: number, atMs: number, data1 = 0, data2 = 0) => rig.engine.receive(pilot, status, data1, data2, atMs),
    /** Lets time pass, each thing at its moment. */
    until: (atMs: number): void => {
      for (let due = rig.engine.advance(rig.engine.nowMs); due <= atMs; due = rig.engine.advance(due));
      rig.engine.advance(atMs);
    },
    /** Tick and time of each controller that was sent. */
    passed: (): { tick: number; atMs: number }[] =>
      rig.sent
        .filter(({ status, data1 }) => status === 0xb0 && data1 >= 20 && data1 < 40)
        .map(({ data1, data2, atMs }) => ({ tick: ((data1 - 20) * 128 + data2) * every, atMs })),
  };
}

describe('another player’s clock', () => {
  it('whose pulses come up to two milliseconds early or late moves no cue out of its order or by a millisecond, nor the tempo', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 40, max: 240 }),
        fc.infiniteStream(fc.double({ min: -2, max: 2, noNaN: true })),
        (bpm, noise) => {
          const { rig, send, until, passed } = led(20, 3);
          const everyMs = 60_000 / bpm / 24;
          // It runs before it starts, as most do.
          for (let i = -100; i < 0; i++) send(CLOCK, 10_000 + i * everyMs + noise.next().value!);
          send(START, 10_000 - everyMs / 2);
          const tempos: number[] = [];
          for (let i = 0; i < 200; i++) {
            const atMs = 10_000 + i * everyMs + noise.next().value!;
            until(atMs);
            send(CLOCK, atMs);
            tempos.push(rig.engine.tempoBpm);
          }
          const seen = passed();
          seen.forEach(({ tick }, i) => expect(tick).toBe(i * 20));
          expect(seen.length).toBeGreaterThan(350);
          // The first comes with its pulse, the others on the line.
          for (const { tick, atMs } of seen.slice(3))
            expect(Math.abs(atMs - 10_000 - (tick / 40) * everyMs)).toBeLessThan(1.5);
          for (const tempo of tempos) expect(Math.abs(tempo - bpm)).toBeLessThanOrEqual(0.5 + bpm * 0.002);
        },
      ),
      { seed: 20_261_129, numRuns: 40 },
    );
  });

  it.each([10, 400])('is followed at %i beats a minute', (bpm) => {
    const { rig, send, until } = led();
    const everyMs = 60_000 / bpm / 24;
    send(START, 0);
    for (let i = 0; i <= 96; i++) {
      until(10 + i * everyMs);
      send(CLOCK, 10 + i * everyMs);
    }
    expect(rig.engine.tickAt(10 + 96 * everyMs)).toBe(3840);
    expect(rig.here).toBe('Tin/p1');
    expect(rig.engine.tempoBpm).toBeCloseTo(bpm, 1);
  });

  it('that goes faster at once is followed within a few pulses, and no cue comes twice or is left out', () => {
    const { rig, send, until, passed } = led();
    send(START, 0);
    let atMs = 10;
    for (let i = 0; i < 150; i++) {
      until(atMs);
      send(CLOCK, atMs);
      atMs += 60_000 / (i < 90 ? 90 : 160) / 24;
    }
    expect(rig.engine.tempoBpm).toBeCloseTo(160, 0);
    passed().forEach(({ tick }, i) => expect(tick).toBe(i * 20));
  });

  it('of which pulses get lost on the way stands where it would with them', () => {
    const { rig, send, until } = led();
    send(START, 0);
    for (let i = 0; i <= 60; i++) {
      if ([20, 33, 34].includes(i)) continue;
      until(10 + i * 20);
      send(CLOCK, 10 + i * 20);
    }
    expect(rig.engine.tickAt(10 + 60 * 20)).toBe(60 * 40);
  });

  it('that is lost is bridged for two bars, then waited for; it takes up again at the nearest pulse', () => {
    const { rig, send, until } = led();
    send(START, 0);
    const at = (pulse: number): number => 10 + pulse * 20;
    for (let i = 0; i <= 48; i++) {
      until(at(i));
      send(CLOCK, at(i));
    }
    until(at(96) + 1);
    expect(rig.here).toBe('Tin/p1');
    expect(rig.engine.leader(at(96) + 1)).toMatchObject({ port: 'Pilot', isLost: true });
    until(at(1000));
    expect(rig.engine.tickAt(at(1000))).toBe(48 * 40 + 2 * 3840);
    const other = led();
    other.send(START, 0);
    for (let i = 0; i <= 48; i++) other.send(CLOCK, at(i));
    other.until(at(80) + 5);
    other.send(CLOCK, at(80) + 6);
    expect(other.rig.engine.tickAt(at(80) + 6)).toBe(80 * 40);
    // A stop is no loss: nothing is bridged.
    other.send(STOP, at(81));
    other.until(at(200));
    expect(other.rig.engine.isPlaying).toBe(false);
    expect(other.rig.here).toBe('Tin/p0');
  });

  it('that stops and continues goes on with the pulse after its last one; a position told meanwhile counts', () => {
    const { rig, send } = led();
    send(START, 0);
    for (let i = 0; i <= 10; i++) send(CLOCK, 10 + i * 20);
    send(STOP, 215);
    send(CONTINUE, 500);
    send(CLOCK, 520);
    expect(rig.engine.tickAt(520)).toBe(11 * 40);
    // While it runs a position is kept for the next continue.
    send(POSITION, 530, 16);
    expect(rig.engine.tickAt(530)).toBeLessThan(12 * 40 + 1);
    send(STOP, 540);
    send(CONTINUE, 600);
    expect(rig.here).toBe('Tin/p0');
    send(CLOCK, 620);
    expect(rig.here).toBe('Tin/p1');
    expect(rig.engine.tickAt(620)).toBe(3840);
    // Start while it runs begins anew.
    send(START, 700);
    send(CLOCK, 720);
    expect(rig.engine.tickAt(720)).toBe(0);
    expect(rig.here).toBe('Tin/p0');
  });

  it('brings what belongs there when continue comes, and notes with the first pulse', () => {
    const { rig, send } = led(40);
    send(POSITION, 0, 20);
    rig.sent.length = 0;
    send(CONTINUE, 100);
    expect(rig.here).toBe('Tin/p1');
    // Everything before the position has been folded to its last value.
    expect(rig.sent.some(({ status, data1, data2 }) => status === 0xb0 && data1 === 20 && data2 === 119)).toBe(true);
    const before = rig.sent.length;
    send(CLOCK, 120);
    expect(rig.sent.slice(before).map(({ data1, data2 }) => [data1, data2])).toEqual([[20, 120]]);
  });

  it('gives the tempo while it comes: what is tapped meanwhile is refused, and counts when it is gone', () => {
    const { rig, send } = led();
    send(START, 0);
    const tap = (atMs: number): void => rig.feed({ type: 'perform', action: 'tapTempo' }, atMs);
    for (let i = 0; i <= 100; i++) {
      send(CLOCK, 10 + i * 25);
      if (i === 60 || i === 72 || i === 84) tap(11 + i * 25);
    }
    expect(rig.engine.tempoBpm).toBeCloseTo(100, 0);
    expect(rig.records.some((record) => record.type === 'warning' && record.code === 'clock-from-outside')).toBe(true);
    for (const atMs of [5000, 5300, 5600]) tap(atMs);
    expect(rig.engine.tempoBpm).toBeCloseTo(200, 0);
  });

  it('between two pulses an edit plays nothing again that the line has passed', () => {
    const { rig, send, until, passed } = led();
    send(START, 0);
    for (let i = 0; i <= 48; i++) {
      until(10 + i * 20);
      send(CLOCK, 10 + i * 20);
    }
    until(10 + 48 * 20 + 15);
    rig.edit('Tin', (s) => ({ ...s, cues: s.cues.slice(0, -200) }), 10 + 48 * 20 + 16);
    until(10 + 48 * 20 + 19);
    passed().forEach(({ tick }, i) => expect(tick).toBe(i * 20));
    expect(passed().at(-1)!.tick).toBeGreaterThan(48 * 40);
  });
});

describe('the clock that outputs get', () => {
  const PULSE_MS = 60_000 / 100 / 24;
  const tin = (cues: object[] = []) =>
    song('Tin', {
      map: steadyMap(100, { beats: 4, unit: 4 }, 16),
      layers: [layer('A')],
      patches: ['p0', 'p1'].map((id) => ({ id, name: id, parts: [part('A')] })),
      cues,
    });
  const rigWith = (out: object, over: object = {}): TestRig =>
    new TestRig([tin()], {
      gear: {
        ...GEAR,
        ports: [
          ...GEAR.ports.map((port) => (port.direction === 'out' ? { ...port, sendsClock: true, ...out } : port)),
          { direction: 'in', alias: 'Pilot', device: 'Pilot Cutter', plays: false },
        ],
        ...over,
      },
    });
  const until = (rig: TestRig, atMs: number): void => {
    for (let due = rig.engine.advance(rig.engine.nowMs); due <= atMs; due = rig.engine.advance(due));
    rig.engine.advance(atMs);
  };
  const words = (rig: TestRig): string[] =>
    rig.sent
      .filter(({ status }) => status >= 0xf0)
      .map(
        ({ atMs, status, data1 }) =>
          `${Math.round(atMs)} ${status.toString(16)}${status === POSITION ? ` ${data1}` : ''}`,
      );

  it('runs while the timeline stands, at the tempo that holds, where an output always gets it', () => {
    const rig = rigWith({});
    rig.engine.pulseWhileStanding();
    until(rig, 1000);
    const pulses = rig.sent.filter(({ status }) => status === CLOCK).map(({ atMs }) => atMs);
    expect(pulses.length).toBe(40);
    pulses.slice(1).forEach((atMs, i) => expect(atMs - pulses[i]).toBeCloseTo(PULSE_MS, 6));
    rig.sent.length = 0;
    rig.engine.perform('play', 1001);
    until(rig, 1030);
    expect(words(rig)).toEqual(['1001 fa', '1001 f8', '1026 f8']);
    rig.engine.perform('stop', 1030);
    rig.sent.length = 0;
    until(rig, 1080);
    // On from the last one.
    expect(words(rig)).toEqual(['1051 f8', '1076 f8']);
  });

  it('runs only while it plays where an output says so', () => {
    const rig = rigWith({ clockPulses: 'playing' });
    rig.engine.pulseWhileStanding();
    until(rig, 1000);
    expect(words(rig)).toEqual([]);
    rig.engine.perform('play', 1000);
    until(rig, 1030);
    expect(words(rig)).toEqual(['1000 fa', '1000 f8', '1025 f8']);
  });

  it('goes on through a count-in, and starts behind it', () => {
    const rig = rigWith({});
    rig.edit('Tin', (old) => ({ ...old, countInBars: 1 }), 0);
    rig.engine.pulseWhileStanding();
    until(rig, 1000);
    rig.sent.length = 0;
    rig.engine.perform('play', 1000);
    until(rig, 3430);
    const all = words(rig);
    expect(all.indexOf('3400 fa')).toBe(95);
    expect(all.slice(0, 95).every((word) => word.endsWith('f8'))).toBe(true);
    expect(all.slice(95)).toEqual(['3400 fa', '3400 f8', '3425 f8']);
  });

  it('sends no pulses for the time in which the machine slept', () => {
    const rig = rigWith({});
    rig.engine.pulseWhileStanding();
    until(rig, 1000);
    rig.sent.length = 0;
    rig.engine.advance(9_000_000);
    expect(words(rig)).toEqual([]);
    until(rig, 9_000_060);
    expect(words(rig)).toEqual(['9000025 f8', '9000050 f8']);
  });

  it('where a loop goes back tells the position, or goes on with pulses alone', () => {
    const loops = (out: object): string[] => {
      const rig = rigWith({ clockPulses: 'playing', ...out });
      rig.feed({ type: 'loop', range: { fromTick: 960, toTick: 1920 } }, 0);
      rig.engine.perform('play', 0);
      until(rig, 1199);
      rig.sent.length = 0;
      until(rig, 1230);
      return words(rig);
    };
    expect(loops({})).toEqual(['1200 fc', '1200 f2 4', '1200 fb', '1200 f8', '1225 f8']);
    expect(loops({ clockAtLoop: 'pulses' })).toEqual(['1200 f8', '1225 f8']);
  });

  it('starts off the grid with the next sixteenth', () => {
    const rig = rigWith({ clockPulses: 'playing' });
    rig.feed({ type: 'locate', tick: 1000 }, 0);
    rig.engine.perform('play', 100);
    until(rig, 260);
    // A sixteenth is 150 ms, 1000 ticks are 40 beyond the fourth: the fifth comes 200 ticks later.
    expect(words(rig)).toEqual(['100 f2 5', '100 fb', '225 f8', '250 f8']);
  });

  it('that follows another one is sent on from its line, evenly, and never back to where it comes from', () => {
    const rig = rigWith({ clockPulses: 'playing' }, { clockFrom: 'Pilot' });
    const pilot = rig.port('Pilot Cutter');
    const noise = [1.5, -1.2, 0.3, -0.8, 1.9, -1.9];
    const send = (status: number, atMs: number): void => {
      until(rig, atMs);
      rig.engine.receive(pilot, status, 0, 0, atMs);
    };
    for (let i = 0; i < 100; i++) send(CLOCK, 1000 + i * PULSE_MS + noise[i % 6]);
    send(START, 1000 + 99.5 * PULSE_MS);
    for (let i = 100; i < 200; i++) send(CLOCK, 1000 + i * PULSE_MS + noise[i % 6]);
    send(STOP, 1000 + 199.5 * PULSE_MS);
    const told = rig.sent.filter(({ status }) => status >= 0xf8);
    expect(told.map(({ status }) => status)).toEqual([START, ...Array<number>(100).fill(CLOCK), STOP]);
    const pulses = told.filter(({ status }) => status === CLOCK).map(({ atMs }) => atMs);
    // The first comes with its pulse, the rest on the line.
    for (let i = 4; i < 100; i++) expect(Math.abs(pulses[i] - 1000 - (100 + i) * PULSE_MS)).toBeLessThan(1);
    const back = rigWith({ device: 'Pilot Cutter' }, { clockFrom: 'Pilot' });
    back.engine.perform('play', 0);
    until(back, 500);
    expect(words(back)).toEqual([]);
  });
});

describe('what another player calls while the timeline runs', () => {
  const tin = song('Tin', {
    map: steadyMap(120, { beats: 4, unit: 4 }, 8),
    layers: [layer('A')],
    patches: ['p0', 'p1', 'p2'].map((id) => ({ id, name: id, parts: [part('A')] })),
    cues: [
      { kind: 'recall', id: 'c1', atTick: 3840, patchId: 'p1' },
      { kind: 'recall', id: 'c2', atTick: 7680, patchId: 'p2' },
    ],
  });
  /** Plays with programs (0: the first patch) at times, in ms. */
  const called = (programs: readonly (readonly [atMs: number, program: number])[]) => {
    const rig = new TestRig([tin], {
      setlist: {
        programs: [0, 1, 2].map((program) => ({ program, target: { songId: 'Tin', patchId: `p${program}` } })),
      },
    });
    rig.engine.perform('play', 0);
    // Whether somebody watches or not.
    rig.engine.observer = programs.length === 2 ? null : { record: (record) => rig.records.push(record) };
    for (const [atMs, program] of programs) rig.engine.receive(rig.port('Cobble 25'), 0xc0, program, 0, atMs);
    rig.engine.advance(6000);
    return rig;
  };

  it('is listed; what a cue recalls within a beat of it, before or after, fires twice', () => {
    const rig = called([
      [1000, 2],
      [2300, 1],
      [3700, 2],
    ]);
    expect(rig.engine.calls).toEqual([
      { port: 'Lower', position: 2, tick: 1920, cueTick: null },
      { port: 'Lower', position: 1, tick: 4416, cueTick: 3840 },
      { port: 'Lower', position: 2, tick: 7104, cueTick: 7680 },
    ]);
    expect(rig.records.filter(({ type }) => type === 'twice')).toEqual([
      { type: 'twice', atMs: 2300, port: 'Lower', position: 1, tick: 3840 },
      { type: 'twice', atMs: 4000, port: 'Lower', position: 2, tick: 7680 },
    ]);
  });

  it('just ahead of the start belongs to what is started', () => {
    const rig = called([]);
    rig.engine.perform('stop', 6000);
    rig.feed({ type: 'locate', tick: 3840 }, 6000);
    rig.engine.receive(rig.port('Cobble 25'), 0xc0, 1, 0, 7000);
    rig.engine.perform('play', 7010);
    rig.engine.advance(7020);
    expect(rig.engine.calls).toEqual([{ port: 'Lower', position: 1, tick: 3840, cueTick: 3840 }]);
  });

  it('is no matter where it is more than a beat away, goes elsewhere, or comes while the timeline stands', () => {
    const rig = called([
      [1400, 1],
      [2100, 0],
    ]);
    expect(rig.engine.calls.map(({ port, cueTick }) => `${port} ${cueTick}`)).toEqual(['Lower null', 'Lower null']);
    rig.engine.perform('stop', 6000);
    rig.engine.receive(rig.port('Cobble 25'), 0xc0, 1, 0, 6100);
    expect(rig.engine.calls.length).toBe(2);
    // The next run begins a list of its own.
    rig.engine.advance(7000);
    rig.engine.perform('play', 7100);
    expect(rig.engine.calls).toEqual([]);
  });
});
