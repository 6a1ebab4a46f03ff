import { midi } from '../midi';
import { writeSmf, type WriteMessage, type WriteMeta, type WriteTrack } from '../formats/smf';
import { sameTarget } from '../programs';
import { Setlist, type GearList, type Instrument, type ProgramLine, type SetlistEntry, type Song } from '../show';
import { placedCues, repeatedMap, tempoMapOfSong, TICKS_PER_QUARTER } from '../timeline';
import { conductorMetas } from './conductorTrack';
import { derivedTracks } from './derivedTracks';
import { RACKLE_DERIVED, RACKLE_RECALLS, markBytes } from './marks';
import { ownTracks, type OwnTrack } from './ownTracks';
import { SentAhead } from './sentAhead';

/** What is written, and from what. */
export interface MidiExport {
  songs: readonly Song[];
  instruments: readonly Instrument[];
  /** Whose numbers recalls have; null: none. */
  setlist: Setlist | null;
  gear: GearList | null;
  /** Notes and backing parts are left out. */
  cuesOnly: boolean;
  /** Programs for outboard gear stand so early that it is ready at its cue. */
  gearAhead: boolean;
}

/** A file, and what it cannot say, in words. */
export interface MidiWritten {
  bytes: Uint8Array;
  words: string[];
  tracks: number;
}

interface Placed {
  song: Song;
  entry: SetlistEntry | null;
  fromTick: number;
}

/** One song as a Standard MIDI File of format 1, for both receivers: one that calls Rackle, and one instead of it. */
export function midiOfSong(song: Song, from: MidiExport): MidiWritten {
  const entry = from.setlist?.entries.find((one) => one.kind === 'song' && one.songId === song.id) ?? null;
  return written(song.name, [{ song: asPlayed(song), entry, fromTick: 0 }], from);
}

/** The songs of a setlist in a row, each from a bar line on; those that are skipped tonight are left out. */
export function midiOfSetlist(setlist: Setlist, from: MidiExport): MidiWritten {
  let fromTick = 0;
  const placed = setlist.entries.flatMap((entry): Placed[] => {
    if (entry.kind !== 'song' || entry.skip) return [];
    const song = from.songs.find(({ id }) => id === entry.songId);
    if (song === undefined) return [];
    const at = fromTick;
    fromTick += tempoMapOfSong(song).endTick;
    return [{ song: asPlayed(song), entry, fromTick: at }];
  });
  return written(setlist.name, placed, { ...from, setlist });
}

/** With the tempo and meter of sections that repeat others written out. */
const asPlayed = (song: Song): Song => ({ ...song, map: repeatedMap(song) });

function written(name: string, placed: readonly Placed[], from: MidiExport): MidiWritten {
  const words: string[] = [];
  const many = placed.length > 1;
  const metas: WriteMeta[] = [];
  const recalls: WriteMessage[] = [];
  const own = new Map<string, WriteTrack & { messages: WriteMessage[] }>();
  const derived = new Map<string, WriteTrack & { messages: WriteMessage[] }>();
  for (const one of placed) {
    const { song, fromTick } = one;
    const left = (said: string): void => {
      const whole = many ? `${song.name}: ${said}` : said;
      if (!words.includes(whole)) words.push(whole);
    };
    const off = song.cues.filter((cue) => cue.off).length + song.backing.filter((part) => part.off).length;
    if (off > 0) left(`${off === 1 ? 'a cue or part that is' : `${off} cues and parts that are`} switched off`);
    if (many && song.sections[0]?.fromTick !== 0)
      metas.push({ kind: 'text', type: 6, atTick: fromTick, text: song.name });
    metas.push(...conductorMetas(song, fromTick, left));
    recalls.push(...recallMessages(song, from.setlist, left).map((message) => later(message, fromTick)));
    const tracks = tracksOf(one, name, from, left);
    add(own, tracks.own, fromTick);
    add(derived, tracks.derived, fromTick, true);
  }
  const last = placed.at(-1);
  const endTick = last === undefined ? 0 : last.fromTick + tempoMapOfSong(last.song).endTick;
  const tracks: WriteTrack[] = [{ name, messages: metas, endTick }];
  if (recalls.length > 0)
    tracks.push({ name: 'Rackle', device: 'Rackle', messages: [mark(RACKLE_RECALLS), ...recalls], endTick });
  tracks.push(...own.values());
  for (const track of derived.values()) tracks.push({ ...track, messages: [mark(RACKLE_DERIVED), ...track.messages] });
  return { bytes: writeSmf(tracks, TICKS_PER_QUARTER, null), words, tracks: tracks.length };
}

/** What a song says by itself, and what Rackle sends for its recalls. */
function tracksOf(
  { song, entry }: Placed,
  name: string,
  from: MidiExport,
  left: (said: string) => void,
): { own: readonly OwnTrack[]; derived: readonly OwnTrack[] } {
  const { instruments, gear, cuesOnly, gearAhead } = from;
  const shift = entry?.kind === 'song' ? entry.keyShift : 0;
  const setlist = from.setlist ?? Setlist.parse({ id: 'none', name });
  const own = ownTracks(song, instruments, shift, !cuesOnly, left);
  const derived = derivedTracks(song, entry, { instruments, setlist, gear });
  if (!gearAhead) return { own, derived };
  const ahead = new SentAhead(song, instruments);
  const early = { own: own.map((track) => ahead.of(track)), derived: derived.map((track) => ahead.of(track)) };
  if (ahead.moved > 0)
    left(`${ahead.moved} program${ahead.moved === 1 ? ' stands' : 's stand'} ahead of the cue, so that gear is ready`);
  return early;
}

const mark = (text: string): WriteMeta => ({ kind: 'own', atTick: 0, bytes: markBytes(text) });
const later = (message: WriteMessage, by: number): WriteMessage => ({ ...message, atTick: message.atTick + by });

function add(
  tracks: Map<string, WriteTrack & { messages: WriteMessage[] }>,
  found: readonly OwnTrack[],
  fromTick: number,
  isDerived = false,
): void {
  for (const { name, port, messages } of found) {
    const key = `${port ?? ''} ${name}`;
    const track = tracks.get(key) ?? {
      name: isDerived ? `${name}, for recalls` : name,
      ...(port === null ? {} : { device: port }),
      messages: [],
    };
    tracks.set(key, track);
    for (const message of messages) track.messages.push(later(message, fromTick));
  }
}

/** Every recall as its number of the program map: banks wherever the map has any but the first. */
function recallMessages(song: Song, setlist: Setlist | null, left: (words: string) => void): WriteMessage[] {
  const lines = setlist?.programs ?? [];
  const usesBanks = lines.some(({ msb, lsb }) => msb > 0 || lsb > 0);
  let without = 0;
  const messages = placedCues(song).flatMap(({ cue, atTick }): WriteMessage[] => {
    if (cue.kind !== 'recall' || atTick >= tempoMapOfSong(song).endTick) return [];
    const { patchId, blendId } = cue;
    const line = lines.find(({ target }) => sameTarget(target, { songId: song.id, patchId, blendId }));
    if (line !== undefined) return numberMessages(line, atTick, usesBanks);
    without++;
    return [];
  });
  if (without > 0) left(`${without} recall${without === 1 ? ' has' : 's have'} no number, and no place in the file`);
  return messages;
}

function numberMessages(
  { msb, lsb, program, channel }: ProgramLine,
  atTick: number,
  usesBanks: boolean,
): WriteMessage[] {
  const at = (status: number, data1: number, data2: number): WriteMessage => ({
    kind: 'message',
    atTick,
    status: status | ((channel ?? 1) - 1),
    data1,
    data2,
  });
  const banks = usesBanks
    ? [at(midi.CONTROLLER, midi.CC_BANK_MSB, msb), at(midi.CONTROLLER, midi.CC_BANK_LSB, lsb)]
    : [];
  return [...banks, at(midi.PROGRAM, program, 0)];
}
