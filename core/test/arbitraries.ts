import fc from 'fast-check';
import { BUILT_INS, steadyMap, type Show, type SongMap } from '../src/show';
import { outboardInstrument } from './build';

const WALTZ = { beats: 3, unit: 4 } as const;
/** A step, a ramp, and another meter, within two bars. */
const TURNING: SongMap = {
  tempos: [
    { atTick: 0, bpm: 60, ramp: false },
    { atTick: 960, bpm: 180, ramp: true },
    { atTick: 3840, bpm: 90, ramp: false },
  ],
  meters: [
    { bar: 1, beats: 3, unit: 4, early: 0 },
    { bar: 2, beats: 6, unit: 8, early: 480 },
  ],
  upbeatTicks: 960,
  bars: 2,
};

const key = fc.integer({ min: 0, max: 127 });
const nearKey = fc.integer({ min: 55, max: 67 });
const channel = fc.integer({ min: 1, max: 3 });

export type Carries = 'any' | 'hold';

const carryOf = (carries: Carries) =>
  carries === 'hold'
    ? fc.constant({ kind: 'hold' })
    : fc.oneof(
        fc.constant({ kind: 'hold' }),
        fc.constant({ kind: 'cut' }),
        fc.record({ kind: fc.constant('fade'), fadeMs: fc.integer({ min: 0, max: 400 }) }),
      );

const soundArb = fc.oneof(
  fc.integer({ min: 0, max: 5 }).map((i) => ({
    instrumentId: BUILT_INS[i % 3].id as string,
    presetId: BUILT_INS[i % 3].presets[i % 2].id as string,
  })),
  fc.record({
    instrumentId: fc.constant('islet'),
    presetId: fc.constantFrom('is0', 'is1'),
    channel: fc.constant(null),
  }),
  fc.record({
    instrumentId: fc.constant('skerry'),
    presetId: fc.constantFrom('sk0', 'sk1', 'sk2'),
    channel: fc.option(channel),
  }),
);

const layerArb = (id: string, carries: Carries) =>
  fc.record({
    id: fc.constant(id),
    name: fc.constant(id),
    tape: fc.constantFrom('straw', 'moss'),
    sound: soundArb,
    carry: carryOf(carries),
    notReady: fc.constantFrom(null, null, 'atOnce', 'wait', 'silent', 'stay'),
    followsTranspose: fc.boolean(),
    sendsLevel: fc.boolean(),
    ignoredControllers: fc.subarray([1, 64, 66, 11]),
    ignoresWheel: fc.boolean(),
    effects: fc.constantFrom([], [{ kind: 'drive', id: 'fx' }]),
    remapped: fc.constantFrom([], [], [{ from: 1, to: 74 }], [{ from: 64, to: 20 }]),
    source: fc.constantFrom(...Array<object>(9).fill({ kind: 'midi' }), { kind: 'live', input: 'Microphone' }),
  });

const partArb = (ids: string[]) =>
  fc
    .record({
      layerId: fc.constantFrom(...ids),
      shift: fc.integer({ min: -14, max: 14 }),
      mute: fc.boolean().map((x) => x),
      solo: fc.constantFrom(false, false, false, true),
      levelDb: fc.integer({ min: -30, max: 0 }),
      parameters: fc.constantFrom([], [], [{ controller: 74, value: 20 }]),
      chord: fc.constantFrom([], [], [], [7], [12, -12, 48]),
      arpeggio: fc.oneof(
        { weight: 5, arbitrary: fc.constant(null) },
        {
          weight: 1,
          arbitrary: fc.record({
            order: fc.constantFrom('up', 'down', 'upDown', 'asPlayed'),
            note: fc.constantFrom('1/8', '1/16t'),
            octaves: fc.constantFrom(1, 3),
            gate: fc.constantFrom(30, 100),
          }),
        },
      ),
      zone: fc.record({
        lowKey: fc.integer({ min: 0, max: 61 }),
        highKey: fc.integer({ min: 60, max: 127 }),
        lowVelocity: fc.constantFrom(1, 40),
        highVelocity: fc.constantFrom(90, 127),
        fadeLowKeys: fc.constantFrom(0, 0, 12),
        fadeHard: fc.constantFrom(0, 0, 20),
        input: fc.constantFrom(null, null, 'Keys', 'Lower'),
        channels: fc.constantFrom(null, null, [1], [2, 3]),
      }),
    })
    .map((p) => ({ ...p, mute: p.mute && p.shift > 6 }));

const enteringArb = fc.array(
  fc.oneof(
    fc.record({
      kind: fc.constant('note'),
      port: fc.constant('Skerry'),
      channel,
      key: nearKey,
      velocity: fc.constant(80),
      lengthMs: fc.integer({ min: 0, max: 200 }),
    }),
    fc.record({
      kind: fc.constant('program'),
      port: fc.constant('Skerry'),
      channel,
      program: fc.integer({ min: 0, max: 9 }),
      msb: fc.constantFrom(null, 3),
    }),
    fc.record({
      kind: fc.constant('controller'),
      port: fc.constant('Skerry'),
      channel,
      controller: fc.constantFrom(0, 7, 80),
      value: key,
    }),
  ),
  { maxLength: 2 },
);

const unique = <T extends { layerId: string }>(parts: T[]): T[] =>
  parts.filter((part, i) => parts.findIndex((other) => other.layerId === part.layerId) === i);

const recallCueArb = (id: string) => fc.constantFrom(0, 1).map((p) => ({ kind: 'recall', patchId: `${id}p${p}` }));

/** What a timeline does: recalls most often, and notes, pedals and values of its own. */
const cueArb = (id: string, layers: readonly string[]) =>
  fc.oneof(
    { weight: 3, arbitrary: recallCueArb(id) },
    {
      weight: 2,
      arbitrary: fc
        .tuple(fc.constantFrom(...layers, null), fc.integer({ min: 58, max: 62 }), fc.integer({ min: 1, max: 2500 }))
        .map(([layerId, key, lengthTicks]) => ({
          kind: 'note',
          to: layerId === null ? { kind: 'port', port: 'Skerry', channel: 1 } : { kind: 'layer', layerId },
          key,
          lengthTicks,
        })),
    },
    fc
      .tuple(fc.constantFrom(64, 66, 1, 7), fc.constantFrom(0, 40, 127), fc.option(fc.integer({ min: 1, max: 1500 })))
      .map(([controller, value, lengthTicks]) => ({
        kind: 'controller',
        port: 'Skerry',
        channel: 1,
        controller,
        value,
        ramp: lengthTicks === null ? null : { toValue: 127 - value, lengthTicks },
      })),
    fc.constantFrom(
      { kind: 'message', port: 'Skerry', bytes: [0xe0, 0, 96], isState: true },
      { kind: 'message', port: 'Skerry', bytes: [0xe0, 0, 64], isState: true },
      { kind: 'program', port: 'Skerry', channel: 1, program: 4 },
      { kind: 'text', text: 'wait' },
      { kind: 'tempo', percent: 150 },
    ),
  );

function songArb(id: string, carries: Carries, messages: boolean) {
  const ids = ['a', 'b', 'c', 'd'].map((letter) => `${id}${letter}`);
  const patchArb = (n: number) =>
    fc.record({
      id: fc.constant(`${id}p${n}`),
      name: fc.constant(`p${n}`),
      isStep: fc.constantFrom(true, true, false),
      parts: fc.array(partArb(ids), { minLength: 0, maxLength: 4 }).map(unique),
      blends: fc
        .array(
          fc.record({
            layerId: fc.constantFrom(...ids),
            mute: fc.boolean(),
            levelDb: fc.constant(-20),
            parameters: fc.constantFrom(undefined, [
              { controller: 74, value: 90 },
              { controller: 72, value: 1 },
            ]),
            effects: fc.constantFrom(undefined, [{ effectId: 'fx', on: false, values: { amount: 90 } }]),
            articulation: fc.constantFrom(undefined, 'sk3', 'sk1'),
          }),
          { maxLength: 2 },
        )
        .map((values) => (values.length === 0 ? [] : [{ id: `${id}p${n}b`, name: 'b', values: unique(values) }])),
      bindings: fc.constantFrom(
        [],
        [],
        [{ role: 'Here', action: { kind: 'nextStep' } }],
        [{ role: 'Here', action: { kind: 'patch', number: 2 } }],
        [{ role: 'Here', action: { kind: 'layerSwitch', layerId: ids[0], what: 'mute' } }],
      ),
      entering: messages ? enteringArb : fc.constant([]),
      leaving: messages ? enteringArb : fc.constant([]),
    });
  return fc.record({
    id: fc.constant(id),
    name: fc.constant(id),
    transpose: fc.integer({ min: -3, max: 3 }),
    map: fc.constantFrom(steadyMap(60, WALTZ, 2), steadyMap(133, WALTZ, 2), TURNING),
    layers: fc.tuple(...ids.map((layerId) => layerArb(layerId, carries))),
    bindings: fc.tuple(fc.constantFrom(...ids), fc.constantFrom('stored', 'hand')).map(([layerId, onRecall]) => [
      { role: 'Level', action: { kind: 'layerValue', layerId, value: 'levelDb' }, onRecall },
      { role: 'Mute', action: { kind: 'layerSwitch', layerId, what: 'mute' }, onRecall },
      { role: 'Drive', action: { kind: 'effectValue', layerId, effectId: 'fx', parameter: 'amount' }, onRecall },
      { role: 'Dirt', action: { kind: 'effectOnOff', layerId, effectId: 'fx' } },
      { role: 'Solo', action: { kind: 'layerSwitch', layerId, what: 'solo' } },
      { role: 'Sound', action: { kind: 'presetStep', layerId, by: 1 }, onRecall },
    ]),
    standing: fc.array(partArb(ids.slice(3)), { maxLength: 1 }),
    patches: fc
      .tuple(patchArb(0), patchArb(1))
      .map((patches) =>
        patches.map((patch) => ({ ...patch, parts: patch.parts.filter((part) => part.layerId !== ids[3]) })),
      ),
    cues: fc
      .array(fc.tuple(fc.integer({ min: 0, max: 3000 }), messages ? cueArb(id, ids) : recallCueArb(id)), {
        maxLength: 6,
      })
      .map((cues) => cues.map(([atTick, cue], i) => ({ ...cue, id: `c${i}`, atTick }))),
  });
}

const gearArb = fc.record({
  shift: fc.constantFrom(0, 0, 12),
  perNote: fc.constantFrom(false, false, true),
  counter: fc.boolean(),
  songRecall: fc.constantFrom('first', 'left'),
  sendAgain: fc.boolean(),
  switchMs: fc.constantFrom(0, 0, 60, 300),
  double: fc.boolean(),
  pedalsFor: fc.boolean(),
});

/** Whole shows, as they may stand in a show file. */
export const showArb = (carries: Carries = 'any', messages = true) =>
  fc.tuple(gearArb, songArb('s', carries, messages), songArb('t', carries, messages)).map(([gear, ...songs]) => ({
    songs,
    setlist: {
      entries: [...songs, songs[0]].map((song, i) => ({ kind: 'song', id: `e${i}`, songId: song.id })),
      programs: songs.flatMap((song, s) =>
        song.patches.map((patch, p) => ({ target: { songId: song.id, patchId: patch.id }, program: s * 2 + p })),
      ),
      bindings: [
        { role: 'Next', action: { kind: 'nextStep' } },
        { role: 'Panic', action: { kind: 'panic' } },
        { role: 'Keep', action: { kind: 'hold' } },
        { role: 'Up', action: { kind: 'transposeUp' } },
        { role: 'Level', action: { kind: 'wholeValue', value: 'levelDb' } },
        { role: 'Patch', action: { kind: 'patch', number: 2 } },
        { role: 'Tap', action: { kind: 'tapTempo' } },
      ],
    },
    gear: {
      id: 'g',
      name: 'G',
      songRecall: gear.songRecall,
      sendAgain: gear.sendAgain,
      ports: [
        { direction: 'in', alias: 'Keys', device: 'Aster 73', perNote: gear.perNote },
        {
          direction: 'in',
          alias: 'Lower',
          device: 'Cobble 25',
          keyShift: gear.shift,
          doubleOf: gear.double ? 'Keys' : null,
        },
        {
          direction: 'in',
          alias: 'Feet',
          device: 'Treadle 6',
          plays: false,
          pedalsFor: gear.pedalsFor ? ['Keys', 'Lower'] : [],
          programs: gear.counter ? { kind: 'counter', highest: 5, guardMs: 50 } : { kind: 'direct' },
        },
        { direction: 'out', alias: 'Skerry', device: 'Skerry' },
      ],
      roles: [
        { role: 'Next', source: { port: 'Keys', kind: 'note', number: 55 } },
        { role: 'Next', source: { port: 'Feet', kind: 'controller', number: 80 } },
        { role: 'Here', source: { port: 'Keys', kind: 'note', number: 56 }, guardMs: 0 },
        { role: 'Here', source: { port: 'Keys', kind: 'controller', number: 19 }, guardMs: 0, button: 'latching' },
        ...['Level', 'Mute', 'Solo', 'Keep', 'Up', 'Sound', 'Patch', 'Tap', 'Drive', 'Dirt'].map((role, i) => ({
          role,
          source: { port: 'Keys', kind: 'controller', number: 20 + i },
          guardMs: 0,
          pickUp: (['atOnce', 'onMeeting', 'drawnIn'] as const)[i % 3],
          passOn: i === 3,
        })),
      ],
    },
    instruments: [
      outboardInstrument({ switchMs: gear.switchMs }),
      outboardInstrument({
        id: 'islet',
        name: 'Islet',
        channel: 2,
        switchMs: gear.switchMs === 0 ? 40 : 0,
        names: [
          { id: 'is0', name: 'First', program: 3 },
          { id: 'is1', name: 'Second', program: 4 },
        ],
      }),
    ],
  }));

export type GeneratedShow = ReturnType<typeof showArb> extends fc.Arbitrary<infer T> ? T : never;

/** One thing that happens to an engine, after a pause. */
export type Happening =
  | { kind: 'message'; device: string; status: number; data1: number; data2: number }
  | { kind: 'recall'; position: number }
  | { kind: 'step'; action: 'nextStep' | 'previousStep' | 'nextSong' | 'cursorNext' | 'go' | 'play' | 'stop' }
  | { kind: 'panic' }
  | { kind: 'input'; device: string; here: boolean }
  | { kind: 'output'; here: boolean }
  | { kind: 'ready'; which: number; ready: boolean }
  | { kind: 'edit'; turn: number }
  | { kind: 'reload' };

const device = fc.constantFrom('Aster 73', 'Aster 73', 'Cobble 25', 'Treadle 6');
const message = (status: number, data1: fc.Arbitrary<number>, data2: fc.Arbitrary<number>) =>
  fc
    .tuple(device, fc.integer({ min: 0, max: 2 }), data1, data2)
    .map(([name, ch, a, b]): Happening => ({ kind: 'message', device: name, status: status | ch, data1: a, data2: b }));

const noteArb = fc.oneof(
  message(0x90, nearKey, fc.constantFrom(0, 30, 100, 127)),
  message(0x90, nearKey, fc.constant(100)),
  message(0x80, nearKey, fc.constant(64)),
);
const controllerArb = fc.oneof(
  message(0xb0, fc.constantFrom(64, 64, 66, 67), fc.constantFrom(0, 30, 64, 127)),
  message(0xb0, fc.constantFrom(0, 1, 6, 11, 32, 80, 98, 101), key),
  message(0xb0, fc.integer({ min: 20, max: 27 }), fc.constantFrom(0, 40, 90, 127)),
  message(0xe0, key, key),
  message(0xd0, key, fc.constant(0)),
  message(0xa0, nearKey, key),
  message(0xb0, fc.integer({ min: 120, max: 127 }), fc.constant(0)),
);
export const recallArb: fc.Arbitrary<Happening> = fc.oneof(
  message(0xc0, fc.integer({ min: 0, max: 6 }), fc.constant(0)),
  fc.integer({ min: 0, max: 9 }).map((position): Happening => ({ kind: 'recall', position })),
  fc
    .constantFrom('nextStep', 'previousStep', 'nextSong', 'cursorNext', 'go')
    .map((action): Happening => ({ kind: 'step', action: action as 'go' })),
);
const troubleArb: fc.Arbitrary<Happening> = fc.oneof(
  fc.constant<Happening>({ kind: 'panic' }),
  fc.tuple(device, fc.boolean()).map(([name, here]): Happening => ({ kind: 'input', device: name, here })),
  fc.boolean().map((here): Happening => ({ kind: 'output', here })),
  fc
    .tuple(fc.integer({ min: 0, max: 8 }), fc.boolean())
    .map(([which, ready]): Happening => ({ kind: 'ready', which, ready })),
  fc.integer({ min: 0, max: 5 }).map((turn): Happening => ({ kind: 'edit', turn })),
  fc.constantFrom('play', 'stop').map((action): Happening => ({ kind: 'step', action: action as 'play' })),
);

export const playingArb = (trouble = true) =>
  fc.array(
    fc.tuple(
      fc.constantFrom(0, 0, 1, 7, 40, 200),
      trouble
        ? fc.oneof(
            { weight: 6, arbitrary: noteArb },
            { weight: 3, arbitrary: controllerArb },
            { weight: 3, arbitrary: recallArb },
            { weight: 2, arbitrary: troubleArb },
          )
        : fc.oneof(
            { weight: 6, arbitrary: noteArb },
            { weight: 3, arbitrary: controllerArb },
            { weight: 3, arbitrary: recallArb },
          ),
    ),
    { minLength: 1, maxLength: 60, size: 'max' },
  );

export type Playing = [number, Happening][];

/** An edit of the show that an experienced finger might make while it plays. */
export function edited(show: Show, turn: number): Show {
  const songs = show.songs.map((song, s) => {
    if (s !== turn % show.songs.length) return song;
    switch (turn) {
      case 0:
        return {
          ...song,
          patches: song.patches.map((patch) => ({
            ...patch,
            parts: patch.parts.map((part) => ({ ...part, shift: part.shift + 1 })),
          })),
        };
      case 1:
        return { ...song, layers: song.layers.map((layer) => ({ ...layer, sound: show.songs[0].layers[0].sound })) };
      case 2:
        return song.patches.length > 1 ? { ...song, patches: song.patches.slice(1), cues: [] } : song;
      case 3:
        return {
          ...song,
          patches: song.patches.map((patch) => ({
            ...patch,
            parts: patch.parts.map((part) => ({ ...part, mute: !part.mute })),
          })),
        };
      case 4:
        return { ...song, layers: song.layers.map((layer) => ({ ...layer, carry: { kind: 'cut' as const } })) };
      default:
        return { ...song, patches: song.patches.map((patch) => ({ ...patch, parts: patch.parts.slice(1) })) };
    }
  });
  return { ...show, songs };
}
