import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import {
  KINDS,
  applied,
  bodiesOf,
  broughtBack,
  changeLayer,
  changePart,
  differences,
  differing,
  keyOfItem,
  songFaults,
  withEntry,
  withoutEntry,
  withoutLayer,
  withoutPatch,
  songEntry,
  type Body,
  type Kind,
  type Song,
} from '../src/show';
import { EDITS, demo, randomEdit } from './pageEdits';

const bodies = bodiesOf(demo());
const songs = Object.values(bodies.songs);
const [song] = songs;
const [patch, other] = song.patches;
const { layerId } = patch.parts[0];
const layer = song.layers.find(({ id }) => id === layerId)!;
const [setlist] = Object.values(bodies.setlists);

/** The thing whose words read so. */
const thingOf = (kind: Kind, old: Body, now: Body, words: string | RegExp) =>
  differing(kind, old, now).find((one) => (typeof words === 'string' ? one.words === words : words.test(one.words)))!
    .thing;

describe('one thing of an older version', () => {
  const louder = (one: Song): Song =>
    changePart(one, patch.id, layerId, (part) => ({ ...part, levelDb: -11, shift: 7 }));

  it('a layer of one patch comes back whole, and everything else stays as it is now', () => {
    const now = { ...louder(song), key: 'F sharp' };
    const back = broughtBack('songs', now, song, thingOf('songs', song, now, /shift/));
    expect(differences('songs', song, back)).toEqual([expect.stringContaining('key')]);
    expect(back.patches[0].parts).toEqual(song.patches[0].parts);
  });

  it('a layer that was thrown away plays again where it played, at its old place', () => {
    const now = withoutLayer(song, layerId);
    const back = broughtBack('songs', now, song, thingOf('songs', song, now, `layer ${layer.name} removed`));
    // What a role did to it is another thing, and comes back by itself.
    expect(differences('songs', song, back)).toEqual(['what roles do in the song differs']);
    expect(back.layers.map(({ id }) => id)).toEqual(song.layers.map(({ id }) => id));
  });

  it('a part of a layer that is gone brings its layer along', () => {
    const now = withoutLayer(song, layerId);
    const thing = thingOf('songs', song, now, `${patch.name}: ${layer.name} no longer plays`);
    const back = broughtBack('songs', now, song, thing);
    expect(back.layers).toContainEqual(layer);
    expect(songFaults(back)).toEqual([]);
  });

  it('a layer that is new goes again, with all that it plays', () => {
    const old = withoutLayer(song, layerId);
    const back = broughtBack('songs', song, old, thingOf('songs', old, song, `layer ${layer.name} added`));
    expect(songFaults(back)).toEqual([]);
    expect(differences('songs', old, back)).toEqual([]);
  });

  it('a field of a layer comes back alone', () => {
    const now = changeLayer(
      changeLayer(song, layerId, (one) => ({ ...one, followsTranspose: false })),
      layerId,
      (one) => ({
        ...one,
        output: 'Click' as never,
      }),
    );
    const back = broughtBack('songs', now, song, thingOf('songs', song, now, /transposing/));
    expect(differences('songs', song, back)).toEqual([`${layer.name}: output Main → Click`]);
  });

  it('a patch comes back behind the one it stood behind', () => {
    const now = withoutPatch(song, other.id);
    const back = broughtBack('songs', now, song, thingOf('songs', song, now, `patch ${other.name} removed`));
    expect(back.patches.map(({ id }) => id)).toEqual(song.patches.map(({ id }) => id));
  });

  it('an order comes back; what is new keeps its place', () => {
    const [first, second, ...rest] = setlist.entries;
    const now = withEntry({ ...setlist, entries: [second, first, ...rest] }, songEntry('entry-new' as never, song.id));
    const back = broughtBack('setlists', now, setlist, thingOf('setlists', setlist, now, 'another order'));
    expect(back.entries.map(keyOfItem)).toEqual([...setlist.entries.map(keyOfItem), 'entry-new']);
  });

  it('an entry that was taken out comes back at its place', () => {
    const now = withoutEntry(setlist, setlist.entries[2].id);
    const back = broughtBack('setlists', now, setlist, thingOf('setlists', setlist, now, /taken out/));
    expect(back.entries).toEqual(setlist.entries);
  });
});

it('after any edits of the pages, difference by difference, everything is as it was; nothing between points nowhere', () => {
  fc.assert(
    fc.property(fc.array(fc.tuple(fc.nat(EDITS.length - 1), fc.nat()), { minLength: 30, maxLength: 30 }), (steps) => {
      let all = bodies;
      let ids = 0;
      for (const [which, where] of steps) {
        const changes = randomEdit(all, which, where, (prefix) => `${prefix}-${ids++}` as never);
        if (changes) all = applied(all, changes);
      }
      for (const kind of ['songs', 'setlists', 'instruments', 'gearLists', 'everySetlist'] as const)
        for (const old of Object.values(bodies[kind]) as Body[]) {
          let now = (all[kind] as Record<string, Body>)[old.id];
          if (!now) continue;
          let rounds = 0;
          for (let left = differing(kind, old, now); left.length > 0; left = differing(kind, old, now)) {
            expect(rounds++).toBeLessThan(500);
            now = broughtBack<Kind>(kind, now, old, left[rounds % left.length].thing);
            expect(KINDS[kind].schema.safeParse(now).success).toBe(true);
            if (kind === 'songs') expect(songFaults(now as Song)).toEqual([]);
          }
          expect(differences(kind, old, now)).toEqual([]);
        }
    }),
    { numRuns: 25 },
  );
});
