import { planNumbering } from '@rackle/core/programs';
import {
  Effect,
  EffectChange,
  EverySetlist,
  GearList,
  Instrument,
  SHOW_VERSION,
  Setlist,
  Shelf,
  patchItem,
  type LibraryItemId,
  type Show,
  type Song,
} from '@rackle/core/show';
import { withReelBass } from './backing';
import { songFrom } from './shorthand';
import { SONG_NOTES } from './songs';

const FIRST = [
  'Low',
  'Grey',
  'Deep',
  'Wide',
  'Thin',
  'Warm',
  'Cold',
  'Far',
  'Near',
  'Bright',
  'Dim',
  'Rough',
  'Calm',
  'Old',
  'Wet',
  'Long',
];
const SECOND = [
  'Shore',
  'Choir',
  'Strings',
  'Horn',
  'Bell',
  'Reed',
  'Pipe',
  'Piano',
  'Harp',
  'Bass',
  'Pad',
  'Flute',
  'Drum',
  'Glass',
  'Wind',
  'Voice',
];

/** Skerry's 256 named patches in two banks of 128 (bank LSB 0 and 1). */
const skerryNames = Array.from({ length: 256 }, (_, i) => ({
  id: `skerry/${i}`,
  name: `${FIRST[i % 16]} ${SECOND[Math.floor(i / 16)]}`,
  folder: i < 128 ? 'Inner bank' : 'Outer bank',
  msb: 0,
  lsb: i < 128 ? 0 : 1,
  program: i % 128,
}));

const skerryPreset = (name: string): string => {
  const found = skerryNames.find((entry) => entry.name === name);
  if (!found) throw new Error(`Skerry has no patch ${name}`);
  return found.id;
};

const sound = (presetId: string): object => ({ instrumentId: presetId.split('/')[0], presetId });

/** Effects of single layers, by song and layer. */
const EFFECTS: Readonly<Record<string, Readonly<Record<string, object[]>>>> = {
  'third-ferry-home': {
    'Late Boat': [
      { kind: 'chorus', rateHz: 0.7, depth: 45, mix: 40 },
      { kind: 'tremolo', note: '1/8', depth: 35 },
      { kind: 'equaliser', lowDb: -2, highDb: 3 },
    ],
  },
  'slow-bell': { Bell: [{ kind: 'delay', note: '1/4.', repeats: 40, mix: 30 }] },
};

/** What blends set these effects to, by song, blend and layer; effects by their place. */
const IN_BLENDS: Readonly<
  Record<
    string,
    Readonly<Record<string, Readonly<Record<string, { at: number; on?: boolean; values?: Record<string, number> }[]>>>>
  >
> = {
  'third-ferry-home': {
    quiet: {
      'Late Boat': [
        { at: 0, values: { mix: 70 } },
        { at: 1, on: false },
      ],
    },
  },
};

function withBlendEffects(song: Song): Song {
  const wanted = IN_BLENDS[song.id] ?? {};
  const layerName = (id: string): string => song.layers.find((layer) => layer.id === id)?.name ?? '';
  return {
    ...song,
    patches: song.patches.map((patch) => ({
      ...patch,
      blends: patch.blends.map((blend) => ({
        ...blend,
        values: blend.values.map((value) => {
          const changes = wanted[blend.name]?.[layerName(value.layerId)];
          return changes
            ? {
                ...value,
                effects: changes.map(({ at, on, values }) =>
                  EffectChange.parse({ effectId: `${value.layerId}/effect-${at + 1}`, on, values }),
                ),
              }
            : value;
        }),
      })),
    })),
  };
}

function withEffects(song: Song): Song {
  const wanted = EFFECTS[song.id] ?? {};
  return {
    ...song,
    layers: song.layers.map((layer) => ({
      ...layer,
      effects: (wanted[layer.name] ?? []).map((effect, i) =>
        Effect.parse({ id: `${layer.id}/effect-${i + 1}`, ...effect }),
      ),
    })),
  };
}

/** What hands and feet do wherever it is played. */
const everySetlist = EverySetlist.parse({
  id: 'every-setlist',
  roles: [
    'Next patch',
    'Previous patch',
    'Next song',
    'Patch 1',
    'Patch 2',
    'Patch 3',
    'Patch 4',
    'Swell',
    'Echo',
    'Tap tempo',
    'Keep',
    'Everything off',
  ],
  bindings: [
    { role: 'Next patch', action: { kind: 'nextStep' } },
    { role: 'Previous patch', action: { kind: 'previousStep' } },
    { role: 'Next song', action: { kind: 'nextSong' } },
    ...[1, 2, 3, 4].map((number) => ({ role: `Patch ${number}`, action: { kind: 'patch', number } })),
    { role: 'Swell', action: { kind: 'wholeValue', value: 'levelDb' }, low: -30, high: 0 },
    { role: 'Echo', action: { kind: 'wholeValue', value: 'echoDb' }, low: -40, high: 6 },
    { role: 'Tap tempo', action: { kind: 'tapTempo' } },
    { role: 'Keep', action: { kind: 'hold' } },
    { role: 'Everything off', action: { kind: 'panic' } },
  ],
});

/** The demo show: Midsummer at Tern Ledge, two sets and a break, with both gear lists. */
export function ternLedge(): Show {
  const songs = SONG_NOTES.map((note) => withBlendEffects(withEffects(songFrom(note, skerryPreset)))).map((song) =>
    song.id === 'pewter-jug-reel' ? withReelBass(song) : song,
  );
  const organ = patchItem(
    songs.find((song) => song.id === 'lamp-room-stomp')!,
    songs.find((song) => song.id === 'lamp-room-stomp')!.patches[0].id,
    {
      id: 'stomp' as LibraryItemId,
      description: 'Boots, bass and organ: to start a fast one from',
      keptAt: '2026-06-01T18:00:00.000Z',
      isTemplate: true,
    },
  )!;
  const entries = songs.flatMap((song, i) => [
    { kind: 'song', id: `tern-ledge/${i + 1}`, songId: song.id },
    ...(i === 4 ? [{ kind: 'break', id: 'tern-ledge/break', name: 'Break', minutes: 20 }] : []),
  ]);
  const setlist = Setlist.parse({
    id: 'tern-ledge',
    name: 'Midsummer at Tern Ledge',
    date: '2026-06-20',
    place: 'Tern Ledge',
    startsAt: '20:30',
    curfew: '22:00',
    entries,
    gearListId: 'rehearsal-loft',
    roles: ['Bright', 'Low end', 'Reeds out'],
  });
  return {
    format: 'rackle-show',
    version: SHOW_VERSION,
    songs,
    setlists: [
      {
        ...setlist,
        programs: planNumbering(setlist, new Map<string, Song>(songs.map((song) => [song.id, song])), setlist.numbering)
          .lines,
      },
    ],
    instruments: [
      Instrument.parse({
        kind: 'outboard',
        id: 'skerry',
        name: 'Skerry',
        port: 'Skerry',
        channel: 1,
        switchMs: 180,
        names: skerryNames,
      }),
    ],
    gearLists: [rehearsalLoft, ferryBag],
    everySetlist: [everySetlist],
    libraryItems: [organ],
    shelves: [
      Shelf.parse({
        id: 'shelf',
        name: 'Shelf',
        stars: [sound('causeway/late-boat'), sound('bellows/musette'), sound('bowline/slow-tide')],
        categories: [
          { name: 'For the barn', sounds: [sound('deckhand/boots-and-boxes'), sound('bellows/button-box')] },
        ],
      }),
    ],
  };
}

const controller = (port: string, number: number, over: object = {}): object => ({
  port,
  kind: 'controller',
  number,
  ...over,
});
const note = (port: string, number: number, channel: number): object => ({ port, kind: 'note', number, channel });

const clackControls = [
  { name: 'left pedal', source: controller('Clack 2', 80) },
  { name: 'right pedal', source: controller('Clack 2', 81) },
];
const clackRoles = [
  { role: 'Next patch', source: controller('Clack 2', 80) },
  { role: 'Previous patch', source: controller('Clack 2', 81) },
];
const pads = Array.from({ length: 8 }, (_, i) => ({ name: `pad ${i + 1}`, source: note('Cobble 25', 36 + i, 10) }));
const knobs = Array.from({ length: 8 }, (_, i) => ({
  name: `knob ${i + 1}`,
  source: controller('Cobble 25', 20 + i, {
    coding: i < 4 ? 'absolute' : i < 6 ? 'twos' : i === 6 ? 'offset' : 'signed',
  }),
}));
const kegControls = Array.from({ length: 8 }, (_, i) => ({
  name: `pad ${Math.floor(i / 2) + 1}, ${i % 2 === 0 ? 'head' : 'rim'}`,
  source: note('Keg 4', [36, 37, 38, 40, 41, 43, 45, 47][i], 10),
}));
const cobble = (alias: string): object => {
  const named = <T extends { source: object }>(controls: T[]): T[] =>
    controls.map((control) => ({ ...control, source: { ...control.source, port: alias } }));
  return {
    direction: 'in',
    alias,
    device: 'Cobble 25',
    playsOn: [1],
    programs: { kind: 'off' },
    controls: [...named(pads), ...named(knobs)],
  };
};

const rehearsalLoft = GearList.parse({
  id: 'rehearsal-loft',
  name: 'Rehearsal loft',
  ports: [
    {
      direction: 'in',
      alias: 'Keys',
      device: 'Aster 73',
      programs: { kind: 'off' },
      keys: { lowest: 28, highest: 100 },
    },
    {
      direction: 'in',
      alias: 'Keys, second port',
      device: 'Aster 73, second port',
      programs: { kind: 'off' },
      doubleOf: 'Keys',
    },
    {
      ...cobble('Cobble 25'),
      plays: false,
      playsOn: null,
      channelNames: [
        { channel: 1, name: 'keys' },
        { channel: 10, name: 'pads' },
      ],
    },
    {
      direction: 'in',
      alias: 'Treadle 6',
      device: 'Treadle 6',
      plays: false,
      programs: { kind: 'direct', bank: 'both' },
      buttons: { count: 6, pages: 22 },
    },
    {
      direction: 'in',
      alias: 'Updown 2',
      device: 'Updown 2',
      plays: false,
      programs: { kind: 'counter', lowest: 0, highest: 9 },
      controls: [
        { name: 'up', source: { port: 'Updown 2', kind: 'count', direction: 'up' } },
        { name: 'down', source: { port: 'Updown 2', kind: 'count', direction: 'down' } },
      ],
    },
    {
      direction: 'in',
      alias: 'Clack 2',
      device: 'Clack 2',
      plays: false,
      programs: { kind: 'off' },
      controls: clackControls,
    },
    {
      direction: 'in',
      alias: 'Heel 1',
      device: 'Heel 1',
      plays: false,
      programs: { kind: 'off' },
      controls: [{ name: 'pedal', source: controller('Heel 1', 11) }],
    },
    {
      direction: 'in',
      alias: 'Keg 4',
      device: 'Keg 4',
      plays: false,
      programs: { kind: 'off' },
      controls: kegControls,
    },
    {
      direction: 'in',
      alias: 'Pilot Cutter',
      device: 'Pilot Cutter',
      plays: false,
      programs: { kind: 'direct', bank: 'both' },
    },
    { direction: 'out', alias: 'Skerry', device: 'Skerry' },
    { direction: 'out', alias: 'Beacon', device: 'Beacon' },
  ],
  roles: [
    ...clackRoles,
    ...[1, 2, 3, 4].map((n) => ({ role: `Patch ${n}`, source: note('Cobble 25', 35 + n, 10) })),
    { role: 'Swell', source: controller('Heel 1', 11), reversed: true, pickUp: 'atOnce' },
    { role: 'Bright', source: controller('Cobble 25', 20) },
    { role: 'Low end', source: controller('Cobble 25', 21), pickUp: 'drawnIn' },
    { role: 'Reeds out', source: note('Cobble 25', 40, 10) },
    { role: 'Keep', source: note('Keg 4', 36, 10) },
    { role: 'Everything off', source: note('Keg 4', 47, 10), guardMs: 0 },
  ],
});

const ferryBag = GearList.parse({
  id: 'ferry-bag',
  name: 'Ferry bag',
  ports: [
    cobble('Keys'),
    {
      direction: 'in',
      alias: 'Clack 2',
      device: 'Clack 2',
      plays: false,
      programs: { kind: 'off' },
      controls: clackControls,
    },
  ],
  roles: clackRoles,
});
