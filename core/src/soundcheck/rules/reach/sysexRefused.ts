import type { Found } from '../../finding';
import { counts, type SongRule } from '../../rule';
import { inSong } from '../../tonight';

/** System exclusive that patches send goes to ports that let it through. */
export const sysexRefused: SongRule = {
  id: 'sysex-refused',
  group: 'reach',
  sure: 'outputs let through the system exclusive that patches send',
  per: 'song',
  counts: counts.patches,
  find: ({ song }, { outputs, gear }) =>
    song.patches.flatMap((patch) =>
      [...patch.entering, ...patch.leaving].flatMap((message): Found[] => {
        if (message.kind !== 'sysex') return [];
        const output = outputs.find(({ alias }) => alias === message.port);
        if (output?.allowsSysex === true) return [];
        return [
          {
            severity: 'willFail',
            cause: message.port,
            place: inSong(song, patch),
            message: `${message.port} does not allow system exclusive`,
            why: 'The message is left out.',
            mend: output && {
              label: `allow it on ${message.port}`,
              steps: [
                {
                  kind: 'gearLists',
                  id: gear.id,
                  at: ['ports', { direction: 'out', alias: message.port }, 'allowsSysex'],
                  was: false,
                  now: true,
                },
              ],
            },
          },
        ];
      }),
    ),
};
