import { writeSmf, type WriteMessage } from '@rackle/core/formats';
import { proposedChoices, readMidiContents, songFromMidi } from '@rackle/core/midiFile';
import { Registry, ShowCompiler } from '@rackle/core/engine';
import { Show, SHOW_VERSION, Song, SongMap, steadyMap } from '@rackle/core/show';
import { TempoMap } from '@rackle/core/timeline';

/** What a song's map gives away and takes. */
export interface TimelineFigures {
  /** Largest difference of ticks → time → ticks → time over an hour with 500 tempos, every other a ramp; µs. */
  worstPositionUs: number;
  /** Ticks that did not come back as themselves. */
  ticksLost: number;
  /** CPU of making the map of 500 tempos, ms. */
  mapMs: number;
  /** CPU of compiling a show again after one of a song's 2,000 cues has been moved, ms. */
  cuesMs: number;
  /** A Standard MIDI File of one megabyte: CPU of reading it, and of making a song of it, ms; how many events it has. */
  fileEvents: number;
  fileReadMs: number;
  fileSongMs: number;
}

const TEMPOS = 500;
const LOOKS = 200_000;
const HOUR_MS = 3_600_000;

/** An hour of 500 tempos between 40 and 240. */
function hour(): SongMap {
  const everyTick = Math.round((120 * 60 * 960) / TEMPOS);
  return SongMap.parse({
    ...steadyMap(),
    bars: 10_000,
    tempos: Array.from({ length: TEMPOS }, (_, i) => ({
      atTick: i * everyTick,
      bpm: 40 + ((i * 7919) % 2000) / 10,
      ramp: i % 2 === 0,
    })),
  });
}

export function timelineFigures(): TimelineFigures {
  const song = hour();
  let map = new TempoMap(song);
  const start = process.cpuUsage();
  for (let i = 0; i < 100; i++) map = new TempoMap(song);
  const { user, system } = process.cpuUsage(start);
  const lastTick = Math.floor(map.tickAt(HOUR_MS));
  let worstPositionUs = 0;
  let ticksLost = 0;
  for (let i = 0; i <= LOOKS; i++) {
    const tick = Math.round((i / LOOKS) * lastTick);
    const ms = map.msAt(tick);
    const again = map.tickAt(ms);
    if (again !== tick) ticksLost++;
    // Between ticks as well: a time that no tick has.
    const between = ms + 0.123;
    worstPositionUs = Math.max(
      worstPositionUs,
      Math.abs(map.msAt(again) - ms) * 1000,
      Math.abs(map.msAt(map.tickAt(between)) - between) * 1000,
    );
  }
  return { worstPositionUs, ticksLost, mapMs: (user + system) / 1000 / 100, cuesMs: cuesMs(), ...fileFigures() };
}

const CUES = 2000;
const EDITS = 50;

/** A song of 2,000 cues of many kinds. */
function cued(shift: number): Song {
  return Song.parse({
    id: 'song',
    name: 'Song',
    map: steadyMap(120, { beats: 4, unit: 4 }, 500),
    layers: [
      { id: 'a', name: 'A', tape: 'straw', sound: { instrumentId: 'causeway', presetId: 'causeway/late-boat' } },
    ],
    patches: ['p0', 'p1'].map((id) => ({ id, name: id, parts: [{ layerId: 'a' }] })),
    cues: Array.from({ length: CUES }, (_, i) => ({
      id: `c${i}`,
      atTick: i * 900 + (i === 0 ? shift : 0),
      ...[
        { kind: 'recall', patchId: `p${i % 2}` },
        { kind: 'controller', port: 'Out', channel: 1, controller: 7, value: i % 128 },
        { kind: 'note', to: { kind: 'layer', layerId: 'a' }, key: 60, lengthTicks: 480 },
        { kind: 'program', port: 'Out', channel: 2, program: i % 128 },
      ][i % 4],
    })),
  });
}

function cuesMs(): number {
  const setlist = { id: 'night', name: 'Night', entries: [{ kind: 'song', id: 'e', songId: 'song' }] };
  const showOf = (song: Song): Show =>
    Show.parse({ format: 'rackle-show', version: SHOW_VERSION, songs: [song], setlists: [setlist] });
  const shows = Array.from({ length: EDITS }, (_, i) => showOf(cued(i)));
  const compiler = new ShowCompiler(new Registry());
  // As on a page that has been worked on for a while: the first edits still find the code cold.
  const compileAll = (): void => shows.forEach((show) => compiler.compile(show, show.setlists[0], null));
  compileAll();
  const start = process.cpuUsage();
  compileAll();
  const { user, system } = process.cpuUsage(start);
  return (user + system) / 1000 / EDITS;
}

const FILE_BYTES = 1_000_000;
const FILE_READS = 5;

/** Four channels of notes, a megabyte of them. */
function megabyte(): { bytes: Uint8Array; events: number } {
  const messages: WriteMessage[] = [];
  // Time, status where it changes, key, velocity.
  for (let i = 0; messages.length * 4 < FILE_BYTES; i++) {
    const key = 40 + (i % 40);
    messages.push({ kind: 'message', atTick: i * 30, status: 0x90 | (i % 4), data1: key, data2: 90 });
    messages.push({ kind: 'message', atTick: i * 30 + 29, status: 0x80 | (i % 4), data1: key, data2: 64 });
  }
  return { bytes: writeSmf([{ name: 'Notes', messages }], 480, 500_000), events: messages.length };
}

function fileFigures(): Pick<TimelineFigures, 'fileEvents' | 'fileReadMs' | 'fileSongMs'> {
  const { bytes, events } = megabyte();
  const empty = Song.parse({ id: 'song', name: 'Song' });
  let [fileReadMs, fileSongMs] = [0, 0];
  let count = 0;
  for (let i = 0; i < FILE_READS; i++) {
    const start = process.cpuUsage();
    const read = readMidiContents(bytes);
    const between = process.cpuUsage(start);
    if (!read.ok) throw new Error(read.error.message);
    const choices = proposedChoices(read.value, null, [], 'utf-8');
    const makingFrom = process.cpuUsage();
    songFromMidi(empty, read.value, choices, {
      instruments: [],
      recallOf: () => null,
      mint: (kind) => `${kind}-${count++}`,
    });
    const making = process.cpuUsage(makingFrom);
    fileReadMs += (between.user + between.system) / 1000 / FILE_READS;
    fileSongMs += (making.user + making.system) / 1000 / FILE_READS;
  }
  return { fileEvents: events, fileReadMs, fileSongMs };
}
