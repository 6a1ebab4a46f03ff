import type { ControlKind, HeardMessage } from '../src/controls';
import type { ControlSource } from '../src/show';

/** Random numbers from a seed, the same every time (mulberry32). */
export function seeded(seed: number): () => number {
  let state = seed >>> 0;
  return () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let mixed = Math.imul(state ^ (state >>> 15), 1 | state);
    mixed = (mixed + Math.imul(mixed ^ (mixed >>> 7), 61 | mixed)) ^ mixed;
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 2 ** 32;
  };
}

type Random = () => number;
type Wire = [atMs: number, status: number, data1: number, data2: number];

/**
 * One gesture on one control, as gear of that kind sends it: times from 0, with the small unevenness of hands and feet.
 */
export interface Gesture {
  name: string;
  kind: ControlKind;
  port: string;
  expected: Partial<ControlSource>;
  play: (random: Random) => Wire[];
}

const between = (random: Random, low: number, high: number): number => low + random() * (high - low);
const whole = (random: Random, low: number, high: number): number => Math.floor(between(random, low, high + 1));

/** Presses of a switch: down and up in turn, `times` over. */
const presses = (
  random: Random,
  times: number,
  down: (atMs: number) => Wire[],
  up: (atMs: number) => Wire[],
): Wire[] => {
  const wires: Wire[] = [];
  let at = 0;
  for (let i = 0; i < times; i++) {
    wires.push(...down(at));
    at += between(random, 70, 260);
    wires.push(...up(at));
    at += between(random, 320, 600);
  }
  return wires;
};
const key =
  (channel: number, number: number, times = 1) =>
  (random: Random): Wire[] => {
    const velocity = whole(random, 30, 127);
    return presses(
      random,
      times,
      (at) => [[at, 0x90 | channel, number, velocity]],
      (at) => [random() < 0.5 ? [at, 0x80 | channel, number, 64] : [at, 0x90 | channel, number, 0]],
    );
  };
/** A pad presses on after it is hit. */
const pressedPad =
  (channel: number, number: number) =>
  (random: Random): Wire[] => {
    const hits = key(channel, number)(random);
    const pressure = Array.from({ length: 6 }, (_, i): Wire => [
      8 + i * 8,
      0xd0 | channel,
      Math.round(20 + Math.sin(i / 2) * 40 + 40),
      0,
    ]);
    return [...hits, ...pressure].sort((a, b) => a[0] - b[0]);
  };
const momentary =
  (channel: number, controller: number, times: number, on = 127) =>
  (random: Random): Wire[] =>
    presses(
      random,
      times,
      (at) => [[at, 0xb0 | channel, controller, on]],
      (at) => [[at, 0xb0 | channel, controller, 0]],
    );
const latching =
  (channel: number, controller: number, times: number, startsOn = false) =>
  (random: Random): Wire[] => {
    let at = 0;
    return Array.from({ length: times }, (_, i): Wire => {
      const wire: Wire = [at, 0xb0 | channel, controller, (i % 2 === 0) === startsOn ? 0 : 127];
      at += between(random, 560, 900);
      return wire;
    });
  };
const programs =
  (channel: number, numbers: number[], bank: [number | null, number | null] | null = null) =>
  (random: Random): Wire[] => {
    const wires: Wire[] = [];
    let at = 0;
    for (const number of numbers) {
      if (bank?.[0] != null) wires.push([at, 0xb0 | channel, 0, bank[0]]);
      if (bank?.[1] != null) wires.push([at + 1, 0xb0 | channel, 32, bank[1]]);
      wires.push([at + 2 + random() * 3, 0xc0 | channel, number, 0]);
      at += between(random, 400, 800);
    }
    return wires;
  };
/** A knob is turned along some points; values never repeat themselves. */
const knob =
  (channel: number, controller: number, points: number[]) =>
  (random: Random): Wire[] => {
    const wires: Wire[] = [];
    let at = 0;
    let [last] = points;
    let sent = -1;
    for (const point of points) {
      const step = Math.max(1, Math.round(between(random, 1, 6)));
      while (last !== point || sent < 0) {
        last += Math.sign(point - last) * Math.min(step, Math.abs(point - last));
        if (last !== sent) wires.push([at, 0xb0 | channel, controller, last]);
        sent = last;
        at += between(random, 4, 14);
      }
    }
    return wires;
  };
const fineKnob =
  (channel: number, controller: number, from: number, to: number) =>
  (random: Random): Wire[] => {
    const count = whole(random, 24, 60);
    return Array.from({ length: count }, (_, i): Wire[] => {
      const value = Math.round(from + ((to - from) * i) / (count - 1));
      const at = i * 9 + random() * 3;
      return [
        [at, 0xb0 | channel, controller, value >> 7],
        [at + 0.6, 0xb0 | channel, controller + 32, value & 127],
      ];
    }).flat();
  };
const encoder =
  (channel: number, controller: number, coding: 'twos' | 'offset' | 'signed', turns: number[]) =>
  (random: Random): Wire[] => {
    let at = 0;
    return turns.flatMap((direction) =>
      Array.from({ length: whole(random, 6, 12) }, (): Wire => {
        at += between(random, 12, 60);
        const steps = random() < 0.75 ? 1 : 2;
        const value =
          coding === 'offset'
            ? 64 + direction * steps
            : direction > 0
              ? steps
              : coding === 'twos'
                ? 128 - steps
                : 64 + steps;
        return [at, 0xb0 | channel, controller, value];
      }),
    );
  };
const wheel =
  (channel: number, top: number, fine: boolean) =>
  (random: Random): Wire[] => {
    const count = whole(random, 12, 30);
    return Array.from({ length: count + 1 }, (_, i): Wire => {
      const value = Math.round(8192 + top * Math.sin((i / count) * Math.PI));
      return [i * 9, 0xe0 | channel, fine ? value & 127 : 0, Math.min(127, value >> 7)];
    });
  };
const pressure =
  (channel: number, top: number) =>
  (random: Random): Wire[] => {
    const count = whole(random, 10, 24);
    return Array.from({ length: count + 1 }, (_, i): Wire => [
      i * 10,
      0xd0 | channel,
      Math.round(top * Math.sin((i / count) * Math.PI)),
      0,
    ]);
  };

const controller = (number: number) => ({ kind: 'controller', number }) as const;

/** Forty-odd gestures over thirteen kinds of control. */
export const GESTURES: readonly Gesture[] = [
  {
    name: 'lowest key of a small keyboard',
    kind: 'note',
    port: 'Cobble 25',
    expected: { kind: 'note', number: 48 },
    play: key(1, 48),
  },
  { name: 'a key hit twice', kind: 'note', port: 'Keys', expected: { kind: 'note', number: 28 }, play: key(0, 28, 2) },
  { name: 'a pad', kind: 'note', port: 'Cobble 25', expected: { kind: 'note', number: 36 }, play: key(9, 36) },
  {
    name: 'a pad with pressure',
    kind: 'note',
    port: 'Cobble 25',
    expected: { kind: 'note', number: 40 },
    play: pressedPad(9, 40),
  },
  {
    name: 'the rim of a drum pad',
    kind: 'note',
    port: 'Keg 4',
    expected: { kind: 'note', number: 51 },
    play: key(9, 51, 2),
  },
  {
    name: 'a foot switch once',
    kind: 'momentary',
    port: 'Clack 2',
    expected: controller(80),
    play: momentary(0, 80, 1),
  },
  {
    name: 'a foot switch twice',
    kind: 'momentary',
    port: 'Clack 2',
    expected: controller(81),
    play: momentary(0, 81, 2),
  },
  {
    name: 'a foot switch that sends 100',
    kind: 'momentary',
    port: 'Clack 2',
    expected: controller(82),
    play: momentary(2, 82, 2, 100),
  },
  {
    name: 'a button in three presses',
    kind: 'momentary',
    port: 'Cobble 25',
    expected: controller(22),
    play: momentary(0, 22, 3),
  },
  {
    name: 'a button on the modulation controller',
    kind: 'momentary',
    port: 'Cobble 25',
    expected: controller(1),
    play: momentary(4, 1, 2),
  },
  {
    name: 'a latching switch once',
    kind: 'latching',
    port: 'Clack 2',
    expected: controller(80),
    play: latching(0, 80, 1),
  },
  {
    name: 'a latching switch twice',
    kind: 'latching',
    port: 'Clack 2',
    expected: controller(81),
    play: latching(0, 81, 2),
  },
  {
    name: 'a latching switch that was on',
    kind: 'latching',
    port: 'Clack 2',
    expected: controller(80),
    play: latching(0, 80, 2, true),
  },
  {
    name: 'a latching switch in four presses',
    kind: 'latching',
    port: 'Clack 2',
    expected: controller(83),
    play: latching(1, 83, 4),
  },
  {
    name: 'a program pedal',
    kind: 'program',
    port: 'Treadle 6',
    expected: { kind: 'program', number: 8, msb: null, lsb: null },
    play: programs(0, [8]),
  },
  {
    name: 'a program button that repeats',
    kind: 'program',
    port: 'Cobble 25',
    expected: { kind: 'program', number: 3 },
    play: programs(3, [3, 3]),
  },
  {
    name: 'a program pedal with both bank bytes',
    kind: 'program',
    port: 'Treadle 6',
    expected: { kind: 'program', number: 5, msb: 1, lsb: 2 },
    play: programs(0, [5], [1, 2]),
  },
  {
    name: 'a program pedal with the LSB alone',
    kind: 'program',
    port: 'Treadle 6',
    expected: { kind: 'program', number: 0, msb: null, lsb: 1 },
    play: programs(0, [0], [null, 1]),
  },
  {
    name: 'a program pedal with the MSB alone',
    kind: 'program',
    port: 'Treadle 6',
    expected: { kind: 'program', number: 127, msb: 3, lsb: null },
    play: programs(0, [127], [3, null]),
  },
  {
    name: 'a counter upwards',
    kind: 'counter',
    port: 'Updown 2',
    expected: { kind: 'count', direction: 'up' },
    play: programs(0, [3, 4, 5]),
  },
  {
    name: 'a counter in two presses',
    kind: 'counter',
    port: 'Updown 2',
    expected: { kind: 'count', direction: 'up' },
    play: programs(0, [6, 7]),
  },
  {
    name: 'a counter downwards',
    kind: 'counter',
    port: 'Updown 2',
    expected: { kind: 'count', direction: 'down' },
    play: programs(0, [7, 6, 5]),
  },
  {
    name: 'a counter that wraps',
    kind: 'counter',
    port: 'Updown 2',
    expected: { kind: 'count', direction: 'up' },
    play: programs(0, [8, 9, 0, 1]),
  },
  {
    name: 'a knob from end to end',
    kind: 'absolute',
    port: 'Cobble 25',
    expected: controller(20),
    play: knob(0, 20, [0, 127]),
  },
  {
    name: 'a knob there and back',
    kind: 'absolute',
    port: 'Cobble 25',
    expected: controller(21),
    play: knob(0, 21, [40, 100, 60]),
  },
  {
    name: 'a small turn of a knob',
    kind: 'absolute',
    port: 'Cobble 25',
    expected: controller(27),
    play: knob(0, 27, [70, 95]),
  },
  {
    name: 'a knob through its middle',
    kind: 'absolute',
    port: 'Cobble 25',
    expected: controller(23),
    play: knob(0, 23, [50, 80, 64]),
  },
  {
    name: 'an expression pedal, reversed',
    kind: 'absolute',
    port: 'Heel 1',
    expected: controller(11),
    play: knob(0, 11, [127, 0, 127]),
  },
  {
    name: 'an expression pedal, half way',
    kind: 'absolute',
    port: 'Heel 1',
    expected: controller(11),
    play: knob(0, 11, [0, 64]),
  },
  {
    name: 'a layerKey on the volume controller',
    kind: 'absolute',
    port: 'Cobble 25',
    expected: controller(7),
    play: knob(5, 7, [127, 20]),
  },
  {
    name: 'the modulation wheel',
    kind: 'absolute',
    port: 'Keys',
    expected: controller(1),
    play: knob(0, 1, [0, 127, 0]),
  },
  {
    name: 'a fine layerKey',
    kind: 'fine',
    port: 'Cobble 25',
    expected: { kind: 'controller14', number: 12 },
    play: fineKnob(0, 12, 0, 16_383),
  },
  {
    name: 'a fine knob, a little',
    kind: 'fine',
    port: 'Cobble 25',
    expected: { kind: 'controller14', number: 16 },
    play: fineKnob(0, 16, 6000, 9000),
  },
  {
    name: 'an encoder in two’s complement',
    kind: 'twos',
    port: 'Cobble 25',
    expected: { ...controller(24), coding: 'twos' },
    play: encoder(0, 24, 'twos', [1, -1]),
  },
  {
    name: 'the same, left first',
    kind: 'twos',
    port: 'Cobble 25',
    expected: { ...controller(25), coding: 'twos' },
    play: encoder(0, 25, 'twos', [-1, 1]),
  },
  {
    name: 'an encoder by offset',
    kind: 'offset',
    port: 'Cobble 25',
    expected: { ...controller(26), coding: 'offset' },
    play: encoder(0, 26, 'offset', [1, -1]),
  },
  {
    name: 'the same, to the left only',
    kind: 'offset',
    port: 'Cobble 25',
    expected: { ...controller(26), coding: 'offset' },
    play: encoder(0, 26, 'offset', [-1]),
  },
  {
    name: 'an encoder with a sign bit',
    kind: 'signed',
    port: 'Cobble 25',
    expected: { ...controller(28), coding: 'signed' },
    play: encoder(0, 28, 'signed', [1, -1, 1]),
  },
  { name: 'the pitch wheel up', kind: 'wheel', port: 'Keys', expected: { kind: 'wheel' }, play: wheel(0, 8191, true) },
  {
    name: 'the pitch wheel down, coarse',
    kind: 'wheel',
    port: 'Cobble 25',
    expected: { kind: 'wheel' },
    play: wheel(1, -6000, false),
  },
  {
    name: 'pressure without a key',
    kind: 'pressure',
    port: 'Keys',
    expected: { kind: 'pressure' },
    play: pressure(0, 110),
  },
  {
    name: 'light pressure',
    kind: 'pressure',
    port: 'Cobble 25',
    expected: { kind: 'pressure' },
    play: pressure(3, 40),
  },
];

/**
 * What a stage adds: clock, active sensing, a pedal that trembles at rest, a sustain pedal that is held, bank select by
 * itself, and the same again by a second port.
 */
export function noisy(gesture: Gesture, random: Random): { messages: HeardMessage[]; endMs: number } {
  const startMs = 300 + random() * 700;
  const wires = gesture.play(random);
  const lengthMs = wires[wires.length - 1][0];
  const endMs = startMs + lengthMs + 2500;
  const messages: HeardMessage[] = wires.map(([at, status, data1, data2]) => ({
    port: gesture.port,
    atMs: startMs + at,
    status,
    data1,
    data2,
  }));
  const add = (port: string, atMs: number, status: number, data1 = 0, data2 = 0): void =>
    void messages.push({ port, atMs, status, data1, data2 });
  if (random() < 0.7) for (let at = random() * 20; at < endMs; at += 20.8) add('Pilot Cutter', at, 0xf8);
  if (random() < 0.7) for (let at = random() * 250; at < endMs; at += 250) add('Keys', at, 0xfe);
  if (random() < 0.6) tremble(random, endMs, add);
  if (random() < 0.5) holdSustain(random, endMs, add);
  if (random() < 0.3) add('Pilot Cutter', random() * endMs, 0xb0, 0, 2);
  if (random() < 0.3)
    for (let at = 0; at < endMs; at += 130) add('Keys', at + random() * 30, 0xe0, whole(random, 0, 127), 64);
  const second = random() < 0.6 ? `${gesture.port}, second port` : null;
  const lateMs = 0.3 + random() * 6;
  if (second) for (const [at, status, data1, data2] of wires) add(second, startMs + at + lateMs, status, data1, data2);
  return { messages: messages.sort((a, b) => a.atMs - b.atMs), endMs };
}

type Add = (port: string, atMs: number, status: number, data1?: number, data2?: number) => void;

/** An old expression pedal at rest: one or two steps to and fro, never twice the same. */
function tremble(random: Random, endMs: number, add: Add): void {
  const rest = whole(random, 1, 125);
  let last = rest;
  for (let at = random() * 40; at < endMs; at += between(random, 20, 90)) {
    const next = last === rest ? Math.min(127, rest + whole(random, 1, 2)) : rest;
    if (next !== last) add('Creaker', at, 0xb0, 4, next);
    last = next;
  }
}

/** Held from before, with half-pedal values now and then; let go near the end, or not. */
function holdSustain(random: Random, endMs: number, add: Add): void {
  add('Keys', random() * 100, 0xb0, 64, 127);
  if (random() < 0.4)
    for (let at = 200; at < endMs - 600; at += between(random, 60, 200))
      add('Keys', at, 0xb0, 64, whole(random, 118, 127));
  if (random() < 0.4) add('Keys', endMs - 400, 0xb0, 64, 0);
}
