import type { Binding, Layer } from '../../../show';
import type { Found, Place } from '../../finding';
import { counts, type EveningRule, type SongRule } from '../../rule';
import { inSong, onPage, type SetlistAround } from '../../tonight';

function goneIn(bindings: readonly Binding[], layers: readonly Layer[], setlist: SetlistAround, place: Place): Found[] {
  const shared = [...setlist.sharedEffects.flatMap(({ effects }) => effects), ...setlist.wholeEffects];
  return bindings.flatMap(({ role, action }): Found[] => {
    if (!('effectId' in action)) return [];
    const effects = 'layerId' in action ? (layers.find(({ id }) => id === action.layerId)?.effects ?? []) : shared;
    if (effects.some(({ id }) => id === action.effectId)) return [];
    return [
      {
        severity: 'mayFail',
        cause: `${role} ${action.effectId}`,
        place,
        message: `${role} moves an effect that is not there any more`,
        why: 'The control does nothing there.',
      },
    ];
  });
}

/** Effects that roles of a song move are there. */
export const effectGone: SongRule = {
  id: 'effect-gone',
  group: 'sound',
  sure: 'the effects that roles move are there',
  per: 'song',
  counts: counts.songs,
  find: ({ song }, { setlist }) => [
    ...goneIn(song.bindings, song.layers, setlist, inSong(song)),
    ...song.patches.flatMap((patch) => goneIn(patch.bindings, song.layers, setlist, inSong(song, patch))),
  ],
};

/** The same for roles of the setlist. */
export const setlistEffectGone: EveningRule = {
  id: 'setlist-effect-gone',
  group: 'sound',
  sure: 'the effects that roles of the setlist move are there',
  per: 'evening',
  counts: counts.roles,
  find: ({ setlist, around }) =>
    goneIn(setlist.bindings, setlist.layers, around.setlist, onPage(setlist.name, 'setlist')),
};
