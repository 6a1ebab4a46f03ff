import { describe, expect, it } from '@jest/globals';
import {
  BUILT_INS,
  Binding,
  foldsOnto,
  neighboursOf,
  GearList,
  Instrument,
  ProgramLine,
  newSetlist,
  withCrossover,
  withRenamedPort,
  patchItem,
  songFaults,
  songFromItem,
  songItem,
  startedFrom,
  Effect,
  withBlendEffects,
  withCapturedBlend,
  withLayerEffects,
  withDuplicatedLayer,
  withFolds,
  patchesWith,
  withJoinedLayers,
  withKeptSound,
  withPatchesOf,
  withSoundLayer,
  withOwnLayer,
  withPatchFrom,
  withRunOn,
  withSplitAt,
  withSplitRun,
  withStanding,
  withStandingInSetlist,
  type BlendId,
  type LayerId,
  type LibraryItemId,
  type PatchId,
  type SetlistId,
  type Song,
  type SongId,
} from '../src/show';
import { layer, outboardInstrument, part, song } from './build';

let minted = 0;
const mint = {
  layer: () => `l${++minted}` as LayerId,
  patch: () => `p${++minted}` as PatchId,
  blend: () => `b${++minted}` as BlendId,
};
const id = <T>(text: string): T => text as T;

const sheet = (): Song =>
  song('s', {
    layers: [layer('a'), layer('b', { preset: 'sk1' })],
    patches: [
      {
        id: 'one',
        name: 'One',
        parts: [part('a', { levelDb: -3 })],
        blends: [{ id: 'quiet', name: 'Quiet', values: [{ layerId: 'a', levelDb: -20 }] }],
      },
      { id: 'two', name: 'Two', parts: [part('a'), part('b')] },
      { id: 'three', name: 'Three', parts: [part('b')] },
    ],
    bindings: [{ role: 'Swell', action: { kind: 'layerValue', layerId: 'b', value: 'levelDb' } }],
  });
const rows = (of: Song): string[] =>
  of.layers.map((row) =>
    of.patches.map((patch) => (patch.parts.some((p) => p.layerId === row.id) ? '#' : '.')).join(''),
  );

describe('a run of a layer', () => {
  it('goes on into the next patch as it plays in this one, and no further', () => {
    const ran = withRunOn(sheet(), 'two', 'a');
    expect(rows(ran)).toEqual(['###', '.##']);
    expect(withRunOn(ran, 'two', 'a')).toBe(ran);
    expect(withRunOn(ran, 'three', 'a')).toBe(ran);
  });

  it('is split: from a patch on it is a layer of its own', () => {
    const split = withSplitRun(sheet(), 'two', 'a', id('a2'));
    expect(rows(split)).toEqual(['#..', '.#.', '.##']);
    expect(split.layers.map((row) => row.name)).toEqual(['a', 'a 2', 'b']);
    expect(songFaults(split)).toEqual([]);
  });

  it('is one patch’s own: sound, blend and roles of that patch go with it, the others keep theirs', () => {
    const before = sheet();
    const bound = {
      ...before,
      patches: before.patches.map((patch) =>
        patch.id === 'one'
          ? {
              ...patch,
              bindings: [Binding.parse({ role: 'Swell', action: { kind: 'layerValue', layerId: 'a', value: 'pan' } })],
            }
          : patch,
      ),
    };
    const own = withOwnLayer(bound, 'one', 'a', id('own'));
    expect(rows(own)).toEqual(['.#.', '#..', '.##']);
    expect(own.patches[0].blends[0].values).toMatchObject([{ layerId: 'own', levelDb: -20 }]);
    expect(own.patches[0].bindings[0].action).toMatchObject({ layerId: 'own' });
    expect(own.patches[1]).toBe(bound.patches[1]);
    expect(songFaults(own)).toEqual([]);
    expect(patchesWith(own, 'own').map(({ name }) => name)).toEqual(['One']);
    expect(patchesWith(before, 'a').map(({ name }) => name)).toEqual(['One', 'Two']);
    expect(withOwnLayer(before, 'three', 'a', id('own'))).toBe(before);
  });

  it('is joined again, and roles follow; not where both play', () => {
    const split = withSplitRun(sheet(), 'two', 'a', id('a2'));
    expect(rows(withJoinedLayers(split, id('a'), 'a2')!)).toEqual(['##.', '.##']);
    expect(withJoinedLayers(sheet(), id('a'), 'b')).toBeNull();
    const apart = { ...sheet(), patches: sheet().patches.filter((patch) => patch.id !== 'two') };
    const joined = withJoinedLayers(apart, id('a'), 'b')!;
    expect(joined.bindings[0].action).toMatchObject({ layerId: 'a' });
    expect(songFaults(joined)).toEqual([]);
  });
});

describe('a layer', () => {
  it('is doubled wherever it plays, in blends too', () => {
    const doubled = withDuplicatedLayer(sheet(), 'a', id('c'));
    expect(rows(doubled)).toEqual(['##.', '##.', '.##']);
    expect(doubled.patches[0].blends[0].values.map((value) => value.layerId)).toEqual(['a', 'c']);
    expect(new Set(doubled.layers.map((row) => row.tape)).size).toBeGreaterThan(1);
    expect(songFaults(doubled)).toEqual([]);
  });

  it('stands, as it plays in the patch that is looked at, and goes back there', () => {
    const standing = withStanding(sheet(), 'one', 'a', true);
    expect(standing.standing).toMatchObject([{ layerId: 'a', levelDb: -3 }]);
    expect(rows(standing)).toEqual(['...', '.##']);
    const back = withStanding(standing, 'three', 'a', false);
    expect(back.standing).toEqual([]);
    expect(rows(back)[0]).toBe('..#');
  });
});

describe('a layer that stands through the evening', () => {
  it('leaves its song and plays in the setlist as it played there', () => {
    const setlist = newSetlist(id<SetlistId>('night'), 'Night');
    const stood = withStandingInSetlist(setlist, sheet(), 'one', 'a', id('night-a'))!;
    expect(stood.setlist).toMatchObject({
      layers: [{ id: 'night-a', name: 'a' }],
      standing: [{ layerId: 'night-a', levelDb: -3 }],
    });
    expect(rows(stood.song)).toEqual(['.##']);
    expect(songFaults(stood.song)).toEqual([]);
    expect(withStandingInSetlist(setlist, sheet(), 'three', 'a', id('x'))).toBeNull();
  });
});

describe('a blend that is captured', () => {
  it('holds what differs from the patch and no more', () => {
    const balance = [
      {
        layerId: id<LayerId>('a'),
        levelDb: -3,
        pan: 0,
        mute: false,
        room: 40,
        echo: 0,
        sends: [],
        effects: [],
        parameters: [],
      },
    ];
    expect(withCapturedBlend(sheet(), 'one', id('b1'), 'Wet', balance).patches[0].blends[1]).toMatchObject({
      name: 'Wet',
      values: [{ layerId: 'a', room: 40 }],
    });
    expect(
      withCapturedBlend(sheet(), 'one', id('b1'), 'Same', [{ ...balance[0], room: 12 }]).patches[0].blends[1].values,
    ).toEqual([]);
  });
});

describe('effects of a layer in a blend', () => {
  const drive = Effect.parse({ id: 'd', kind: 'drive', amount: 30 });
  const echo = Effect.parse({ id: 'e', kind: 'delay', note: '1/8' });
  const wet = (): Song => withLayerEffects(sheet(), 'a', [drive, echo]);
  const inBlend = (of: Song) => of.patches[0].blends[0].values[0];

  it('differ in values and switches; order, kinds and note values are the layer’s', () => {
    const moved = withBlendEffects(wet(), 'one', 'quiet', id('a'), [
      { ...echo, note: '1/4' } as Effect,
      { ...drive, on: false, amount: 80 } as Effect,
    ]);
    expect(moved.layers[0].effects).toEqual([{ ...echo, note: '1/4' }, drive]);
    expect(inBlend(moved)).toMatchObject({
      levelDb: -20,
      effects: [{ effectId: 'd', on: false, values: { amount: 80 } }],
    });
    const back = withBlendEffects(moved, 'one', 'quiet', id('a'), moved.layers[0].effects);
    expect(inBlend(back).effects).toBeUndefined();
  });

  it('are let go of by roles when they are gone', () => {
    const bound: Song = {
      ...wet(),
      bindings: [
        Binding.parse({ role: 'Dirt', action: { kind: 'effectOnOff', layerId: 'a', effectId: 'd' } }),
        Binding.parse({ role: 'Echo', action: { kind: 'effectValue', layerId: 'a', effectId: 'e', parameter: 'mix' } }),
      ],
    };
    expect(withLayerEffects(bound, 'a', [echo]).bindings.map(({ role }) => role)).toEqual(['Echo']);
    expect(withLayerEffects(bound, 'b', []).bindings).toBe(bound.bindings);
  });

  it('are forgotten with the effect, and captured with the balance', () => {
    const moved = withBlendEffects(wet(), 'one', 'quiet', id('a'), [{ ...drive, amount: 80 } as Effect, echo]);
    expect(inBlend(withLayerEffects(moved, 'a', [echo])).effects).toEqual([]);
    const captured = withCapturedBlend(wet(), 'one', id('b9'), 'Loud', [
      {
        layerId: id<LayerId>('a'),
        levelDb: -3,
        pan: 0,
        mute: false,
        room: 12,
        echo: 0,
        sends: [],
        parameters: [{ controller: 74, value: 90 }],
        effects: [{ effectId: drive.id, values: { amount: 70 } }],
      },
    ]);
    expect(captured.patches[0].blends[1].values).toEqual([
      {
        layerId: 'a',
        effects: [{ effectId: 'd', values: { amount: 70 } }],
        parameters: [{ controller: 74, value: 90 }],
      },
    ]);
  });
});

describe('zones', () => {
  it('of two layers meet at a key', () => {
    const { parts } = withSplitAt(sheet(), 'two', 'a', 'b', 60).patches[1];
    expect(parts.map(({ zone }) => [zone.lowKey, zone.highKey])).toEqual([
      [0, 59],
      [60, 127],
    ]);
  });

  it('that lie next to each other cross over where they meet, one fading out as the other fades in', () => {
    const split = withSplitAt(sheet(), 'two', 'a', 'b', 60);
    expect(neighboursOf(split.patches[1], 'a')).toEqual([{ layerId: 'b', by: 'keys' }]);
    const crossed = withCrossover(split, 'two', 'b', 'a', 'keys', 6);
    expect(
      crossed.patches[1].parts.map(({ zone }) => [zone.lowKey, zone.highKey, zone.fadeLowKeys, zone.fadeHighKeys]),
    ).toEqual([
      [0, 62, 0, 6],
      [57, 127, 6, 0],
    ]);
    // Done again with another width it stays where it is.
    expect(
      withCrossover(crossed, 'two', 'a', 'b', 'keys', 2).patches[1].parts.map(({ zone }) => [
        zone.lowKey,
        zone.highKey,
      ]),
    ).toEqual([
      [0, 60],
      [59, 127],
    ]);
    expect(neighboursOf(crossed.patches[1], 'b')).toEqual([{ layerId: 'a', by: 'keys' }]);
  });

  it('of soft and hard cross over by velocity; zones one inside the other have nothing to cross', () => {
    const soft = song('s', {
      layers: [layer('a'), layer('b'), layer('c')],
      patches: [
        {
          id: 'p',
          name: 'P',
          parts: [
            part('a', { zone: { highVelocity: 79 } }),
            part('b', { zone: { lowVelocity: 80 } }),
            part('c', { zone: { lowKey: 40, highKey: 50 } }),
          ],
        },
      ],
    });
    expect(neighboursOf(soft.patches[0], 'a')).toEqual([{ layerId: 'b', by: 'velocities' }]);
    expect(neighboursOf(soft.patches[0], 'c')).toEqual([]);
    expect(
      withCrossover(soft, 'p', 'a', 'b', 'velocities', 20)
        .patches[0].parts.slice(0, 2)
        .map(({ zone }) => [zone.lowVelocity, zone.highVelocity, zone.fadeSoft, zone.fadeHard]),
    ).toEqual([
      [1, 89, 0, 20],
      [70, 127, 20, 0],
    ]);
  });

  it('outside of a small keyboard are folded onto it by octaves, and sound as they did', () => {
    const wide = song('s', {
      layers: [layer('bass'), layer('keys'), layer('top')],
      patches: [
        {
          id: 'p',
          name: 'P',
          parts: [
            part('bass', { zone: { lowKey: 21, highKey: 40 } }),
            part('keys', { zone: { lowKey: 41, highKey: 90 } }),
            part('top', { zone: { lowKey: 91, highKey: 108 }, shift: -12 }),
          ],
        },
      ],
    });
    const folds = foldsOnto(wide.patches[0], 48, 72);
    expect(folds).toEqual([
      { layerId: 'bass', lowKey: 48, highKey: 64, shift: -24, meets: ['keys'] },
      { layerId: 'top', lowKey: 55, highKey: 72, shift: 24, meets: ['keys'] },
    ]);
    expect(foldsOnto(withFolds(wide, 'p', folds).patches[0], 48, 72)).toEqual([]);
    expect(foldsOnto(wide.patches[0], 21, 108)).toEqual([]);
  });
});

describe('a copy of a patch in another song', () => {
  it('brings its layers, uses one again that is there already, and shares nothing with the original', () => {
    const other = song('t', {
      layers: [layer('x', { name: 'a' })],
      patches: [{ id: 'home', name: 'Home', parts: [part('x')] }],
    });
    const source = sheet();
    const { song: target, patchId } = withPatchFrom(
      other,
      { patch: source.patches[1], layers: source.layers },
      0,
      mint,
    );
    expect(target.layers.map((row) => row.name)).toEqual(['a', 'b']);
    expect(target.patches.map((patch) => patch.name)).toEqual(['Home', 'Two']);
    expect(target.patches[1]).toMatchObject({ id: patchId, parts: [{ layerId: 'x' }, {}] });
    expect(songFaults(target)).toEqual([]);
    target.patches[1].parts[0].levelDb = -50;
    expect(source.patches[1].parts[0].levelDb).toBe(-6);
  });
});

describe('the library', () => {
  const about = {
    id: id<LibraryItemId>('i1'),
    description: 'For the barn',
    keptAt: '2026-11-25T03:00:00.000Z',
    isTemplate: true,
  };

  it('keeps a patch with its layers only, and a song whole; what starts from them is a copy that remembers where from', () => {
    const kept = patchItem(sheet(), 'three', about)!;
    expect(kept).toMatchObject({ kind: 'patch', name: 'Three', layers: [{ id: 'b' }], isTemplate: true });
    const whole = songItem(sheet(), { ...about, id: id('i2') });
    const started = songFromItem(whole as Extract<typeof whole, { kind: 'song' }>, id<SongId>('new'));
    started.layers[0].name = 'changed';
    expect(whole).toMatchObject({ song: { id: 's', layers: [{ name: 'a' }, {}] } });
    const into = withPatchFrom(
      song('t', { layers: [], patches: [] }),
      kept as Extract<typeof kept, { kind: 'patch' }>,
      -1,
      mint,
      kept.id,
    ).song;
    expect(startedFrom('i1', [into, started])).toEqual([{ songId: 't', name: 'Three in t' }]);
    expect(startedFrom('i2', [into, started])).toEqual([{ songId: 'new', name: 's' }]);
  });
});

describe('the name of a port', () => {
  const gearList = (listId: string, aliases: string[]): GearList =>
    GearList.parse({
      id: listId,
      name: listId,
      ports: aliases.map((alias) => ({ direction: 'in', alias, device: alias })),
    });
  const show = (...gearLists: GearList[]) => ({
    gearLists,
    instruments: [Instrument.parse(outboardInstrument())],
    setlists: [
      {
        ...newSetlist(id<SetlistId>('n'), 'Night'),
        programs: [ProgramLine.parse({ target: { songId: 's' }, port: 'Organ', program: 3 })],
      },
    ],
    songs: [
      song('s', {
        layers: [layer('a')],
        patches: [
          {
            id: 'p',
            name: 'P',
            parts: [part('a', { zone: { input: 'Organ' } })],
            entering: [{ kind: 'program', port: 'Skerry', channel: 1, program: 4 }],
          },
        ],
      }),
      song('t', { layers: [], patches: [] }),
    ],
  });

  it('goes into the songs and setlists that use it, and leaves the others alone', () => {
    const renamed = withRenamedPort('loft', 'in', 'Organ', 'Lower keys', show(gearList('loft', ['Organ'])));
    expect(renamed.songs.map(({ id: songId, patches }) => [songId, patches[0].parts[0].zone.input])).toEqual([
      ['s', 'Lower keys'],
    ]);
    expect(renamed.setlists[0].programs[0].port).toBe('Lower keys');
    expect(renamed.instruments).toEqual([]);
    const out = withRenamedPort('loft', 'out', 'Skerry', 'Module', show(gearList('loft', ['Organ'])));
    expect([out.songs[0].patches[0].entering[0].port, out.instruments[0]]).toEqual([
      'Module',
      expect.objectContaining({ port: 'Module' }),
    ]);
  });

  it('is the gear list’s own affair where another list has it too, or where it takes a name that songs use', () => {
    const none = { songs: [], setlists: [], instruments: [] };
    expect(
      withRenamedPort(
        'loft',
        'in',
        'Organ',
        'Lower keys',
        show(gearList('loft', ['Organ']), gearList('bag', ['Organ'])),
      ),
    ).toEqual(none);
    expect(withRenamedPort('bag', 'in', 'Hired', 'Organ', show(gearList('bag', ['Hired'])))).toEqual(none);
  });
});

describe('sounds as they come into a song', () => {
  const stored = (of: string) =>
    of === 'mine'
      ? Instrument.parse({
          kind: 'recordings',
          id: 'mine',
          name: 'Mine',
          presets: [{ id: 'gull', name: 'Gull', file: 'd'.repeat(64), lengthSeconds: 1 }],
        })
      : undefined;
  const [first, second] = BUILT_INS;
  const of = (instrument: typeof first, preset = 0) => ({
    instrumentId: instrument.id,
    presetId: instrument.presets[preset].id,
  });
  const gull = { instrumentId: 'mine', presetId: 'gull' } as ReturnType<typeof of>;
  const layered = (name: string) =>
    song('s', {
      layers: [{ ...layer('a'), name, sound: of(first) }],
      patches: [{ id: 'p', name: 'P', parts: [part('a')] }],
    });

  it('rename a layer that was called by its sound or by a number, and no other', () => {
    const nameAfter = (name: string) => withKeptSound(layered(name), 'a', of(second), stored).layers[0].name;
    expect([first.presets[0].name, 'Layer 3', 'Electric piano', 'Left hand'].map(nameAfter)).toEqual([
      'Soft piano',
      'Soft piano',
      'Soft piano',
      'Left hand',
    ]);
  });

  it('a recording gets one key where the whole keyboard would start it, and keeps a zone that was set', () => {
    const zoneAfter = (zone: object) =>
      withKeptSound(
        song('s', { layers: [layer('a')], patches: [{ id: 'p', name: 'P', parts: [part('a', { zone })] }] }),
        'a',
        gull,
        stored,
      ).patches[0].parts[0].zone;
    expect(zoneAfter({})).toMatchObject({ lowKey: 60, highKey: 60 });
    expect(zoneAfter({ lowKey: 36, highKey: 40 })).toMatchObject({ lowKey: 36, highKey: 40 });
    expect(withSoundLayer(layered('a'), id('new'), 'p', gull, stored).patches[0].parts[1].zone.highKey).toBe(60);
  });

  it('favourites become patches in their order, each with a layer of its own called by its kind', () => {
    const made = withPatchesOf(layered('a'), [of(second, 1), of(first, 2), gull], mint, stored);
    expect(made.patches.map(({ name }) => name)).toEqual(['P', second.presets[1].name, first.presets[2].name, 'Gull']);
    expect(made.layers.map(({ name }) => name)).toEqual(['a', 'Soft piano', 'Electric piano', 'Gull']);
    expect(made.patches.slice(1).every(({ parts }) => parts.length === 1)).toBe(true);
    expect(songFaults(made)).toEqual([]);
  });
});
