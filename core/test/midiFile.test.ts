import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import {
  decodedText,
  readSmf,
  textCodeOf,
  writeSmf,
  type WriteMessage,
  type WriteMeta,
  type WriteTrack,
} from '../src/formats';
import { midiOfSong, proposedChoices, readMidiContents, songFromMidi, type MidiContents } from '../src/midiFile';
import { Setlist, GearList, Instrument, Song, backingEvents, type Cue } from '../src/show';
import { tempoMapOf } from '../src/timeline';
import { GEAR, layer, outboardInstrument, part, song as songOf } from './build';

let minted = 0;
const around = {
  instruments: [],
  recallOf: () => null,
  mint: (kind: string) => `${kind}-${++minted}`,
};
const EMPTY = Song.parse({ id: 'new', name: 'New' });
const contentsOf = (bytes: Uint8Array, bpm?: number): MidiContents => {
  const read = readMidiContents(bytes, bpm);
  if (!read.ok) throw new Error(read.error.message);
  return read.value;
};
const imported = (bytes: Uint8Array, bpm?: number) => {
  const contents = contentsOf(bytes, bpm);
  return songFromMidi(EMPTY, contents, proposedChoices(contents, null, [], 'utf-8'), around);
};
const at = (atTick: number, status: number, data1: number, data2 = 0): WriteMessage => ({
  kind: 'message',
  atTick,
  status,
  data1,
  data2,
});
const textAt = (atTick: number, type: 1 | 5 | 6 | 7, text: string): WriteMeta => ({ kind: 'text', atTick, type, text });
const fileOf = (messages: (WriteMessage | WriteMeta)[], over: Partial<WriteTrack> = {}, division = 960): Uint8Array =>
  writeSmf([{ name: 'Keys', device: 'Skerry', messages, ...over }], division, null);
const exported = (song: Song): Uint8Array =>
  midiOfSong(song, { songs: [song], instruments: [], setlist: null, gear: null, cuesOnly: false, gearAhead: false })
    .bytes;
const withoutIds = (cues: readonly Cue[]): object[] => cues.map(({ id: _, off: __, note: ___, ...cue }) => cue);

/** What goes to each port and channel, in order, from a file as it stands. */
function streamsOf(bytes: Uint8Array): Record<string, string[]> {
  const read = readSmf(bytes);
  if (!read.ok) throw new Error(read.error.message);
  const all = read.value.tracks.flatMap((track) =>
    track.metas.some((meta) => meta.kind === 'own')
      ? []
      : track.messages.flatMap((message) => (message.kind === 'message' ? [{ port: track.device, ...message }] : [])),
  );
  all.sort((a, b) => a.atTick - b.atTick);
  const streams: Record<string, string[]> = {};
  for (const { port, atTick, status, data1, data2 } of all)
    (streams[`${port} ${status & 15}`] ??= []).push(`${atTick} ${(status & 0xf0).toString(16)} ${data1} ${data2}`);
  return streams;
}

/** Notes paired one by one in their track, by the rules, written anew: what an equal file has to say. */
function putRight(tracks: WriteTrack[], division: number): WriteTrack[] {
  return tracks.map((track) => {
    const open = new Map<string, number[]>();
    const endTick = Math.floor((track.endTick! * 960) / division + 0.5);
    const messages: WriteMessage[] = [];
    for (const message of track.messages) {
      if (message.kind !== 'message') continue;
      const { status, data1, data2 } = message;
      const atTick = Math.floor((message.atTick * 960 * 2 + division) / (2 * division));
      const key = `${status & 15} ${data1}`;
      const isOn = (status & 0xf0) === 0x90 && data2 > 0;
      const isOff = (status & 0xf0) === 0x80 || ((status & 0xf0) === 0x90 && data2 === 0);
      if (isOn) open.set(key, [...(open.get(key) ?? []), atTick]);
      if (!isOff) messages.push({ kind: 'message', atTick, status, data1, data2 });
      else {
        const on = open.get(key)?.shift();
        if (on === undefined) continue;
        const release = (status & 0xf0) === 0x80 ? data2 : 64;
        messages.push(at(Math.max(on + 1, atTick), 0x80 | (status & 15), data1, release));
      }
    }
    for (const [key, ons] of [...open].sort(([a], [b]) => Number(a.split(' ')[1]) - Number(b.split(' ')[1])))
      for (const on of ons) {
        const [channel, data1] = key.split(' ').map(Number);
        messages.push(at(Math.max(on + 1, endTick), 0x80 | channel, data1, 64));
      }
    return { ...track, messages: messages.sort((a, b) => a.atTick - b.atTick), endTick };
  });
}

const messageArb = fc.oneof(
  {
    weight: 6,
    arbitrary: fc.tuple(
      fc.constantFrom(0x90, 0x90, 0x80),
      fc.integer({ min: 58, max: 62 }),
      fc.integer({ min: 0, max: 127 }),
    ),
  },
  { weight: 2, arbitrary: fc.tuple(fc.constant(0xc0), fc.integer({ min: 0, max: 127 }), fc.constant(0)) },
  {
    weight: 3,
    arbitrary: fc.tuple(
      fc.constant(0xb0),
      fc.constantFrom(0, 32, 0, 32, 7, 1, 33, 64, 98, 99, 101, 100, 6, 38, 96),
      fc.integer({ min: 0, max: 127 }),
    ),
  },
  {
    weight: 1,
    arbitrary: fc.tuple(
      fc.constantFrom(0xa0, 0xe0),
      fc.integer({ min: 0, max: 127 }),
      fc.integer({ min: 0, max: 127 }),
    ),
  },
  { weight: 1, arbitrary: fc.tuple(fc.constant(0xd0), fc.integer({ min: 0, max: 127 }), fc.constant(0)) },
);
const trackArb = fc.record({
  device: fc.constantFrom('Skerry', 'Beacon'),
  events: fc.array(fc.tuple(fc.constantFrom(0, 0, 0, 1, 30, 240), fc.integer({ min: 0, max: 1 }), messageArb), {
    maxLength: 40,
  }),
  isPlain: fc.boolean(),
  after: fc.integer({ min: 0, max: 500 }),
});
const fileArb = fc.record({
  tracks: fc.array(trackArb, { minLength: 1, maxLength: 4 }),
  division: fc.constantFrom(24, 96, 480, 960, 1000, 15_360),
});

describe('a MIDI file that becomes a song', () => {
  it('and a file again says the same to every port and channel, at every tick and in its order', () => {
    fc.assert(
      fc.property(fileArb, ({ tracks, division }) => {
        const written = tracks.map(({ device, events, isPlain, after }, t): WriteTrack => {
          let atTick = 0;
          const messages = events.flatMap(([gap, channel, [status, data1, data2]]) => {
            atTick += gap;
            // A track without notes becomes cues.
            return isPlain && status <= 0x90 ? [] : [at(atTick, status | channel, data1, data2)];
          });
          return { name: `Track ${t}`, device, messages, endTick: atTick + after };
        });
        const song = imported(writeSmf(written, division, 500_000)).song;
        expect(Song.parse(JSON.parse(JSON.stringify(song)))).toEqual(song);
        expect(streamsOf(exported(song))).toEqual(streamsOf(writeSmf(putRight(written, division), 960, 500_000)));
      }),
      { seed: 31, numRuns: 300 },
    );
  });

  it('puts every event at the nearest tick by its own place, half up, and says how far the farthest stands from its own', () => {
    const contents = contentsOf(fileOf([at(1, 0xb0, 7, 1), at(3, 0xb0, 7, 2), at(5, 0xb0, 7, 3)], {}, 1280));
    // 0.75, 2.25 and 3.75 ticks.
    expect(contents.groups[0].messages.map(({ atTick }) => atTick)).toEqual([1, 2, 4]);
    expect(contents.displacement).toBeCloseTo(0.25, 9);
    const halves = contentsOf(fileOf([at(1, 0xb0, 7, 1), at(3, 0xb0, 7, 2)], {}, 1920));
    expect(halves.groups[0].messages.map(({ atTick }) => atTick)).toEqual([1, 2]);
  });

  it('takes the last of several tempos and meters at one tick, from whichever track, and names those that are none', () => {
    const bytes = writeSmf(
      [
        {
          name: 'One',
          messages: [
            { kind: 'tempo', atTick: 0, usPerQuarter: 500_000 },
            { kind: 'tempo', atTick: 1920, usPerQuarter: 0 },
          ],
          endTick: 7680,
        },
        {
          name: 'Two',
          messages: [
            { kind: 'tempo', atTick: 0, usPerQuarter: 535_714 },
            { kind: 'meter', atTick: 0, beats: 3, unit: 4 },
            { kind: 'meter', atTick: 4000, beats: 7, unit: 8 },
          ],
        },
      ],
      960,
      null,
    );
    const { map, words } = contentsOf(bytes);
    expect(map.tempos).toEqual([{ atTick: 0, bpm: 112, ramp: false }]);
    // The second bar of 3/4 ends at tick 4000 instead of 5760.
    expect(map.meters).toEqual([
      { bar: 1, beats: 3, unit: 4, early: 0 },
      { bar: 3, beats: 7, unit: 8, early: 1760 },
    ]);
    expect(tempoMapOf(map).barTick(3)).toBe(4000);
    expect(words).toContain('a tempo of 0 is left out');
  });

  it('makes markers sections up to the next one, and of cue points and texts texts for the player', () => {
    const { song, sections } = imported(
      fileOf(
        [
          textAt(0, 6, 'Intro'),
          textAt(3840, 6, 'Verse'),
          textAt(4000, 7, 'wait for drums'),
          textAt(7680, 6, 'Intro'),
          textAt(8000, 5, '/Low '),
          textAt(8200, 5, 'tide'),
        ],
        { endTick: 15_360 },
      ),
    );
    expect(sections).toBe(3);
    expect(song.sections.map(({ name, tape, fromTick, toTick }) => [name, tape, fromTick, toTick])).toEqual([
      ['Intro', 'straw', 0, 3840],
      ['Verse', 'brick', 3840, 7680],
      ['Intro', 'straw', 7680, 15_360],
    ]);
    expect(withoutIds(song.cues)).toEqual([{ kind: 'text', atTick: 4000, text: 'wait for drums' }]);
    expect(song.lyrics).toEqual([
      { atTick: 8000, text: '/Low ' },
      { atTick: 8200, text: 'tide' },
    ]);
  });

  it('stores with a program the bank in force, and which of its bytes were sent when', () => {
    const { song } = imported(
      fileOf([
        at(0, 0xb0, 0, 5),
        at(10, 0xb0, 32, 2),
        at(20, 0xc0, 7),
        at(960, 0xc0, 8),
        at(1920, 0xb0, 32, 3),
        at(1920, 0xc0, 9),
        at(2880, 0xb0, 0, 6),
      ]),
    );
    const place = { port: 'Skerry', channel: 1 };
    expect(withoutIds(song.cues)).toEqual([
      { kind: 'program', atTick: 20, ...place, msb: 5, lsb: 2, msbAhead: 20, lsbAhead: 10, program: 7 },
      { kind: 'program', atTick: 960, ...place, msb: 5, lsb: 2, msbAhead: null, lsbAhead: null, program: 8 },
      { kind: 'program', atTick: 1920, ...place, msb: 5, lsb: 3, msbAhead: null, lsbAhead: 0, program: 9 },
      { kind: 'controller', atTick: 2880, ...place, controller: 0, value: 6, ramp: null },
    ]);
  });

  it('makes a run a ramp only where the ramp gives every message at its tick', () => {
    const ramped = Song.parse({
      ...EMPTY,
      cues: [
        {
          kind: 'controller',
          id: 'c',
          atTick: 480,
          port: 'Skerry',
          channel: 1,
          controller: 11,
          value: 10,
          ramp: { toValue: 90, lengthTicks: 3840, curve: -35 },
        },
      ],
    });
    const bytes = exported(ramped);
    const [cue, ...more] = imported(bytes).song.cues;
    expect(more).toEqual([]);
    expect(cue).toMatchObject({ kind: 'controller', atTick: 480, value: 10, ramp: { toValue: 90, lengthTicks: 3840 } });
    expect(streamsOf(exported(imported(bytes).song))).toEqual(streamsOf(bytes));
    const uneven = imported(
      fileOf([at(0, 0xb0, 7, 1), at(100, 0xb0, 7, 2), at(130, 0xb0, 7, 9), at(700, 0xb0, 7, 40), at(705, 0xb0, 7, 41)]),
    );
    expect(uneven.song.cues.map((one) => one.kind === 'controller' && one.ramp)).toEqual([
      null,
      null,
      null,
      null,
      null,
    ]);
  });

  it('brings in switched off what sets instruments back or ends everything', () => {
    const { song } = imported(
      fileOf([
        { kind: 'sysex', atTick: 0, bytes: Uint8Array.from([0x7e, 0x7f, 9, 1]) },
        { kind: 'sysex', atTick: 0, bytes: Uint8Array.from([0x7d, 1]) },
        at(10, 0xb0, 123, 0),
        at(20, 0x90, 60, 90),
        at(30, 0xb0, 121, 0),
        at(40, 0x80, 60, 64),
      ]),
    );
    expect(song.cues.map((cue) => [cue.kind === 'message' && cue.bytes, cue.off])).toEqual([
      [[0xf0, 0x7e, 0x7f, 9, 1, 0xf7], true],
      [[0xf0, 0x7d, 1, 0xf7], false],
      [[0xb0, 123, 0], true],
      [[0xb0, 121, 0], true],
    ]);
  });

  it('lets hanging notes end with their track, leaves out ends of nothing, and counts both', () => {
    const contents = contentsOf(
      fileOf([at(0, 0x90, 60, 90), at(0, 0x80, 61, 64), at(100, 0x90, 62, 90), at(100, 0x90, 62, 0)], { endTick: 960 }),
    );
    const { song } = songFromMidi(EMPTY, contents, proposedChoices(contents, null, [], 'utf-8'), around);
    expect(backingEvents(song.backing[0])).toEqual([
      { kind: 'note', atTick: 0, endTick: 960, key: 60, velocity: 90, releaseVelocity: 64 },
      { kind: 'note', atTick: 100, endTick: 101, key: 62, velocity: 90, releaseVelocity: 64 },
    ]);
    expect(contents.words).toEqual([
      '1 note that nothing ends lasts up to the end of its track',
      '1 note-off ends no note and is left out',
    ]);
  });

  it('with frames for a division stands by its time on one tempo, and keeps its tempos as text', () => {
    // 25 frames of 40: a tick is a millisecond.
    const bytes = fileOf([
      { kind: 'tempo', atTick: 0, usPerQuarter: 400_000 },
      at(500, 0xb0, 7, 1),
      at(1000, 0xb0, 7, 2),
    ]);
    bytes.set([0x100 - 25, 40], 12);
    const contents = contentsOf(bytes, 100);
    expect(contents.map.tempos).toEqual([{ atTick: 0, bpm: 100, ramp: false }]);
    expect(contents.groups[0].messages.map(({ atTick }) => atTick)).toEqual([800, 1600]);
    const { song } = songFromMidi(EMPTY, contents, proposedChoices(contents, null, [], 'utf-8'), around);
    expect(withoutIds(song.cues)[0]).toEqual({ kind: 'text', atTick: 0, text: 'tempo 150' });
  });

  it('of format 2 has its patterns as sections in a row, each with its own tempo', () => {
    const bytes = writeSmf(
      [
        {
          name: 'Reel',
          messages: [{ kind: 'tempo', atTick: 0, usPerQuarter: 500_000 }, at(0, 0x90, 60, 90), at(5000, 0x80, 60, 64)],
        },
        {
          name: 'Slide',
          messages: [
            { kind: 'tempo', atTick: 0, usPerQuarter: 400_000 },
            { kind: 'meter', atTick: 0, beats: 6, unit: 8 },
            at(0, 0x90, 62, 90),
            at(960, 0x80, 62, 64),
          ],
        },
      ],
      960,
      null,
    );
    bytes[9] = 2;
    const { song } = imported(bytes);
    expect(song.sections.map(({ name, fromTick, toTick }) => [name, fromTick, toTick])).toEqual([
      ['Reel', 0, 7680],
      ['Slide', 7680, 10_560],
    ]);
    expect(song.map.tempos.map(({ atTick, bpm }) => [atTick, bpm])).toEqual([
      [0, 120],
      [7680, 150],
    ]);
    expect(song.map.meters.map(({ bar, beats, unit }) => [bar, beats, unit])).toEqual([
      [1, 4, 4],
      [3, 6, 8],
    ]);
    expect(backingEvents(song.backing[1])[0]).toMatchObject({ atTick: 7680, endTick: 8640 });
  });

  it('keeps more than two thousand controllers in a packed part', () => {
    const { song } = imported(fileOf(Array.from({ length: 5000 }, (_, i) => at(i * 3, 0xb0, 11, (i * 7) % 128))));
    expect(song.cues).toEqual([]);
    expect(backingEvents(song.backing[0])).toHaveLength(5000);
    expect(Object.values(streamsOf(exported(song)))[0]).toHaveLength(5000);
  });

  it('whose texts are not UTF-8 is read by its tag, or as Windows-1252', () => {
    const raw = (text: string): Uint8Array => Uint8Array.from(text, (letter) => letter.charCodeAt(0));
    expect(textCodeOf([raw('caf\xc3\xa9')])).toBe('utf-8');
    expect(decodedText(raw('caf\xe9 \x96'))).toBe('café –');
    expect(textCodeOf([raw('{@JP}\x82\xa0')])).toBe('shift_jis');
    expect(decodedText(raw('{@JP}\x82\xa0'))).toBe('あ');
  });

  it('with any bytes damaged becomes a song that can be kept, and a file again, or is refused; it never throws', () => {
    const whole = writeSmf(
      [
        {
          name: 'One',
          messages: [
            { kind: 'tempo', atTick: 0, usPerQuarter: 400_000 },
            { kind: 'meter', atTick: 0, beats: 7, unit: 8 },
            textAt(10, 6, 'Verse'),
            { kind: 'tempo', atTick: 900, usPerQuarter: 700_000 },
            { kind: 'meter', atTick: 950, beats: 3, unit: 4 },
            textAt(1000, 7, 'now'),
          ],
        },
        {
          name: 'Two',
          device: 'Skerry',
          messages: [
            { kind: 'sysex', atTick: 0, bytes: Uint8Array.from([0x7e, 0x7f, 9, 1]) },
            at(0, 0xb0, 0, 1),
            at(0, 0xc0, 4),
            ...Array.from({ length: 12 }, (_, i) => at(i * 90, i % 2 === 0 ? 0x90 : 0x80, 60, 70)),
            at(2000, 0xb0, 7, 10),
            at(2010, 0xe0, 1, 2),
          ],
        },
      ],
      480,
      null,
    );
    const damage = fc.array(fc.tuple(fc.integer({ min: 0, max: whole.length - 1 }), fc.integer({ min: 0, max: 255 })), {
      minLength: 1,
      maxLength: 4,
    });
    let taken = 0;
    fc.assert(
      fc.property(damage, (places) => {
        const bytes = whole.slice();
        for (const [place, value] of places) bytes[place] = value;
        const read = readMidiContents(bytes);
        if (!read.ok) return;
        taken++;
        const choices = proposedChoices(read.value, null, [], 'windows-1252');
        const { song } = songFromMidi(EMPTY, read.value, choices, around);
        const kept = Song.safeParse(JSON.parse(JSON.stringify(song)));
        expect(kept.success || JSON.stringify(kept.error.issues[0])).toBe(true);
        expect(readSmf(exported(song)).ok).toBe(true);
      }),
      { seed: 77, numRuns: 1500 },
    );
    expect(taken).toBeGreaterThan(300);
  });

  it('goes on where running status passes an event that should end it, and where a track has no end; with a word each', () => {
    const events = [0, 0x90, 60, 90, 0, 0xff, 6, 1, 65, 10, 60, 0, 10, 0x80, 60, 64];
    const bytes = Uint8Array.from([
      ...[0x4d, 0x54, 0x68, 0x64, 0, 0, 0, 6, 0, 0, 0, 1, 0, 96],
      ...[0x58, 0x58, 0x58, 0x58, 0, 0, 0, 1, 7],
      ...[0x4d, 0x54, 0x72, 0x6b, 0, 0, 0, events.length, ...events],
    ]);
    const contents = contentsOf(bytes);
    expect(contents.groups[0]).toMatchObject({ notes: 1, port: null, channel: 1 });
    expect(contents.words).toEqual([
      '1 chunk of another kind is passed over',
      '1 track has no end of track',
      '1 event runs on over an event that should have ended it',
      '1 note-off ends no note and is left out',
    ]);
    for (const length of [bytes.length - 1, bytes.length - 4, 23, 13])
      expect(readSmf(bytes.slice(0, length)).ok).toBe(false);
  });

  it('keeps apart what one track says to several ports', () => {
    const port = (number: number) => [0, 0xff, 0x21, 1, number];
    const events = [...port(0), 0, 0xc0, 1, ...port(1), 0, 0xc0, 2, ...port(0), 10, 0xc0, 3, 0, 0xff, 0x2f, 0];
    const bytes = Uint8Array.from([
      ...[0x4d, 0x54, 0x68, 0x64, 0, 0, 0, 6, 0, 0, 0, 1, 0, 96],
      ...[0x4d, 0x54, 0x72, 0x6b, 0, 0, 0, events.length, ...events],
    ]);
    const places = imported(bytes).song.cues.map((cue) => cue.kind === 'program' && [cue.port, cue.program]);
    expect(places).toEqual([
      ['port 1', 1],
      ['port 2', 2],
      ['port 1', 3],
    ]);
  });

  it('with a packet of system exclusive after another has it whole, where it began', () => {
    const events = [0, 0xf0, 3, 0x7d, 1, 2, 20, 0xf7, 2, 3, 4, 20, 0xf7, 2, 5, 0xf7, 0, 0xff, 0x2f, 0];
    const bytes = Uint8Array.from([
      ...[0x4d, 0x54, 0x68, 0x64, 0, 0, 0, 6, 0, 0, 0, 1, 3, 0xc0],
      ...[0x4d, 0x54, 0x72, 0x6b, 0, 0, 0, events.length, ...events],
    ]);
    const [cue] = imported(bytes).song.cues;
    expect(cue).toMatchObject({ kind: 'message', atTick: 0, bytes: [0xf0, 0x7d, 1, 2, 3, 4, 5, 0xf7], off: false });
  });

  it('that goes on behind all bars is taken as far as a song goes, with a word', () => {
    const late = fileOf(
      [at(0, 0xb0, 7, 1), { kind: 'tempo', atTick: 0, usPerQuarter: 60_000 }, at(900_000, 0xb0, 7, 2)],
      {},
      1,
    );
    const { song } = imported(late);
    expect(song.map.bars).toBe(10_000);
    expect(song.cues).toHaveLength(1);
    expect(Song.safeParse(song).success).toBe(true);
    expect(contentsOf(late).words.join()).toContain('comes too late');
  });

  it('with system exclusive of many bytes in a second packet is read, not thrown at', () => {
    const many = [0xf0, 1, 0x7d, 0, 0xf7, 0x8f, 0xff, 0x7f, ...new Array<number>(0x3ffff).fill(1)];
    const events = [0, ...many, 0, 0xff, 0x2f, 0];
    const length = [0, (events.length >> 16) & 255, (events.length >> 8) & 255, events.length & 255];
    const bytes = Uint8Array.from([
      ...[0x4d, 0x54, 0x68, 0x64, 0, 0, 0, 6, 0, 0, 0, 1, 0, 96],
      ...[0x4d, 0x54, 0x72, 0x6b, ...length, ...events],
    ]);
    expect(imported(bytes).words).toEqual(['system exclusive of 262144 bytes is left out']);
  });

  it('has what Rackle sends for recalls at their ticks, whatever is counted before, and no click among it', () => {
    const skerry = Instrument.parse(outboardInstrument());
    const tin = songOf('Tin', {
      layers: [layer('A'), layer('S', { preset: 'sk1' })],
      patches: ['A', 'S'].map((id) => ({ id, name: id, parts: [part(id)] })),
      cues: [{ kind: 'recall', id: 'c', atTick: 3840, patchId: 'S' }],
      countInBars: 2,
    });
    const click = { on: true, to: { kind: 'port', port: 'Skerry' } };
    const gear = GearList.parse({ ...GEAR, click });
    // A tempo that is only tonight's moves nothing in the file.
    const tonight = [{ kind: 'song', id: 'e', songId: 'Tin', bpm: 200 }];
    for (const setlist of [null, Setlist.parse({ id: 'night', name: 'Night', entries: tonight })]) {
      const from = { songs: [tin], instruments: [skerry], gear, cuesOnly: false, gearAhead: false };
      const read = readSmf(midiOfSong(tin, { ...from, setlist }).bytes);
      if (!read.ok) throw new Error(read.error.message);
      const derived = read.value.tracks.filter(({ metas }) => metas.some(({ kind }) => kind === 'own'));
      expect(derived.map(({ name }) => name)).toEqual(['Skerry 1, for recalls']);
      expect(derived[0].messages.map(({ atTick }) => atTick)).toEqual([3840, 3840, 3840]);
    }
  });

  it('where that is chosen tells gear so early that it is ready at its cue, but not while its old sound rings', () => {
    const skerry = Instrument.parse(outboardInstrument({ switchMs: 180 }));
    const to = { port: 'Skerry', channel: 1 };
    // At 125 a minute a tick is half a millisecond.
    const tin = songOf('Tin', {
      map: { tempos: [{ atTick: 0, bpm: 125 }], meters: [{ bar: 1, beats: 4, unit: 4 }], bars: 8 },
      layers: [layer('A'), layer('S', { preset: 'sk1' })],
      patches: ['A', 'S'].map((id) => ({ id, name: id, parts: [part(id)] })),
      cues: [
        { kind: 'program', id: 'p', atTick: 3840, ...to, msb: 1, lsb: 2, program: 4 },
        { kind: 'note', id: 'n', atTick: 5000, to: { kind: 'port', ...to }, key: 60, lengthTicks: 2600 },
        { kind: 'program', id: 'q', atTick: 7680, ...to, program: 5 },
        { kind: 'program', id: 'r', atTick: 100, ...to, program: 6 },
        { kind: 'recall', id: 'c', atTick: 11_520, patchId: 'S' },
      ],
    });
    const from = { songs: [tin], instruments: [skerry], setlist: null, gear: GearList.parse(GEAR), cuesOnly: false };
    const programs = (gearAhead: boolean): string[] => {
      const { bytes } = midiOfSong(tin, { ...from, gearAhead });
      const read = readSmf(bytes);
      if (!read.ok) throw new Error(read.error.message);
      return read.value.tracks.flatMap(({ messages }) =>
        messages.flatMap((one) =>
          one.kind === 'message' &&
          ((one.status & 0xf0) === 0xc0 || ((one.status & 0xf0) === 0xb0 && one.data1 % 32 === 0))
            ? [`${one.atTick} ${one.status.toString(16)} ${one.data1}`]
            : [],
        ),
      );
    };
    expect(programs(false).filter((word) => word.includes('c0'))).toEqual([
      '100 c0 6',
      '3840 c0 4',
      '7680 c0 5',
      '11520 c0 7',
    ]);
    // Eight bytes of 0.32 ms, 180 ms, and a margin of 10: 192.56 ms, which are 385.12 ticks.
    expect(programs(true)).toEqual([
      '0 c0 6',
      '3454 b0 0',
      '3454 b0 32',
      '3454 c0 4',
      // Its note ends there; two bytes would take 381.28 ticks.
      '7600 c0 5',
      '11134 b0 0',
      '11134 b0 32',
      '11134 c0 7',
    ]);
    expect(midiOfSong(tin, { ...from, gearAhead: true }).words).toContain(
      '4 programs stand ahead of the cue, so that gear is ready',
    );
  });
});
