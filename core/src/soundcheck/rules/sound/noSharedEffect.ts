import type { Found } from '../../finding';
import { counts, type SongRule } from '../../rule';
import { inSong } from '../../tonight';

/** Shared effects that layers are sent to are there. */
export const noSharedEffect: SongRule = {
  id: 'no-shared-effect',
  group: 'sound',
  sure: 'the shared effects that layers are sent to are there',
  per: 'song',
  counts: counts.parts,
  find({ song }, { setlist }) {
    const there = new Set(setlist.sharedEffects.map(({ name }) => name as string));
    const sends = [
      ...song.standing,
      ...song.patches.flatMap((patch) => [...patch.parts, ...patch.blends.flatMap((blend) => blend.values)]),
    ].flatMap((part) => part.sends ?? []);
    const missing = new Set(
      sends.filter(({ to, percent }) => percent > 0 && !there.has(to)).map(({ to }) => to as string),
    );
    return [...missing].map((name): Found => ({
      severity: 'willFail',
      cause: name,
      place: inSong(song),
      message: `${setlist.name} has no shared effect “${name}”`,
      why: 'What is sent to it is not heard; the layers themselves are.',
    }));
  },
};
