import type { RoleInUse, Scope } from '@rackle/core/controls';
import {
  Binding,
  standingStartedByRole,
  startedByRole,
  withBindings,
  withEveryBinding,
  type Action,
  type PatchId,
  type Setlist,
  type Song,
  type SongId,
} from '@rackle/core/show';
import { useEdit, useEverySetlist, useSetlist, useSongs } from '../../state/hooks';

/** What a role starts needs no key of its own. */
const startedIn = (song: Song, action: Action | null): Song =>
  action?.kind === 'trigger' ? startedByRole(song, action.layerId) : song;
const standingIn = (setlist: Setlist, action: Action | null): Setlist =>
  action?.kind === 'trigger' ? standingStartedByRole(setlist, action.layerId) : setlist;

/** What can be done with what a role does: changed or taken away (null), and added in a scope. */
export function useRoleUses(role: RoleInUse, here: { songId: SongId; patchId: PatchId } | null) {
  const edit = useEdit();
  const setlist = useSetlist()!;
  const every = useEverySetlist();
  const songs = useSongs();
  const change = ({ binding: of, scope, songId, patchId }: RoleInUse['uses'][number], next: Binding | null): void => {
    const swap = (bindings: Binding[]): Binding[] =>
      next === null
        ? bindings.filter((binding) => binding !== of)
        : bindings.map((binding) => (binding === of ? next : binding));
    const label = next === null ? `take a use off ${role.role}` : `change what ${role.role} does`;
    const mergeKey = next === null ? undefined : `use ${role.role} ${scope} ${songId ?? ''} ${patchId ?? ''}`;
    if (scope === 'everySetlist')
      edit({ label, mergeKey, everySetlist: [{ ...every, bindings: swap(every.bindings) }] });
    else if (songId === null)
      edit({
        label,
        mergeKey,
        setlists: [standingIn({ ...setlist, bindings: swap(setlist.bindings) }, next?.action ?? null)],
      });
    else
      edit({ label, mergeKey, songs: [startedIn(withBindings(songs[songId], patchId, swap), next?.action ?? null)] });
  };
  const add = (scope: Scope, action: Action): void => {
    const binding = Binding.parse({ role: role.role, action });
    const label = `give ${role.role} a use`;
    const added = (bindings: Binding[]): Binding[] => [...bindings, binding];
    if (scope === 'everySetlist') edit({ label, everySetlist: [withEveryBinding(every, binding)] });
    else if (scope === 'setlist')
      edit({ label, setlists: [standingIn({ ...setlist, bindings: added(setlist.bindings) }, action)] });
    else if (here)
      edit({
        label,
        songs: [startedIn(withBindings(songs[here.songId], scope === 'patch' ? here.patchId : null, added), action)],
      });
  };
  return { change, add };
}
