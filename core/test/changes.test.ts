import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { EDITS, copyOf, demo, randomEdit, showOf } from './pageEdits';
import { clashesOf, openedShow, readShowFile, repairShow, writeShowFile } from '../src/formats';
import {
  Setlist,
  Song,
  applied,
  bodiesOf,
  changePart,
  changesOf,
  conflicting,
  differences,
  folded,
  inverted,
  moved,
  referencesOf,
  refusalOf,
  showFaults,
  songFromItem,
  songItem,
  Cue,
  withRenamedIds,
  withoutBlend,
  withoutEntry,
  withoutPatch,
  type Bodies,
  type Show,
  songEntry,
  noBodies,
} from '../src/show';

const bodies = bodiesOf(demo());
const songs = Object.values(bodies.songs);
const [setlist] = Object.values(bodies.setlists);
const faultyProgram = (all: Bodies): number => showFaults(showOf(all)).length;

describe('an edit', () => {
  it('touches only what it names; the way back is an edit too', () => {
    const [song] = songs;
    const changes = changesOf(bodies, { songs: [{ ...song, name: 'Other' as Song['name'] }] });
    expect(changes).toMatchObject([{ kind: 'songs', id: song.id, before: song }]);
    const after = applied(bodies, changes);
    expect(after.songs[song.id].name).toBe('Other');
    expect(after.setlists).toBe(bodies.setlists);
    expect(applied(after, inverted(changes)).songs[song.id]).toBe(song);
  });

  it('that changes nothing is none, and edits that come back to where they began fold to nothing', () => {
    const [song] = songs;
    expect(changesOf(bodies, { songs: [copyOf(song)] })).toEqual([]);
    const there = changesOf(bodies, { songs: [{ ...song, name: 'Other' as Song['name'] }] });
    expect(folded(there, inverted(there))).toEqual([]);
  });

  it('that met another is found by what stands there, whatever object it is', () => {
    const [song, other] = songs;
    const changes = changesOf(bodies, {
      songs: [
        { ...song, key: 'A' },
        { ...other, key: 'B' },
      ],
    });
    expect(conflicting({ ...bodies, songs: copyOf(bodies.songs) }, changes)).toEqual([]);
    const moved = applied(bodies, changesOf(bodies, { songs: [{ ...other, key: 'Z' }] }));
    expect(conflicting(moved, changes).map(({ id }) => id)).toEqual([other.id]);
  });

  it('that takes a patch or a blend out takes its program numbers along, in every setlist, and undo brings both back', () => {
    const song = songs.find((one) => one.patches.some((patch) => patch.blends.length > 0))!;
    const patch = song.patches.find(({ blends }) => blends.length > 0)!;
    for (const without of [withoutPatch(song, patch.id), withoutBlend(song, patch.id, patch.blends[0].id)]) {
      const changes = changesOf(bodies, { songs: [without] });
      const after = applied(bodies, changes);
      expect(after.setlists[setlist.id].programs.length).toBeLessThan(setlist.programs.length);
      expect(faultyProgram(after)).toBe(0);
      expect(applied(after, inverted(changes)).setlists[setlist.id]).toBe(setlist);
    }
  });

  it('that takes an item out of the library leaves no trace of it in what was started from it', () => {
    const item = songItem(songs[0], { id: 'item' as never, description: '', keptAt: '2026', isTemplate: false });
    const started = songFromItem(item as never, 'started' as never);
    const there = applied(bodies, changesOf(bodies, { libraryItems: [item], songs: [started] }));
    const gone = applied(there, changesOf(there, { libraryItems: [{ id: 'item', deleted: true }] }));
    expect(gone.songs.started.startedFrom).toBeNull();
  });

  it('is refused for what it breaks, in words, and not for what was broken before', () => {
    const [song] = songs;
    const gone = changesOf(bodies, { songs: [{ id: song.id, deleted: true }] });
    expect(refusalOf(bodies, gone)).toMatchObject({ code: 'in-use', message: expect.stringContaining(setlist.name) });
    const broken = applied(bodies, gone);
    const rename = changesOf(broken, {
      setlists: [{ ...broken.setlists[setlist.id], name: 'Later' as Setlist['name'] }],
    });
    expect(refusalOf(broken, rename)).toBeNull();
    const wild = changesOf(bodies, { songs: [{ ...song, durationSeconds: 9999 }] });
    expect(refusalOf(bodies, wild)).toMatchObject({ code: 'invalid', path: ['durationSeconds'] });
  });

  it('is judged by what it changes, and refused with its place in the whole', () => {
    const [song] = songs;
    const last = song.patches.length - 1;
    const wild = { ...song.patches[last], name: '' as never };
    const patches = [...song.patches.slice(0, last), wild];
    expect(refusalOf(bodies, changesOf(bodies, { songs: [{ ...song, patches }] }))).toMatchObject({
      code: 'invalid',
      path: ['patches', last, 'name'],
    });
    const many = Array.from({ length: 129 }, (_, n) => ({ ...song.patches[0], id: `many-${n}` as never }));
    expect(refusalOf(bodies, changesOf(bodies, { songs: [{ ...song, patches: many }] }))).toMatchObject({
      code: 'invalid',
      path: ['patches'],
    });
  });

  it('of a setlist whose standing layer plays an instrument keeps that instrument from being deleted', () => {
    const instrument = Object.values(bodies.instruments).find(({ kind }) => kind === 'outboard')!;
    const sound = { instrumentId: instrument.id, presetId: (instrument as { names: { id: string }[] }).names[0].id };
    const standing = Setlist.parse({
      id: 'st',
      name: 'Standing',
      layers: [{ id: 'l', name: 'L', tape: 'moss', sound }],
    });
    const only = { ...bodies, songs: {}, setlists: { st: standing }, libraryItems: {} };
    expect(
      refusalOf(only, changesOf(only, { instruments: [{ id: instrument.id, deleted: true }] }))?.message,
    ).toContain('Standing');
  });
});

describe('references', () => {
  it('are found by the one table, and renamed by it', () => {
    expect(referencesOf('setlists', setlist)).toContainEqual({ kind: 'songs', id: songs[0].id });
    const renamed = withRenamedIds('setlists', setlist, (kind, id) => (kind === 'songs' ? `${id}-2` : id));
    expect(referencesOf('setlists', renamed).filter(({ kind }) => kind === 'songs')[0].id).toMatch(/-2$/);
    expect(withRenamedIds('setlists', setlist, (_, id) => id)).toBe(setlist);
  });
});

it('any hundred edits of the pages, exported, come into an empty Rackle and go out the same', () => {
  const start = copyOf(bodies);
  fc.assert(
    fc.property(fc.array(fc.tuple(fc.nat(EDITS.length - 1), fc.nat()), { minLength: 100, maxLength: 100 }), (steps) => {
      let all = start;
      let ids = 0;
      let made = 0;
      for (const [which, where] of steps) {
        const changes = randomEdit(all, which, where, (prefix) => `${prefix}-${ids++}` as never);
        if (!changes) continue;
        all = applied(all, changes);
        made++;
      }
      expect(made).toBeGreaterThan(20);
      expect(showFaults(showOf(all))).toEqual([]);
      const text = writeShowFile(showOf(all));
      const read = readShowFile(text);
      if (!read.ok) throw new Error(read.error.message);
      const opened = applied(
        bodiesOf(
          showOf({
            ...start,
            ...noBodies(),
          }),
        ),
        [],
      );
      const { draft, repairs } = openedShow(opened, read.value, 'theirs', () => 'x');
      expect(repairs).toEqual([]);
      expect(writeShowFile(showOf(applied(opened, changesOf(opened, draft))))).toBe(text);
    }),
    { seed: 7, numRuns: 25 },
  );
});

describe('a show file with faults', () => {
  const broken = (): Show => {
    const show = copyOf(demo());
    const [song] = show.songs;
    song.patches[0].parts.push({ ...song.patches[0].parts[0], layerId: 'ghost' as never });
    song.patches[0].parts[0].zone = { ...song.patches[0].parts[0].zone, lowKey: 80, highKey: 20 };
    song.cues.push(Cue.parse({ kind: 'recall', id: 'lost', atTick: 0, patchId: 'ghost' }));
    song.layers[0].sound = { ...song.layers[0].sound, presetId: 'ghost' as never };
    song.bindings.push({
      role: 'R' as never,
      action: { kind: 'layerSwitch', layerId: 'ghost' as never, what: 'mute' },
      low: null,
      high: null,
      onRecall: 'stored',
    });
    show.songs.push({ ...copyOf(song), name: 'Twice' as never });
    show.setlists[0].entries.push(songEntry('e-ghost' as never, 'ghost' as never));
    show.everySetlist[0].bindings.push({ ...song.bindings.at(-1)!, role: 'R2' as never });
    show.setlists[0].programs[0].target.patchId = 'ghost' as never;
    show.setlists[0].gearListId = 'ghost' as never;
    return show;
  };

  it('is repaired, line by line, to one without; repaired again it stays as it is', () => {
    const { show, repairs } = repairShow(broken());
    expect(showFaults(show)).toEqual([]);
    expect(repairs.length).toBeGreaterThanOrEqual(8);
    // A cue that points at nothing is no fault: it stays, and the soundcheck says so.
    expect(show.songs[0].cues.map(({ id }) => id as string)).toContain('lost');
    expect(repairShow(show)).toEqual({ show, repairs: [] });
    expect(show.songs.filter(({ name }) => name === 'Twice')).toHaveLength(1);
  });

  it('whatever was cut out of it, comes out whole', () => {
    const whole = demo();
    const lists = ['songs', 'instruments', 'gearLists'] as const;
    fc.assert(
      fc.property(fc.constantFrom(...lists), fc.nat(), fc.nat(), (list, at, layer) => {
        const show = copyOf(whole);
        (show[list] as unknown[]).splice(at % show[list].length, 1);
        const song = show.songs[at % show.songs.length];
        song.layers = moved(song.layers, 0, 1).filter((_, i) => i !== layer % song.layers.length);
        song.patches = song.patches.slice(layer % 2);
        const repaired = repairShow(show);
        expect(showFaults(repaired.show)).toEqual([]);
        expect(repairShow(repaired.show).repairs).toEqual([]);
      }),
      { seed: 8, numRuns: 40 },
    );
  });
});

describe('opening a file over what is here', () => {
  const [first, second] = songs;
  const file = (): Show => ({ ...demo(), songs: [{ ...first, name: 'Theirs' as Song['name'] }, second] });
  const open = (choice: 'mine' | 'theirs' | 'both') => {
    let n = 0;
    const { draft } = openedShow(bodies, file(), choice, () => `new-${n++}`);
    return applied(bodies, changesOf(bodies, draft));
  };

  it('asks only about what differs', () => {
    expect(clashesOf(bodies, file()).map(({ id }) => id)).toEqual([first.id]);
  });

  it('keeps mine, takes theirs, or has both under ids of their own, to which the rest of the file points', () => {
    expect(open('mine').songs[first.id].name).toBe(first.name);
    expect(open('theirs').songs[first.id].name).toBe('Theirs');
    const both = open('both');
    expect(both.songs[first.id].name).toBe(first.name);
    expect(both.songs['new-0'].name).toBe('Theirs');
    expect(showFaults(showOf(both))).toEqual([]);
  });
});

describe('what differs, in words', () => {
  const [song] = songs;
  const [patch] = song.patches;
  const layer = song.layers.find(({ id }) => id === patch.parts[0].layerId)!;

  it('names patch, layer and value', () => {
    const part = patch.parts[0];
    const louder = changePart(song, patch.id, layer.id, (one) => ({
      ...one,
      levelDb: one.levelDb - 3,
      zone: { ...one.zone, lowKey: one.zone.lowKey + 4 },
    }));
    const words = differences('songs', song, louder);
    expect(words).toContain(`${patch.name}: ${layer.name} −3 dB`);
    expect(words.some((line) => line.startsWith(`${patch.name}: ${layer.name} from `))).toBe(true);
    expect(part).toBe(patch.parts[0]);
  });

  it('says what came and what went, and nothing when nothing did', () => {
    expect(differences('songs', song, withoutPatch(song, patch.id))).toContain(`patch ${patch.name} removed`);
    expect(differences('songs', song, copyOf(song))).toEqual([]);
    expect(differences('songs', song, null)).toEqual(['removed']);
    expect(
      differences('setlists', setlist, withoutEntry(setlist, setlist.entries[0].id), {
        song: (id) => bodies.songs[id].name,
        sound: () => '',
      }),
    ).toEqual([`${songs.find(({ id }) => id === (setlist.entries[0] as { songId: string }).songId)!.name} taken out`]);
  });

  it('finds something for any edit of the pages', () => {
    EDITS.forEach((edit, n) => {
      let turn = n + 3;
      const pick = <T>(items: readonly T[]): T | undefined => items[turn++ % Math.max(1, items.length)];
      const draft = edit(bodies, pick, (prefix) => `${prefix}-x` as never);
      for (const { kind, before, after } of draft ? changesOf(bodies, draft) : [])
        expect(differences(kind, before, after).length).toBeGreaterThan(0);
    });
  });
});
