import { describe, expect, it } from '@jest/globals';
import { type EngineRecord } from '@rackle/core/engine';
import { IGNORED_IN_WORDS } from '@rackle/core/monitor';
import { LineMaker, becameInWords, isHiddenAtFirst, type MonitorLine } from '@rackle/core/monitor';
import { KEPT_LINES, MonitorLog } from '../src/live/monitorLog';

const lines = (...records: EngineRecord[]): MonitorLine[] => {
  const maker = new LineMaker(IGNORED_IN_WORDS);
  return records.flatMap((record) => maker.add(record) ?? []);
};
const came = (over: object = {}): EngineRecord => ({
  type: 'in',
  atMs: 5,
  port: 'Keys',
  status: 0x91,
  data1: 60,
  data2: 90,
  ...over,
});

describe('lines of the monitor', () => {
  it('say of a message what became of it, in one line', () => {
    const [note] = lines(came(), { type: 'played', atMs: 5, layers: ['A', 'B'] });
    expect(note).toMatchObject({ direction: 'in', port: 'Keys', channel: 2, kind: 'notes', became: '→ layers A, B' });
    const [pedal] = lines(
      came({ port: 'Clack 2', status: 0xb0, data1: 80, data2: 127 }),
      { type: 'action', atMs: 5, role: 'Next patch', action: 'nextStep' },
      {
        type: 'recall',
        atMs: 5,
        cause: 'control',
        again: false,
        position: 1,
        entryId: 'e',
        songId: 's',
        patchId: 'p',
        blendId: null,
        song: 'Slow Bell',
        patch: 'Toll',
        blend: null,
      },
    );
    expect(pedal).toMatchObject({ became: 'Next patch → next step · → Slow Bell: Toll', strong: true });
  });

  it('say why something was ignored, with the number as the player counts', () => {
    const [line] = lines(came({ status: 0xc0, data1: 33, data2: 0 }), {
      type: 'ignored',
      atMs: 5,
      reason: 'no-such-program',
      port: 'Feet',
      status: 0xc0,
      data1: 33,
      data2: 0,
    });
    expect([becameInWords(line, 0), becameInWords(line, 1)]).toEqual([
      'ignored: no program 33 in this setlist',
      'ignored: no program 34 in this setlist',
    ]);
  });

  it('keep what is sent apart, and what Rackle does by itself', () => {
    const found = lines(
      came(),
      { type: 'out', atMs: 5, to: 'Causeway / Slow Bell / Toll / Far', status: 0x90, data1: 60, data2: 64 },
      { type: 'played', atMs: 5, layers: ['Far'] },
      { type: 'fade', atMs: 9, layer: 'Hold', fadeMs: 500 },
    );
    expect(found.map(({ direction, port, became }) => [direction, port, became])).toEqual([
      ['in', 'Keys', '→ layer Far'],
      ['out', 'Far', ''],
      ['self', '', 'Hold fades over 500 ms'],
    ]);
  });

  it('name values, presets, switches, warnings and panic', () => {
    const words = (record: EngineRecord): string => lines(record)[0].became;
    expect(words({ type: 'value', atMs: 0, role: 'Swell', of: 'levelDb', value: -12.34 })).toBe('Swell → level -12.3');
    expect(words({ type: 'preset', atMs: 0, layer: 'Chapel', preset: 2 })).toBe('Chapel: preset 3');
    expect(words({ type: 'switch', atMs: 0, of: 'Reeds mute', on: true })).toBe('Reeds mute on');
    expect(words({ type: 'warning', atMs: 0, code: 'program-under-held-notes', about: 'Skerry, channel 1' })).toBe(
      'program under held notes: Skerry, channel 1',
    );
    expect(words({ type: 'panic', atMs: 0, strength: 2 })).toBe('panic: all gear reset');
    expect(words({ type: 'timeline', atMs: 0, state: 'play', tick: 960 })).toBe('timeline: play at tick 960');
  });

  it('hide clock and active sensing at first', () => {
    const hidden = lines(came({ status: 0xf8 }), came({ status: 0xfe }), came({ status: 0xfa }), came()).map(
      isHiddenAtFirst,
    );
    expect(hidden).toEqual([true, true, true, false]);
  });
});

describe('the monitor’s log', () => {
  it('keeps ten thousand lines and tells once a batch', () => {
    const log = new MonitorLog();
    let told = 0;
    log.subscribe(() => told++);
    for (let batch = 0; batch < 130; batch++)
      log.add(
        Array.from({ length: 100 }, (_, i) => ({ number: batch * 100 + i, record: came({ atMs: batch * 100 + i }) })),
      );
    expect(told).toBe(130);
    expect(log.all()).toHaveLength(KEPT_LINES);
    expect(log.all().at(-1)!.atMs).toBe(12_999);
    expect(log.all()).toBe(log.all());
    log.clear();
    expect(log.all()).toEqual([]);
  });
});
