import type { ProgramLine, Song } from '../../../show';

/** Names of what program lines lead to. */
export const targetNames =
  (songs: Readonly<Record<string, Song>>): ((line: ProgramLine) => string) =>
  ({ target }) => {
    const song = songs[target.songId] as Song | undefined;
    const patch = song?.patches.find(({ id }) => id === target.patchId);
    const blend = patch?.blends.find(({ id }) => id === target.blendId);
    return [song?.name ?? 'a missing song', patch?.name, blend?.name].filter((name) => name !== undefined).join(', ');
  };
