import fc from 'fast-check';
import { Show, Song } from '../src';
import { edited, type GeneratedShow, type Happening, type Playing } from './arbitraries';
import { TestRig, type Sent } from './build';

// What the property tests have in common: shows and playing that were generated are played.

/** Printed with every run; a failure is pinned with its seed and path. */
export const SEED = 20_261_123;
export const RUNS = 500;

export const rigFor = (generated: GeneratedShow): TestRig =>
  new TestRig(
    generated.songs.map((song) => Song.parse(song)),
    { setlist: generated.setlist, gear: generated.gear, instruments: generated.instruments },
  );

function happen(rig: TestRig, happening: Happening, atMs: number): void {
  const { engine } = rig;
  switch (happening.kind) {
    case 'message':
      return engine.receive(rig.port(happening.device), happening.status, happening.data1, happening.data2, atMs);
    case 'recall':
      return engine.recall(happening.position, atMs);
    case 'step':
      return engine.perform(happening.action, atMs);
    case 'panic':
      return engine.panic(atMs);
    case 'input':
      return happening.here
        ? engine.inputBack(rig.port(happening.device), atMs)
        : engine.inputGone(rig.port(happening.device), atMs);
    case 'output':
      return happening.here
        ? engine.outputBack(rig.book.findOutputPort('Skerry'), atMs)
        : engine.outputGone(rig.book.findOutputPort('Skerry'), atMs);
    case 'ready':
      return engine.setReady(happening.which % rig.book.destinations.length, happening.ready, atMs);
    case 'edit':
      rig.show = edited(rig.show, happening.turn);
      return rig.load(atMs);
    case 'reload':
      rig.show = Show.parse(structuredClone(rig.show));
      return rig.load(atMs);
  }
}

export function play(rig: TestRig, playing: Playing, each?: (happening: Happening, sent: Sent[]) => void): number {
  let atMs = 0;
  for (const [pauseMs, happening] of playing) {
    atMs += pauseMs;
    const before = rig.sent.length;
    happen(rig, happening, atMs);
    each?.(happening, rig.sent.slice(before));
  }
  return atMs;
}

/** All keys and pedals up, everything ready and here, the timeline stopped, every fade over. */
export function letGo(rig: TestRig, atMs: number): void {
  const { engine } = rig;
  engine.perform('stop', atMs);
  if (engine.isHolding) engine.perform('hold', atMs);
  engine.outputBack(rig.book.findOutputPort('Skerry'), atMs);
  rig.book.destinations.forEach((_, destination) => engine.setReady(destination, true, atMs));
  for (const device of ['Aster 73', 'Cobble 25', 'Treadle 6']) {
    engine.inputBack(rig.port(device), atMs);
    // A double is heard only while the other port is away.
    if (device === 'Cobble 25') engine.inputGone(rig.port('Aster 73'), atMs);
    for (let channel = 0; channel < 3; channel++) {
      for (let key = 50; key < 70; key++) rig.off(key, atMs, device, channel);
      for (const pedal of [64, 66, 67]) rig.cc(pedal, 0, atMs, device, channel);
    }
  }
  for (let dueMs = engine.advance(atMs); dueMs !== Infinity; dueMs = engine.advance(dueMs));
}

export const check = <T>(arbitrary: fc.Arbitrary<T>, predicate: (value: T) => unknown): void => {
  fc.assert(
    fc.property(arbitrary, (value) => void predicate(value)),
    { seed: SEED, numRuns: RUNS },
  );
};
