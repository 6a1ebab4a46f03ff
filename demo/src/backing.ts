import { writeSmf, type WriteMessage, type WriteMeta } from '@rackle/core/formats';
import { proposedChoices, readMidiContents, songFromMidi } from '@rackle/core/midiFile';
import type { LayerId, Song } from '@rackle/core/show';

const DIVISION = 480;
const BAR = 4 * DIVISION;
const NOTE = { D: 38, G: 43, A: 45, B: 47 } as const;
/** Roots by half bars, eight bars a turn. */
const TURNS = {
  Jug: 'DDDDGGAADDDDGADD',
  Reel: 'BBAAGGAABBAAGADD',
} as const;
/** Bar by bar: eight bars in, then turns of sixteen. */
const FORM: readonly { name: string; bars: number; turn: keyof typeof TURNS | null }[] = [
  { name: 'Count', bars: 4, turn: null },
  { name: 'Jug', bars: 32, turn: 'Jug' },
  { name: 'Reel', bars: 32, turn: 'Reel' },
  { name: 'Jug again', bars: 32, turn: 'Jug' },
  { name: 'Tip', bars: 40, turn: 'Reel' },
];

/** The bass of Pewter Jug Reel, as somebody would bring it to a rehearsal: markers, tempo, one track of notes. */
export function reelBass(): Uint8Array {
  const metas: WriteMeta[] = [
    { kind: 'tempo', atTick: 0, usPerQuarter: Math.round(60_000_000 / 176) },
    { kind: 'meter', atTick: 0, beats: 4, unit: 4 },
  ];
  const notes: WriteMessage[] = [];
  let bar = 0;
  for (const { name, bars, turn } of FORM) {
    metas.push({ kind: 'text', type: 6, atTick: bar * BAR, text: name });
    for (let i = 0; turn !== null && i < bars * 2; i++) {
      const root = NOTE[TURNS[turn][i % TURNS[turn].length] as keyof typeof NOTE];
      const atTick = bar * BAR + i * (BAR / 2);
      strike(notes, atTick, root, 84, 400);
      strike(notes, atTick + DIVISION, root + (i % 4 === 3 ? 12 : 7), 66, 180);
    }
    bar += bars;
  }
  notes.sort((a, b) => a.atTick - b.atTick);
  return writeSmf(
    [
      { name: 'Pewter Jug Reel', messages: metas, endTick: bar * BAR },
      { name: 'Bass', messages: notes },
    ],
    DIVISION,
    null,
  );
}

function strike(notes: WriteMessage[], atTick: number, key: number, velocity: number, length: number): void {
  notes.push({ kind: 'message', atTick, status: 0x90, data1: key, data2: velocity });
  notes.push({ kind: 'message', atTick: atTick + length, status: 0x80, data1: key, data2: 64 });
}

/** The song with that bass, played by one of its layers, and the file's sections. */
export function withReelBass(song: Song): Song {
  const layer = song.layers.find(({ name }) => name === 'Picked');
  const read = readMidiContents(reelBass());
  if (!layer || !read.ok) throw new Error(`${song.name} cannot take its bass`);
  const proposed = proposedChoices(read.value, null, [], 'utf-8');
  const groups = Object.fromEntries(
    read.value.groups.map(({ id }) => [id, { kind: 'layer', layerId: layer.id as LayerId } as const]),
  );
  let count = 0;
  return songFromMidi(
    song,
    read.value,
    { ...proposed, groups },
    {
      instruments: [],
      recallOf: () => null,
      mint: (kind) => `${song.id}/${kind}-${++count}`,
    },
  ).song;
}
