import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, it } from '@jest/globals';
import {
  Show,
  applied,
  bodiesOf,
  changesOf,
  everySetlistOf,
  mended,
  playedSetlist,
  type Instrument,
  type MendStep,
} from '../src/show';
import { LevelCheck, UNKNOWN_HERE, type LevelMeasured, type LevelTake, type PlayedKey } from '../src/soundcheck';
import { chordIn } from '../src/soundcheck/levels/stretches';
import type { Loose } from './planted';
import { keysPort, skerry } from './rig';

/** One song of even levels: split in the verse, one layer in the others. */
function levelsShow(change: (show: Loose) => unknown = () => undefined): Show {
  const show: Loose = {
    format: 'rackle-show',
    version: Show.shape.version.value,
    songs: [
      {
        id: 'low-road',
        name: 'Low Road',
        layers: [
          { id: 'keys', name: 'Keys', tape: 'straw', sound: { instrumentId: 'causeway', presetId: 'keys' } },
          { id: 'bass', name: 'Bass', tape: 'moss', sound: { instrumentId: 'keelson', presetId: 'bass' } },
        ],
        patches: [
          {
            id: 'verse',
            name: 'Verse',
            parts: [
              { layerId: 'keys', zone: { lowKey: 48 } },
              { layerId: 'bass', zone: { highKey: 47 }, shift: 12 },
            ],
          },
          { id: 'chorus', name: 'Chorus', parts: [{ layerId: 'keys' }] },
          { id: 'bridge', name: 'Bridge', parts: [{ layerId: 'keys' }] },
        ],
      },
    ],
    instruments: [skerry(80, [{ id: 'sk0', name: 'Low Water', program: 0 }])],
    gearLists: [
      {
        id: 'gear',
        name: 'Gear',
        ports: [keysPort({ lowest: 24, highest: 96 }), { direction: 'out', alias: 'Skerry', device: 'Skerry' }],
      },
    ],
    setlists: [
      { id: 'set', name: 'Set', gearListId: 'gear', entries: [{ kind: 'song', id: 'e', songId: 'low-road' }] },
    ],
  };
  change(show);
  return Show.parse(show);
}

const demo = Show.parse(JSON.parse(readFileSync(join(__dirname, '../../demo/tern-ledge.json'), 'utf8')));

function recorded(show: Show, played: readonly PlayedKey[] = []): LevelCheck {
  const check = new LevelCheck(
    {
      setlist: playedSetlist(show.setlists[0], everySetlistOf(bodiesOf(show))),
      gear: show.gearLists[0],
      songs: show.songs,
      instruments: show.instruments as Instrument[],
      here: UNKNOWN_HERE,
    },
    played,
  );
  check.record(Infinity);
  return check;
}

const notesOf = ({ layers }: LevelTake): [preset: string, key: number, velocity: number][] =>
  layers.flatMap(({ presetId, messages }) =>
    messages.flatMap(([, status, key, velocity]): [string, number, number][] =>
      (status & 0xf0) === 0x90 && velocity > 0 ? [[presetId, key, velocity]] : [],
    ),
  );

/** As if every note were as loud as its layer and its velocity say: enough to tell takes apart. */
function modelled(check: LevelCheck): Map<string, LevelMeasured> {
  return new Map(
    [...check.takes].map(([key, take]) => {
      const db = Math.max(...take.layers.map(({ balance: [levelDb] }) => levelDb));
      const hardest = Math.max(...notesOf(take).map(([, , velocity]) => velocity));
      return [key, { lufs: -18 + db, peakDb: -12 + db + (hardest > 100 ? 8 : 0) }];
    }),
  );
}

const resultOf = (show: Show, jumpLu = 6) => {
  const check = recorded(show);
  return check.result(modelled(check), jumpLu);
};

function after(show: Show, steps: readonly MendStep[]): Show {
  const bodies = bodiesOf(show);
  const next = applied(bodies, changesOf(bodies, mended(bodies, steps)!));
  return Show.parse({ ...show, songs: Object.values(next.songs) });
}

describe('the reference chord', () => {
  it('has four keys in the middle of a stretch, and never one outside of it', () => {
    expect(chordIn({ low: 21, high: 108 })).toEqual([59, 63, 66, 71]);
    expect(chordIn({ low: 60, high: 62 })).toEqual([60, 61, 61, 62].filter((key, i, all) => all.indexOf(key) === i));
    for (let low = 0; low < 128; low += 3)
      for (let high = low; high < 128; high += 5)
        for (const share of [0.25, 0.5, 0.75]) {
          const keys = chordIn({ low, high }, share);
          expect(new Set(keys).size).toBe(Math.min(4, high - low + 1));
          expect(Math.min(...keys)).toBeGreaterThanOrEqual(low);
          expect(Math.max(...keys)).toBeLessThanOrEqual(high);
        }
  });
});

describe('what is to be rendered', () => {
  it('is, for each stretch of keys, what the engine makes of a chord there at velocity 80', () => {
    const [first] = recorded(levelsShow()).takes.values();
    // The split's lower half: one layer, an octave higher, at its own level.
    expect(notesOf(first)).toEqual([
      ['bass', 42, 80],
      ['bass', 46, 80],
      ['bass', 49, 80],
      ['bass', 54, 80],
    ]);
    expect(first.layers[0].balance[0]).toBe(-6);
  });

  it('is taken once where it sounds alike, and anew after what changes the sound', () => {
    const keys = (show: Show): Set<string> => new Set(recorded(show).takes.keys());
    const [one, same, other] = [
      levelsShow(),
      levelsShow((show) => (show.songs[0].patches[1].name = 'Refrain')),
      levelsShow((show) => (show.songs[0].patches[1].parts[0].levelDb = -9)),
    ].map(keys);
    expect(same).toEqual(one);
    expect([...other].filter((key) => !one.has(key)).length).toBeGreaterThan(0);
    expect([...other].filter((key) => one.has(key)).length).toBeGreaterThan(0);
  });

  it('has two hands at 127, and what was last played', () => {
    const check = recorded(levelsShow(), [{ key: 70, velocity: 33 }]);
    const velocities = [...check.takes.values()].map((take) => [...new Set(notesOf(take).map(([, , v]) => v))]);
    expect(velocities.filter(([velocity]) => velocity === 127).length).toBeGreaterThan(0);
    expect(velocities.filter(([velocity]) => velocity === 33).length).toBeGreaterThan(0);
    const hands = [...check.takes.values()].find((take) => notesOf(take).some(([, , velocity]) => velocity === 127))!;
    // Both halves of the split.
    expect(new Set(notesOf(hands).map(([preset]) => preset))).toEqual(new Set(['bass', 'keys']));
  });

  it('is of every step of the demo that sounds here', () => {
    const check = recorded(demo);
    expect(check.progress.done).toBe(check.progress.of);
    expect(check.progress.of).toBeGreaterThan(40);
    const { loudness } = check.result(modelled(check), 6);
    expect(loudness.length).toBeGreaterThan(check.progress.of * 0.9);
  });
});

describe('levels', () => {
  it('that are even are no finding', () => {
    expect(resultOf(levelsShow()).findings).toEqual([]);
  });

  it('that jump from one step to the next are found, and mended by one edit', () => {
    const show = levelsShow((loose) => (loose.songs[0].patches[1].parts[0].levelDb = 4));
    const jumps = resultOf(show).findings.filter(({ rule }) => rule === 'level-jump');
    expect(jumps.map(({ severity, message }) => [severity, message])).toEqual([
      ['mayFail', 'Chorus is 10.0 LU louder than Verse before it'],
      ['mayFail', 'Bridge is 10.0 LU softer than Chorus before it'],
    ]);
    expect(jumps[0].mend?.label).toBe('turn it down by 10 dB');
    expect(resultOf(after(show, jumps[0].mend!.steps)).findings).toEqual([]);
    expect(resultOf(show, 12).findings.filter(({ rule }) => rule === 'level-jump')).toEqual([]);
  });

  it('of other keys than those in common are not compared', () => {
    // The bass below is loud: the chorus has it nowhere.
    const show = levelsShow((loose) => {
      loose.songs[0].patches[0].parts[1].levelDb = 4;
      loose.songs[0].patches[1].parts[0].zone = { lowKey: 48 };
    });
    expect(resultOf(show).findings.filter(({ rule }) => rule === 'level-jump')).toEqual([]);
  });

  it('that clip with both hands are found, and mended by one edit', () => {
    const show = levelsShow((loose) => {
      for (const { parts } of loose.songs[0].patches) for (const part of parts) part.levelDb = 6;
    });
    const clips = resultOf(show).findings.filter(({ rule }) => rule === 'clips');
    expect(clips.map(({ message }) => message)).toEqual([
      'two hands at full force reach +2.0 dBTP in Verse',
      'two hands at full force reach +2.0 dBTP in Chorus',
      'two hands at full force reach +2.0 dBTP in Bridge',
    ]);
    const steps = clips.flatMap(({ mend }) => mend?.steps ?? []);
    expect(resultOf(after(show, steps)).findings.filter(({ rule }) => rule === 'clips')).toEqual([]);
  });

  it('that are none at all are found, with the keys on which nothing is heard', () => {
    const check = recorded(levelsShow((loose) => (loose.songs[0].patches[1].parts[0].zone = { lowKey: 60 })));
    const measured = modelled(check);
    const [silent] = [...check.takes].find(([, take]) => notesOf(take).some(([, key]) => key === 72))!;
    measured.set(silent, { lufs: -120, peakDb: -180 });
    const found = check.result(measured, 6).findings.filter(({ rule }) => rule === 'sounds-nothing');
    expect(found.map(({ severity, message }) => [severity, message])).toEqual([
      ['mayFail', 'nothing is heard of Keys on C4–C7 in Chorus'],
    ]);
    // Nothing is no level that jumps.
    expect(check.result(measured, 6).findings).toHaveLength(1);
  });

  it('of gear outside are said not to be measured, and compared with nothing', () => {
    const show = levelsShow((loose) => {
      loose.songs[0].layers.push({
        id: 'out',
        name: 'Outboard',
        tape: 'rust',
        sound: { instrumentId: 'skerry', presetId: 'sk0' },
      });
      loose.songs[0].patches[1].parts.push({ layerId: 'out' });
      loose.songs[0].patches[1].parts[0].levelDb = 6;
    });
    const { findings } = resultOf(show);
    expect(findings.map(({ rule, severity, where }) => [rule, severity, where])).toEqual([
      ['not-measured', 'toKnow', 'Low Road: Chorus'],
    ]);
  });

  it('that could not be measured are counted as not looked at', () => {
    const check = recorded(levelsShow());
    const none = check.result(new Map(), 6);
    expect(none.findings).toEqual([]);
    expect(none.looked.map(({ counted }) => counted)).toEqual([
      '0 stretches of keys',
      '0 steps',
      '0 stretches of keys',
    ]);
    expect(none.loudness).toEqual([]);
  });
});
