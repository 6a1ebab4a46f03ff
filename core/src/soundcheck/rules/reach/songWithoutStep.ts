import { counts, type SongRule } from '../../rule';
import { inSong } from '../../tonight';

/** Every song can be stepped to. */
export const songWithoutStep: SongRule = {
  id: 'song-without-step',
  group: 'reach',
  sure: 'every song has a patch that “next” stops at',
  per: 'song',
  counts: counts.songs,
  find({ song }) {
    if (song.patches.some(({ isStep }) => isStep)) return [];
    const first = song.patches.at(0);
    return [
      {
        severity: first ? 'mayFail' : 'willFail',
        cause: first ? 'no step' : 'no patch',
        place: inSong(song),
        message: first ? `“next” passes over ${song.name}` : `${song.name} has no patch`,
        why: first
          ? 'None of its patches is a step: it is reached by number or by name only.'
          : 'Nothing sounds there.',
        mend: first && {
          label: `stop at ${first.name}`,
          steps: [{ kind: 'songs', id: song.id, at: ['patches', { id: first.id }, 'isStep'], was: false, now: true }],
        },
      },
    ];
  },
};
