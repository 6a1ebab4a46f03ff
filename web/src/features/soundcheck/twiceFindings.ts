import type { Finding } from '@rackle/core/soundcheck';
import type { SongId } from '@rackle/core/show';

interface Twice {
  port: string;
  songId: SongId;
  song: string;
  patch: string;
  at: string;
}

/** What was found firing twice in the last run of a timeline. */
export const twiceFindings = (twice: readonly Twice[]): Finding[] =>
  twice.map(({ port, songId, song, patch, at }) => ({
    severity: 'mayFail',
    rule: 'fires-twice',
    cause: `${songId} ${at} ${port}`,
    places: [{ words: `${song}, ${at}`, page: 'timeline', songId, patchId: null }],
    where: `${song}, ${at}`,
    message: `${patch} is recalled by a cue and called by ${port}`,
    why: 'Both came within a beat when it last ran, so the second undoes what hands have done between. Switch the cue off on Timeline, or the call off in the other player.',
    mend: null,
  }));
