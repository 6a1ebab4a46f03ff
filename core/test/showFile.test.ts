import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import {
  migratedBody,
  migrations,
  readShowDocument,
  readShowFile,
  showJsonSchema,
  writeShowFile,
} from '../src/formats';
import { SHOW_VERSION, Show, songEntry, emptyShow, showFaults, steadyMap, type OutboardInstrument } from '../src/show';
import { soundcheck } from '../src/soundcheck';
import { showArb } from './arbitraries';

const demo = readFileSync(join(__dirname, '../../demo/tern-ledge.json'), 'utf8');
const demoShow = (): Show => {
  const read = readShowFile(demo);
  if (!read.ok) throw new Error(read.error.message);
  return read.value;
};

describe('the show file', () => {
  it('reads back what was written', () => {
    fc.assert(
      fc.property(showArb(), (generated) => {
        const show = Show.parse({
          ...emptyShow(),
          songs: generated.songs,
          instruments: generated.instruments,
          gearLists: [generated.gear],
          setlists: [{ id: 's', name: 'S', ...generated.setlist }],
        });
        expect(readShowFile(writeShowFile(show))).toEqual({ ok: true, value: show });
      }),
      { seed: 3, numRuns: 60 },
    );
  });

  it('refuses what it cannot use, by code, with the path of the fault', () => {
    const outcome = (text: string) => {
      const read = readShowFile(text);
      return read.ok ? 'read' : [read.error.code, ...read.error.path];
    };
    expect(outcome('{"format":')).toEqual(['not-json']);
    expect(outcome('[]')).toEqual(['not-a-show', 'format']);
    expect(outcome('{"format":"rackle-show"}')).toEqual(['not-a-show', 'version']);
    expect(outcome(JSON.stringify({ ...emptyShow(), version: SHOW_VERSION + 1 }))).toEqual([
      'newer-version',
      'version',
    ]);
    expect(
      outcome(JSON.stringify({ ...emptyShow(), songs: [{ id: 'a', name: 'A', durationSeconds: 'long' }] })),
    ).toEqual(['invalid', 'songs', 0, 'durationSeconds']);
    expect(outcome(JSON.stringify({ ...emptyShow(), extra: 1 }))).toEqual(['invalid']);
  });

  it('cut off anywhere is refused', () => {
    for (let length = 0; length < demo.length - 1; length += 997)
      expect(readShowFile(demo.slice(0, length)).ok).toBe(false);
  });

  it('reads a show of version 1, whose actions were bare words', () => {
    const old = {
      format: 'rackle-show',
      version: 1,
      setlists: [
        {
          id: 'n',
          name: 'N',
          bindings: [
            { role: 'Next', action: 'nextStep' },
            { role: 'Top', action: 'firstStep' },
          ],
        },
      ],
    };
    const read = readShowDocument(old);
    expect(read.ok && read.value.setlists[0].bindings.map(({ action }) => action)).toEqual([
      { kind: 'nextStep' },
      { kind: 'firstSong' },
    ]);
    expect(old.version).toBe(1);
  });

  it('of version 4 gets maps from one tempo and one meter, in songs and in the library, alone or in a file', () => {
    const old = { id: 'kelp', name: 'Kelp', tempoBpm: 128.5, meter: { beats: 6, unit: 8 }, bars: 84 };
    const map = steadyMap(128.5, { beats: 6, unit: 8 }, 84);
    const item = { id: 'dance', name: 'Dance', kind: 'song', keptAt: '2026-01-01', song: old };
    const bare = { id: 'bell', name: 'Bell' };
    const document = { ...emptyShow(), version: 4, songs: [old, bare], libraryItems: [item] };
    const read = readShowFile(JSON.stringify(document));
    expect(read).toMatchObject({
      ok: true,
      value: { songs: [{ map }, { map: steadyMap() }], libraryItems: [{ song: { map } }] },
    });
    expect(migratedBody('songs', old, 4)?.map).toEqual(map);
    expect(migratedBody('songs', { ...old, tempoBpm: 9999 }, 4)).toBeNull();
  });

  it('has migrations with consecutive numbers, up to the present version', () => {
    expect(migrations.map((migration) => migration.from)).toEqual(
      Array.from({ length: SHOW_VERSION - 1 }, (_, i) => i + 1),
    );
  });

  it('publishes a JSON Schema in which defaults may be left out', () => {
    const schema = showJsonSchema() as { properties: Record<string, unknown>; required: string[] };
    expect(Object.keys(schema.properties)).toEqual([
      'format',
      'version',
      'songs',
      'setlists',
      'instruments',
      'gearLists',
      'everySetlist',
      'libraryItems',
      'shelves',
      'unreadable',
    ]);
    expect(schema.required).toEqual(['format', 'version']);
  });
});

describe('the demo', () => {
  it('is whole: ten songs, a break, about forty patches, blends, standing layers, outboard layers; and nothing is wrong with it', () => {
    const show = demoShow();
    const [setlist] = show.setlists;
    expect(setlist.entries.map((entry) => entry.kind)).toEqual([
      ...Array<string>(5).fill('song'),
      'break',
      ...Array<string>(5).fill('song'),
    ]);
    const patches = show.songs.flatMap((song) => song.patches);
    expect(patches.length + patches.flatMap((patch) => patch.blends).length).toBe(41);
    expect(show.songs.flatMap((song) => song.standing).length).toBeGreaterThan(1);
    expect(
      show.songs.flatMap((song) => song.layers).filter((layer) => layer.sound.instrumentId === 'skerry').length,
    ).toBeGreaterThan(2);
    expect((show.instruments[0] as OutboardInstrument).names).toHaveLength(256);
    expect(new Set((show.instruments[0] as OutboardInstrument).names.map((name) => name.name)).size).toBe(256);
    expect(showFaults(show)).toEqual([]);
    // Four roles are left open, to be learned.
    expect(soundcheck(show).findings.map(({ rule }) => rule)).toEqual(Array(4).fill('role-open'));
  });
});

describe('references and the soundcheck', () => {
  const broken = (change: (show: Show) => void): string[] => {
    const show = demoShow();
    change(show);
    return soundcheck(show)
      .findings.map(({ rule, cause }) => (rule.endsWith('points-nowhere') ? cause.split(' ')[0] : rule))
      .filter((rule) => rule !== 'role-open');
  };

  it('find what points at nothing', () => {
    expect(
      broken((show) => {
        show.setlists[0].entries[0] = songEntry('x' as never, 'gone' as never);
      }),
    ).toContain('no-such-song');
    expect(
      broken((show) => {
        show.songs[0].patches[0].parts[0].layerId = 'gone' as never;
      }),
    ).toContain('no-such-layer');
    expect(
      broken((show) => {
        show.songs[0].layers[0].sound.presetId = 'gone' as never;
      }),
    ).toContain('sound-missing');
    expect(
      broken((show) => {
        show.songs[0].layers[0].sound.instrumentId = 'gone' as never;
      }),
    ).toContain('sound-missing');
    expect(
      broken((show) => {
        show.setlists[0].programs[0].target.patchId = 'gone' as never;
      }),
    ).toContain('no-such-patch');
    expect(
      broken((show) => {
        show.setlists[0].gearListId = 'gone' as never;
      }),
    ).toContain('no-such-gear-list');
    expect(
      broken((show) => {
        show.songs[1].id = show.songs[0].id;
      }),
    ).toContain('twice');
  });

  it('find zones upside down', () => {
    expect(
      broken((show) => {
        Object.assign(show.songs[0].patches[0].parts[0].zone, { lowKey: 90, highKey: 10 });
      }),
    ).toContain('zone-upside-down');
    expect(
      broken((show) => {
        Object.assign(show.songs[0].patches[0].parts[0].zone, { lowVelocity: 90, highVelocity: 10 });
      }),
    ).toContain('velocities-upside-down');
  });

  it('find the same number twice, and numbers that no gear can call', () => {
    expect(
      broken((show) => {
        show.setlists[0].programs[1].program = show.setlists[0].programs[0].program;
      }),
    ).toEqual(['number-twice']);
    expect(
      broken((show) => {
        show.setlists[0].programs[1].channel = 4;
        show.gearLists[0].ports.forEach((port) => {
          if (port.direction === 'in') port.channels = [1];
        });
      }),
    ).toEqual(['number-unreachable', 'control-channel', 'control-channel']);
    expect(
      broken((show) => {
        show.setlists[0].entries.splice(0, 1);
      }),
    ).toContain('number-leads-nowhere');
  });

  it('find keyboards that tonight’s gear lacks, or has switched off, and only where a zone names them', () => {
    const only = (show: Show, input: string): void => {
      Object.assign(show.songs[0].patches[0].parts[0].zone, { input });
    };
    const port = (show: Show, alias: string) =>
      show.gearLists[0].ports.find((candidate) => candidate.direction === 'in' && candidate.alias === alias)!;
    expect(broken((show) => only(show, 'Upper keys'))).toEqual(['port-names']);
    expect(broken((show) => only(show, 'Keys'))).toEqual([]);
    expect(
      broken((show) => {
        only(show, 'Keys');
        port(show, 'Keys').on = false;
      }),
    ).toEqual(['port-names']);
    expect(
      broken((show) => {
        only(show, 'Keys');
        Object.assign(port(show, 'Keys'), { plays: false });
      }),
    ).toEqual(['port-names']);
  });

  it('find outputs that tonight’s gear lacks, and layers that would be silent', () => {
    expect(
      broken((show) => {
        show.setlists[0].gearListId = show.gearLists[1].id;
      }),
    ).toContain('port-names');
    expect(
      broken((show) => {
        const [song] = show.songs;
        song.layers[0].sound = { instrumentId: 'skerry' as never, presetId: 'skerry/1' as never, channel: null };
        song.layers[1].sound = { instrumentId: 'skerry' as never, presetId: 'skerry/2' as never, channel: null };
      }),
    ).toContain('channel-shared');
  });
});
