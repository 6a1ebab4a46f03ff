import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import {
  Cue,
  Song,
  changeSection,
  copiedCues,
  madeIndependent,
  madeRepeat,
  sectionAt,
  withCue,
  withCues,
  withMovedCues,
  withRenamedPort,
  withSection,
  withSectionCues,
  withoutCues,
  withoutLayer,
  withoutSection,
  type CueId,
  type Section,
} from '../src/show';
import {
  TrackKind,
  compileTimeline,
  placedCues,
  rampPoints,
  tempoMapOf,
  withMapAndBars,
  withMeterOfBar,
  withUpbeat,
} from '../src/timeline';
import { GEAR, layer, part, song } from './build';

let minted = 0;
const mint = (): CueId => `m${++minted}` as CueId;
const cue = (id: string, atTick: number, over: object = { kind: 'text', text: id }): Cue =>
  Cue.parse({ id, atTick, ...over });
const section = (id: string, fromTick: number, toTick: number, repeats: string | null = null): Section =>
  ({ id, name: id, tape: 'bone', fromTick, toTick, repeats }) as unknown as Section;
const tune = (over: Record<string, unknown> = {}): Song =>
  song('Tin', { layers: [layer('A'), layer('B')], patches: [{ id: 'p', name: 'p', parts: [part('A')] }], ...over });
const placesOf = ({ cues }: Song): [string, number][] => cues.map(({ id, atTick }) => [id, atTick]);

describe('cues of a song', () => {
  it('are put in by their kind among those of their tick; what stands there keeps its order', () => {
    const kinds: object[] = [
      { kind: 'text', text: 'x' },
      { kind: 'controller', port: 'P', channel: 1, controller: 7, value: 1 },
      { kind: 'recall', patchId: 'p' },
      { kind: 'program', port: 'P', channel: 1, program: 1 },
    ];
    const made = kinds.reduce<Song>((now, kind, i) => withCue(now, cue(`c${i}`, 960, kind)), tune());
    expect(made.cues.map(({ kind }) => kind)).toEqual(['recall', 'program', 'controller', 'text']);
    // Listed otherwise by hand, a new one goes behind those whose kind is before its own.
    const byHand = { ...made, cues: [made.cues[3], made.cues[0]] };
    expect(withCue(byHand, cue('n', 960, kinds[1])).cues.map(({ kind }) => kind)).toEqual([
      'text',
      'recall',
      'controller',
    ]);
  });

  it('are moved together, none before the start and none behind the end, and copied from one place to another', () => {
    const made = withCues(tune(), [cue('a', 0), cue('b', 960), cue('c', 1920)]);
    expect(placesOf(withMovedCues(made, new Set(['a', 'c']), (tick) => tick - 960, 10_000))).toEqual([
      ['a', 0],
      ['b', 960],
      ['c', 960],
    ]);
    expect(placesOf(withMovedCues(made, new Set(['b']), () => 99_999, 10_000)).at(-1)).toEqual(['b', 9999]);
    expect(copiedCues(made.cues, 0, 4000, mint).map(({ atTick }) => atTick)).toEqual([4000, 4960, 5920]);
    expect(placesOf(withoutCues(made, new Set(['a', 'b'])))).toEqual([['c', 1920]]);
  });

  it('take no message that is none, and no note but as a note', () => {
    const read = (bytes: number[]): boolean =>
      Cue.safeParse({ kind: 'message', id: 'm', atTick: 0, port: 'P', bytes }).success;
    for (const good of [
      [0xb0, 7, 1],
      [0xc0, 1],
      [0xe3, 0, 64],
      [0xf0, 1, 0xf7],
    ])
      expect(read(good)).toBe(true);
    for (const bad of [
      [0xb0, 7],
      [0x90, 60, 1],
      [0x80, 60, 1],
      [0xf8],
      [7, 7],
      [0xb0, 200, 1],
      [0xf0, 1],
      [0xf0, 0x90, 0xf7],
    ])
      expect(read(bad)).toBe(false);
  });

  it('follow a port to its new name, and go with the layer that they play', () => {
    const made = withCues(tune(), [
      cue('a', 0, { kind: 'lights', name: 'Blue', port: 'Skerry', bytes: [0xb0, 7, 1] }),
      cue('b', 0, { kind: 'note', to: { kind: 'port', port: 'Skerry', channel: 1 }, key: 60, lengthTicks: 1 }),
      cue('c', 0, { kind: 'note', to: { kind: 'layer', layerId: 'B' }, key: 60, lengthTicks: 1 }),
    ]);
    const show = { songs: [made], setlists: [], instruments: [], gearLists: [GEAR as never] };
    const renamed = withRenamedPort('loft', 'out', 'Skerry', 'Module', show).songs[0];
    expect(JSON.stringify(renamed.cues)).not.toContain('Skerry');
    expect(withoutLayer(made, 'B').cues.map(({ id }) => id as string)).not.toContain('c');
  });
});

describe('sections of a song', () => {
  const verses = (): Song =>
    tune({
      sections: [section('v1', 0, 3840), section('c', 3840, 7680), section('v2', 7680, 11_520)],
      cues: [cue('a', 0), cue('b', 960), cue('inV2', 8000)],
    });

  it('repeat one another: its cues run there, and the own ones have gone', () => {
    const made = madeRepeat(verses(), 'v2', 'v1' as never)!;
    expect(placedCues(made).map(({ key, atTick }) => [key, atTick])).toEqual([
      ['a', 0],
      ['b', 960],
      ['a v2', 7680],
      ['b v2', 8640],
    ]);
    const free = madeIndependent(made, 'v2', mint);
    expect(free.cues.map(({ atTick }) => atTick)).toEqual([0, 960, 7680, 8640]);
    expect(placedCues(free)).toHaveLength(4);
    // One that repeats cannot be repeated.
    expect(madeRepeat(made, 'c', 'v2' as never)).toBeNull();
  });

  it('whose lengths come to differ go their own way, with copies of what they had', () => {
    const made = madeRepeat(verses(), 'v2', 'v1' as never)!;
    const shorter = changeSection(made, 'v1', (old) => ({ ...old, toTick: 1920 }), mint)!;
    expect(shorter.sections.find(({ id }) => id === 'v2')!.repeats).toBeNull();
    expect(shorter.cues.map(({ atTick }) => atTick)).toEqual([0, 960, 7680, 8640]);
    expect(withoutSection(made, 'v1', mint).cues.map(({ atTick }) => atTick)).toEqual([0, 960, 7680, 8640]);
  });

  it('take over where another begins, refuse to lie over one another, and stretch copies to their length', () => {
    const cut = withSection(verses(), section('x', 5000, 99_999), mint);
    expect(cut.sections.map(({ id, fromTick, toTick }) => [id, fromTick, toTick])).toEqual([
      ['v1', 0, 3840],
      ['c', 3840, 5000],
      ['x', 5000, 7680],
      ['v2', 7680, 11_520],
    ]);
    expect(sectionAt(cut.sections, 5000)!.id).toBe('x');
    expect(changeSection(verses(), 'c', (old) => ({ ...old, toTick: 9000 }), mint)).toBeNull();
    expect(changeSection(verses(), 'c', (old) => ({ ...old, toTick: 3840 }), mint)).toBeNull();
    const half = changeSection(verses(), 'c', (old) => ({ ...old, toTick: 5760 }), mint)!;
    const copied = withSectionCues(half, 'v1', 'c', mint);
    expect(copied.cues.map(({ atTick }) => atTick)).toEqual([0, 960, 3840, 4320, 8000]);
  });

  it('whatever is done to them never overlap, and no repeat is of another length', () => {
    const step = fc.tuple(fc.constantFrom('add', 'move', 'repeat', 'free', 'remove'), fc.nat(7), fc.nat(7), fc.nat(20));
    fc.assert(
      fc.property(fc.array(step, { maxLength: 20 }), (steps) => {
        let now = verses();
        steps.forEach(([what, i, j, at], n) => {
          const [one, other] = [now.sections[i % now.sections.length], now.sections[j % now.sections.length]] as (
            Section | undefined
          )[];
          if (what === 'add') now = withSection(now, section(`s${n}`, at * 960, (at + 4) * 960), mint);
          else if (!one || !other) return;
          else if (what === 'move')
            now = changeSection(now, one.id, (old) => ({ ...old, toTick: at * 960 }), mint) ?? now;
          else if (what === 'repeat') now = madeRepeat(now, one.id, other.id) ?? now;
          else if (what === 'free') now = madeIndependent(now, one.id, mint);
          else now = withoutSection(now, one.id, mint);
          expect(Song.safeParse(now).success).toBe(true);
        });
      }),
      { seed: 20_261_129, numRuns: 200 },
    );
  });
});

describe('a compiled timeline', () => {
  it('is sorted by tick, ends of notes first, and a ramp is a line of rising times between its ends', () => {
    const lane = { laneOf: () => 0, destinationOf: () => 0, allowsSysex: () => true, leaveOut: () => undefined };
    const targets = {
      ...lane,
      placeOf: () => 0,
      presetOf: () => null,
      addressesOf: () => [],
      addressOf: () => 'address',
      layerOf: () => ({ lane: 0, layer: 0, shift: 0, follows: false }),
    };
    const kinds = fc.constantFrom<object>(
      { kind: 'recall', patchId: 'p' },
      { kind: 'note', to: { kind: 'layer', layerId: 'A' }, key: 60, lengthTicks: 960 },
      { kind: 'controller', port: 'P', channel: 1, controller: 7, value: 3, ramp: { toValue: 90, lengthTicks: 700 } },
      { kind: 'text', text: 'x' },
    );
    fc.assert(
      fc.property(fc.array(fc.tuple(fc.integer({ min: 0, max: 40 }), kinds), { maxLength: 30 }), (made) => {
        const track = compileTimeline(
          tune({ cues: made.map(([beat, kind], i) => ({ id: `c${i}`, atTick: beat * 480, ...kind })) }),
          targets,
        );
        track.ticks.forEach((tick, i) => {
          if (i === 0) return;
          expect(tick).toBeGreaterThanOrEqual(track.ticks[i - 1]);
          if (tick === track.ticks[i - 1] && track.kinds[i] === TrackKind.noteEnd)
            expect(track.kinds[i - 1]).toBe(TrackKind.noteEnd);
        });
        const started = track.kinds.filter((kind) => kind === TrackKind.note).length;
        expect(track.kinds.filter((kind) => kind === TrackKind.noteEnd)).toHaveLength(started);
      }),
      { seed: 20_261_129, numRuns: 200 },
    );
  });

  it('bends a ramp early or late, and keeps its ends', () => {
    const map = tempoMapOf(tune().map);
    const middle = (curve: number): number => {
      const points = rampPoints({ atTick: 0, value: 0, toValue: 100, lengthTicks: 3840, curve }, map);
      expect(points.at(-1)).toEqual({ tick: 3840, value: 100 });
      return points.filter(({ tick }) => tick <= 1920).at(-1)!.value;
    };
    expect(middle(0)).toBe(50);
    expect(middle(-60)).toBeLessThan(35);
    expect(middle(60)).toBeGreaterThan(65);
    expect(rampPoints({ atTick: 0, value: 9, toValue: 9, lengthTicks: 10, curve: 0 }, map)).toEqual([]);
    expect(rampPoints({ atTick: 0, value: 0, toValue: 127, lengthTicks: 1, curve: 0 }, map)).toEqual([
      { tick: 1, value: 127 },
    ]);
  });
});

describe('a meter or an upbeat that is changed', () => {
  const written = (): Song =>
    tune({
      map: {
        tempos: [
          { atTick: 0, bpm: 100 },
          { atTick: 3840 * 4, bpm: 120 },
        ],
        meters: [{ bar: 1, beats: 4, unit: 4 }],
        bars: 8,
      },
      sections: [section('v', 0, 3840 * 4), section('c', 3840 * 4, 3840 * 8)],
      cues: [cue('a', 0), cue('b', 3840 * 2 + 960), cue('c', 3840 * 4), cue('d', 3840 * 4 + 3000)],
    });
  const barsOf = (of: Song): string[] =>
    of.cues.map(({ atTick }) => {
      const { bar, beat, tick } = tempoMapOf(of.map).positionAt(atTick);
      return `${bar}:${beat}+${tick}`;
    });

  it('leaves everything at its bar where that is asked for: cues, sections and tempos go along', () => {
    const before = barsOf(written());
    const made = withMapAndBars(written(), withMeterOfBar(written().map, 2, { beats: 6, unit: 8 }), mint);
    expect(barsOf(made).map((place) => place.split(':')[0])).toEqual(before.map((place) => place.split(':')[0]));
    const map = tempoMapOf(made.map);
    expect(made.sections.map(({ fromTick }) => map.positionAt(fromTick).bar)).toEqual([1, 5]);
    expect(made.map.tempos.map(({ atTick }) => map.positionAt(atTick).bar)).toEqual([1, 5]);
    expect(made.map.bars).toBe(8);
    // What stood behind the end of the shorter bar stands at its last tick.
    expect(barsOf(made)[3]).toBe('5:6+479');
    const back = withMapAndBars(made, withMeterOfBar(made.map, 2, null), mint);
    expect(barsOf(back).slice(0, 3)).toEqual(before.slice(0, 3));
    expect(Song.safeParse(back).success).toBe(true);
  });

  it('with an upbeat before it everything stands a beat later and at its bar; or in its time, at another', () => {
    const withBars = withMapAndBars(written(), { ...written().map, upbeatTicks: 960 }, mint);
    expect(barsOf(withBars)).toEqual(['0:4+0', ...barsOf(written()).slice(1)]);
    expect(withBars.cues[2].atTick).toBe(3840 * 4 + 960);
    const inTime = { ...written(), map: withUpbeat(written().map, 960) };
    expect(inTime.cues.map(({ atTick }) => atTick)).toEqual(written().cues.map(({ atTick }) => atTick));
    expect(barsOf(inTime)[2]).toBe('4:4+0');
    expect(tempoMapOf(inTime.map).endTick).toBeGreaterThanOrEqual(tempoMapOf(written().map).endTick);
    expect(tempoMapOf(withUpbeat(inTime.map, 0)).positionAt(3840 * 4).bar).toBe(5);
  });
});
