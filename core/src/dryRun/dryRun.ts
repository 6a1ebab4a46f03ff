import type { Registry, EngineRecord, SoundingNote } from '../engine';
import { writeSmf, type SmfFile, type WriteMessage } from '../formats/smf';
import { fail, ok, type Result } from '../result';
import { playingOrder, type GearList, type InputPort, type Setlist, type Show } from '../show';
import { tempoMapOfSong } from '../timeline';
import { Simulation, type SentMessage } from '../simulate';

/** Why a dry run cannot be made; the show itself is not changed. */
export interface DryRunError {
  code: 'no-such-setlist' | 'no-such-gear-list' | 'no-gear-list' | 'unknown-port' | 'no-keyboard' | 'no-such-song';
  message: string;
}

/** A line of a dry run’s log: what the engine did, what was left out, or the end. */
export type LogRecord =
  | EngineRecord
  | { type: 'left-out'; atMs: number; code: string; message: string }
  | { type: 'end'; atMs: number; sounding: SoundingNote[] };

/** What a dry run gives: what was sent, as a file, and what happened. */
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

/**
 * Plays a file at the inputs, the timeline of a song from its start, or both together through the engine. Held notes and
 * pedals are left as the file leaves them.
 * @param file null: nothing is played at the inputs
 * @param song name of a song of the setlist, whose first patch is recalled and whose timeline is started at time 0
 */
export function dryRun(
  show: Show,
  setlist: Setlist,
  gear: GearList,
  file: SmfFile | null,
  song: string | null = null,
): Result<DryRunResult, DryRunError> {
  const started = song === null ? ok(null) : positionOf(show, setlist, song);
  if (!started.ok) return started;
  const played = file ?? { tracks: [], endMs: 0 };
  const inputs = gear.ports.filter((port): port is InputPort => port.direction === 'in');
  const ports = played.tracks.map((track) =>
    track.messages.length === 0 ? ok(null) : portOfTrack(track.device ?? track.name, played, inputs),
  );
  const unknown = ports.find((port) => !port.ok);
  if (unknown && !unknown.ok) return unknown;
  const simulation = new Simulation(show, setlist, gear);
  const { engine, registry } = simulation;
  const leftOut: LogRecord[] = engine.leftOut.map((note) => ({ type: 'left-out', atMs: 0, ...note }));
  const messages = played.tracks.flatMap((track, t) => {
    const port = ports[t].ok ? ports[t].value : null;
    return port === null ? [] : track.messages.map((message) => ({ message, device: port.device as string }));
  });
  if (started.value !== null) {
    simulation.feed({ type: 'recall', position: started.value.position }, 0);
    simulation.feed({ type: 'perform', action: 'play' }, 0);
  }
  // Stable: among equal times track order, then file order.
  messages.sort((a, b) => a.message.atMs - b.message.atMs);
  for (const { message, device } of messages) {
    if (message.kind === 'sysex')
      simulation.feed({ type: 'sysex', device, length: message.bytes.length }, message.atMs);
    else {
      const { status, data1, data2, atMs } = message;
      simulation.feed({ type: 'message', device, status, data1, data2 }, atMs);
    }
  }
  // What holds on for ever (an arpeggio whose keys the file leaves down) is followed for a while.
  const endMs = Math.max(played.endMs, started.value?.lengthMs ?? 0);
  const lastMs = endMs + MOST_AFTER_MS;
  for (let dueMs = engine.advance(endMs); dueMs <= lastMs; dueMs = engine.advance(dueMs));
  return ok({
    midi: midiOf(simulation.sent, gear, registry),
    log: [...leftOut, ...simulation.records, { type: 'end', atMs: engine.nowMs, sounding: engine.sounding() }],
  });
}

/** The first step of a song in a setlist, and how long its timeline is. */
function positionOf(
  show: Show,
  setlist: Setlist,
  name: string,
): Result<{ position: number; lengthMs: number }, DryRunError> {
  const songs = Object.fromEntries(show.songs.map((song) => [song.id, song]));
  const place = playingOrder(setlist, songs).find(({ song }) => song.name === name);
  if (place) {
    const map = tempoMapOfSong(place.song);
    return ok({ position: place.position, lengthMs: map.msAt(map.endTick) });
  }
  const there = setlist.entries.flatMap((entry) =>
    entry.kind === 'song' && entry.songId in songs ? [songs[entry.songId]] : [],
  );
  return fail({
    code: 'no-such-song',
    message: `there is no song "${name}" in this setlist; there are: ${listed(there)}`,
  });
}

function portOfTrack(
  name: string | null,
  played: Pick<SmfFile, 'tracks'>,
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

/** A track for each output port and each built-in layer, a tick a millisecond. */
function midiOf(sent: readonly SentMessage[], gear: GearList, registry: Registry): Uint8Array {
  const tracks = new Map<number, { name: string; messages: WriteMessage[] }>();
  const trackOf = (destination: number): WriteMessage[] => {
    const known = tracks.get(destination) ?? { name: registry.nameOf(destination), messages: [] };
    tracks.set(destination, known);
    return known.messages;
  };
  for (const port of gear.ports) if (port.direction === 'out') trackOf(registry.outputPort(port.alias));
  for (const { destination, status, data1, data2, bytes, atMs } of sent) {
    const atTick = Math.round(atMs);
    trackOf(destination).push(
      bytes ? { kind: 'sysex', atTick, bytes } : { kind: 'message', atTick, status, data1, data2 },
    );
  }
  return writeSmf([...tracks.values()], 1000, 1_000_000);
}
