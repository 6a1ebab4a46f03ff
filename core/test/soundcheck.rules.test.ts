import { describe, expect, it } from '@jest/globals';
import {
  withMeant,
  withoutMeant,
  applied,
  bodiesOf,
  changesOf,
  mended,
  playedSetlist,
  everySetlistOf,
  Show,
  type MendStep,
} from '../src/show';
import { Soundcheck, UNKNOWN_HERE, type Finding, type Here } from '../src/soundcheck';
import { RULES } from '../src/soundcheck/rules';
import { healthyShow } from './healthy';
import { PLANTED, gear, patch, port, setlist, showOf, type Loose } from './planted';

const checkOf = (show: Show, here: Here = UNKNOWN_HERE) =>
  new Soundcheck().check({
    setlist: playedSetlist(show.setlists[0], everySetlistOf(bodiesOf(show))),
    gear: show.gearLists[0] ?? null,
    songs: show.songs,
    instruments: show.instruments,
    here,
  });

/** The show after a way out, as one edit. */
function after(show: Show, steps: readonly MendStep[]): Show {
  const bodies = bodiesOf(show);
  const draft = mended(bodies, steps);
  expect(draft).not.toBeNull();
  const next = applied(bodies, changesOf(bodies, draft!));
  return Show.parse({
    ...show,
    songs: Object.values(next.songs),
    setlists: Object.values(next.setlists),
    gearLists: Object.values(next.gearLists),
    instruments: Object.values(next.instruments),
  });
}

const only = (findings: readonly Finding[], rule: string): Finding[] => findings.filter((one) => one.rule === rule);

describe('each rule of the soundcheck', () => {
  it('is silent where nothing is wrong', () => {
    expect(checkOf(showOf(() => undefined)).findings).toEqual([]);
  });

  it('has a fault planted for it', () => {
    expect([...new Set(PLANTED.map(({ rule }) => rule))].sort()).toEqual(RULES.map(({ id }) => id).sort());
  });

  it.each(PLANTED.map((planted) => [planted.rule, planted.what, planted] as const))(
    '%s finds %s',
    (rule, _, planted) => {
      const show = showOf(planted.plant);
      const here = { ...UNKNOWN_HERE, ...planted.here };
      const found = only(checkOf(show, here).findings, rule);
      expect(found.map(({ severity }) => severity)).toEqual([planted.severity]);
      expect(found[0].mend !== null).toBe(planted.mends);
      if (found[0].mend !== null)
        expect(only(checkOf(after(show, found[0].mend.steps), here).findings, rule)).toEqual([]);
    },
  );

  it('says once how many notes the machine sounds, with every patch that asks for more', () => {
    const show = showOf((s) => {
      patch(s, 1).parts[0].chord = [4, 7];
      patch(s, 2).parts[0].chord = [3, 7, 10];
    });
    const found = only(checkOf(show, { ...UNKNOWN_HERE, voices: 24 }).findings, 'too-many-voices');
    expect(found.map(({ where }) => where)).toEqual(['a: Two, a: Three']);
  });

  it('finds nothing in 200 shows that nothing is wrong with', () => {
    for (let seed = 0; seed < 200; seed++) expect([seed, checkOf(healthyShow(seed)).findings]).toEqual([seed, []]);
  });

  it('knows calls that are one off among numbers with gaps by two of them', () => {
    const gaps = showOf((s) => setlist(s).programs.forEach((line: Loose, i: number) => (line.program = 10 * i)));
    const here = (...programs: number[]): Here => ({
      ...UNKNOWN_HERE,
      unanswered: programs.map((program) => ({ port: 'Feet', msb: 0, lsb: 0, program })),
    });
    const found = (...programs: number[]): number =>
      only(checkOf(gaps, here(...programs)).findings, 'off-by-one').length;
    expect([found(9, 19), found(11, 31), found(9), found(9, 21), found(9, 15)]).toEqual([1, 1, 0, 0, 0]);
  });

  it('lets keys at the end of a patch be as long as nobody has played them, and once they sound', () => {
    const show = showOf((s) => (s.songs[1].patches[2].parts[0].zone = { lowKey: 48 }));
    const struck = (key: number, patchId = 'b/three'): Here => ({
      ...UNKNOWN_HERE,
      silentStrikes: [{ songId: 'b', patchId, device: 'Aster 73', key }],
    });
    const found = (here: Here): string[] =>
      only(checkOf(show, here).findings, 'silent-keys').map(({ message }) => message);
    expect(found(UNKNOWN_HERE)).toEqual([]);
    expect(found(struck(60))).toEqual([]);
    expect(found(struck(40, 'b/two'))).toEqual([]);
    expect(found(struck(40))).toEqual(['E2 is silent']);
  });

  it('lets calls be that have got a number since', () => {
    const unanswered = [0, 1].map((program) => ({ port: 'Feet', msb: 0, lsb: 0, program }));
    expect(
      only(
        checkOf(
          showOf(() => undefined),
          { ...UNKNOWN_HERE, unanswered },
        ).findings,
        'off-by-one',
      ),
    ).toEqual([]);
  });

  it('names the places of one cause together, and mends all of them at once', () => {
    const show = showOf((s) => {
      port(s, 'Feet').channels = [1];
      setlist(s).programs.forEach((line: Loose) => (line.channel = 2));
    });
    const [finding, ...others] = checkOf(show).findings;
    expect(others).toEqual([]);
    expect(finding.message).toBe('no input of Loft can call 6 numbers: it is called by channel 2 only');
    expect(finding.places.map(({ words }) => words).slice(0, 2)).toEqual(['1: a, One', '2: a, Two']);
    expect(checkOf(after(show, finding.mend!.steps)).findings).toEqual([]);
  });
});

describe('what is meant so', () => {
  const planted = () => showOf((s) => (patch(s).parts[1].zone.lowKey = 55));
  const meant = (show: Show, note = ''): Show => {
    const [finding] = checkOf(show).findings;
    return { ...show, setlists: [withMeant(show.setlists[0], finding, note)] };
  };

  it('is silent, stays counted with its note, and can be taken back', () => {
    const show = meant(planted(), 'The gap is for the drone.');
    const result = checkOf(Show.parse(show));
    expect(result.findings).toEqual([]);
    expect(result.meant.map(({ finding, note }) => `${finding.rule}: ${note}`)).toEqual([
      'silent-keys: The gap is for the drone.',
    ]);
    const back = { ...show, setlists: [withoutMeant(show.setlists[0], result.meant[0].finding)] };
    expect(checkOf(back).findings.map(({ rule }) => rule)).toEqual(['silent-keys']);
  });

  it('speaks again as soon as the cause is another one', () => {
    const show = meant(planted());
    const [first, second] = show.songs[0].patches[0].parts;
    const songs = show.songs.map((song, i) =>
      i > 0
        ? song
        : {
            ...song,
            patches: song.patches.map((one, p) =>
              p > 0 ? one : { ...one, parts: [first, { ...second, zone: { ...second.zone, lowKey: 57 } }] },
            ),
          },
    );
    expect(checkOf({ ...show, songs }).findings.map(({ rule }) => rule)).toEqual(['silent-keys']);
  });

  it('holds where it was said, and not where the same comes up later', () => {
    const show = meant(planted());
    const songs = show.songs.map((song, i) =>
      i > 0
        ? song
        : {
            ...song,
            patches: song.patches.map((one, p) => (p === 2 ? { ...one, parts: song.patches[0].parts } : one)),
          },
    );
    const result = checkOf({ ...show, songs });
    expect(result.findings.map(({ where }) => where)).toEqual(['a: Three (Keys), a: Three (Lower)']);
    expect(result.meant).toHaveLength(1);
  });
});

describe('looking again after an edit', () => {
  it('says the same as looking at everything anew, whatever was edited', () => {
    const kept = new Soundcheck();
    const edits: ((show: Loose) => void)[] = [
      () => undefined,
      (s) => (patch(s).parts[1].zone.lowKey = 55),
      (s) => (gear(s).roles[1].button = 'momentary'),
      (s) => s.songs.pop(),
      (s) => (setlist(s).entries = setlist(s).entries.reverse()),
      (s) => (setlist(s).sharedEffects = [{ id: 'e', name: 'Cathedral', effects: [] }]),
      (s) => (s.instruments[0].names = []),
      (s) => (setlist(s).entries[0].keyShift = 24),
    ];
    let last: Show | null = null;
    for (const edit of [...edits, ...[...edits].reverse()]) {
      const next = showOf(edit);
      // What is the same keeps its identity, as edits have it.
      const same = <T extends { id: string }>(before: readonly T[] | undefined, after: readonly T[]): T[] =>
        after.map((one) => before?.find((other) => JSON.stringify(other) === JSON.stringify(one)) ?? one);
      const show: Show = {
        ...next,
        songs: same(last?.songs, next.songs),
        instruments: same(last?.instruments, next.instruments),
        gearLists: same(last?.gearLists, next.gearLists),
      };
      last = show;
      const input = {
        setlist: show.setlists[0],
        gear: show.gearLists[0],
        songs: show.songs,
        instruments: show.instruments,
        here: UNKNOWN_HERE,
      };
      expect(kept.check(input)).toEqual(new Soundcheck().check(input));
    }
  });
});
