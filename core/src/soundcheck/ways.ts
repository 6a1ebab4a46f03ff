import { movesValue, openRoles, rolesInUse } from '../controls';
import { withoutNumber } from '../programs';
import type { GearList, Setlist, Show, Song } from '../show';
import type { Finding } from './soundcheck';

// What tonight's hands and feet can do: roles without a control, a way to the next patch, numbers.

/** Roles that nothing of tonight's gear plays. */
export function openRoleFindings(setlist: Setlist, songs: Readonly<Record<string, Song>>, gear: GearList): Finding[] {
  return openRoles(setlist, songs, gear)
    .filter(({ role }) => role.uses.length > 0)
    .map(({ role, missedIn }) => ({
      severity: 'warning',
      code: 'role-open',
      where:
        missedIn === null ? setlist.name : missedIn.map(({ songId }) => songs[songId]?.name ?? 'a song').join(', '),
      message: `nothing of ${gear.name} plays “${role.role}”`,
      why: role.isValue === true ? 'Its value stays as it is stored.' : 'What it does cannot be done by hand or foot.',
    }));
}

/** Whether anything but the computer’s keys goes on in the set. */
export function stepFindings(
  setlist: Setlist,
  songs: Readonly<Record<string, Song>>,
  gear: GearList,
  canCall: boolean,
): Finding[] {
  const open = new Set(openRoles(setlist, songs, gear).map(({ role }) => role.role));
  const steps = rolesInUse(setlist, songs).some(
    ({ role, uses }) => !open.has(role) && uses.some(({ binding }) => binding.action.kind === 'nextStep'),
  );
  const counts = gear.ports.some((port) => port.direction === 'in' && port.on && port.programs.kind === 'counter');
  if (steps || counts || canCall || setlist.entries.length === 0) return [];
  return [
    {
      severity: 'warning',
      code: 'no-step',
      where: setlist.name,
      message: `nothing of ${gear.name} goes to the next patch`,
      why: 'Only the computer’s own keys do: give “next patch” a control on Gear.',
    },
  ];
}

/** Patches that no number calls, where tonight's gear is listened to for numbers. */
export function unnumberedFindings(setlist: Setlist, songs: ReadonlyMap<string, Song>, gear: GearList): Finding[] {
  const listens = gear.ports.some((port) => port.direction === 'in' && port.on && port.programs.kind === 'direct');
  const missing = withoutNumber(setlist, songs).length;
  if (!listens || missing === 0) return [];
  return [
    {
      severity: 'warning',
      code: 'no-number',
      where: setlist.name,
      message:
        setlist.programs.length === 0
          ? 'no patch has a number yet'
          : `${missing} ${missing === 1 ? 'patch or blend has' : 'patches and blends have'} no number`,
      why: 'They are reached by steps only, not by a program change.',
    },
  ];
}

/** What the soundcheck looks at, and what it does not yet: so that “nothing wrong” says what it means. */
export function checkedIn(show: Show, setlist: Setlist): { checked: string[]; unchecked: string[] } {
  const ids = new Set(setlist.entries.flatMap((entry) => (entry.kind === 'song' ? [entry.songId as string] : [])));
  const songs = show.songs.filter(({ id }) => ids.has(id));
  const layers = songs.reduce((sum, song) => sum + song.layers.length, 0);
  const patches = songs.reduce((sum, song) => sum + song.patches.length, 0);
  const byId = Object.fromEntries(songs.map((song) => [song.id, song]));
  const roles = rolesInUse(setlist, byId);
  const values = roles.filter(({ uses }) => uses.some(({ binding }) => movesValue(binding.action))).length;
  return {
    checked: [
      `${counted(songs.length, 'song')} with ${counted(patches, 'patch', 'patches')}: everything they point at is there, zones stand upright`,
      `${counted(layers, 'layer')}: instrument, preset, the port in and the port out are there`,
      `${counted(setlist.programs.length, 'number')}: each recalls one thing, can be called by tonight’s gear, and is not taken by a role`,
      `${counted(roles.length, 'role')}, ${values} of them values: each has a control; something goes to the next patch`,
      'ports of tonight’s gear: plugged in now',
    ],
    unchecked: [
      'how loud patches are beside each other, and whether they clip',
      'whether sounds are ready in time, and fit into memory',
      'keys that fall silent from one patch to the next',
    ],
  };
}

const counted = (count: number, one: string, many = `${one}s`): string => `${count} ${count === 1 ? one : many}`;
