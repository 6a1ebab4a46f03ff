import fc from 'fast-check';
import type { EngineInput } from '../src/engine';
import { Show, Song } from '../src/show';
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

/** What happens, as the engine's own input. */
function inputOf(rig: TestRig, happening: Happening): EngineInput {
  switch (happening.kind) {
    case 'message': {
      const { device, status, data1, data2 } = happening;
      return { type: 'message', device, status, data1, data2 };
    }
    case 'recall':
      return { type: 'recall', position: happening.position };
    case 'step':
      return { type: 'perform', action: happening.action };
    case 'panic':
      return { type: 'perform', action: 'panic' };
    case 'input':
      return { type: 'input', device: happening.device, here: happening.here };
    case 'output':
      return { type: 'output', device: 'Skerry', here: happening.here };
    case 'ready':
      return { type: 'ready', destination: happening.which % rig.registry.destinations.length, ready: happening.ready };
    case 'edit':
    case 'reload':
      throw new Error('an edit is fed by the rig');
  }
}

function happen(rig: TestRig, happening: Happening, atMs: number): void {
  if (happening.kind === 'edit') return rig.become(edited(rig.show, happening.turn), atMs);
  if (happening.kind === 'reload') {
    rig.show = Show.parse(structuredClone(rig.show));
    return rig.load(atMs);
  }
  rig.feed(inputOf(rig, happening), atMs);
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
  rig.feed({ type: 'output', device: 'Skerry', here: true }, atMs);
  rig.registry.destinations.forEach((_, destination) => engine.setReady(destination, true, atMs));
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
