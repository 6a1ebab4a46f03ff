import type { LoadingPicture } from '../loading';
import type { EntryId, Setlist, Song } from '../show';
import { gathered, type Finding, type Found } from './finding';
import type { Looked } from './soundcheck';
import { inSong } from './tonight';

/** A wait shorter than this nobody hears as one, ms. */
const HEARD_MS = 50;

const inSeconds = (ms: number): string => `${(ms / 1000).toFixed(1)} s`;

/** What the plan of an evening's loading says that a player has to know, and what it has looked at. */
export function loadingFindings(
  picture: LoadingPicture,
  { entries }: Pick<Setlist, 'entries'>,
  songs: Readonly<Record<string, Song>>,
): { findings: Finding[]; looked: Looked[] } {
  const songOf = (entryId: EntryId): Song | undefined => {
    const entry = entries.find(({ id }) => id === entryId);
    return entry?.kind === 'song' ? songs[entry.songId] : undefined;
  };
  const found = (make: (song: Song, one: LoadingPicture['songs'][number]) => Found | null): Found[] =>
    picture.songs.flatMap((one) => {
      const song = songOf(one.entryId);
      return (song && make(song, one)) ?? [];
    });
  const over = found((song, { isOver, ownMb, alwaysMb }) =>
    isOver
      ? {
          severity: 'willFail',
          cause: `${song.id} ${picture.budgetMb}`,
          place: inSong(song),
          message: `${song.name} needs ${Math.ceil(ownMb + alwaysMb)} MB at once, and ${picture.budgetMb} MB are to be used`,
          why: 'Not all of it can be in memory: sounds are let go of while they are needed.',
        }
      : null,
  );
  const late = found((song, { waitMs }) =>
    waitMs > HEARD_MS
      ? {
          severity: 'willFail',
          cause: `${song.id} ${Math.round(waitMs / 100)}`,
          place: inSong(song),
          message: `${song.name} waits ${inSeconds(waitMs)} for a sound`,
          why: 'There is no time to load it before: until it is there, the patch before goes on, or a made sound stands in.',
        }
      : null,
  );
  const counted = `${picture.songs.length} ${picture.songs.length === 1 ? 'song' : 'songs'}`;
  const looked = (rule: string, sure: string, all: readonly Found[]): Looked => ({
    rule,
    group: 'time',
    sure,
    counted,
    found: all.length,
  });
  return {
    findings: [...gathered('over-budget', over), ...gathered('loads-late', late)],
    looked: [
      looked('over-budget', 'what a patch needs fits into memory', over),
      looked('loads-late', 'every sound is loaded before its patch comes, in running order', late),
    ],
  };
}
