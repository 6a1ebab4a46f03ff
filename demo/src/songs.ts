import type { SongNote } from './shorthand';

// Keys: 60 is middle C; Aster 73 runs from 28 (E) to 100 (E).
const LEFT: [number, number] = [0, 52];
const RIGHT: [number, number] = [53, 127];

/** The ten songs of Midsummer at Tern Ledge, in running order. */
export const SONG_NOTES: SongNote[] = [
  {
    name: 'Biscuit Tin Regatta',
    about: 'Opener. Everybody in from bar 1; the squeezebox carries the tune.',
    key: 'G',
    tempo: 96,
    bars: 98,
    length: '4:06',
    layers: {
      'Late Boat': { plays: 'Causeway: Late Boat' },
      'Bass hand': { plays: 'Keelson: Round' },
      Squeeze: { plays: 'Bellows: Musette' },
      Section: { plays: 'Quayside: Town Band' },
      Tide: { plays: 'Bowline: Slow Tide', carry: { kind: 'fade', fadeMs: 1500 } },
    },
    roles: [
      { role: 'Bright', layer: 'Late Boat', moves: 74 },
      { role: 'Low end', layer: 'Bass hand', moves: 'levelDb', low: -30, high: 0 },
      { role: 'Reeds out', layer: 'Squeeze', moves: 'mute' },
    ],
    patches: [
      { name: 'Jetty', parts: { 'Bass hand': { keys: LEFT, db: -4 }, 'Late Boat': { keys: RIGHT, db: -5 } } },
      {
        name: 'Oars',
        parts: {
          'Bass hand': { keys: LEFT, db: -4 },
          'Late Boat': { keys: RIGHT, db: -7 },
          Tide: { keys: [60, 127], db: -12, room: 30 },
        },
      },
      {
        name: 'Regatta',
        note: 'Squeezebox on top, watch the drummer for the stop.',
        parts: { 'Bass hand': { keys: LEFT, db: -4 }, Squeeze: { keys: RIGHT, db: -6 } },
      },
      {
        name: 'Finish',
        parts: {
          'Bass hand': { keys: LEFT, db: -4 },
          Squeeze: { keys: RIGHT, db: -8 },
          Section: { keys: [60, 127], db: -8 },
        },
      },
    ],
    cues: [
      [1, 1, 'Jetty'],
      [25, 1, 'Oars'],
      [49, 1, 'Regatta'],
      [82, 1, 'Finish'],
    ],
  },
  {
    name: 'Tin Roof Waltz',
    about: 'Three in a bar, brushes. The left hand is the squeezebox bass side.',
    key: 'C',
    tempo: 168,
    meter: [3, 4],
    bars: 190,
    length: '3:30',
    layers: {
      'Bass side': { plays: 'Bellows: Bass Side' },
      Reeds: { plays: 'Bellows: Two Reeds' },
      Aunt: { plays: 'Parlour: Upright Aunt' },
      Drops: { plays: 'Slipway: Marimba' },
    },
    roles: [
      { role: 'Low end', layer: 'Bass side', moves: 'levelDb', low: -30, high: 0 },
      { role: 'Reeds out', layer: 'Reeds', moves: 'mute' },
    ],
    patches: [
      { name: 'Rain', parts: { 'Bass side': { keys: [0, 54], db: -5 }, Reeds: { keys: [55, 127], db: -5 } } },
      { name: 'Gutter', parts: { Aunt: { db: -4 }, Drops: { keys: [72, 127], db: -10, echo: 18 } } },
      {
        name: 'Umbrella',
        parts: {
          'Bass side': { keys: [0, 54], db: -5 },
          Reeds: { keys: [55, 127], db: -7 },
          Aunt: { keys: [55, 127], db: -10 },
        },
      },
    ],
  },
  {
    name: 'Third Ferry Home',
    about: 'The long one before Moth. The harbour pad stands through the whole song.',
    key: 'D minor',
    tempo: 112,
    bars: 96,
    length: '5:12',
    layers: {
      'Late Boat': { plays: 'Causeway: Late Boat' },
      Round: { plays: 'Keelson: Round' },
      'Slow Tide': { plays: 'Bowline: Slow Tide' },
      Musette: { plays: 'Bellows: Musette' },
      Stabs: { plays: 'Quayside: Stabs', carry: { kind: 'cut' } },
      Harbour: { plays: 'Fogbank: Harbour', tape: 'sky' },
    },
    standing: { Harbour: { db: -20, room: 40 } },
    roles: [
      { role: 'Bright', layer: 'Late Boat', moves: 'levelDb', low: -30, high: 0 },
      { role: 'Low end', layer: 'Round', moves: 'levelDb', low: -30, high: 0, hand: true },
      { role: 'Reeds out', layer: 'Musette', moves: 'mute' },
    ],
    patches: [
      { name: 'Quay', parts: { Round: { keys: [0, 50], db: -4 }, 'Late Boat': { keys: [51, 96], db: -4 } } },
      {
        name: 'Gangway',
        note: 'Wait for the fiddle pick-up. Swell stays up.',
        parts: {
          Round: { keys: [0, 47], db: -5, shift: -12 },
          'Late Boat': { keys: [48, 96], db: -4, shift: 12, pan: -10, echo: 30 },
          'Slow Tide': { keys: [55, 96], db: -10 },
        },
        blends: [
          {
            name: 'quiet',
            ms: 900,
            values: { Round: { db: -12 }, 'Late Boat': { db: -12 }, 'Slow Tide': { db: -6, room: 45, bright: 44 } },
          },
        ],
      },
      {
        name: 'Open water',
        parts: {
          Round: { keys: [0, 47], db: -4 },
          'Slow Tide': { keys: [48, 84], db: -6 },
          Musette: { keys: [60, 127], db: -6 },
          Stabs: { keys: [72, 96], db: -5, velocity: [100, 127] },
        },
      },
      {
        name: 'Bell buoy',
        roles: [{ role: 'Bright', layer: 'Slow Tide', moves: 'levelDb', low: -30, high: 0 }],
        parts: {
          'Late Boat': { keys: [60, 127], db: -8 },
          'Slow Tide': { keys: [48, 84], db: -8 },
          Stabs: { keys: [72, 96], db: -12 },
        },
      },
      {
        name: 'Home lights',
        parts: {
          'Late Boat': { db: -5 },
          'Slow Tide': { keys: [40, 100], db: -8 },
          Musette: { keys: [64, 100], db: -10 },
        },
      },
    ],
    cues: [
      [1, 1, 'Quay'],
      [17, 1, 'Gangway'],
      [25, 1, 'Gangway / quiet'],
      [41, 1, 'Open water'],
      [57, 1, 'Bell buoy'],
      [84, 3, 'Home lights'],
    ],
  },
  {
    name: 'Moth and Lamp',
    about: 'Half-light. The music box answers only when it is struck hard.',
    key: 'A minor',
    tempo: 88,
    bars: 96,
    length: '4:24',
    layers: {
      'Front Room': { plays: 'Parlour: Front Room' },
      Box: { plays: 'Bellrope: Music Box' },
      Cloud: { plays: 'Fogbank: Low Cloud', carry: { kind: 'fade', fadeMs: 2500 } },
      Flame: { plays: 'Wicklight: Flame' },
      'Sea choir': { plays: 'Skerry: Grey Choir', channel: 1 },
    },
    patches: [
      { name: 'Dusk', parts: { 'Front Room': { db: -5 }, Cloud: { keys: [0, 59], db: -14 } } },
      {
        name: 'Flutter',
        note: 'Soft is piano, hard adds the box.',
        parts: { 'Front Room': { db: -5 }, Box: { keys: [60, 127], velocity: [92, 127], shift: 12, db: -9 } },
      },
      { name: 'Flame', parts: { Cloud: { keys: [0, 59], db: -10 }, Flame: { keys: [60, 127], db: -8, echo: 26 } } },
      { name: 'Ash', parts: { 'Sea choir': { keys: [0, 64], db: -8 }, 'Front Room': { keys: [48, 127], db: -7 } } },
    ],
    cues: [
      [1, 1, 'Dusk'],
      [33, 1, 'Flutter'],
      [57, 1, 'Flame'],
      [81, 1, 'Ash'],
    ],
  },
  {
    name: 'Kelp Dance',
    about: 'Last before the break. Organ all the way, choir from the module in the middle.',
    key: 'E minor',
    tempo: 128,
    bars: 124,
    length: '3:54',
    layers: {
      Chapel: { plays: 'Drawbar House: Chapel Row' },
      Full: { plays: 'Drawbar House: Full House' },
      Growl: { plays: 'Keelson: Growl' },
      Deep: { plays: 'Skerry: Deep Choir', channel: 2 },
    },
    roles: [
      { role: 'Low end', layer: 'Growl', moves: 'levelDb', low: -30, high: 0 },
      { role: 'Other stop', layer: 'Chapel', moves: 'nextPreset' },
    ],
    patches: [
      { name: 'Sway', parts: { Growl: { keys: [0, 47], db: -5 }, Chapel: { keys: [48, 127], db: -6 } } },
      {
        name: 'Undertow',
        parts: {
          Growl: { keys: [0, 47], db: -5 },
          Chapel: { keys: [48, 127], db: -9 },
          Deep: { keys: [48, 84], db: -6 },
        },
        blends: [{ name: 'choir alone', ms: 1200, values: { Chapel: { mute: true }, Growl: { db: -14 } } }],
      },
      { name: 'Surface', parts: { Growl: { keys: [0, 47], db: -4 }, Full: { keys: [48, 127], db: -5 } } },
    ],
  },
  {
    name: 'Low Tide Letters',
    about: 'Second set opens alone at the keys.',
    key: 'F',
    tempo: 72,
    bars: 86,
    length: '4:48',
    layers: {
      'Lid Down': { plays: 'Parlour: Lid Down' },
      Fiddle: { plays: 'Bowline: Single Fiddle' },
      Dawn: { plays: 'Fogbank: Dawn', carry: { kind: 'fade', fadeMs: 3000 } },
      Chime: { plays: 'Bellrope: Glass Chime' },
    },
    patches: [
      { name: 'Envelope', parts: { 'Lid Down': { db: -3, room: 24 } } },
      { name: 'Ink', parts: { 'Lid Down': { db: -5 }, Dawn: { keys: [0, 72], db: -13 } } },
      {
        name: 'Postmark',
        parts: { 'Lid Down': { keys: [0, 71], db: -5 }, Chime: { keys: [72, 127], db: -9, echo: 22 } },
      },
      { name: 'Answer', parts: { 'Lid Down': { db: -6 }, Fiddle: { keys: [60, 127], db: -9, room: 34 } } },
    ],
  },
  {
    name: 'Lamp Room Stomp',
    about: 'Boots on boards. Foghorn on the lowest key, once.',
    key: 'B flat',
    tempo: 140,
    bars: 126,
    length: '3:36',
    layers: {
      Cellar: { plays: 'Drawbar House: Cellar Pipes' },
      Band: { plays: 'Quayside: Swell Section' },
      Boots: { plays: 'Deckhand: Boots and Boxes', drums: true },
      Horn: { plays: 'Deckhand: Foghorn', drums: true, carry: { kind: 'hold' } },
      Rubber: { plays: 'Keelson: Rubber' },
    },
    standing: { Horn: { keys: [28, 28], db: -4, room: 50 } },
    patches: [
      { name: 'Stomp', parts: { Rubber: { keys: [29, 50], db: -4 }, Cellar: { keys: [51, 127], db: -7 } } },
      { name: 'Brass rail', parts: { Rubber: { keys: [29, 50], db: -4 }, Band: { keys: [51, 127], db: -6 } } },
      { name: 'Boards', parts: { Boots: { keys: [29, 50], db: -3 }, Cellar: { keys: [51, 127], db: -7 } } },
      {
        name: 'Shutter',
        parts: {
          Rubber: { keys: [29, 50], db: -4 },
          Cellar: { keys: [51, 127], db: -9 },
          Band: { keys: [60, 127], db: -7 },
        },
      },
    ],
    cues: [
      [1, 1, 'Stomp'],
      [33, 1, 'Brass rail'],
      [65, 1, 'Boards'],
      [97, 1, 'Shutter'],
    ],
  },
  {
    name: 'Pewter Jug Reel',
    about: 'As fast as the floor allows. No pedal.',
    key: 'D',
    tempo: 176,
    bars: 140,
    length: '3:12',
    layers: {
      Dry: { plays: 'Bellows: Dry Squeeze' },
      Ribs: { plays: 'Slipway: Boat Ribs' },
      Picked: { plays: 'Keelson: Picked' },
      Whistle: { plays: 'Wicklight: Whistle' },
    },
    patches: [
      { name: 'Jug', parts: { Picked: { keys: [0, 50], db: -5 }, Dry: { keys: [51, 127], db: -5 } } },
      { name: 'Reel', parts: { Picked: { keys: [0, 50], db: -5 }, Whistle: { keys: [51, 127], db: -8, echo: 10 } } },
      { name: 'Tip', parts: { Ribs: { keys: [0, 59], db: -5 }, Dry: { keys: [60, 127], db: -5 } } },
    ],
  },
  {
    name: 'Salt on the Strings',
    about: 'The string song. Five steps; the module doubles the low section at the end.',
    key: 'G minor',
    tempo: 104,
    bars: 158,
    length: '6:06',
    layers: {
      Ensemble: { plays: 'Bowline: Ensemble' },
      Plucked: { plays: 'Bowline: Plucked' },
      Short: { plays: 'Bowline: Short Bows' },
      Low: { plays: 'Bowline: Low Section' },
      Planks: { plays: 'Causeway: Wet Planks' },
      'Low sea': { plays: 'Skerry: Wide Pad', channel: 3 },
    },
    patches: [
      { name: 'Salt', parts: { Planks: { db: -5, echo: 14 } } },
      { name: 'Pluck', parts: { Plucked: { db: -4 } } },
      { name: 'Short bows', parts: { Low: { keys: [0, 54], db: -6 }, Short: { keys: [55, 127], db: -5 } } },
      {
        name: 'Long bows',
        note: 'Hold the last chord over; it carries into Rinse.',
        parts: { Low: { keys: [0, 54], db: -6 }, Ensemble: { keys: [50, 127], db: -6, room: 30 } },
      },
      { name: 'Rinse', parts: { 'Low sea': { keys: [0, 54], db: -6 }, Planks: { keys: [55, 127], db: -6 } } },
    ],
    cues: [
      [1, 1, 'Salt'],
      [33, 1, 'Pluck'],
      [65, 1, 'Short bows'],
      [97, 1, 'Long bows'],
      [141, 1, 'Rinse'],
    ],
  },
  {
    name: 'Slow Bell',
    about: 'Closer. Everything dies away by itself.',
    key: 'C',
    tempo: 60,
    turns: [[70, 75, 42]],
    bars: 75,
    length: '5:00',
    layers: {
      Bell: { plays: 'Bellrope: Chapel Bell' },
      Hold: { plays: 'Fogbank: Warm Hold', carry: { kind: 'fade', fadeMs: 5000 } },
      Pump: { plays: 'Bellows: Pump Organ' },
      Far: { plays: 'Parlour: Far Corner' },
    },
    patches: [
      { name: 'Toll', parts: { Bell: { keys: [0, 59], db: -6, room: 40 }, Far: { keys: [60, 127], db: -6 } } },
      {
        name: 'Vesper',
        parts: { Hold: { keys: [0, 64], db: -9, room: 40 }, Far: { keys: [55, 127], db: -6 } },
        blends: [{ name: 'pad up', ms: 3000, values: { Hold: { db: -3 }, Far: { db: -12 } } }],
      },
      { name: 'Last light', parts: { Pump: { db: -9 }, Bell: { keys: [72, 127], db: -12, room: 50 } } },
    ],
  },
];
