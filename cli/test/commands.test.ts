import { spawnSync } from 'node:child_process';
import { existsSync, mkdtempSync, readFileSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type { LogRecord } from '@rackle/core/dryRun';
import { readSmf, writeSmf } from '@rackle/core/formats';
import type { Show } from '@rackle/core/show';

const ROOT = join(__dirname, '../..');
const SHOW = join(ROOT, 'demo/tern-ledge.json');
const PLAYED = join(ROOT, 'demo/rehearsal.mid');
const REEL = join(ROOT, 'demo/pewter-jug-reel.mid');
const SET = 'Midsummer at Tern Ledge';
let folder = '';
beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), 'rackle-cli-'));
});
afterAll(() => rmSync(folder, { recursive: true, force: true }));

const rackle = (...words: string[]) => {
  const { status, stdout, stderr } = spawnSync(process.execPath, [join(ROOT, 'cli/bin/rackle.mjs'), ...words], {
    encoding: 'utf8',
  });
  return { status, stdout, stderr };
};
const at = (name: string): string => join(folder, name);
const put = (name: string, content: Uint8Array | string): string => {
  writeFileSync(at(name), content);
  return at(name);
};
const changedShow = (change: (show: Show) => void): string => {
  const show = JSON.parse(readFileSync(SHOW, 'utf8')) as Show;
  change(show);
  return put('changed.json', JSON.stringify(show));
};

describe('rackle loading', () => {
  it('says a line a song what is in memory, and that nobody waits where the budget holds the demo', () => {
    const { status, stdout, stderr } = rackle('loading', SHOW, '--setlist', SET);
    expect([status, stderr]).toEqual([0, '']);
    const lines = stdout.trim().split('\n');
    expect(lines.at(-1)).toMatch(/^at most \d+ MB · no wait · a jump waits at most \d+\.\d s \(estimated\)$/);
    expect(lines.some((line) => /^Third Ferry Home · \d+ MB · .*no wait$/.test(line))).toBe(true);
  });

  it('says where the player waits when there is too little, with exit status 1; what cannot be read is one line', () => {
    const tight = rackle('loading', SHOW, '--setlist', SET, '--budget', '60');
    expect(tight.status).toBe(1);
    expect(tight.stdout).toMatch(/waits \d+\.\d s/);
    const whole = JSON.parse(rackle('loading', SHOW, '--setlist', SET, '--json').stdout) as {
      plan: { stops: unknown[]; cost: { totalMs: number } };
      places: unknown[];
    };
    expect(whole.plan.cost.totalMs).toBe(0);
    expect(whole.plan.stops).toHaveLength(whole.places.length);
    for (const words of [
      ['loading', SHOW],
      ['loading', SHOW, '--setlist', 'Nowhere'],
      ['loading', SHOW, '--setlist', SET, '--budget', 'much'],
    ])
      expect(rackle(...words)).toMatchObject({ status: 2, stdout: '' });
  });
});

describe('rackle dry-run', () => {
  it('plays the rehearsal: tracks by their names, note-offs for all note-ons, recalls in the log, nothing left sounding', () => {
    expect(
      rackle('dry-run', SHOW, '--setlist', SET, '--in', PLAYED, '--out', at('r.mid'), '--log', at('r.ndjson')),
    ).toMatchObject({ status: 0, stderr: '' });
    const read = readSmf(readFileSync(at('r.mid')));
    if (!read.ok) throw new Error(read.error.message);
    expect(read.value.format).toBe(1);
    const names = read.value.tracks.map((track) => track.name);
    expect(names).toContain('Skerry');
    expect(names).toContain('Causeway / Third Ferry Home / Quay / Late Boat');
    for (const track of read.value.tracks) {
      const balance = new Map<string, number>();
      for (const message of track.messages) {
        if (message.kind !== 'message') continue;
        const key = `${message.status & 15} ${message.data1}`;
        if ((message.status & 0xf0) === 0x90) balance.set(key, (balance.get(key) ?? 0) + 1);
        if ((message.status & 0xf0) === 0x80) balance.set(key, (balance.get(key) ?? 0) - 1);
        expect(balance.get(key) ?? 0).toBeGreaterThanOrEqual(0);
      }
      expect([...balance.values()].every((count) => count === 0)).toBe(true);
    }
    const log = readFileSync(at('r.ndjson'), 'utf8')
      .trim()
      .split('\n')
      .map((line) => JSON.parse(line) as LogRecord);
    const recalls = log.flatMap((record) =>
      record.type === 'recall' ? [record.patch + (record.blend === null ? '' : `/${record.blend}`)] : [],
    );
    expect(recalls).toEqual([
      'Jetty',
      'Oars',
      'Regatta',
      'Quay',
      'Gangway',
      'Gangway/quiet',
      'Gangway/quiet',
      'Open water',
      'Bell buoy',
      'Ash',
      'Flame',
      'Dusk',
      'Long bows',
      'Rinse',
    ]);
    expect(log.at(-1)).toMatchObject({ type: 'end', sounding: [] });
    expect(log).toContainEqual(expect.objectContaining({ type: 'ignored', reason: 'no-such-program', data1: 120 }));
  });

  it('gives the same result twice', () => {
    rackle('dry-run', SHOW, '--setlist', SET, '--in', PLAYED, '--out', at('a.mid'));
    rackle('dry-run', SHOW, '--setlist', SET, '--in', PLAYED, '--out', at('b.mid'));
    expect(readFileSync(at('a.mid')).equals(readFileSync(at('b.mid')))).toBe(true);
  });

  it('plays a file of one unnamed track on the first keyboard, and lists what the file leaves held', () => {
    const midi = writeSmf(
      [{ name: '', messages: [{ kind: 'message', atTick: 0, status: 0x90, data1: 60, data2: 90 }] }],
      480,
      500_000,
    );
    // As a format 0 file without any name: header, then the one track's note.
    const bare = Uint8Array.from([
      ...midi.slice(0, 8),
      0,
      0,
      0,
      1,
      1,
      0xe0,
      0x4d,
      0x54,
      0x72,
      0x6b,
      0,
      0,
      0,
      8,
      0,
      0x90,
      60,
      90,
      0,
      0xff,
      0x2f,
      0,
    ]);
    expect(
      rackle(
        'dry-run',
        SHOW,
        '--setlist',
        SET,
        '--in',
        put('bare.mid', bare),
        '--out',
        at('bare-out.mid'),
        '--log',
        at('bare.ndjson'),
      ).status,
    ).toBe(0);
    expect(JSON.parse(readFileSync(at('bare.ndjson'), 'utf8').trim().split('\n').at(-1)!)).toMatchObject({
      type: 'end',
      sounding: [{ key: 60, layer: 'Late Boat' }],
    });
  });

  it.each([
    ['truncated', () => put('cut.mid', readFileSync(PLAYED).subarray(0, 300)), 'the file has'],
    ['not MIDI', () => put('text.mid', 'hello there'), 'not a Standard MIDI File'],
    ['missing', () => at('nowhere.mid'), 'cannot be read'],
    [
      'on an unknown port',
      () =>
        put(
          'port.mid',
          writeSmf(
            [{ name: 'Harmonica', messages: [{ kind: 'message', atTick: 0, status: 0x90, data1: 60, data2: 9 }] }],
            480,
            500_000,
          ),
        ),
      'there is no input "Harmonica" in the gear list; there are: "Keys", "Keys, second port", "Cobble 25", "Treadle 6"',
    ],
  ])('a file that is %s: one clear line, status 2, nothing half written', (_, make, words) => {
    const before = readdirSync(folder).filter((name) => name.includes('out')).length;
    const { status, stderr } = rackle('dry-run', SHOW, '--setlist', SET, '--in', make(), '--out', at('none-out.mid'));
    expect(status).toBe(2);
    expect(stderr.trim().split('\n')).toHaveLength(1);
    expect(stderr).toContain(words);
    expect(existsSync(at('none-out.mid'))).toBe(false);
    expect(readdirSync(folder).filter((name) => name.includes('out'))).toHaveLength(before);
  });

  it.each([
    [['--setlist', 'Nothing'], 'there is no setlist "Nothing"; there are: "Midsummer at Tern Ledge"'],
    [
      ['--setlist', SET, '--gear', 'Nothing'],
      'there is no gear list "Nothing"; there are: "Rehearsal loft", "Ferry bag"',
    ],
    [['--setlist'], 'needs a value'],
    [['--colour', 'x'], 'there is no option --colour'],
  ])('options %j: one clear line, status 2', (options, words) => {
    const { status, stderr } = rackle('dry-run', SHOW, ...options, '--in', PLAYED, '--out', at('no-out.mid'));
    expect(status).toBe(2);
    expect(stderr).toContain(words);
  });

  it('an output that cannot be written: one line, status 2', () => {
    const { status, stderr } = rackle(
      'dry-run',
      SHOW,
      '--setlist',
      SET,
      '--in',
      PLAYED,
      '--out',
      join(folder, 'no-such-folder', 'x.mid'),
    );
    expect([status, stderr.includes('cannot be written')]).toEqual([2, true]);
  });
});

describe('rackle dry-run --play', () => {
  it('plays the timeline of a song from its start: its backing part and cues, with nothing at the inputs', () => {
    const play = (...more: string[]) => rackle('dry-run', SHOW, '--setlist', SET, '--out', at('p.mid'), ...more);
    expect(play('--play', 'Pewter Jug Reel')).toMatchObject({ status: 0, stderr: '' });
    const file = readSmf(readFileSync(at('p.mid')));
    if (!file.ok) throw new Error(file.error.message);
    const ons = file.value.tracks
      .flatMap(({ messages }) => messages)
      .flatMap((message) =>
        message.kind === 'message' && (message.status & 0xf0) === 0x90 ? [Math.round(message.atMs)] : [],
      );
    expect(ons).toHaveLength(544);
    // Four bars of 4/4 at 176.
    expect(ons[0]).toBe(Math.round((16 * 60_000) / 176));
    expect(play('--play', 'Nobody').stderr).toContain('there is no song "Nobody" in this setlist; there are: "Biscuit');
    expect(play().stderr).toContain('--in is needed');
  });
});

describe('rackle import-midi and export-midi', () => {
  const read = (path: string) => {
    const file = readSmf(readFileSync(path));
    if (!file.ok) throw new Error(file.error.message);
    return file.value;
  };
  const songsOf = (path: string) => (JSON.parse(readFileSync(path, 'utf8')) as Show).songs;

  it('bring a file into a new show and out again: the same notes at the same ticks of 960', () => {
    expect(rackle('import-midi', REEL, '--out', at('reel.json')).stdout).toContain(
      'Pewter Jug Reel: 140 bars, 5 sections, 0 cues, 1 backing part',
    );
    const [song] = songsOf(at('reel.json'));
    expect(song.sections.map(({ name }) => name)).toEqual(['Count', 'Jug', 'Reel', 'Jug again', 'Tip']);
    expect(song.map.tempos[0].bpm).toBe(176);
    expect(rackle('export-midi', at('reel.json'), '--song', 'Pewter Jug Reel', '--out', at('reel.mid')).status).toBe(0);
    const notesOf = (path: string, factor: number) =>
      read(path).tracks.flatMap(({ messages }) =>
        messages.map((message) => ({ ...message, atTick: message.atTick * factor })),
      );
    const rounded = (path: string, factor: number) =>
      notesOf(path, factor).map((message) => ({ ...message, atMs: Math.round(message.atMs) }));
    expect(rounded(at('reel.mid'), 1)).toEqual(rounded(REEL, 2));
  });

  it('write recalls as numbers, what Rackle sends for them beside, and read the numbers as recalls again', () => {
    const out = rackle('export-midi', SHOW, '--setlist', SET, '--out', at('set.mid'));
    expect(out.status).toBe(0);
    expect(out.stdout).toContain(
      'not in the file: Slow Bell: a tempo that changes little by little is written as steps',
    );
    const names = read(at('set.mid')).tracks.map(({ name }) => name);
    expect(names).toContain('Rackle');
    expect(names.some((name) => name?.endsWith('for recalls'))).toBe(true);
    rackle('export-midi', SHOW, '--song', 'Third Ferry Home', '--out', at('ferry.mid'));
    const cleared = changedShow((show) => {
      show.songs.find(({ id }) => id === 'third-ferry-home')!.cues = [];
    });
    rackle('import-midi', at('ferry.mid'), '--into', cleared, '--as', 'Third Ferry Home', '--out', at('ferry.json'));
    const recallsOf = (path: string) =>
      songsOf(path)
        .find(({ id }) => id === 'third-ferry-home')!
        .cues.flatMap((cue) => (cue.kind === 'recall' ? [[cue.atTick, cue.patchId, cue.blendId]] : []));
    expect(recallsOf(at('ferry.json'))).toEqual(recallsOf(SHOW));
    expect(recallsOf(SHOW).length).toBeGreaterThan(4);
  });

  it('say in one line what they cannot use, and write nothing', () => {
    for (const words of [
      ['import-midi', SHOW, '--out', at('no.json')],
      ['import-midi', at('gone.mid'), '--out', at('no.json')],
      ['import-midi', REEL],
      ['import-midi', REEL, '--tempo', '2', '--out', at('no.json')],
      ['export-midi', SHOW, '--song', 'Nobody', '--out', at('no.json')],
      ['export-midi', SHOW, '--out', at('no.json')],
      ['export-midi', SHOW, '--song', 'Slow Bell', '--setlist', SET, '--out', at('no.json')],
    ]) {
      const { status, stderr } = rackle(...words);
      expect(status).toBe(2);
      expect(stderr.trim().split('\n')).toHaveLength(1);
      expect(existsSync(at('no.json'))).toBe(false);
    }
  });
});

describe('rackle check', () => {
  it('finds nothing that will fail in the demo, and tells of its open roles', () => {
    const { status, stdout } = rackle('check', SHOW);
    expect(status).toBe(0);
    expect(stdout).toContain('to know: nothing of Rehearsal loft plays “Tap tempo”');
    expect(stdout).toContain('0 will fail · 0 may fail · 4 to know');
    expect(stdout).toContain('levels not measured');
  });

  it('prints findings, also as JSON, and ends with 1 where something will fail', () => {
    const broken = changedShow((show) => {
      show.setlists[0].programs[1].program = 0;
    });
    const { status, stdout } = rackle('check', broken, '--setlist', SET, '--json');
    expect(status).toBe(1);
    const { findings } = JSON.parse(stdout) as { findings: { severity: string; rule: string }[] };
    expect(findings.filter(({ severity }) => severity === 'willFail')).toEqual([
      expect.objectContaining({ rule: 'number-twice' }),
    ]);
  });

  it('has the engine play every pair of neighbouring recalls when it is asked to simulate', () => {
    const { status, stdout } = rackle('check', SHOW, '--simulate');
    expect(status).toBe(0);
    expect(stdout).toMatch(/^\d+ rules · \d{3,4} cases played · 0 will fail · 0 may fail · 4 to know · 0 meant so$/m);
  });

  it('ends with 1 where something may fail only when it is asked to be strict', () => {
    const broken = changedShow((show) => {
      for (const patch of show.songs[0].patches) patch.isStep = false;
    });
    expect(rackle('check', broken).stdout).toContain('may fail: “next” passes over ');
    expect(rackle('check', broken).status).toBe(0);
    expect(rackle('check', broken, '--strict').status).toBe(1);
  });

  it.each([
    [
      'a newer version',
      () =>
        changedShow((show) => {
          (show as { version: number }).version += 1;
        }),
      'newer Rackle',
    ],
    ['broken JSON', () => put('broken.json', '{"format":'), 'not a JSON document'],
    ['something else', () => put('else.json', '{"a":1}'), 'not a Rackle show'],
  ])('%s: one clear line, status 2', (_, make, words) => {
    const { status, stderr } = rackle('check', make());
    expect(status).toBe(2);
    expect(stderr).toContain(words);
    expect(stderr.trim().split('\n')).toHaveLength(1);
  });
});

describe('the published schema', () => {
  it('is that of the show file as it is read', () => {
    expect(rackle('schema').stdout).toBe(readFileSync(join(ROOT, 'docs/show-file.schema.json'), 'utf8'));
  });
});

describe('the demo files', () => {
  it('are what the script makes', () => {
    expect(rackle('make-demo', '--into', folder).status).toBe(0);
    expect(readFileSync(at('tern-ledge.json')).equals(readFileSync(SHOW))).toBe(true);
    expect(readFileSync(at('rehearsal.mid')).equals(readFileSync(PLAYED))).toBe(true);
    expect(readFileSync(at('pewter-jug-reel.mid')).equals(readFileSync(REEL))).toBe(true);
  });
});
