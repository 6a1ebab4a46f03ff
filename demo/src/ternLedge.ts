import { GearList, Instrument, Setlist, numberInPlayingOrder, type Show, type Song } from '@rackle/core';
import { songFrom } from './shorthand';
import { SONG_NOTES } from './songs';

const FIRST = ['Low', 'Grey', 'Deep', 'Wide', 'Thin', 'Warm', 'Cold', 'Far', 'Near', 'Bright', 'Dim', 'Rough', 'Calm', 'Old', 'Wet', 'Long'];
const SECOND = ['Shore', 'Choir', 'Strings', 'Horn', 'Bell', 'Reed', 'Pipe', 'Piano', 'Harp', 'Bass', 'Pad', 'Flute', 'Drum', 'Glass', 'Wind', 'Voice'];

/** Skerry's 256 named patches in two banks of 128 (bank LSB 0 and 1). */
const skerryNames = Array.from({ length: 256 }, (_, i) => ({
  id: `skerry/${i}`, name: `${FIRST[i % 16]} ${SECOND[Math.floor(i / 16)]}`, folder: i < 128 ? 'Inner bank' : 'Outer bank', msb: 0, lsb: i < 128 ? 0 : 1, program: i % 128,
}));

const skerryPreset = (name: string): string => {
  const found = skerryNames.find((entry) => entry.name === name);
  if (!found) throw new Error(`Skerry has no patch ${name}`);
  return found.id;
};

/** The demo show: Midsummer at Tern Ledge, two sets and a break, with both gear lists. */
export function ternLedge(): Show {
  const songs = SONG_NOTES.map((note) => songFrom(note, skerryPreset));
  const entries = songs.flatMap((song, i) => [
    { kind: 'song', id: `tern-ledge/${i + 1}`, songId: song.id },
    ...(i === 4 ? [{ kind: 'break', id: 'tern-ledge/break', name: 'Break', minutes: 20 }] : []),
  ]);
  const setlist = Setlist.parse({
    id: 'tern-ledge', name: 'Midsummer at Tern Ledge', startsAt: '20:30', curfew: '22:00', entries, gearListId: 'rehearsal-loft',
    bindings: [
      { role: 'Next', action: { kind: 'nextStep' } }, { role: 'Back', action: { kind: 'previousStep' } }, { role: 'Next song', action: { kind: 'nextSong' } }, { role: 'Everything off', action: { kind: 'panic' } },
    ],
  });
  return {
    format: 'rackle-show', version: 2, songs,
    setlists: [{ ...setlist, programs: numberInPlayingOrder(setlist, new Map<string, Song>(songs.map((song) => [song.id, song]))) }],
    instruments: [Instrument.parse({ kind: 'outboard', id: 'skerry', name: 'Skerry', port: 'Skerry', channel: 1, switchMs: 180, names: skerryNames })],
    gearLists: [rehearsalLoft, ferryBag],
  };
}

const clackRoles = [
  { role: 'Next', source: { port: 'Clack 2', kind: 'controller', number: 80 } },
  { role: 'Back', source: { port: 'Clack 2', kind: 'controller', number: 81 } },
];

const rehearsalLoft = GearList.parse({
  id: 'rehearsal-loft', name: 'Rehearsal loft',
  ports: [
    { direction: 'in', alias: 'Keys', device: 'Aster 73', programs: { kind: 'off' }, pedalsFor: [] },
    { direction: 'in', alias: 'Treadle 6', device: 'Treadle 6', plays: false, programs: { kind: 'direct', bank: 'both' } },
    { direction: 'in', alias: 'Updown 2', device: 'Updown 2', plays: false, programs: { kind: 'counter', lowest: 0, highest: 9 } },
    { direction: 'in', alias: 'Clack 2', device: 'Clack 2', plays: false, programs: { kind: 'off' } },
    { direction: 'in', alias: 'Pilot Cutter', device: 'Pilot Cutter', plays: false, programs: { kind: 'direct', bank: 'both' } },
    { direction: 'out', alias: 'Skerry', device: 'Skerry' },
  ],
  roles: clackRoles,
});

const ferryBag = GearList.parse({
  id: 'ferry-bag', name: 'Ferry bag',
  ports: [
    { direction: 'in', alias: 'Keys', device: 'Cobble 25', programs: { kind: 'off' } },
    { direction: 'in', alias: 'Clack 2', device: 'Clack 2', plays: false, programs: { kind: 'off' } },
  ],
  roles: clackRoles,
});
