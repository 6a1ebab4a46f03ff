import { midi } from '../midi';
import { readSmf, ticksPerSecond, type Division, type SmfError, type SmfFile, type SmfTrack } from '../formats/smf';
import { ok, type Result } from '../result';
import { TICKS_PER_QUARTER, ticksPerBar, type Meter, type SongMap } from '../show';
import { conductorOf, type Conductor } from './conductor';
import { RACKLE_DERIVED, RACKLE_RECALLS } from './marks';
import { textsOf, type FileText } from './texts';

/** A message of a file, at 960 ticks to the quarter note; channel messages without their channel. */
export type FileMessage =
  | { kind: 'message'; atTick: number; status: number; data1: number; data2: number }
  | { kind: 'sysex'; atTick: number; bytes: Uint8Array };

/** What one track says to one channel of one port. */
export interface FileGroup {
  id: string;
  /** Number of the track, from 1, and its name. */
  track: number;
  trackName: string;
  /** As the file names it; null: it does not. */
  port: string | null;
  /** 1–16; 0: system exclusive, which belongs to no channel. */
  channel: number;
  /** It holds recalls for Rackle, by number. */
  isRecalls: boolean;
  messages: FileMessage[];
  notes: number;
  programs: number;
  controllers: number;
  others: number;
}

/** All that a Standard MIDI File holds, as a song can take it. */
export interface MidiContents extends Conductor {
  format: 0 | 1 | 2;
  /** What it calls itself; null: nothing. */
  name: string | null;
  map: SongMap;
  groups: FileGroup[];
  texts: FileText[];
  /** Where patterns of format 2 begin and end, with their names. */
  patterns: { name: string; fromTick: number; toTick: number }[];
  /** How far the farthest event stands from where the file has it, in ticks of 960 to the quarter. */
  displacement: number;
  /** What is read otherwise than it stands, or left out. */
  words: string[];
}

/** From a file's own ticks to 960 a quarter, half up, always from the absolute one. */
class TickScale {
  displacement = 0;
  private readonly factor: number;

  /** @param bpm what frames (SMPTE) are placed on */
  constructor(division: Division, bpm: number) {
    this.factor =
      division.kind === 'quarters'
        ? TICKS_PER_QUARTER / division.ticksPerQuarter
        : (bpm * TICKS_PER_QUARTER) / 60 / ticksPerSecond(division);
  }

  at(tick: number): number {
    const exact = tick * this.factor;
    // Products of whole numbers that should be a half are one in spite of their last bit.
    const scaled = Math.floor(exact + 0.5 + 1e-9);
    this.displacement = Math.max(this.displacement, Math.abs(scaled - exact));
    return scaled;
  }
}

const LONGEST_MARK = 32;
/** Songs count no farther. */
const LAST_TICK = 99_000_000;

const counted = (count: number, one: string, more: string): string[] =>
  count === 0 ? [] : [`${count} ${count === 1 ? one : more}`];

/**
 * Reads a Standard MIDI File of any format and division as what a song is made of.
 * @param bpm tempo on which a file is placed whose division is frames a second
 */
export function readMidiContents(bytes: Uint8Array, bpm = 120): Result<MidiContents, SmfError> {
  const read = readSmf(bytes);
  return read.ok ? ok(contentsOf(read.value, bpm)) : read;
}

function contentsOf(file: SmfFile, bpm: number): MidiContents {
  const scale = new TickScale(file.division, bpm);
  const isFrames = file.division.kind === 'frames';
  const starts = startsOf(file, scale);
  const ends = file.tracks.map((track, t) => starts[t] + scale.at(track.endTick));
  const reader = new GroupReader(scale);
  file.tracks.forEach((track, t) => reader.read(track, t, starts[t], ends[t]));
  const lastTick = Math.min(LAST_TICK, Math.max(1, ...ends, reader.lastTick + 1));
  const conductor = conductorOf(file, (tick, t) => starts[t] + scale.at(tick), starts, lastTick, isFrames ? bpm : null);
  const texts = textsOf(file, (tick, t) => starts[t] + scale.at(tick)).filter(({ atTick }) => atTick <= LAST_TICK);
  const named = (t: number): string => file.tracks[t].name ?? `Pattern ${t + 1}`;
  return {
    ...conductor,
    format: file.format,
    name: file.format === 2 ? null : nameOf(file),
    groups: reader.groups,
    texts: [...texts, ...conductor.tempoTexts].sort((a, b) => a.atTick - b.atTick),
    patterns:
      file.format === 2
        ? file.tracks.map((_, t) => ({ name: named(t), fromTick: starts[t], toTick: starts[t + 1] ?? lastTick }))
        : [],
    displacement: scale.displacement,
    words: [...file.words, ...conductor.words, ...reader.words()],
  };
}

/** The first track of format 1 names the song, where it plays nothing; the only one of format 0 does. */
function nameOf({ tracks, format }: SmfFile): string | null {
  const [first] = tracks;
  return first === undefined || (format === 1 && tracks.length > 1 && first.messages.length > 0) ? null : first.name;
}

/** Where each track begins: patterns one after the other, each at a bar line. */
function startsOf({ format, tracks }: SmfFile, scale: TickScale): number[] {
  if (format !== 2) return tracks.map(() => 0);
  let at = 0;
  return tracks.map((track) => {
    const from = at;
    at += wholeBars(track, scale);
    return from;
  });
}

function wholeBars(track: SmfTrack, scale: TickScale): number {
  const meters = track.metas.flatMap((meta) =>
    meta.kind === 'meter' && meta.unit <= 64 && meta.beats > 0 ? [meta] : [],
  );
  let [barAt, meter]: [number, Meter] = [0, { beats: 4, unit: 4 }];
  for (const { atTick, beats, unit } of meters) {
    barAt = scale.at(atTick);
    meter = { beats, unit: unit as Meter['unit'] };
  }
  const length = Math.max(1, scale.at(track.endTick) - barAt);
  return barAt + Math.ceil(length / ticksPerBar(meter)) * ticksPerBar(meter);
}

/** Sorts the messages of tracks by where they go, and puts notes right. */
class GroupReader {
  readonly groups: FileGroup[] = [];
  lastTick = -1;
  private hanging = 0;
  private stray = 0;
  private realTime = 0;
  private derived = 0;
  private behind = 0;

  constructor(private readonly scale: TickScale) {}

  read(track: SmfTrack, t: number, startTick: number, endTick: number): void {
    const marks = track.metas.flatMap((meta) =>
      meta.kind === 'own' ? [String.fromCharCode(...meta.bytes.subarray(0, LONGEST_MARK))] : [],
    );
    if (marks.includes(RACKLE_DERIVED)) return void this.derived++;
    const own = new Map<string, FileGroup>();
    // By channel, up to the next turn.
    let found: (FileGroup | undefined)[] = [];
    let turn = -1;
    const isRecalls = marks.includes(RACKLE_RECALLS);
    track.messages.forEach((message, i) => {
      while (turn + 1 < track.turns.length && track.turns[turn + 1].from <= i) {
        turn++;
        found = [];
      }
      const isSysex = message.kind === 'sysex';
      if (!isSysex && message.status >= 0xf0) return void this.realTime++;
      const channel = isSysex ? 0 : (message.status & 15) + 1;
      const group = (found[channel] ??= groupIn(
        own,
        track,
        t,
        turn < 0 ? track : track.turns[turn],
        channel,
        isRecalls,
      ));
      const atTick = startTick + this.scale.at(message.atTick);
      if (atTick > LAST_TICK) return void this.behind++;
      // The file is nobody else's: its own messages are put right.
      message.atTick = atTick;
      if (!isSysex) message.status &= 0xf0;
      group.messages.push(message);
    });
    for (const group of own.values()) this.groups.push(this.finished(group, endTick));
  }

  /** Every note has an end at least one tick behind its start, and every end a note. */
  private finished(group: FileGroup, endTick: number): FileGroup {
    const open: FileMessage[][] = Array.from({ length: 128 }, () => []);
    const kept: FileMessage[] = [];
    for (const message of group.messages) {
      if (message.kind === 'sysex') {
        group.others++;
        kept.push(message);
        continue;
      }
      const { status, data1, data2, atTick } = message;
      if (status === midi.NOTE_ON && data2 > 0) {
        group.notes++;
        open[data1].push(message);
      } else if (status === midi.NOTE_ON || status === midi.NOTE_OFF) {
        const on = open[data1].shift();
        if (on === undefined) {
          this.stray++;
          continue;
        }
        // A velocity of 0 says nothing of how it was let go.
        if (status === midi.NOTE_ON) Object.assign(message, { status: midi.NOTE_OFF, data2: midi.RELEASE_UNSAID });
        message.atTick = Math.max(on.atTick + 1, atTick);
      } else if (status === midi.PROGRAM) group.programs++;
      else if (status === midi.CONTROLLER) group.controllers++;
      else group.others++;
      kept.push(message);
    }
    open.forEach((ons, data1) => {
      for (const on of ons) {
        this.hanging++;
        const atTick = Math.max(on.atTick + 1, Math.min(endTick, LAST_TICK));
        kept.push({ kind: 'message', atTick, status: midi.NOTE_OFF, data1, data2: midi.RELEASE_UNSAID });
      }
    });
    group.messages = kept.sort((a, b) => a.atTick - b.atTick);
    const last = group.messages.findLast((message) => message.kind === 'sysex' || message.status !== midi.NOTE_OFF);
    this.lastTick = Math.max(this.lastTick, last?.atTick ?? -1, (group.messages.at(-1)?.atTick ?? 0) - 1);
    return group;
  }

  words(): string[] {
    return [
      counted(
        this.hanging,
        'note that nothing ends lasts up to the end of its track',
        'notes that nothing ends last up to the end of their tracks',
      ),
      counted(this.stray, 'note-off ends no note and is left out', 'note-offs end no note and are left out'),
      counted(this.behind, 'message comes too late to be kept', 'messages come too late to be kept'),
      counted(this.realTime, 'system message is left out', 'system messages are left out'),
      counted(
        this.derived,
        'track holds what Rackle sent for its recalls and is left out',
        'tracks hold what Rackle sent for its recalls and are left out',
      ),
    ].flat();
  }
}

function groupIn(
  own: Map<string, FileGroup>,
  { name }: SmfTrack,
  t: number,
  { device, port }: { device: string | null; port: number | null },
  channel: number,
  isRecalls: boolean,
): FileGroup {
  const named = device ?? (port === null ? null : `port ${port + 1}`);
  const key = `${named ?? ''}/${channel}`;
  const group = own.get(key) ?? emptyGroup(`${t + 1}/${key}`, t + 1, name ?? '', named, channel, isRecalls);
  own.set(key, group);
  return group;
}

const emptyGroup = (
  id: string,
  track: number,
  trackName: string,
  port: string | null,
  channel: number,
  isRecalls: boolean,
): FileGroup => ({
  id,
  track,
  trackName,
  port,
  channel,
  isRecalls,
  messages: [],
  notes: 0,
  programs: 0,
  controllers: 0,
  others: 0,
});
