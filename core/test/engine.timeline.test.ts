import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { Song, withMovedCues, withoutCue } from '../src/show';
import { soundcheck } from '../src/soundcheck';
import { tempoMapOf } from '../src/timeline';
import { TestRig, layer, outboardInstrument, part, song } from './build';

type CueNote = Record<string, unknown>;

/** A song at 120 with two patches; milliseconds are ticks × 0.520833. */
const timed = (cues: CueNote[], over: Record<string, unknown> = {}): Song =>
  song('Tin', {
    layers: [layer('A'), layer('B'), layer('S', { preset: 'sk0' })],
    patches: [
      { id: 'p0', name: 'p0', parts: [part('A')] },
      { id: 'p1', name: 'p1', parts: [part('A'), part('S')] },
      { id: 'p2', name: 'p2', parts: [part('B')] },
    ],
    map: { tempos: [{ atTick: 0, bpm: 125 }], meters: [{ bar: 1, beats: 4, unit: 4 }], bars: 8 },
    cues: cues.map((cue, i) => ({ id: `c${i}`, ...cue })),
    ...over,
  });
/** Ticks at 125 a minute: one tick is half a millisecond. */
const MS = 0.5;
const recallOf = (patchId: string, atTick: number): CueNote => ({ kind: 'recall', atTick, patchId });
const cc = (controller: number, value: number, atTick: number, over: object = {}): CueNote => ({
  kind: 'controller',
  atTick,
  port: 'Skerry',
  channel: 2,
  controller,
  value,
  ...over,
});
const noteOf = (key: number, atTick: number, lengthTicks: number, over: object = {}): CueNote => ({
  kind: 'note',
  atTick,
  to: { kind: 'port', port: 'Skerry', channel: 2 },
  key,
  lengthTicks,
  ...over,
});

function goOn(rig: TestRig, fromMs: number, untilMs: number): void {
  for (let dueMs = rig.engine.advance(fromMs); dueMs <= untilMs; dueMs = rig.engine.advance(dueMs));
  rig.engine.advance(untilMs);
}
function play(rig: TestRig, fromMs: number, untilMs: number): void {
  rig.feed({ type: 'perform', action: 'play' }, fromMs);
  goOn(rig, fromMs, untilMs);
}
/** What went to a port, with its time. */
const sentTo = (rig: TestRig, to = 'Skerry'): string[] =>
  rig.sent
    .filter((message) => message.to === to)
    .map(
      ({ atMs, status, data1, data2 }) => `${Math.round(atMs * 100) / 100} ${status.toString(16)} ${data1} ${data2}`,
    );

describe('what a timeline plays', () => {
  it('does the cues of one tick in their listed order, ends before everything else, each at its exact time', () => {
    const rig = new TestRig([
      timed([
        noteOf(60, 0, 960),
        cc(7, 90, 960),
        { kind: 'program', atTick: 960, port: 'Skerry', channel: 2, msb: 1, lsb: 2, program: 3 },
        noteOf(60, 960, 480, { velocity: 33, releaseVelocity: 12 }),
      ]),
    ]);
    rig.sent.length = 0;
    play(rig, 100, 2000);
    expect(sentTo(rig)).toEqual([
      '100 91 60 96',
      '580 81 60 64',
      '580 b1 7 90',
      '580 b1 0 1',
      '580 b1 32 2',
      '580 c1 3 0',
      '580 91 60 33',
      '820 81 60 12',
    ]);
  });

  it('goes along a ramp by changed values only, five milliseconds apart at least, and ends exactly on its last tick', () => {
    const rig = new TestRig([timed([cc(11, 20, 96, { ramp: { toValue: 120, lengthTicks: 300 } })])]);
    rig.sent.length = 0;
    play(rig, 0, 1000);
    const times = rig.sent.map(({ atMs }) => atMs);
    const values = rig.sent.map(({ data2 }) => data2);
    expect([values[0], times[0]]).toEqual([20, 48]);
    expect([values.at(-1), times.at(-1)]).toEqual([120, 48 + 150]);
    values.slice(1).forEach((value, i) => expect(value).toBeGreaterThan(values[i]));
    times.slice(1).forEach((time, i) => expect(time - times[i]).toBeGreaterThanOrEqual(5));
    expect(values.length).toBeGreaterThan(20);
  });

  it('a later cue of the same controller ends a ramp', () => {
    const rig = new TestRig([timed([cc(11, 0, 0, { ramp: { toValue: 100, lengthTicks: 1000 } }), cc(11, 5, 500)])]);
    rig.sent.length = 0;
    play(rig, 0, 1000);
    expect(sentTo(rig).at(-1)).toBe('250 b1 11 5');
  });

  it('plays notes to a layer through no zone and whatever patch sounds, with its mute and transposition', () => {
    const cues = [recallOf('p2', 100), noteOf(60, 200, 100, { to: { kind: 'layer', layerId: 'A' } })];
    const rig = new TestRig([timed(cues, { transpose: 2 })]);
    rig.feed({ type: 'perform', action: 'transposeUp' }, 0);
    rig.sent.length = 0;
    play(rig, 0, 1000);
    expect(sentTo(rig, rig.sent[0]?.to ?? 'none')).toEqual(['100 90 63 96', '150 80 63 64']);
    // What a hand plays does not reach it, nor does the wheel.
    rig.sent.length = 0;
    rig.on(60, 1100);
    rig.feed({ type: 'message', device: 'Aster 73', status: 0xe0, data1: 0, data2: 100 }, 1110);
    expect(sentTo(rig, 'Causeway / Tin / timeline / A')).toEqual([]);
  });

  it('shares a key with the hand: the last owner ends it', () => {
    const rig = new TestRig([
      timed([recallOf('p1', 0), noteOf(60, 100, 200, { to: { kind: 'port', port: 'Skerry', channel: 1 } })]),
    ]);
    play(rig, 0, 60);
    rig.on(60, 70);
    goOn(rig, 70, 400);
    const offs = () => rig.sent.filter(({ to, status }) => to === 'Skerry' && status === 0x80);
    expect(offs()).toEqual([]);
    rig.off(60, 500);
    expect(offs()).toHaveLength(2);
  });

  it('stop ends its own notes and pedals, and only those; played again it goes on', () => {
    const rig = new TestRig([timed([cc(64, 127, 0), noteOf(60, 0, 4000), noteOf(62, 300, 100)])]);
    play(rig, 0, 100);
    rig.on(40, 110);
    rig.sent.length = 0;
    rig.feed({ type: 'perform', action: 'stop' }, 120);
    expect(sentTo(rig)).toEqual(['120 81 60 64', '120 b1 64 0']);
    expect(rig.engine.sounding()).toHaveLength(1);
    rig.sent.length = 0;
    play(rig, 1000, 1100);
    // Notes begun earlier do not begin again; the pedal that is down there is.
    expect(sentTo(rig)).toEqual(['1000 b1 64 127', '1030 91 62 96', '1080 81 62 64']);
  });

  it('ends what a panic has ended only once, and runs on', () => {
    const rig = new TestRig([timed([noteOf(60, 0, 400), noteOf(60, 300, 400)])]);
    play(rig, 0, 50);
    rig.feed({ type: 'perform', action: 'panic' }, 60);
    goOn(rig, 60, 1000);
    expect(sentTo(rig).filter((words) => / [89]1 /.test(words))).toEqual([
      '0 91 60 96',
      '60 81 60 64',
      '150 91 60 96',
      '350 81 60 64',
    ]);
  });

  it('shows its texts, and changes the tempo up to the map’s next one', () => {
    const rig = new TestRig([
      timed(
        [
          { kind: 'text', atTick: 0, text: 'wait for drums' },
          { kind: 'tempo', atTick: 960, percent: 200 },
          noteOf(60, 1920, 10),
          noteOf(61, 4800, 10),
        ],
        {
          map: {
            tempos: [
              { atTick: 0, bpm: 125 },
              { atTick: 3840, bpm: 125 },
            ],
            meters: [{ bar: 1, beats: 4, unit: 4 }],
            bars: 8,
          },
        },
      ),
    ]);
    play(rig, 0, 3000);
    expect(rig.engine.text).toBe('wait for drums');
    const ons = rig.sent.filter(({ status }) => status === 0x91).map(({ atMs }) => Math.round(atMs));
    expect(ons).toEqual([480 + 240, 480 + 720 + 480]);
  });

  it('expands sections that repeat another one', () => {
    const rig = new TestRig([
      timed([noteOf(60, 100, 50)], {
        sections: [
          { id: 's1', name: 'Verse', fromTick: 0, toTick: 3840 },
          { id: 's2', name: 'Verse', fromTick: 7680, toTick: 11_520, repeats: 's1' },
        ],
      }),
    ]);
    play(rig, 0, 10_000);
    expect(rig.sent.filter(({ status }) => status === 0x91).map(({ atMs }) => atMs)).toEqual([50, 50 + 3840]);
  });

  it('a cue that points at nothing is left out and told; the others run', () => {
    const rig = new TestRig([
      timed([
        recallOf('ghost', 0),
        noteOf(50, 0, 10, { to: { kind: 'layer', layerId: 'ghost' } }),
        { kind: 'preset', atTick: 0, instrumentId: 'skerry', presetId: 'ghost' },
        { kind: 'message', atTick: 0, port: 'Skerry', bytes: [0xf0, 1, 2, 0xf7] },
        noteOf(61, 10, 10),
        noteOf(62, 400_000, 10),
      ]),
    ]);
    play(rig, 0, 1000);
    expect(rig.sent.filter(({ status }) => status === 0x91).map(({ data1 }) => data1)).toEqual([61]);
    const found = soundcheck(rig.show).findings.filter(({ rule }) => rule === 'cue-idle');
    expect(found).toHaveLength(5);
    expect(found[0].message).toMatch(/^the cue at 1 : 1 does nothing: /);
    expect(found[0].where).toMatch(/^Tin, 1 : 1/);
  });
});

describe('cues and hands', () => {
  it('a cue to what is current does nothing, a recall by hand holds until the next cue', () => {
    const rig = new TestRig([timed([recallOf('p0', 0), recallOf('p0', 960), recallOf('p2', 1920)])]);
    play(rig, 0, 100);
    rig.feed({ type: 'recall', position: 1 }, 200);
    expect(rig.here).toBe('Tin/p1');
    goOn(rig, 200, 500);
    expect(rig.here).toBe('Tin/p0');
    goOn(rig, 500, 1000);
    expect(rig.here).toBe('Tin/p2');
  });

  it('a foot less than 300 ms behind a cue goes no further the same way, but back it does', () => {
    const rig = new TestRig([timed([recallOf('p1', 960)])]);
    play(rig, 0, 500);
    rig.feed({ type: 'perform', action: 'nextStep' }, 700);
    expect(rig.here).toBe('Tin/p1');
    expect(rig.records.filter((record) => record.type === 'ignored' && record.reason === 'guard')).toHaveLength(1);
    rig.feed({ type: 'perform', action: 'previousStep' }, 710);
    expect(rig.here).toBe('Tin/p0');
    rig.feed({ type: 'perform', action: 'nextStep' }, 790);
    expect(rig.here).toBe('Tin/p1');
  });

  it('held cues recall and select nothing; the rest of the timeline goes on', () => {
    const rig = new TestRig([
      timed([
        recallOf('p2', 100),
        { kind: 'preset', atTick: 100, instrumentId: 'skerry', presetId: 'sk1' },
        cc(7, 3, 100),
      ]),
    ]);
    rig.feed({ type: 'perform', action: 'holdCues' }, 0);
    rig.sent.length = 0;
    play(rig, 0, 200);
    expect(rig.here).toBe('Tin/p0');
    expect(sentTo(rig)).toEqual(['50 b1 7 3']);
  });

  it('a preset by name is sent where the instrument does not stand there already', () => {
    const preset = (atTick: number, presetId: string): CueNote => ({
      kind: 'preset',
      atTick,
      instrumentId: 'skerry',
      presetId,
      channel: 5,
    });
    const rig = new TestRig([timed([preset(0, 'sk1'), preset(200, 'sk1'), preset(400, 'sk0')])]);
    play(rig, 0, 1000);
    expect(sentTo(rig).filter((words) => / c4 /.test(words))).toEqual(['0 c4 7 0', '200 c4 5 0']);
  });

  it('while the gear switches only the last address waits', () => {
    const program = (atTick: number, number: number): CueNote => ({
      kind: 'program',
      atTick,
      port: 'Skerry',
      channel: 1,
      program: number,
    });
    const rig = new TestRig([timed([recallOf('p1', 0), program(20, 1), program(40, 2), program(60, 3)])], {
      instruments: [outboardInstrument({ switchMs: 200 })],
    });
    play(rig, 0, 1000);
    const programs = sentTo(rig).filter((words) => / c0 /.test(words));
    expect(programs).toEqual(['0 c0 5 0', '200 c0 3 0']);
  });
});

describe('moving about', () => {
  const walk = (): TestRig =>
    new TestRig([
      timed(
        [recallOf('p0', 0), noteOf(60, 0, 100), recallOf('p1', 3840), noteOf(61, 3840, 100), noteOf(62, 7680, 100)],
        { sections: [{ id: 's', name: 'Chorus', fromTick: 3840, toTick: 7680 }] },
      ),
    ]);
  const ons = (rig: TestRig): string[] =>
    rig.sent.filter(({ status }) => status === 0x91).map(({ atMs, data1 }) => `${atMs} ${data1}`);

  it('loops: what stands on its start runs once a pass, what stands on its end does not', () => {
    const rig = walk();
    rig.feed({ type: 'loop', range: { fromTick: 3840, toTick: 7680 } }, 0);
    play(rig, 0, 1920 * 4 - 1);
    expect(ons(rig)).toEqual(['0 60', '1920 61', '3840 61', '5760 61']);
    rig.feed({ type: 'loop', range: null }, 1920 * 4 - 1);
    goOn(rig, 1920 * 4 - 1, 1920 * 4 + 10);
    expect(ons(rig).at(-1)).toBe(`${1920 * 4} 62`);
  });

  it('jumps at the next bar; the one asked for last counts, and it can be taken back', () => {
    const rig = walk();
    play(rig, 0, 100);
    rig.feed({ type: 'jump', toTick: 3840, at: 'bar' }, 200);
    rig.feed({ type: 'jump', toTick: 7680, at: 'bar' }, 300);
    expect(rig.engine.jumpsTo).toBe(7680);
    goOn(rig, 300, 1930);
    expect(ons(rig)).toEqual(['0 60', '1920 62']);
    expect(rig.here).toBe('Tin/p1');
    rig.feed({ type: 'jump', toTick: 0, at: 'section' }, 1940);
    rig.feed({ type: 'jump', toTick: null, at: 'section' }, 1950);
    goOn(rig, 1950, 1920 * 3);
    expect(ons(rig)).toHaveLength(2);
  });

  it('locating while it stands recalls nothing; playing from there chases', () => {
    const rig = walk();
    rig.feed({ type: 'locate', tick: 5000 }, 10);
    expect(rig.here).toBe('Tin/p0');
    rig.feed({ type: 'perform', action: 'play' }, 20);
    expect(rig.here).toBe('Tin/p1');
  });

  it('played again where it was stopped it leaves what a hand has recalled meanwhile', () => {
    const rig = walk();
    play(rig, 0, 100);
    rig.feed({ type: 'perform', action: 'stop' }, 110);
    rig.feed({ type: 'recall', position: 2 }, 120);
    rig.feed({ type: 'perform', action: 'play' }, 130);
    expect(rig.here).toBe('Tin/p2');
  });

  it('at its end the setlist says what comes: the next song stands, or plays', () => {
    for (const [atEnd, isPlaying] of [
      ['stop', false],
      ['next', false],
      ['playNext', true],
    ] as const) {
      const other = song('Moth', { layers: [layer('M')], patches: [{ id: 'm0', name: 'm0', parts: [part('M')] }] });
      const rig = new TestRig([timed([]), other], {
        setlist: {
          entries: [
            { kind: 'song', id: 'e0', songId: 'Tin', atEnd },
            { kind: 'song', id: 'e1', songId: 'Moth' },
          ],
        },
      });
      play(rig, 0, tempoMapOf(timed([]).map).endTick * MS + 1);
      expect(rig.here).toBe(atEnd === 'stop' ? 'Tin/p0' : 'Moth/m0');
      expect(rig.engine.isPlaying).toBe(isPlaying);
    }
  });

  it('what comes back after its output was away stands as the timeline has it', () => {
    const rig = new TestRig([
      timed([cc(7, 33, 0), { kind: 'program', atTick: 0, port: 'Skerry', channel: 3, program: 8 }]),
    ]);
    play(rig, 0, 100);
    rig.feed({ type: 'output', device: 'Skerry', here: false }, 110);
    rig.sent.length = 0;
    rig.feed({ type: 'output', device: 'Skerry', here: true }, 200);
    expect(sentTo(rig)).toEqual(['200 b1 7 33', '200 c2 8 0']);
  });
});

describe('edits while it plays', () => {
  it('a deleted note that sounds ends at once; one that stays goes on to its end', () => {
    const rig = new TestRig([timed([noteOf(60, 0, 1000), noteOf(62, 0, 1000)])]);
    play(rig, 0, 100);
    rig.sent.length = 0;
    rig.edit('Tin', (s) => withoutCue(s, 'c0'), 110);
    expect(sentTo(rig)).toEqual(['110 81 60 64']);
    goOn(rig, 110, 1000);
    expect(sentTo(rig)).toEqual(['110 81 60 64', '500 81 62 64']);
  });

  it('a cue moved behind the playhead waits, one moved before it runs; nothing is chased', () => {
    const rig = new TestRig([timed([recallOf('p1', 100), recallOf('p2', 1000)])]);
    play(rig, 0, 200);
    expect(rig.here).toBe('Tin/p1');
    const end = tempoMapOf(rig.show.songs[0].map).endTick;
    rig.edit('Tin', (s) => withMovedCues(s, new Set(['c1']), (tick) => tick - 900, end), 210);
    expect(rig.here).toBe('Tin/p1');
    rig.edit('Tin', (s) => withMovedCues(s, new Set(['c1']), () => 600, end), 220);
    goOn(rig, 220, 400);
    expect(rig.here).toBe('Tin/p2');
  });
});

/** Gear that understands what it is sent: where everything stands that a timeline can set. */
function gearAfter(rig: TestRig) {
  const values = new Map<string, number>();
  const data = new Map<string, number>();
  const selected = new Map<number, { registered: boolean; msb: number; lsb: number }>();
  for (const { to, status, data1, data2 } of rig.sent) {
    if (to !== 'Skerry') continue;
    const [kind, channel] = [status & 0xf0, status & 15];
    if (kind === 0xc0) values.set(`${channel} program`, data1);
    if (kind === 0xe0) values.set(`${channel} wheel`, data1 | (data2 << 7));
    if (kind !== 0xb0) continue;
    if (data1 >= 98 && data1 <= 101) {
      const registered = data1 >= 100;
      const old = selected.get(channel);
      const now = old?.registered === registered ? old : { registered, msb: -1, lsb: -1 };
      selected.set(channel, data1 % 2 === 1 ? { ...now, msb: data2 } : { ...now, lsb: data2 });
    } else if (data1 === 6 || data1 === 38) {
      const now = selected.get(channel);
      if (now && now.msb >= 0 && now.lsb >= 0)
        data.set(`${channel} ${now.registered} ${now.msb} ${now.lsb} ${data1}`, data2);
    } else if (![0, 32].includes(data1)) values.set(`${channel} cc ${data1}`, data1 === 64 && data2 < 64 ? 0 : data2);
  }
  return { values, data, selected };
}

/** Where things rest before anybody moves them. */
const RESTS: Record<string, number> = { 'cc 1': 0, 'cc 11': 127, 'cc 64': 0, wheel: 8192 };

function expectSame(jumped: TestRig, straight: TestRig): void {
  expect(jumped.here).toBe(straight.here);
  expect(jumped.engine.text).toBe(straight.engine.text);
  // Along a ramp the tempo is told by the quarter, each counted from where it was last told.
  const tick = jumped.engine.tickAt(jumped.engine.nowMs);
  if (tick < 2000 || tick >= 3000) expect(jumped.engine.tempoBpm).toBeCloseTo(straight.engine.tempoBpm, 6);
  const [a, b] = [gearAfter(jumped), gearAfter(straight)];
  for (const key of new Set([...a.values.keys(), ...b.values.keys()])) {
    const rest = RESTS[key.slice(key.indexOf(' ') + 1)];
    expect([key, a.values.get(key) ?? rest]).toEqual([key, b.values.get(key) ?? rest]);
  }
  for (const [key, value] of b.data) expect([key, a.data.get(key)]).toEqual([key, value]);
  // Half of a number that was never sent cannot be brought back.
  for (const [channel, { registered, msb, lsb }] of b.selected)
    if (msb >= 0 && lsb >= 0) expect([channel, a.selected.get(channel)]).toEqual([channel, { registered, msb, lsb }]);
}

/** Time of a tick, with tempo cues reckoned in. */
function timeOf(written: Song, tick: number): number {
  const map = tempoMapOf(written.map);
  let ms = 0;
  let at = 0;
  let factor = 1;
  const turns = [
    ...written.map.tempos.map(({ atTick }) => ({ atTick, factor: 1 })),
    ...written.cues.flatMap((cue) => (cue.kind === 'tempo' ? [{ atTick: cue.atTick, factor: cue.percent / 100 }] : [])),
  ].sort((a, b) => a.atTick - b.atTick || 0);
  for (const turn of turns) {
    if (turn.atTick > tick) break;
    ms += (map.msAt(turn.atTick) - map.msAt(at)) / factor;
    at = turn.atTick;
    factor = turn.factor;
  }
  return ms + (map.msAt(tick) - map.msAt(at)) / factor + 1e-4;
}

/** The patch that sounds at first tells the gear where everything stands. */
const START_AND_OTHERS = [
  {
    id: 'start',
    name: 'start',
    parts: [part('A')],
    entering: [
      ...[1, 2, 3].map((channel) => ({ kind: 'program', port: 'Skerry', channel, program: 100 + channel })),
      { kind: 'controller', port: 'Skerry', channel: 2, controller: 7, value: 100 },
    ],
  },
  { id: 'p0', name: 'p0', parts: [part('A')] },
  { id: 'p1', name: 'p1', parts: [part('A'), part('S')] },
  { id: 'p2', name: 'p2', parts: [part('B')] },
];

describe('chase', () => {
  const ticks = fc.integer({ min: 0, max: 4000 });
  const cueArb: fc.Arbitrary<CueNote> = fc.oneof(
    fc.tuple(ticks, fc.constantFrom('p0', 'p1', 'p2')).map(([at, id]) => recallOf(id, at)),
    fc
      .tuple(
        ticks,
        fc.constantFrom(1, 7, 11, 64),
        fc.integer({ min: 0, max: 127 }),
        fc.option(fc.integer({ min: 1, max: 900 })),
      )
      .map(([at, controller, value, length]) =>
        cc(controller, value, at, { ramp: length === null ? null : { toValue: 127 - value, lengthTicks: length } }),
      ),
    fc.tuple(ticks, fc.integer({ min: 0, max: 127 }), fc.constantFrom(1, 2)).map(([atTick, program, channel]) => ({
      kind: 'program',
      atTick,
      port: 'Skerry',
      channel,
      program,
    })),
    fc.tuple(ticks, fc.constantFrom('sk0', 'sk1', 'sk2')).map(([atTick, presetId]) => ({
      kind: 'preset',
      atTick,
      instrumentId: 'skerry',
      presetId,
      channel: 3,
    })),
    fc.tuple(ticks, fc.integer({ min: 0, max: 127 })).map(([atTick, value]) => ({
      kind: 'message',
      atTick,
      port: 'Skerry',
      bytes: [0xe1, 0, value],
      isState: true,
    })),
    fc
      .tuple(ticks, fc.constantFrom(98, 99, 100, 101, 6, 38), fc.integer({ min: 0, max: 3 }))
      .map(([at, number, value]) => cc(number, value, at)),
    fc.tuple(ticks, fc.constantFrom('', 'wait', 'go')).map(([atTick, text]) => ({ kind: 'text', atTick, text })),
    fc.tuple(ticks, fc.constantFrom(80, 125)).map(([atTick, percent]) => ({ kind: 'tempo', atTick, percent })),
    fc.tuple(ticks, fc.integer({ min: 1, max: 500 })).map(([at, length]) => noteOf(60, at, length)),
  );

  it('at every boundary leaves what playing from the start leaves there', () => {
    fc.assert(
      fc.property(fc.array(cueArb, { maxLength: 12 }), fc.integer({ min: 0, max: 4200 }), (cues, elsewhere) => {
        const written = timed(cues, {
          map: {
            tempos: [
              { atTick: 0, bpm: 120 },
              { atTick: 2000, bpm: 90, ramp: true },
              { atTick: 3000, bpm: 140 },
            ],
            meters: [{ bar: 1, beats: 4, unit: 4 }],
            bars: 2,
          },
          patches: START_AND_OTHERS,
        });
        const boundaries = [...new Set(written.cues.flatMap(({ atTick }) => [atTick, atTick + 1]))].slice(0, 8);
        for (const tick of boundaries) {
          const straight = new TestRig([written]);
          straight.feed({ type: 'perform', action: 'play' }, 0);
          // A cue that is there for it makes the tick’s own time exact: everything up to and at it, nothing behind it.
          goOn(straight, 0, timeOf(written, tick));
          const jumped = new TestRig([written]);
          // First somewhere else: what that touched goes back.
          jumped.feed({ type: 'locate', tick: elsewhere }, 0);
          jumped.feed({ type: 'perform', action: 'play' }, 0);
          jumped.feed({ type: 'locate', tick }, 0);
          jumped.engine.advance(0);
          expectSame(jumped, straight);
        }
      }),
      { seed: 20_261_129, numRuns: 200 },
    );
  });
});
