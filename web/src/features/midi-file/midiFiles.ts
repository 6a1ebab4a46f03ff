import { textCodeOf, type TextCode } from '@rackle/core/formats';
import {
  cleanName,
  midiOfSetlist,
  midiOfSong,
  proposedChoices,
  readMidiContents,
  songFromMidi,
  type FileGroup,
  type ImportChoices,
  type ImportedSong,
  type MidiContents,
  type MidiExport,
  type MidiWritten,
} from '@rackle/core/midiFile';
import { recallOfNumber } from '@rackle/core/programs';
import type { GearList, Instrument, Setlist, Song } from '@rackle/core/show';
import { newId } from '../../state/ids';

/** What one track says to one channel, without its messages. */
export type GroupSeen = Omit<FileGroup, 'messages'>;

/** What a file holds, as a page shows it: all but the messages. */
export interface FileSeen extends Pick<MidiContents, 'format' | 'map' | 'displacement' | 'words'> {
  /** What a song of it is called: as it calls itself, or its file. */
  name: string;
  groups: GroupSeen[];
  markers: number;
  texts: number;
  lyrics: number;
  /** Its division is frames a second: it is placed on a tempo that one chooses. */
  isFrames: boolean;
  choices: ImportChoices;
}

/** What choices make of it; null: no file has been read. */
export interface ImportAsked {
  song: Song;
  choices: ImportChoices;
  instruments: readonly Instrument[];
  setlist: Setlist | null;
}

const FRAMES_BIT = 0x80;
const DIVISION_AT = 12;

/** MIDI files in and out, beside the pages: reading a megabyte takes a while. */
export class MidiFiles {
  private contents: MidiContents | null = null;

  /** @returns what it holds, or in words why it cannot be read */
  read(
    fileName: string,
    bytes: Uint8Array,
    bpm: number,
    around: { gear: GearList | null; instruments: readonly Instrument[] },
  ): FileSeen | string {
    const read = readMidiContents(bytes, bpm);
    if (!read.ok) return `${read.error.message} (at byte ${read.error.offsetBytes})`;
    const contents = read.value;
    this.contents = contents;
    const count = (...kinds: string[]): number => contents.texts.filter(({ kind }) => kinds.includes(kind)).length;
    const code: TextCode = textCodeOf(contents.texts.map((text) => text.bytes));
    return {
      format: contents.format,
      name: cleanName(contents.name ?? fileName.replace(/\.\w+$/, ''), 'Song'),
      map: contents.map,
      displacement: contents.displacement,
      words: contents.words,
      groups: contents.groups.map(({ messages: _, ...group }) => group),
      markers: count('marker') + contents.patterns.length,
      texts: count('text', 'cuePoint'),
      lyrics: count('lyric'),
      isFrames: bytes[DIVISION_AT] >= FRAMES_BIT,
      choices: proposedChoices(contents, around.gear, around.instruments, code),
    };
  }

  /** A song with what is chosen of the file that was read last. */
  make({ song, choices, instruments, setlist }: ImportAsked): ImportedSong | null {
    if (this.contents === null) return null;
    return songFromMidi(song, this.contents, choices, {
      instruments,
      recallOf: (msb, lsb, program) => recallOfNumber(setlist, song.id, { msb, lsb, program }),
      mint: newId,
    });
  }

  /** @param songId null: the whole setlist */
  write(songId: string | null, from: MidiExport): MidiWritten | null {
    if (songId === null) return from.setlist === null ? null : midiOfSetlist(from.setlist, from);
    const song = from.songs.find(({ id }) => id === songId);
    return song === undefined ? null : midiOfSong(song, from);
  }
}
