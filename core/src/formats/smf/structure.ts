import { fail, ok, type Result } from '../../result';
import type { Division } from './tickToMs';
import { walkTrack } from './trackEvents';

/** What is wrong with a Standard MIDI File. */
export type SmfErrorCode = 'not-midi' | 'truncated' | 'unsupported-format' | 'corrupt' | 'too-large';

const MOST_BYTES = 16 * 1024 * 1024;
const MOST_TRACKS = 1024;
const MOST_EVENTS = 1_000_000;
const FRAME_RATES = [24, 25, 29, 30];

/** Why a Standard MIDI File cannot be read, and at which byte. */
export interface SmfError {
  code: SmfErrorCode;
  message: string;
  offsetBytes: number;
}

/** Where the tracks of a sound file lie. */
export interface SmfStructure {
  format: 0 | 1 | 2;
  division: Division;
  /** First byte of the events of each track, and the one behind the last. */
  tracks: { from: number; to: number }[];
  /** What is not as the standard has it, and can be read all the same. */
  words: string[];
}

/**
 * Checks the chunks of a Standard MIDI File before anybody reads events: header, lengths, number of tracks, and that
 * every event lies whole in its track.
 * (Standard MIDI Files 1.0, chunks.) Chunks of unknown kinds are passed over, as the standard asks. A missing end of
 * track, and running status that goes on behind another event, are accepted with a word.
 */
export function checkSmfStructure(bytes: Uint8Array): Result<SmfStructure, SmfError> {
  const error = (code: SmfErrorCode, message: string, offsetBytes: number) => fail({ code, message, offsetBytes });
  if (bytes.length < 4 || chunkId(bytes, 0) !== 'MThd') return error('not-midi', 'this is not a Standard MIDI File', 0);
  if (bytes.length < 14) return error('truncated', 'the file ends within its header', bytes.length);
  if (bytes.length > MOST_BYTES)
    return error('too-large', `the file has ${Math.round(bytes.length / 1024 / 1024)} MB; at most 16 are read`, 0);
  const headerLength = uint32(bytes, 4);
  if (headerLength < 6 || headerLength > 256)
    return error('corrupt', `the header says it is ${headerLength} bytes long`, 4);
  const format = (bytes[8] << 8) | bytes[9];
  const tracks = (bytes[10] << 8) | bytes[11];
  if (format > 2) return error('unsupported-format', `format ${format} is not read, only 0, 1 and 2`, 8);
  if (tracks > MOST_TRACKS)
    return error('too-large', `there are ${tracks} tracks; at most ${MOST_TRACKS} are read`, 10);
  const isSmpte = bytes[12] >= 0x80;
  if (bytes[13] === 0 && (isSmpte || bytes[12] === 0)) return error('corrupt', 'the division is 0', 12);
  if (isSmpte && !FRAME_RATES.includes(256 - bytes[12]))
    return error('corrupt', `there are no ${256 - bytes[12]} frames a second`, 12);
  let events = 0;
  let at = 8 + headerLength;
  const found: SmfStructure['tracks'] = [];
  const counts = { foreign: 0, endless: 0, running: 0, behind: 0 };
  while (found.length < tracks) {
    if (at + 8 > bytes.length)
      return error('truncated', `the header says ${tracks} tracks, the file ends after ${found.length}`, bytes.length);
    const length = uint32(bytes, at + 4);
    if (at + 8 + length > bytes.length)
      return error(
        'truncated',
        `track ${found.length + 1} says ${length} bytes, the file has ${bytes.length - at - 8}`,
        bytes.length,
      );
    if (chunkId(bytes, at) === 'MTrk') {
      const end = at + 8 + length;
      const walked = walkTrack(bytes, at + 8, end, MOST_EVENTS - events, null);
      if ('code' in walked)
        return error(walked.code, `track ${found.length + 1}: ${walked.message}`, walked.offsetBytes);
      events += walked.events;
      counts.running += walked.runningOver;
      if (!walked.hasEnd) counts.endless++;
      if (walked.to < end) counts.behind++;
      found.push({ from: at + 8, to: walked.to });
    } else counts.foreign++;
    at += 8 + length;
  }
  return ok({
    format: format as 0 | 1 | 2,
    division: isSmpte
      ? { kind: 'frames', framesPerSecond: 256 - bytes[12], ticksPerFrame: bytes[13] }
      : { kind: 'quarters', ticksPerQuarter: (bytes[12] << 8) | bytes[13] },
    tracks: found,
    words: [
      words(counts.foreign, 'chunk of another kind is passed over', 'chunks of another kind are passed over'),
      words(counts.endless, 'track has no end of track', 'tracks have no end of track'),
      words(counts.behind, 'track goes on behind its end', 'tracks go on behind their end'),
      words(
        counts.running,
        'event runs on over an event that should have ended it',
        'events run on over events that should have ended it',
      ),
    ].flat(),
  });
}

const words = (count: number, one: string, more: string): string[] =>
  count === 0 ? [] : [`${count} ${count === 1 ? one : more}`];
const chunkId = (bytes: Uint8Array, at: number): string =>
  String.fromCharCode(bytes[at], bytes[at + 1], bytes[at + 2], bytes[at + 3]);
const uint32 = (bytes: Uint8Array, at: number): number =>
  bytes[at] * 2 ** 24 + (bytes[at + 1] << 16) + (bytes[at + 2] << 8) + bytes[at + 3];
