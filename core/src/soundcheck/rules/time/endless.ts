import type { Found } from '../../finding';
import { counts, type SongRule } from '../../rule';
import { actionsIn, isAbout, rowsIn } from '../../sounding';
import { inSong } from '../../tonight';
import { recordingOf } from '../sound/loopOverKeys';

const FADE_MS = 500;

/** Nothing that is carried over sounds without end. */
export const endless: SongRule = {
  id: 'endless',
  group: 'time',
  sure: 'nothing that goes on after its patch sounds without end',
  per: 'song',
  counts: counts.layers,
  find({ song, after }, around) {
    const steps = song.patches.filter(({ isStep }) => isStep);
    return steps.flatMap((patch, i) => {
      const next = i + 1 < steps.length ? { song, patch: steps[i + 1] } : after;
      if (next === null) return [];
      const goesOn = new Set(
        next.song === song ? rowsIn(song, next.patch, around).map(({ layer }) => layer.id as string) : [],
      );
      return rowsIn(song, patch, around).flatMap(({ layer, standsIn }): Found[] => {
        if (standsIn === 'setlist' || layer.carry.kind !== 'hold' || goesOn.has(layer.id)) return [];
        const recording = recordingOf(around.instruments.get(layer.sound.instrumentId), layer.sound.presetId);
        if (recording?.plays !== 'loop') return [];
        const isStopped = actionsIn(next.song, next.patch, around).some(
          ({ action }) => action.kind === 'panic' || (action.kind === 'trigger' && isAbout(action, layer.id)),
        );
        return [
          {
            severity: 'mayFail',
            cause: `${layer.id} ${patch.id}`,
            place: inSong(song, patch),
            message: `the loop ${layer.name} goes on after ${patch.name}, without end`,
            why: isStopped
              ? 'Only a control stops it: in what comes after, no key does.'
              : 'In what comes after, nothing stops it.',
            mend: {
              label: 'let it fade when the patch is left',
              steps: [
                {
                  kind: 'songs',
                  id: song.id,
                  at: ['layers', { id: layer.id }, 'carry'],
                  was: layer.carry,
                  now: { kind: 'fade', fadeMs: FADE_MS },
                },
              ],
            },
          },
        ];
      });
    });
  },
};
