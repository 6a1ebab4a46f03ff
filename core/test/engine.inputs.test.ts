import { describe, expect, it } from '@jest/globals';
import { Registry, Engine, InputLog, SilentSink } from '../src/engine';
import {
  EFFECT_PARAMETERS,
  bodiesOf,
  newsBetween,
  effectValue,
  withEffectValue,
  type Effect,
  type NoteValue,
  type Send,
  type SharedEffect,
} from '../src/show';
import { Simulation } from '../src/simulate';
import { playingArb, showArb, type Playing } from './arbitraries';
import { GEAR, TestRig, layer, part, song } from './build';
import { check, play, rigFor } from './generatedPlaying';
import fc from 'fast-check';

/** What a listener knows: of each thing the last that it was told. */
class Knowing extends SilentSink {
  readonly known = new Map<string, unknown>();
  private readonly effectsOf = new Map<number, readonly Effect[]>();

  override send(destination: number, status: number, data1: number, data2: number): void {
    if ((status & 0xf0) === 0xb0) this.known.set(`${destination} controller ${status & 15} ${data1}`, data2);
    if ((status & 0xf0) === 0xe0) this.known.set(`${destination} wheel ${status & 15}`, (data2 << 7) | data1);
  }
  override balance(destination: number, values: Float64Array, at: number): void {
    this.known.set(`${destination} balance`, [...values.subarray(at, at + 4)]);
  }
  override effects(destination: number, effects: readonly Effect[]): void {
    this.effectsOf.set(destination, effects);
    this.known.set(`${destination} effects`, effects.map(inNumbers));
  }
  override effectValue(destination: number, effectId: string, parameter: string, value: number): void {
    if (destination >= 0)
      this.effects(
        destination,
        (this.effectsOf.get(destination) ?? []).map((effect) =>
          effect.id === effectId ? withEffectValue(effect, parameter, value) : effect,
        ),
      );
  }
  override preset(destination: number, preset: number): void {
    this.known.set(`${destination} preset`, preset);
  }
  override whole(which: number, value: number): void {
    this.known.set(`whole ${which}`, value);
  }
  override tempo(bpm: number): void {
    this.known.set('tempo', bpm);
  }
  override sends(destination: number, sends: readonly Send[]): void {
    this.known.set(`${destination} sends`, sends);
  }
  override echo(note: NoteValue): void {
    this.known.set('echo', note);
  }
  override setlistEffects(shared: readonly SharedEffect[], whole: readonly Effect[]): void {
    this.known.set('shared', shared.map(({ name }) => name).join());
    this.known.set('whole', whole.length);
  }
}

const inNumbers = (effect: Effect): string =>
  `${effect.kind} ${effect.on} ${EFFECT_PARAMETERS[effect.kind].map(({ name }) => effectValue(effect, name)).join(' ')}`;

const two = () => [
  song('Moth', {
    layers: [layer('A'), layer('B')],
    patches: [
      { id: 'm1', name: 'Dusk', parts: [part('A', { levelDb: -6 })] },
      { id: 'm2', name: 'Dark', parts: [part('B')] },
    ],
  }),
  song('Tin', { layers: [layer('C')], patches: [{ id: 't1', name: 'Tin', parts: [part('C')] }] }),
];

describe('a listener that comes late', () => {
  it('is told everything that one knows who was there from the start', () => {
    check(fc.tuple(showArb(), playingArb()), ([generated, playing]) => {
      const rig = rigFor(generated);
      const { setlists, gearLists } = rig.show;
      const early = new Knowing();
      const simulation = new Simulation(rig.show, setlists[0], gearLists[0], { sink: () => early });
      play(rig, playing as Playing);
      simulation.play(rig.fed);
      const late = new Knowing();
      simulation.engine.retell(late);
      for (const [what, value] of late.known) {
        // A layer's output, and what never was said (no sends, its own preset), the early one had no need to hear.
        if (early.known.has(what)) expect([what, early.known.get(what)]).toEqual([what, value]);
      }
      const present = new Set(
        (simulation.engine.step?.patch.layers ?? []).flatMap(({ outboard, destination }) =>
          outboard ? [] : [`${destination} balance`],
        ),
      );
      for (const what of present) expect([what, late.known.has(what)]).toEqual([what, true]);
    });
  });
});

describe('what an edit means for what is played', () => {
  it('is only the fields that are new; everything else keeps its identity, and what came is not written to', () => {
    const rig = new TestRig(two());
    const before = bodiesOf(rig.show);
    const [setlist] = rig.show.setlists;
    const renamed = bodiesOf({ ...rig.show, setlists: [{ ...setlist, name: 'Later' as typeof setlist.name }] });
    const news = newsBetween(before, renamed, [{ kind: 'setlists', id: setlist.id }]);
    expect(news).toEqual({ put: { setlists: { night: { name: 'Later' } } }, gone: [] });
    Object.freeze(news.put.setlists!.night);
    const compiled = rig.engine.step;
    rig.feed({ type: 'changed', news, setlistId: setlist.id }, 5);
    expect(rig.engine.step).toBe(compiled);
    rig.on(60, 6);
    expect(rig.take()).toEqual(['Dusk/A on 60 100']);
  });

  it('is nothing where an item is only another object, and all of it where it is new', () => {
    const { show } = new TestRig(two());
    const again = bodiesOf(structuredClone(show));
    expect(newsBetween(bodiesOf(show), again, [{ kind: 'songs', id: 'Moth' }]).put.songs).toEqual({});
    const without = bodiesOf({ ...show, songs: show.songs.slice(1) });
    expect(newsBetween(without, again, [{ kind: 'songs', id: 'Moth' }]).put.songs).toEqual({ Moth: show.songs[0] });
    expect(newsBetween(again, without, [{ kind: 'songs', id: 'Moth' }]).gone).toEqual([{ kind: 'songs', id: 'Moth' }]);
  });

  it('compiles the song it touches, and no other', () => {
    const rig = new TestRig(two());
    const tin = rig.engine.step!.patch;
    rig.edit('Tin', (current) => ({ ...current, transpose: 2 }), 1);
    expect(rig.engine.step!.patch).toBe(tin);
    rig.edit('Moth', (current) => ({ ...current, transpose: 2 }), 2);
    expect(rig.engine.step!.patch).not.toBe(tin);
  });
});

describe('a sound that is tried', () => {
  const audition = {
    songId: 'Moth',
    layerId: 'A',
    sound: { instrumentId: 'skerry' as never, presetId: 'sk1' as never },
  };

  it('is heard in the layer’s place, lies over edits that are made meanwhile, and leaves nothing behind', () => {
    const rig = new TestRig(two());
    rig.feed({ type: 'audition', audition }, 1);
    expect(rig.take()).toEqual(['Skerry cc 0 0', 'Skerry cc 32 1', 'Skerry program 7']);
    rig.edit('Moth', (current) => ({ ...current, transpose: 12 }), 2);
    rig.take();
    rig.on(60, 3);
    expect(rig.take()).toEqual(['Skerry on 72 100']);
    rig.off(60, 4);
    rig.take();
    rig.feed({ type: 'audition', audition: null }, 5);
    rig.on(60, 6);
    expect(rig.take()).toEqual(['Dusk/A on 72 100']);
  });

  it('of a song that is not there, or by a layer that is not, changes nothing', () => {
    const rig = new TestRig(two());
    rig.feed({ type: 'audition', audition: { ...audition, songId: 'gone' } }, 1);
    rig.feed({ type: 'audition', audition: { ...audition, layerId: 'gone' } }, 2);
    rig.on(60, 3);
    expect(rig.take()).toEqual(['Dusk/A on 60 100']);
  });
});

describe('ports, as inputs', () => {
  it('that were said to be away before the gear list came are away when it is there', () => {
    const rig = new TestRig(
      [song('Out', { layers: [layer('S', { preset: 'sk0' })], patches: [{ id: 'p', name: 'P', parts: [part('S')] }] })],
      { gear: GEAR },
    );
    rig.feed({ type: 'output', device: 'Beacon', here: true }, 1);
    rig.take();
    rig.on(60, 2);
    expect(rig.take()).toEqual([]);
    expect(rig.reasons()).toContain('output-away');
    rig.off(60, 3);
    rig.feed({ type: 'output', device: 'Skerry', here: true }, 4);
    expect(rig.take().filter((line) => line.includes('program'))).toEqual(['Skerry program 5']);
  });

  it('end what was held through an input that goes; a device that no gear list has is nobody’s', () => {
    const rig = new TestRig(two());
    rig.on(60, 1);
    rig.take();
    rig.feed({ type: 'input', device: 'Nowhere', here: false }, 2);
    rig.feed({ type: 'message', device: 'Nowhere', status: 0x90, data1: 60, data2: 100 }, 2);
    expect(rig.take()).toEqual([]);
    rig.feed({ type: 'input', device: 'Aster 73', here: false }, 3);
    expect(rig.take()).toEqual(['Dusk/A off 60']);
  });
});

describe('the place where a set was left', () => {
  it('is where it starts again, with its counters; a place in another setlist, or one that is gone, is not', () => {
    const rig = new TestRig(two());
    const { show } = rig;
    const start = (patchId: string, setlistId: string = 'night'): string => {
      const engine = new Engine(new Registry(), new SilentSink());
      engine.apply(
        {
          type: 'show',
          show,
          setlistId: 'night',
          place: {
            setlistId,
            entryId: 'e-Moth',
            patchId,
            blendId: null,
            counters: [{ device: 'Aster 73', channel: 0, program: 4 }],
          },
        },
        1,
      );
      return engine.step!.patch.name;
    };
    expect(start('m2')).toBe('Dark');
    expect(start('m2', 'other')).toBe('Dusk');
    expect(start('gone')).toBe('Dusk');
  });
});

describe('the log of inputs', () => {
  it('keeps the last ones in order, and counts what is lost', () => {
    const log = new InputLog({ inputs: ['Aster 73', 'Treadle 6'] }, 4);
    for (let i = 0; i < 5; i++) log.message(i % 2, 0x90 | i, 60 + i, 127 - i, i * 0.5);
    log.add({ type: 'recall', position: 3 }, 9);
    expect([log.length, log.lost]).toEqual([4, 2]);
    expect(log.entries()).toEqual([
      { atMs: 1, input: { type: 'message', device: 'Aster 73', status: 0x92, data1: 62, data2: 125 } },
      { atMs: 1.5, input: { type: 'message', device: 'Treadle 6', status: 0x93, data1: 63, data2: 124 } },
      { atMs: 2, input: { type: 'message', device: 'Aster 73', status: 0x94, data1: 64, data2: 123 } },
      { atMs: 9, input: { type: 'recall', position: 3 } },
    ]);
  });
});
