import { beforeEach, describe, expect, it } from '@jest/globals';
import { PlayedShow } from '@rackle/core/engine';
import { Show, type OutboardInstrument } from '@rackle/core/show';
import demo from '../../demo/tern-ledge.json';
import { Bench } from '../src/host/bench/Bench';
import { browserMemory, type BenchKept, type BenchMemory } from '../src/host/bench/memory';
import type { BenchGesture } from '../src/protocol';
import type { OutPort } from '../src/host/ports/port';

const playedFrom = (show: Show): PlayedShow => {
  const played = new PlayedShow();
  played.start(show, show.setlists[0].id);
  return played;
};

/** A clock that stands until it is moved. */
class StandingClock {
  nowMs = 0;
  private waiting: { atMs: number; act: () => void }[] = [];

  readonly after = (delayMs: number, act: () => void): (() => void) => {
    const entry = { atMs: this.nowMs + Math.max(0, delayMs), act };
    this.waiting.push(entry);
    return () => {
      this.waiting = this.waiting.filter((other) => other !== entry);
    };
  };

  pass(ms: number): void {
    const endMs = this.nowMs + ms;
    for (;;) {
      const [due] = this.waiting.filter((entry) => entry.atMs <= endMs).sort((a, b) => a.atMs - b.atMs);
      if (!due) break;
      this.waiting = this.waiting.filter((other) => other !== due);
      this.nowMs = Math.max(this.nowMs, due.atMs);
      due.act();
    }
    this.nowMs = endMs;
  }
}

let clock: StandingClock;
let bench: Bench;
let sent: { port: string; bytes: number[]; atMs: number }[];
let outputs: Map<string, OutPort>;
const inputs = new Set<string>();

beforeEach(() => {
  clock = new StandingClock();
  sent = [];
  outputs = new Map();
  inputs.clear();
  bench = new Bench(
    {
      onMessage: (port, status, data1, data2, atMs) => sent.push({ port, bytes: [status, data1, data2], atMs }),
      onSysex: () => undefined,
      onInput: ({ name }, here) => {
        if (here) inputs.add(name);
        else inputs.delete(name);
      },
      onOutput: (port, here) => {
        if (here) outputs.set(port.name, port);
        else outputs.delete(port.name);
      },
    },
    () => clock.nowMs,
    clock.after,
    () => undefined,
  );
  bench.plugAll();
});

/** What a gesture makes the bench send. */
const after = (...gestures: BenchGesture[]): number[][] => {
  const before = sent.length;
  for (const gesture of gestures) bench.do(gesture);
  return sent.slice(before).map(({ bytes }) => bytes);
};
const treadle = (pedal: number): BenchGesture => ({ kind: 'pedal', device: 'Treadle 6', pedal });
const clack = (down: boolean): BenchGesture => ({ kind: 'pedal', device: 'Clack 2', pedal: 0, down });

describe('Treadle 6', () => {
  it('sends its own numbers page by page, and never the address again that it sent last', () => {
    expect(after(treadle(2))).toEqual([[0xc0, 2, 0]]);
    expect(after(treadle(2))).toEqual([]);
    expect(after({ kind: 'page', device: 'Treadle 6', direction: 1 }, treadle(2), treadle(0))).toEqual([
      [0xc0, 8, 0],
      [0xc0, 6, 0],
    ]);
    expect(bench.state().treadle.lit).toBe(6);
  });

  it('sends what is written into it, bank bytes first; an empty button is silent', () => {
    const button = { page: 1, button: 1, channel: 3, msb: 0, lsb: 1, program: 40 };
    expect(
      after(
        { kind: 'write', device: 'Treadle 6', buttons: [button, { ...button, button: 2, msb: null, lsb: null }] },
        treadle(0),
      ),
    ).toEqual([
      [0xb2, 0, 0],
      [0xb2, 32, 1],
      [0xc2, 40, 0],
    ]);
    expect(after(treadle(1))).toEqual([[0xc2, 40, 0]]);
    expect(after(treadle(2))).toEqual([]);
  });

  it('stays between its first and last page', () => {
    after({ kind: 'page', device: 'Treadle 6', direction: -1 });
    expect(bench.state().treadle.page).toBe(0);
    for (let i = 0; i < 40; i++) after({ kind: 'page', device: 'Treadle 6', direction: 1 });
    expect(bench.state().treadle.page).toBe(21);
    // The last page has only two numbers left under 128.
    expect(after(treadle(1), treadle(2))).toEqual([[0xc0, 127, 0]]);
  });
});

describe('Updown 2', () => {
  it('counts for itself and wraps, so that up from the highest is a lower number', () => {
    const step = (direction: 1 | -1): BenchGesture[] =>
      [true, false].map((down) => ({ kind: 'switch', device: 'Updown 2', direction, down }));
    expect(after(...step(-1), ...step(1), ...step(1))).toEqual([
      [0xc0, 9, 0],
      [0xc0, 0, 0],
      [0xc0, 1, 0],
    ]);
  });

  it('repeats while it is held, after half a second, and no longer', () => {
    bench.do({ kind: 'switch', device: 'Updown 2', direction: 1, down: true });
    clock.pass(499);
    expect(sent).toHaveLength(1);
    clock.pass(301);
    expect(sent.map(({ atMs }) => atMs)).toEqual([0, 500, 650, 800]);
    bench.do({ kind: 'switch', device: 'Updown 2', direction: 1, down: false });
    clock.pass(2000);
    expect(sent).toHaveLength(4);
  });
});

describe('pedals and pads', () => {
  it('Clack 2 sends down and up, or when it latches the other value at each press', () => {
    expect(after(clack(true), clack(true), clack(false))).toEqual([
      [0xb0, 80, 127],
      [0xb0, 80, 0],
    ]);
    expect(
      after({ kind: 'latching', device: 'Clack 2', on: true }, clack(true), clack(false), clack(true), clack(false)),
    ).toEqual([
      [0xb0, 80, 127],
      [0xb0, 80, 0],
    ]);
  });

  it('Heel 1 is wired the other way round, and is silent while its value stays', () => {
    expect(
      after(
        { kind: 'heel', device: 'Heel 1', stands: 1 },
        { kind: 'heel', device: 'Heel 1', stands: 0.999 },
        { kind: 'heel', device: 'Heel 1', stands: -3 },
      ),
    ).toEqual([
      [0xb0, 11, 0],
      [0xb0, 11, 127],
    ]);
  });

  it('Creaker trembles by a step or two around where it stands, until it is left alone', () => {
    bench.do({ kind: 'heel', device: 'Creaker', stands: 0.5 });
    bench.do({ kind: 'tremble', device: 'Creaker', on: true });
    clock.pass(1000);
    bench.do({ kind: 'tremble', device: 'Creaker', on: false });
    const values = sent.map(({ bytes }) => bytes[2]);
    clock.pass(1000);
    expect(sent).toHaveLength(values.length);
    expect(values.length).toBeGreaterThan(12);
    expect(new Set(values)).toEqual(new Set([64, 65, 66]));
  });

  it('Keg 4 ends each hit by itself', () => {
    bench.do({ kind: 'hit', device: 'Keg 4', pad: 3, zone: 'rim', velocity: 99 });
    clock.pass(60);
    expect(sent.map(({ bytes, atMs }) => [...bytes, atMs])).toEqual([
      [0x99, 47, 99, 0],
      [0x89, 47, 0, 60],
    ]);
  });

  it('Cobble 25 turns its endless knobs in three codings', () => {
    const turned = (knob: number, value: number): number[] =>
      after({ kind: 'knob', device: 'Cobble 25', knob, value })[0];
    expect([turned(4, -2), turned(6, -2), turned(7, -2)]).toEqual([
      [0xb0, 24, 126],
      [0xb0, 26, 62],
      [0xb0, 27, 66],
    ]);
    expect([turned(4, 1), turned(6, 1), turned(7, 1)]).toEqual([
      [0xb0, 24, 3],
      [0xb0, 26, 67],
      [0xb0, 27, 3],
    ]);
    expect(turned(0, 300)).toEqual([0xb0, 20, 127]);
  });
});

describe('what is unplugged', () => {
  it('sends nothing, and both ports of Aster 73 hang on one cable', () => {
    bench.do({ kind: 'plug', device: 'Aster 73', plugged: false });
    expect([inputs.has('Aster 73'), inputs.has('Aster 73, second port'), inputs.has('Cobble 25')]).toEqual([
      false,
      false,
      true,
    ]);
    expect(after({ kind: 'key', device: 'Aster 73', key: 60, velocity: 90 })).toEqual([]);
    bench.do({ kind: 'plug', device: 'Aster 73', plugged: true });
    expect(after({ kind: 'key', device: 'Aster 73', key: 60, velocity: 90 })).toEqual([
      [0x90, 60, 90],
      [0x90, 60, 90],
    ]);
    expect(bench.state().unplugged).toEqual([]);
  });
});

describe('what is sent to', () => {
  it('Skerry says by name what is selected, and that it still switches', () => {
    const show = Show.parse(demo);
    bench.know(playedFrom(show));
    const skerry = outputs.get('Skerry')!;
    const names = show.instruments.find(
      (instrument): instrument is OutboardInstrument => instrument.kind === 'outboard',
    )!.names;
    const chosen = names.find((name) => (name.lsb ?? 0) === 1)!;
    skerry.send(0xb4, 0, 0, 0);
    skerry.send(0xb4, 32, 1, 0);
    skerry.send(0xc4, chosen.program!, 0, 0);
    expect(bench.state().skerry.channels).toEqual([
      { channel: 5, name: chosen.name, bank: 'Outer bank', program: chosen.program, switching: true },
    ]);
    clock.pass(181);
    expect(bench.state().skerry.channels[0].switching).toBe(false);
  });

  it('keeps only the last lines, whatever they were', () => {
    for (let i = 0; i < 40; i++) {
      outputs.get('Skerry')!.sendSysex(new Uint8Array(8));
      outputs.get('Beacon')!.sendSysex(new Uint8Array(8));
    }
    expect([bench.state().skerry.heard, bench.state().beacon.heard].map(({ length }) => length)).toEqual([12, 6]);
  });

  it('Skerry counts its held notes, and lets them go when told to', () => {
    const skerry = outputs.get('Skerry')!;
    skerry.send(0x90, 60, 90, 0);
    skerry.send(0x91, 60, 90, 0);
    expect(bench.state().skerry.held).toBe(2);
    skerry.send(0xb0, 123, 0, 0);
    expect(bench.state().skerry.held).toBe(1);
  });

  it('ahead of its time arrives at its time, in the order of the times', () => {
    const skerry = outputs.get('Skerry')!;
    skerry.send(0x90, 60, 90, clock.nowMs + 60);
    skerry.send(0x90, 62, 90, clock.nowMs + 40);
    expect(bench.state().skerry.held).toBe(0);
    clock.pass(41);
    expect(bench.state().skerry.held).toBe(1);
    // An end at its moment does not come before its beginning, though the clock of the device is late.
    clock.nowMs += 30;
    skerry.send(0x80, 60, 0, clock.nowMs);
    clock.pass(50);
    expect(bench.state().skerry.held).toBe(1);
  });

  it('Beacon lights and dims its fields', () => {
    const beacon = outputs.get('Beacon')!;
    beacon.send(0x90, 61, 100, 0);
    beacon.send(0xb0, 7, 40, 0);
    expect(bench.state().beacon).toMatchObject({ fields: [false, true, false, false], brightness: 40 });
    beacon.send(0x80, 61, 0, 0);
    expect(bench.state().beacon.fields).toEqual([false, false, false, false]);
  });
});

describe('Pilot Cutter', () => {
  it('plays a song with its calls at their times, clock between start and stop, and goes on where it stopped', () => {
    const show = Show.parse(demo);
    const song = show.songs.find((candidate) => candidate.cues.length > 1)!;
    const setlist = show.setlists[0];
    const entry = setlist.entries.find((candidate) => candidate.kind === 'song' && candidate.songId === song.id)!;
    bench.know(playedFrom(show));
    bench.do({ kind: 'song', device: 'Pilot Cutter', entryId: entry.id });
    bench.do({ kind: 'play', device: 'Pilot Cutter' });
    // The call goes ahead of the start.
    expect(sent.slice(0, 4).map(({ bytes }) => bytes[0])).toEqual([0xb0, 0xb0, 0xc0, 0xfa]);
    clock.pass(1000);
    const pulses = sent.filter(({ bytes }) => bytes[0] === 0xf8);
    expect(Math.abs(pulses.length - (song.map.tempos[0].bpm * 24) / 60)).toBeLessThanOrEqual(1);
    bench.do({ kind: 'stop', device: 'Pilot Cutter' });
    expect(sent.at(-1)!.bytes[0]).toBe(0xfc);
    const stopped = sent.length;
    clock.pass(1000);
    expect(sent).toHaveLength(stopped);
    bench.do({ kind: 'play', device: 'Pilot Cutter' });
    expect(
      sent
        .slice(stopped)
        .map(({ bytes }) => bytes[0])
        .filter((status) => status === 0xf2 || status === 0xfb),
    ).toEqual([0xf2, 0xfb]);
    clock.pass(60_000 * 10);
    const calls = sent.filter(({ bytes }) => bytes[0] === 0xc0).map(({ bytes }) => bytes[1]);
    const numbers = [...song.cues]
      .sort((a, b) => a.atTick - b.atTick)
      .flatMap((cue) => (cue.kind === 'recall' ? [cue] : []))
      .flatMap((cue) =>
        setlist.programs
          .filter(
            ({ target }) =>
              target.songId === song.id && target.patchId === cue.patchId && target.blendId === cue.blendId,
          )
          .slice(0, 1)
          .map((line) => line.program),
      );
    expect(numbers.length).toBeGreaterThan(1);
    // The first once more, since it goes ahead of the continuing too.
    expect(calls.slice(-numbers.length + 1)).toEqual(numbers.slice(1));
    expect(bench.state().pilot.playing).toBe(false);
  });

  it('with its calls switched off only its clock leads', () => {
    const show = Show.parse(demo);
    const song = show.songs.find((candidate) => candidate.cues.length > 1)!;
    const entry = show.setlists[0].entries.find((one) => one.kind === 'song' && one.songId === song.id)!;
    bench.know(playedFrom(show));
    bench.do({ kind: 'song', device: 'Pilot Cutter', entryId: entry.id });
    bench.do({ kind: 'calls', device: 'Pilot Cutter', on: false });
    bench.do({ kind: 'play', device: 'Pilot Cutter' });
    clock.pass(60_000 * 10);
    expect(sent.some(({ bytes }) => bytes[0] === 0xc0)).toBe(false);
    expect(sent.filter(({ bytes }) => bytes[0] === 0xf8).length).toBeGreaterThan(1000);
    expect(bench.state().pilot).toMatchObject({ sendsClock: true, sendsCalls: false });
  });
});

describe('what devices keep when they are switched off', () => {
  const benchWith = (memory: BenchMemory): Bench =>
    new Bench(
      { onMessage: () => undefined, onSysex: () => undefined, onInput: () => undefined, onOutput: () => undefined },
      () => clock.nowMs,
      clock.after,
      () => undefined,
      memory,
    );
  const button = { page: 1, button: 1, channel: 2, msb: 0, lsb: 1, program: 9 };

  it('is what was written into them, and the switch at the back', () => {
    let kept: BenchKept = { buttons: [], latching: false };
    const memory: BenchMemory = { read: () => kept, write: (next) => (kept = next) };
    const before = benchWith(memory);
    before.do({ device: 'Treadle 6', kind: 'write', buttons: [button] });
    before.do({ device: 'Clack 2', kind: 'latching', on: true });
    const after = benchWith(memory).state();
    expect([after.treadle.written, after.treadle.pedals[0], after.clack.latching]).toEqual([true, button, true]);
  });

  it('stands in the browser; what cannot be read there is as from the factory', () => {
    const store = new Map<string, string>();
    Object.defineProperty(globalThis, 'localStorage', {
      configurable: true,
      value: {
        getItem: (key: string) => store.get(key) ?? null,
        setItem: (key: string, text: string) => void store.set(key, text),
      },
    });
    browserMemory.write({ buttons: [button], latching: true });
    expect(browserMemory.read()).toEqual({ buttons: [button], latching: true });
    for (const text of ['{', 'null', '{"buttons":[{"page":0}]}', '{"buttons":7}']) {
      store.set('rackle.bench', text);
      expect(browserMemory.read()).toEqual({ buttons: [], latching: false });
    }
  });
});
