import {
  openRoles,
  proposeSources,
  rolesInUse,
  songsInOrder,
  sourceConflicts,
  withRenamedRole,
  withoutRole,
  type RoleInUse,
} from '@rackle/core/controls';
import type { NameStyle } from '@rackle/core/midi';
import { playedSetlist, type GearList, type PatchId, type Setlist, type SongId } from '@rackle/core/show';
import { useMemo, useState } from 'react';
import { useApp, useEdit, useEverySetlist, useKnowsPorts, useSongs } from '../../state/hooks';
import { madeNow } from '../../ui/newRow';
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
  const every = useEverySetlist();
  const setlists = useApp(({ show }) => show.working.setlists);
  const played = useMemo(() => playedSetlist(setlist, every), [setlist, every]);
  const roles = useMemo(() => rolesInUse(setlist, songs, every), [setlist, songs, every]);
  const left = useMemo(() => openRoles(played, songs, gear), [played, songs, gear]);
  const proposals = useMemo(
    () =>
      proposeSources(
        played,
        songs,
        gear,
        Object.values(lists).filter((list) => list.id !== gear.id),
      ),
    [played, songs, gear, lists],
  );
  const twice = useMemo(() => new Set(sourceConflicts(gear.roles).map(([, second]) => second)), [gear]);
  const states = new Map(controls.map((control) => [control.key, control]));
  const style: NameStyle = { programsFrom: setlist.programsFrom, middleC: setlist.middleC };
  const isKnown = useKnowsPorts();
  // What is not known yet counts as here.
  const alive = (device: string): boolean =>
    !isKnown || ports.some((port) => port.alive && port.direction === 'in' && port.name === device);
  const take = (taken: typeof proposals): void =>
    edit({
      label: taken.length === 1 ? `take what is proposed for ${taken[0].role}` : 'take all proposals',
      gearLists: [{ ...gear, roles: [...gear.roles, ...taken.map(({ source }) => source)] }],
    });
  const addRole = (): void => {
    let n = roles.length + 1;
    while (roles.some(({ role }) => role === `Role ${n}`)) n++;
    // What is not said to be of one setlist is of all.
    edit({ label: 'add a role', everySetlist: [{ ...every, roles: [...every.roles, `Role ${n}`] }] });
    madeNow(`role Role ${n}`);
    setOpen(`Role ${n}`);
  };
  const here = songId && patchId ? { songId: songId as SongId, patchId: patchId as PatchId } : null;
  const rename = (role: RoleInUse, name: string): void => {
    const all = { setlists: Object.values(setlists), songs: Object.values(songs), gearLists: Object.values(lists) };
    edit({ label: `rename ${role.role}`, ...withRenamedRole(role.role, name, { everySetlist: [every], ...all }) });
    setOpen(name);
  };
  const remove = (role: RoleInUse): void => {
    edit({
      label: `remove the role ${role.role}`,
      ...withoutRole(role.role, { everySetlist: [every], setlists: [setlist], songs: songsInOrder(setlist, songs) }),
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
