import type { Action, Binding, GearList, Setlist, Song } from '../show';

/** Where a use of a role stands; the narrowest that plays wins. */
export type Scope = 'setlist' | 'song' | 'patch';

/** One thing that a role does somewhere. */
export interface RoleUse {
  scope: Scope;
  songId: string | null;
  patchId: string | null;
  binding: Binding;
  /** A nearer scope binds the role too, at least in part of where this one would count. */
  hiddenIn: { songId: string; patchId: string | null }[];
}

/** A role of a setlist, and everything that it does in it. */
export interface RoleInUse {
  role: string;
  uses: RoleUse[];
  /** It moves a value; null when it does nothing yet. */
  isValue: boolean | null;
}

/** Whether an action moves a value, rather than being done at a press. */
export const movesValue = (action: Action): boolean =>
  action.kind === 'layerValue' ||
  action.kind === 'layerController' ||
  action.kind === 'wholeValue' ||
  'parameter' in action;

/** Songs of a setlist, each once, in running order. */
export const songsInOrder = (setlist: Setlist, songs: Readonly<Record<string, Song>>): Song[] =>
  [...new Set(setlist.entries.flatMap((entry) => (entry.kind === 'song' ? [entry.songId as string] : [])))].flatMap(
    (id) => songs[id] ?? [],
  );

/** All roles of a setlist: first those on its own list in their order, then those that only songs name. */
export function rolesInUse(setlist: Setlist, songs: Readonly<Record<string, Song>>): RoleInUse[] {
  const uses = new Map<string, RoleUse[]>(setlist.roles.map((role) => [role, []]));
  const add = (use: Omit<RoleUse, 'hiddenIn'>): void =>
    void uses.set(use.binding.role, [...(uses.get(use.binding.role) ?? []), { ...use, hiddenIn: [] }]);
  for (const binding of setlist.bindings) add({ scope: 'setlist', songId: null, patchId: null, binding });
  for (const song of songsInOrder(setlist, songs)) {
    for (const binding of song.bindings) add({ scope: 'song', songId: song.id, patchId: null, binding });
    for (const patch of song.patches)
      for (const binding of patch.bindings) add({ scope: 'patch', songId: song.id, patchId: patch.id, binding });
  }
  return [...uses].map(([role, found]) => ({
    role,
    isValue: found.length === 0 ? null : found.some(({ binding }) => movesValue(binding.action)),
    uses: found.map((use) => ({ ...use, hiddenIn: hiddenIn(use, found) })),
  }));
}

function hiddenIn(use: RoleUse, all: readonly RoleUse[]): RoleUse['hiddenIn'] {
  if (use.scope === 'patch') return [];
  const nearer = all.filter((other) =>
    use.scope === 'setlist' ? other.scope !== 'setlist' : other.scope === 'patch' && other.songId === use.songId,
  );
  return nearer.map(({ songId, patchId }) => ({ songId: songId!, patchId }));
}

/**
 * Roles that tonight's gear leaves without a control, with the songs (by id) that will miss them; null: the whole
 * setlist.
 */
export function openRoles(
  setlist: Setlist,
  songs: Readonly<Record<string, Song>>,
  gear: GearList,
): { role: RoleInUse; missedIn: { songId: string; patchIds: string[] | null }[] | null }[] {
  const here = new Set(
    gear.ports.flatMap((port) => (port.direction === 'in' && port.on ? [port.alias as string] : [])),
  );
  const played = new Set(
    gear.roles
      .filter(({ source }) => source.kind === 'computerKey' || here.has(source.port))
      .map(({ role }) => role as string),
  );
  return rolesInUse(setlist, songs)
    .filter(({ role }) => !played.has(role))
    .map((role) => ({ role, missedIn: missedIn(role) }));
}

function missedIn({ uses }: RoleInUse): { songId: string; patchIds: string[] | null }[] | null {
  if (uses.some(({ scope }) => scope === 'setlist')) return null;
  const bySong = new Map<string, string[] | null>();
  for (const { songId, patchId } of uses) {
    const known = bySong.get(songId!);
    bySong.set(songId!, patchId === null || known === null ? null : [...(known ?? []), patchId]);
  }
  return [...bySong].map(([songId, patchIds]) => ({ songId, patchIds }));
}

/** Takes a role out of a setlist and its songs; what changes is given back. */
export function withoutRole(
  role: string,
  setlist: Setlist,
  songs: readonly Song[],
): { setlist: Setlist; songs: Song[] } {
  const others = (bindings: Binding[]): Binding[] => bindings.filter((binding) => binding.role !== role);
  const names = (song: Song): boolean =>
    song.bindings.some((binding) => binding.role === role) ||
    song.patches.some((patch) => patch.bindings.some((binding) => binding.role === role));
  return {
    setlist: { ...setlist, roles: setlist.roles.filter((name) => name !== role), bindings: others(setlist.bindings) },
    songs: songs.filter(names).map((song) => ({
      ...song,
      bindings: others(song.bindings),
      patches: song.patches.map((patch) => ({ ...patch, bindings: others(patch.bindings) })),
    })),
  };
}

/** Gives a role another name, wherever it stands. */
export function withRenamedRole(
  from: string,
  to: string,
  setlist: Setlist,
  songs: readonly Song[],
  gearLists: readonly GearList[],
): { setlist: Setlist; songs: Song[]; gearLists: GearList[] } {
  const renamed = <T extends { role: string }>(items: T[]): T[] =>
    items.map((item) => (item.role === from ? { ...item, role: to } : item));
  return {
    setlist: {
      ...setlist,
      roles: setlist.roles.map((name) => (name === from ? to : name)),
      bindings: renamed(setlist.bindings),
    },
    songs: songs
      .filter((song) =>
        [song.bindings, ...song.patches.map((patch) => patch.bindings)].some((bindings) =>
          bindings.some((binding) => binding.role === from),
        ),
      )
      .map((song) => ({
        ...song,
        bindings: renamed(song.bindings),
        patches: song.patches.map((patch) => ({ ...patch, bindings: renamed(patch.bindings) })),
      })),
    gearLists: gearLists
      .filter((list) => list.roles.some((role) => role.role === from))
      .map((list) => ({ ...list, roles: renamed(list.roles) })),
  };
}
