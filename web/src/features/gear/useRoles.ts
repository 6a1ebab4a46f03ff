import {
  openRoles,
  proposeSources,
  rolesInUse,
  sourceConflicts,
  withRenamedRole,
  withoutRole,
  type RoleInUse,
} from '@rackle/core/controls';
import type { NameStyle } from '@rackle/core/midi';
import type { GearList, PatchId, Setlist, SongId } from '@rackle/core/show';
import { useMemo, useState } from 'react';
import { useApp, useEdit, useSongs } from '../../state/hooks';
import { useLearn } from './useLearn';

/** The roles of a setlist as tonight's gear plays them, and what can be done with them. */
export function useRoles(gear: GearList, setlist: Setlist) {
  const edit = useEdit();
  const songs = useSongs();
  const lists = useApp(({ show }) => show.working.gearLists);
  const ports = useApp(({ live }) => live.ports);
  const { controls, learn } = useApp(({ live }) => live.controls);
  const { songId, patchId } = useApp(({ live }) => live.place);
  const [open, setOpen] = useState<string | null>(null);
  const { start: startLearning, last } = useLearn();
  const roles = useMemo(() => rolesInUse(setlist, songs), [setlist, songs]);
  const left = useMemo(() => openRoles(setlist, songs, gear), [setlist, songs, gear]);
  const proposals = useMemo(
    () =>
      proposeSources(
        setlist,
        songs,
        gear,
        Object.values(lists).filter((list) => list.id !== gear.id),
      ),
    [setlist, songs, gear, lists],
  );
  const twice = useMemo(() => new Set(sourceConflicts(gear.roles).map(([, second]) => second)), [gear]);
  const states = new Map(controls.map((control) => [control.key, control]));
  const style: NameStyle = { programsFrom: setlist.programsFrom, middleC: setlist.middleC };
  const alive = (device: string): boolean =>
    ports.some((port) => port.alive && port.direction === 'in' && port.name === device);
  const take = (taken: typeof proposals): void =>
    edit({
      label: taken.length === 1 ? `take what is proposed for ${taken[0].role}` : 'take all proposals',
      gearLists: [{ ...gear, roles: [...gear.roles, ...taken.map(({ source }) => source)] }],
    });
  const addRole = (): void => {
    let n = roles.length + 1;
    while (roles.some(({ role }) => role === `Role ${n}`)) n++;
    edit({ label: 'add a role', setlists: [{ ...setlist, roles: [...setlist.roles, `Role ${n}`] }] });
    setOpen(`Role ${n}`);
  };
  const here = songId && patchId ? { songId: songId as SongId, patchId: patchId as PatchId } : null;
  const rename = (role: RoleInUse, name: string): void => {
    const renamed = withRenamedRole(role.role, name, setlist, Object.values(songs), Object.values(lists));
    edit({
      label: `rename ${role.role}`,
      setlists: [renamed.setlist],
      songs: renamed.songs,
      gearLists: renamed.gearLists,
    });
    setOpen(name);
  };
  const remove = (role: RoleInUse): void => {
    const without = withoutRole(role.role, setlist, Object.values(songs));
    edit({
      label: `remove the role ${role.role}`,
      setlists: [without.setlist],
      songs: without.songs,
      gearLists: [{ ...gear, roles: gear.roles.filter((source) => source.role !== role.role) }],
    });
    setOpen(null);
  };
  return {
    songs,
    roles,
    left,
    proposals,
    twice,
    states,
    style,
    alive,
    here,
    learn,
    last,
    startLearning,
    open,
    setOpen,
    take,
    addRole,
    rename,
    remove,
  };
}
