import type { Found } from '../../finding';
import { counts, type SongRule } from '../../rule';
import { actionsIn, isAbout, rowsIn } from '../../sounding';
import { inSong } from '../../tonight';

/** Live sound can be turned off, and is not heard twice. */
export const liveFeedback: SongRule = {
  id: 'live-feedback',
  group: 'sound',
  sure: 'live sound is heard once, and a control of tonight’s gear can turn it down',
  per: 'song',
  counts: counts.patches,
  find: ({ song }, around) =>
    song.patches.flatMap((patch) => {
      const seen = new Set<string>();
      return rowsIn(song, patch, around).flatMap(({ part, layer }): Found[] => {
        const { source } = layer;
        if (source.kind !== 'live' || part.mute) return [];
        const isTwice = seen.has(source.input);
        seen.add(source.input);
        if (isTwice)
          return [
            {
              severity: 'mayFail',
              cause: `twice ${source.input}`,
              place: inSong(song, patch),
              message: `${source.input} is heard twice`,
              why: 'Twice the level: it feeds back that much sooner.',
            },
          ];
        const isInHand = actionsIn(song, patch, around).some(
          ({ action }) =>
            ((action.kind === 'layerSwitch' && action.what === 'mute') ||
              (action.kind === 'layerValue' && action.value === 'levelDb')) &&
            isAbout(action, layer.id),
        );
        if (isInHand) return [];
        return [
          {
            severity: 'mayFail',
            cause: `open ${layer.id}`,
            place: inSong(song, patch),
            message: `${layer.name} is open, and no control turns it down`,
            why: 'Should it feed back, only leaving the patch or “everything off” stops it: give its level or its mute to a role.',
          },
        ];
      });
    }),
};
