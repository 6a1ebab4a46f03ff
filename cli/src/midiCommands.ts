import { textCodeOf, writeShowFile } from '@rackle/core/formats';
import {
  midiOfSetlist,
  midiOfSong,
  proposedChoices,
  readMidiContents,
  songFromMidi,
  type MidiExport,
} from '@rackle/core/midiFile';
import { recallOfNumber } from '@rackle/core/programs';
import {
  Name,
  emptyShow,
  newSong,
  type GearList,
  type LayerId,
  type PatchId,
  type Setlist,
  type Show,
  type Song,
  type SongId,
} from '@rackle/core/show';
import { UsageError, readArguments, required } from './arguments';
import { readBytes, readShow, writeWhole } from './files';

const setlistWith = (show: Show, songId: string): Setlist | null =>
  show.setlists.find(({ entries }) => entries.some((entry) => entry.kind === 'song' && entry.songId === songId)) ??
  null;

const gearOf = (show: Show, setlist: Setlist | null): GearList | null =>
  show.gearLists.find(({ id }) => id === setlist?.gearListId) ?? (show.gearLists.length > 0 ? show.gearLists[0] : null);

function songNamed(show: Show, name: string): Song {
  const song = show.songs.find((candidate) => candidate.name === name);
  if (song) return song;
  const there = show.songs.map((one) => `"${one.name}"`).join(', ') || 'none';
  throw new UsageError(`there is no song "${name}"; there are: ${there}`);
}

/** `rackle import-midi FILE.mid [--into SHOW.json] [--as "SONG"] [--tempo BPM] --out NEW.json` */
export function importMidiCommand(words: readonly string[]): number {
  const found = readArguments(words, ['into', 'as', 'tempo', 'out']);
  if (found.positional.length !== 1)
    throw new UsageError('one MIDI file is needed: rackle import-midi FILE.mid [--into SHOW.json] --out NEW.json');
  const [path] = found.positional;
  const out = required(found, 'out');
  const bpm = Number(found.options.get('tempo') ?? 120);
  if (!(bpm >= 3.58 && bpm <= 1000)) throw new UsageError('--tempo is a number of beats a minute, 3.58 to 1000');
  const into = found.options.get('into');
  const show = into === undefined ? emptyShow() : readShow(into);
  const read = readMidiContents(readBytes(path), bpm);
  if (!read.ok) throw new UsageError(`${path}: ${read.error.message} (at byte ${read.error.offsetBytes})`);
  const contents = read.value;
  const as = found.options.get('as');
  const known = show.songs.find(({ name }) => name === as);
  const base = known ?? songToTake(show, as ?? contents.name ?? 'Song');
  const setlist = setlistWith(show, base.id);
  const mint = minting(show);
  const code = textCodeOf(contents.texts.map(({ bytes }) => bytes));
  const choices = proposedChoices(contents, gearOf(show, setlist), show.instruments, code);
  const result = songFromMidi(base, contents, choices, {
    instruments: show.instruments,
    recallOf: (msb, lsb, program) => recallOfNumber(setlist, base.id, { msb, lsb, program }),
    mint,
  });
  const songs = known ? show.songs.map((song) => (song === known ? result.song : song)) : [...show.songs, result.song];
  writeWhole(out, writeShowFile({ ...show, songs }));
  const { cues, parts, sections, song } = result;
  process.stdout.write(
    `${song.name}: ${counted(song.map.bars, 'bar')}, ${counted(sections, 'section')}, ${counted(cues, 'cue')}, ${counted(parts, 'backing part')}\n`,
  );
  if (contents.displacement > 0)
    process.stdout.write(
      `note: farthest from its place: ${contents.displacement.toFixed(3)} ticks of 960 to the quarter\n`,
    );
  for (const said of [...contents.words, ...result.words]) process.stdout.write(`note: ${said}\n`);
  return 0;
}

const counted = (count: number, word: string): string => `${count} ${word}${count === 1 ? '' : 's'}`;

function songToTake(show: Show, name: string): Song {
  const read = Name.safeParse(name.slice(0, 120));
  if (!read.success) throw new UsageError(`a song cannot be called "${name}"`);
  const taken = new Set<string>(show.songs.map(({ id }) => id));
  let number = show.songs.length + 1;
  while (taken.has(`song-${number}`)) number++;
  return newSong(`song-${number}` as SongId, read.data, 'layer-0' as LayerId, 'patch-0' as PatchId);
}

/** Ids that the show does not have yet, the same for the same file. */
function minting(show: Show): (kind: string) => string {
  const text = JSON.stringify(show.songs);
  let count = 0;
  return (kind) => {
    do count++;
    while (text.includes(`"${kind}-${count}"`));
    return `${kind}-${count}`;
  };
}

/** `rackle export-midi SHOW.json (--song NAME | --setlist NAME) [--cues-only] [--gear-ahead] --out FILE.mid` */
export function exportMidiCommand(words: readonly string[]): number {
  const found = readArguments(words, ['song', 'setlist', 'out'], ['cues-only', 'gear-ahead']);
  if (found.positional.length !== 1)
    throw new UsageError('one show file is needed: rackle export-midi SHOW.json --song NAME --out FILE.mid');
  const out = required(found, 'out');
  const [songName, setlistName] = [found.options.get('song'), found.options.get('setlist')];
  if ((songName === undefined) === (setlistName === undefined))
    throw new UsageError('either --song NAME or --setlist NAME is needed');
  const show = readShow(found.positional[0]);
  const from = (setlist: Setlist | null): MidiExport => ({
    songs: show.songs,
    instruments: show.instruments,
    setlist,
    gear: gearOf(show, setlist),
    cuesOnly: found.options.has('cues-only'),
    gearAhead: found.options.has('gear-ahead'),
  });
  let written;
  if (songName !== undefined) {
    const song = songNamed(show, songName);
    written = midiOfSong(song, from(setlistWith(show, song.id)));
  } else {
    const setlist = show.setlists.find(({ name }) => name === setlistName);
    if (!setlist) {
      const there = show.setlists.map(({ name }) => `"${name}"`).join(', ') || 'none';
      throw new UsageError(`there is no setlist "${setlistName}"; there are: ${there}`);
    }
    written = midiOfSetlist(setlist, from(setlist));
  }
  writeWhole(out, written.bytes);
  process.stdout.write(`${written.tracks} tracks\n`);
  for (const said of written.words) process.stdout.write(`not in the file: ${said}\n`);
  return 0;
}
