import { Book, Engine, ShowCompiler, type EngineRecord, type EngineSink, type SoundingNote } from '../engine';
import { writeSmf, type SmfFile, type WriteMessage } from '../formats/smf';
import { fail, ok, type Result } from '../result';
import type { GearList, InputPort, Setlist, Show } from '../show';

export interface DryRunError {
  code: 'no-such-setlist' | 'no-such-gear-list' | 'no-gear-list' | 'unknown-port' | 'no-keyboard';
  message: string;
}

export type LogRecord =
  | EngineRecord
  | { type: 'left-out'; atMs: number; code: string; message: string }
  | { type: 'end'; atMs: number; sounding: SoundingNote[] };

export interface DryRunResult {
  /** Standard MIDI File, format 1, a tick a millisecond. */
  midi: Uint8Array;
  log: LogRecord[];
}

/**
 * The setlist and gear list meant by their names; without a gear list's name the setlist's own, or the only one there
 * is.
 */
export function chooseSetlist(
  show: Show,
  setlistName: string,
  gearName: string | null,
): Result<{ setlist: Setlist; gear: GearList }, DryRunError> {
  const setlist = show.setlists.find((candidate) => candidate.name === setlistName);
  if (!setlist)
    return fail({
      code: 'no-such-setlist',
      message: `there is no setlist "${setlistName}"; there are: ${listed(show.setlists)}`,
    });
  if (gearName !== null) {
    const gear = show.gearLists.find((candidate) => candidate.name === gearName);
    return gear
      ? ok({ setlist, gear })
      : fail({
          code: 'no-such-gear-list',
          message: `there is no gear list "${gearName}"; there are: ${listed(show.gearLists)}`,
        });
  }
  const gear =
    show.gearLists.find((candidate) => candidate.id === setlist.gearListId) ??
    (show.gearLists.length > 0 ? show.gearLists[0] : null);
  return gear ? ok({ setlist, gear }) : fail({ code: 'no-gear-list', message: 'the show has no gear list' });
}

const MOST_AFTER_MS = 120_000;

const listed = (items: readonly { name: string }[]): string =>
  items.length === 0 ? 'none' : items.map((item) => `"${item.name}"`).join(', ');

/** Plays a file through the engine. Held notes and pedals are left as the file leaves them. */
export function dryRun(
  show: Show,
  setlist: Setlist,
  gear: GearList,
  played: SmfFile,
): Result<DryRunResult, DryRunError> {
  const inputs = gear.ports.filter((port): port is InputPort => port.direction === 'in');
  const ports = played.tracks.map((track) =>
    track.messages.length === 0 ? ok(null) : portOfTrack(track.device ?? track.name, played, inputs),
  );
  const unknown = ports.find((port) => !port.ok);
  if (unknown && !unknown.ok) return unknown;
  const book = new Book();
  const log: LogRecord[] = [];
  const recorder = new TrackRecorder(book, gear);
  const compiled = new ShowCompiler(book).compile(show, setlist, gear);
  for (const note of compiled.notes) log.push({ type: 'left-out', atMs: 0, ...note });
  const engine = new Engine(book, recorder);
  engine.observer = { record: (record) => void log.push(record) };
  engine.load(compiled, 0);
  const messages = played.tracks.flatMap((track, t) => {
    const port = ports[t].ok ? ports[t].value : null;
    return port === null ? [] : track.messages.map((message) => ({ message, input: book.findInput(port.device) }));
  });
  // Stable: among equal times track order, then file order.
  messages.sort((a, b) => a.message.atMs - b.message.atMs);
  for (const { message, input } of messages) {
    if (message.kind === 'sysex') engine.receiveSysex(input, message.bytes.length, message.atMs);
    else engine.receive(input, message.status, message.data1, message.data2, message.atMs);
  }
  // What holds on for ever (an arpeggio whose keys the file leaves down) is followed for a while.
  const lastMs = played.endMs + MOST_AFTER_MS;
  for (let dueMs = engine.advance(played.endMs); dueMs <= lastMs; dueMs = engine.advance(dueMs));
  log.push({ type: 'end', atMs: engine.nowMs, sounding: engine.sounding() });
  return ok({ midi: recorder.toMidi(), log });
}

function portOfTrack(
  name: string | null,
  played: SmfFile,
  inputs: readonly InputPort[],
): Result<InputPort, DryRunError> {
  if (name === null && played.tracks.length === 1) {
    const keyboard = inputs.find((port) => port.plays && port.on);
    return keyboard
      ? ok(keyboard)
      : fail({ code: 'no-keyboard', message: 'the gear list has no keyboard to play the unnamed track' });
  }
  const found = inputs.find((port) => port.alias === name) ?? inputs.find((port) => port.device === name);
  if (found) return ok(found);
  const there = inputs.map((port) => `"${port.alias}"`).join(', ') || 'none';
  return fail({
    code: 'unknown-port',
    message: `${name === null ? 'a track has no port name' : `there is no input "${name}" in the gear list`}; there are: ${there}`,
  });
}

/** Keeps what the engine sends, a track for each output port and each built-in layer. */
class TrackRecorder implements EngineSink {
  private readonly tracks: { name: string; messages: WriteMessage[] }[] = [];
  private readonly byDestination = new Map<number, WriteMessage[]>();

  constructor(
    private readonly book: Book,
    gear: GearList,
  ) {
    for (const port of gear.ports) if (port.direction === 'out') this.messages(book.outputPort(port.alias));
  }

  send(destination: number, status: number, data1: number, data2: number, clock: Float64Array): void {
    this.messages(destination).push({ kind: 'message', atTick: Math.round(clock[0]), status, data1, data2 });
  }

  sendSysex(destination: number, bytes: Uint8Array, clock: Float64Array): void {
    this.messages(destination).push({ kind: 'sysex', atTick: Math.round(clock[0]), bytes: bytes.slice() });
  }

  balance(): void {}
  effects(): void {}
  effectValue(): void {}

  fade(): void {}

  preset(): void {}

  whole(): void {}

  tempo(): void {}

  private messages(destination: number): WriteMessage[] {
    const known = this.byDestination.get(destination);
    if (known) return known;
    const track = { name: this.book.nameOf(destination), messages: [] };
    this.tracks.push(track);
    this.byDestination.set(destination, track.messages);
    return track.messages;
  }

  toMidi(): Uint8Array {
    return writeSmf(this.tracks, 1000, 1_000_000);
  }
}
