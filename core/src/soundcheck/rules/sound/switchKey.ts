import { keyName } from '../../../midi';
import type { RoleSource } from '../../../show';
import type { Found } from '../../finding';
import { counts, type SongRule } from '../../rule';
import { hears, isPlayedByKeys, playedChannels, rowsIn } from '../../sounding';
import { inSong, type Around } from '../../tonight';

type KeySource = Extract<RoleSource['source'], { kind: 'note' }>;

/** Whether a key that is a switch would else play a layer: pads on channels of their own do not. */
function wouldPlay({ port, channel }: KeySource, { keyboards }: Around): boolean {
  const input = keyboards.find(({ alias }) => alias === port);
  if (input === undefined) return false;
  const played = playedChannels(input);
  return channel === null || played === null || played.includes(channel);
}

/** Keys that are switches lie beside what is played. */
export const switchKey: SongRule = {
  id: 'switch-key',
  group: 'sound',
  sure: 'no key that is a switch lies within a zone',
  per: 'song',
  counts: counts.patches,
  find({ song }, around) {
    const switches = around.gear.roles.flatMap(({ role, source, passOn }) =>
      source.kind === 'note' && wouldPlay(source, around) ? [{ role, source, passOn }] : [],
    );
    if (switches.length === 0) return [];
    return song.patches.flatMap((patch) =>
      switches.flatMap(({ role, source, passOn }): Found[] => {
        const input = around.keyboards.find(({ alias }) => alias === source.port)!;
        const key = source.number + input.keyShift;
        const row = rowsIn(song, patch, around).find(
          (one) =>
            isPlayedByKeys(one) &&
            hears(one.part, input) &&
            one.part.zone.lowKey <= key &&
            one.part.zone.highKey >= key,
        );
        if (row === undefined) return [];
        return [
          {
            severity: 'mayFail',
            cause: `${role} ${source.port} ${source.number} ${passOn}`,
            place: inSong(song, patch),
            message: `${keyName(source.number, around.setlist.middleC)} of ${source.port} is “${role}”, and lies among the keys of ${row.layer.name}`,
            why: passOn
              ? 'Whoever plays that key does both at once.'
              : 'Whoever plays that key does that instead, and does not hear the note.',
          },
        ];
      }),
    );
  },
};
