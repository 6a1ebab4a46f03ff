import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { packed } from '../src/midi';
import { GEAR, TestRig, layer, part, song, type Sent } from './build';

/** At 125 a minute a tick is half a millisecond. */
const MAP = {
  tempos: [
    { atTick: 0, bpm: 125 },
    { atTick: 3840, bpm: 90, ramp: true },
  ],
  meters: [{ bar: 1, beats: 4, unit: 4 }],
  bars: 4,
};
const LOUD = {
  ...GEAR,
  ports: GEAR.ports.map((port) => (port.direction === 'out' ? { ...port, sendsClock: true } : port)),
};
const CLICKED = {
  ...LOUD,
  click: { on: true, to: { kind: 'port', port: 'Skerry', channel: 10, accentKey: 34, key: 33 } },
};
/** The same with what the timeline sends later by so much. */
const later = (offsetMs: number | null) => ({
  ...CLICKED,
  ports: CLICKED.ports.map((port) => (port.direction === 'out' ? { ...port, offsetMs } : port)),
});

interface Note {
  atTick: number;
  lengthTicks: number;
  key: number;
}
const messagesOf = (notes: readonly Note[]) =>
  notes
    .flatMap(({ atTick, lengthTicks, key }) => [
      { atTick, status: 0x90, data1: key, data2: 90 },
      { atTick: atTick + lengthTicks, status: 0x80, data1: key, data2: 20 },
      { atTick, status: 0xb0, data1: 11, data2: key },
    ])
    .sort((a, b) => a.atTick - b.atTick || a.status - b.status);
const played = (notes: readonly Note[], cues: readonly object[] = []) =>
  song('Tin', {
    layers: [layer('A'), layer('S', { preset: 'sk0' })],
    patches: ['p0', 'p1'].map((id) => ({ id, name: id, parts: [part('A'), part('S')] })),
    map: MAP,
    cues,
    backing: [
      {
        id: 'b',
        name: 'Drone',
        to: { kind: 'port', port: 'Skerry', channel: 1 },
        events: packed([...messagesOf(notes)]),
      },
    ],
  });

/** Plays with everything handed over as early as a host that wakes now and then may. */
class AheadRig extends TestRig {
  /** How far ahead of the present each message was handed over, in ms. */
  ahead?: number[];
  override send(destination: number, status: number, data1: number, data2: number, clock: Float64Array): void {
    super.send(destination, status, data1, data2, clock);
    // The first messages come while it is being put together.
    (this.ahead ??= []).push(clock[0] - (this.nowMs ?? 0));
  }
  nowMs?: number;
  /** Lets time pass: wakes when asked to, or only every so often. */
  until(atMs: number, hands = true): void {
    let nowMs = this.nowMs ?? 0;
    for (;;) {
      this.nowMs = nowMs;
      const due = this.engine.advance(nowMs);
      const next = Math.min(due, hands ? this.engine.handAhead(nowMs) : Infinity);
      if (next > atMs) break;
      nowMs = Math.max(nowMs, next);
    }
    this.nowMs = atMs;
    this.engine.advance(atMs);
  }
}

const note = fc.record({
  atTick: fc.integer({ min: 0, max: 15_000 }),
  lengthTicks: fc.integer({ min: 1, max: 1500 }),
  key: fc.integer({ min: 58, max: 64 }),
});
const cue = fc.oneof(
  fc.record({
    kind: fc.constant('recall'),
    atTick: fc.integer({ min: 0, max: 15_000 }),
    patchId: fc.constantFrom('p0', 'p1'),
  }),
  fc.record({
    kind: fc.constant('program'),
    atTick: fc.integer({ min: 0, max: 15_000 }),
    port: fc.constant('Skerry'),
    channel: fc.constantFrom(1, 2),
    program: fc.integer({ min: 0, max: 3 }),
  }),
  fc.record({
    kind: fc.constant('controller'),
    atTick: fc.integer({ min: 0, max: 12_000 }),
    port: fc.constant('Skerry'),
    channel: fc.constantFrom(1, 2),
    controller: fc.constantFrom(7, 64),
    value: fc.integer({ min: 0, max: 127 }),
    ramp: fc.constantFrom(null, { lengthTicks: 900, toValue: 100, curve: 0 }),
  }),
);
const press = fc.record({
  pauseMs: fc.integer({ min: 1, max: 300 }),
  key: fc.integer({ min: 58, max: 64 }),
  lengthMs: fc.integer({ min: 1, max: 200 }),
});

/** In the order in which it goes out; what is stamped alike in an order of its own. */
const onTheWire = (sent: readonly Sent[]): string[] =>
  sent
    .map(({ to, status, data1, data2, atMs }) => ({
      atMs: Math.round(atMs * 1000) / 1000,
      words: `${to} ${status} ${data1} ${data2}`,
    }))
    .sort((a, b) => a.atMs - b.atMs || (a.words < b.words ? -1 : 1))
    .map(({ atMs, words }) => `${atMs} ${words}`);

describe('what is handed over ahead', () => {
  it('has the same times and goes out in the same order as what goes at its moment, with hands in between', () => {
    let ahead = 0;
    fc.assert(
      fc.property(
        fc.array(note, { maxLength: 60 }),
        fc.array(cue, { maxLength: 8 }),
        fc.array(press, { maxLength: 12 }),
        fc.constantFrom(0, 0, 7, 30.5, 100),
        (notes, cues, presses, offsetMs) => {
          const tin = played(
            notes,
            cues.map((each, i) => ({ id: `c${i}`, ...each })),
          );
          const streams = [true, false].map((hands) => {
            const rig = new AheadRig([tin], { gear: later(offsetMs) });
            rig.engine.perform('play', 0);
            let atMs = 0.25;
            for (const { pauseMs, key, lengthMs } of presses) {
              atMs += pauseMs;
              rig.until(atMs, hands);
              rig.on(key, atMs);
              rig.until(atMs + lengthMs, hands);
              rig.engine.receive(rig.port('Aster 73'), 0x80, key, 0, atMs + lengthMs);
              atMs += lengthMs;
            }
            rig.until(20_000, hands);
            if (hands) ahead += rig.ahead!.filter((ms) => ms > 0).length;
            expect(Math.max(0, ...rig.ahead!)).toBeLessThanOrEqual((hands ? 100 : 0) + offsetMs + 1e-6);
            return onTheWire(rig.sent);
          });
          expect(streams[0]).toEqual(streams[1]);
        },
      ),
      { seed: 20_261_129, numRuns: 90 },
    );
    expect(ahead).toBeGreaterThan(3000);
  });

  it('leaves nothing sounding after stops, jumps, loops, panics, edits and pulled ports in the middle of it', () => {
    const act = fc.record({
      pauseMs: fc.integer({ min: 1, max: 700 }),
      what: fc.constantFrom('stop', 'play', 'locate', 'jump', 'loop', 'panic', 'edit', 'undo', 'cable', 'hand'),
      tick: fc.integer({ min: 0, max: 14_000 }),
    });
    fc.assert(
      fc.property(
        fc.array(note, { minLength: 20, maxLength: 60 }),
        fc.array(act, { maxLength: 20 }),
        fc.constantFrom(0, 9, 80),
        (notes, acts, offsetMs) => {
          const rig = new AheadRig([played(notes)], { gear: later(offsetMs) });
          rig.engine.perform('play', 0);
          let atMs = 0;
          let isHere = true;
          for (const { pauseMs, what, tick } of acts) {
            atMs += pauseMs;
            rig.until(atMs);
            if (what === 'stop' || what === 'play' || what === 'panic') rig.engine.perform(what, atMs);
            else if (what === 'locate') rig.feed({ type: 'locate', tick }, atMs);
            else if (what === 'jump') rig.feed({ type: 'jump', toTick: tick, at: 'beat' }, atMs);
            else if (what === 'loop') rig.feed({ type: 'loop', range: { fromTick: tick, toTick: tick + 1000 } }, atMs);
            else if (what === 'edit') rig.edit('Tin', () => played(notes.filter((_, i) => (i + tick) % 3 > 0)), atMs);
            else if (what === 'undo') rig.edit('Tin', () => played(notes), atMs);
            else if (what === 'cable') {
              isHere = !isHere;
              rig.feed({ type: 'output', device: 'Skerry', here: isHere }, atMs);
            } else {
              rig.on(58 + (tick % 7), atMs);
              rig.until(atMs + 30);
              rig.engine.receive(rig.port('Aster 73'), 0x80, 58 + (tick % 7), 0, atMs + 30);
              atMs += 30;
            }
          }
          rig.until(atMs + 40);
          if (!isHere) rig.feed({ type: 'output', device: 'Skerry', here: true }, atMs + 40);
          rig.until(atMs + 80);
          rig.engine.perform('stop', atMs + 80);
          rig.until(atMs + 400);
          const keys = new Map<string, boolean>();
          for (const { status, data1 } of rig.sent
            .map((sent, i) => ({ ...sent, i }))
            .sort((a, b) => a.atMs - b.atMs || a.i - b.i))
            if ((status & 0xe0) === 0x80) keys.set(`${status & 15} ${data1}`, (status & 0x10) !== 0);
          expect([...keys].filter(([, on]) => on)).toEqual([]);
        },
      ),
      { seed: 20_261_129, numRuns: 150 },
    );
  });

  it('ends a note that was stopped before its time behind it, and sends its values no second time', () => {
    const rig = new AheadRig([played([{ atTick: 100, lengthTicks: 960, key: 60 }])]);
    rig.sent.length = 0;
    rig.engine.perform('play', 0);
    rig.until(20);
    const words = () =>
      rig.sent
        .filter(({ status }) => (status & 15) === 0)
        .map(({ atMs, status, data1, data2 }) => `${Math.round(atMs)} ${status.toString(16)} ${data1} ${data2}`);
    expect(words()).toEqual(['50 90 60 90', '50 b0 11 60']);
    rig.engine.perform('stop', 20);
    expect(words().slice(2)).toEqual(['20 80 60 20', '51 80 60 20']);
    // It goes on where it was stopped, before all that.
    rig.until(200);
    rig.engine.perform('play', 200);
    rig.until(600);
    expect(words().slice(4)).toEqual(['200 b0 11 127', '230 90 60 90', '230 b0 11 60']);
  });

  it('a stop does not cut the key that a hand has pressed meanwhile; released, it ends all', () => {
    const rig = new AheadRig([played([{ atTick: 100, lengthTicks: 960, key: 60 }])]);
    rig.engine.perform('play', 0);
    rig.until(10);
    rig.sent.length = 0;
    rig.on(60, 15);
    rig.engine.perform('stop', 20);
    rig.until(300);
    const keys = () =>
      rig.sent.filter(({ to, status, data1 }) => to === 'Skerry' && (status & 0xef) === 0x80 && data1 === 60);
    expect(keys().map(({ atMs, status }) => `${atMs} ${status.toString(16)}`)).toEqual(['15 90']);
    rig.engine.receive(rig.port('Aster 73'), 0x80, 60, 0, 300);
    expect(keys().map(({ atMs, status }) => `${atMs} ${status.toString(16)}`)).toEqual(['15 90', '300 80', '300 80']);
  });

  it('an edit keeps what is on its way: it sounds once, and what was taken out ends', () => {
    const both = [
      { atTick: 100, lengthTicks: 960, key: 60 },
      { atTick: 120, lengthTicks: 960, key: 62 },
    ];
    const rig = new AheadRig([played(both)]);
    rig.engine.perform('play', 0);
    rig.until(20);
    rig.sent.length = 0;
    rig.edit('Tin', () => played(both.slice(0, 1)), 30);
    rig.until(700);
    expect(
      rig.sent
        .filter(({ status }) => (status & 0xe0) === 0x80)
        .map(({ atMs, status, data1 }) => `${Math.round(atMs)} ${status.toString(16)} ${data1}`),
    ).toEqual(['30 80 62', '61 80 62', '530 80 60']);
  });

  it('sends later by what an output is later, ends too; recalls and hands at once, and nothing stays behind a recall', () => {
    const notes = [
      { atTick: 100, lengthTicks: 400, key: 60 },
      { atTick: 1900, lengthTicks: 900, key: 62 },
    ];
    const cues = [{ id: 'c', kind: 'program', atTick: 1920, port: 'Skerry', channel: 1, program: 3 }];
    const heard = (offsetMs: number | null, delayMs: number, hands: boolean): string[] => {
      const rig = new AheadRig([played(notes, cues)], { gear: later(offsetMs) });
      rig.feed({ type: 'soundDelay', delayMs }, 0);
      rig.engine.perform('play', 0);
      rig.sent.length = 0;
      rig.until(1500, hands);
      return rig.sent
        .filter(
          ({ to, status, data1 }) => to === 'Skerry' && (status === 0xc0 || ((status & 0xef) === 0x80 && data1 > 50)),
        )
        .map(({ atMs, status }) => `${Math.round(atMs)} ${status.toString(16)}`)
        .sort((a, b) => parseFloat(a) - parseFloat(b));
    };
    for (const hands of [true, false]) {
      expect(heard(0, 24, hands)).toEqual(['50 90', '250 80', '950 90', '960 c0', '1400 80']);
      expect(heard(30, 24, hands)).toEqual(['80 90', '280 80', '960 90', '960 c0', '1430 80']);
      expect(heard(null, 24, hands)).toEqual(['74 90', '274 80', '960 90', '960 c0', '1424 80']);
      expect(heard(null, NaN, hands)).toEqual(heard(0, 0, hands));
    }
  });

  it('a jump sends the next sixteenth that the pulses already on their way leave room for', () => {
    const rig = new AheadRig([played([])], { gear: LOUD });
    rig.engine.perform('play', 0);
    rig.until(500);
    rig.sent.length = 0;
    rig.feed({ type: 'locate', tick: 3840 }, 500);
    rig.until(900);
    const words = rig.sent.map(({ atMs, status, data1 }) => ({ atMs, status, data1 }));
    const position = words.find(({ status }) => status === 0xf2)!;
    const goesOn = words.find(({ status }) => status === 0xfb)!;
    const pulses = words.filter(({ status, atMs }) => status === 0xf8 && atMs > goesOn.atMs);
    // A sixteenth lasts 166.7 ms at 90: the first behind the pulses that were handed over up to 100 ms ahead.
    expect(position.data1).toBe(17);
    expect(pulses[0].atMs).toBeCloseTo(500 + 60_000 / 90 / 4, 6);
    expect(pulses[0].atMs - goesOn.atMs).toBeGreaterThanOrEqual(1);
    expect(words.filter(({ status, atMs }) => status === 0xf8 && atMs > 500 && atMs < goesOn.atMs)).toEqual([]);
  });
});
