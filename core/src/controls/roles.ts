import {
  withAllBindings,
  type Action,
  type Binding,
  type EverySetlist,
  type GearList,
  type Setlist,
  type Song,
} from '../show';

/** Where a use of a role stands; the narrowest that plays wins. */
export type Scope = 'everySetlist' | 'setlist' | 'song' | 'patch';

/** One thing that a role does somewhere. */
export interface RoleUse {
  scope: Scope;
  songId: string | null;
  patchId: string | null;
  binding: Binding;
  /** A nearer scope binds the role too, at least in part of where this one would count. */
  hiddenIn: { songId: string | null; patchId: string | null }[];
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

/**
 * All roles of a setlist: first those of every setlist and those on its own list in their order, then those that only
 * songs name.
 * @param every what is done in every setlist; without it the setlist is one as it is played
 */
export function rolesInUse(
  setlist: Setlist,
  songs: Readonly<Record<string, Song>>,
  every: EverySetlist | null = null,
): RoleInUse[] {
  const uses = new Map<string, RoleUse[]>([...(every?.roles ?? []), ...setlist.roles].map((role) => [role, []]));
  const add = (use: Omit<RoleUse, 'hiddenIn'>): void =>
    void uses.set(use.binding.role, [...(uses.get(use.binding.role) ?? []), { ...use, hiddenIn: [] }]);
  for (const binding of every?.bindings ?? []) add({ scope: 'everySetlist', songId: null, patchId: null, binding });
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

/** From the widest to the nearest. */
const SCOPES: readonly Scope[] = ['everySetlist', 'setlist', 'song', 'patch'];

function hiddenIn(use: RoleUse, all: readonly RoleUse[]): RoleUse['hiddenIn'] {
  if (use.scope === 'patch') return [];
  const at = SCOPES.indexOf(use.scope);
  const nearer = all.filter(
    (other) => SCOPES.indexOf(other.scope) > at && (use.songId === null || other.songId === use.songId),
  );
  return nearer.map(({ songId, patchId }) => ({ songId, patchId }));
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
  if (uses.some(({ songId }) => songId === null)) return null;
  const bySong = new Map<string, string[] | null>();
  for (const { songId, patchId } of uses) {
    const known = bySong.get(songId!);
    bySong.set(songId!, patchId === null || known === null ? null : [...(known ?? []), patchId]);
  }
  return [...bySong].map(([songId, patchIds]) => ({ songId, patchIds }));
}

/** Everything in which roles have names. */
export interface NamedRoles {
  everySetlist: readonly EverySetlist[];
  setlists: readonly Setlist[];
  songs: readonly Song[];
  gearLists: readonly GearList[];
}
/** What of it changes. */
type ChangedRoles = { [K in keyof NamedRoles]: NamedRoles[K][number][] };

/** Takes a role out of a setlist, out of every setlist and out of songs; what changes is given back. */
export function withoutRole(role: string, of: Omit<NamedRoles, 'gearLists'>): Omit<ChangedRoles, 'gearLists'> {
  const others = (bindings: Binding[]): Binding[] => bindings.filter((binding) => binding.role !== role);
  const list = <T extends { roles: string[]; bindings: Binding[] }>(item: T): T => ({
    ...item,
    roles: item.roles.filter((name) => name !== role),
    bindings: others(item.bindings),
  });
  return {
    everySetlist: of.everySetlist.filter((item) => lists(item, role)).map(list),
    setlists: of.setlists.filter((item) => lists(item, role)).map(list),
    songs: of.songs.filter((song) => names(song, role)).map((song) => withAllBindings(song, others)),
  };
}

/** Gives a role another name, wherever it stands; what changes is given back. */
export function withRenamedRole(from: string, to: string, of: NamedRoles): ChangedRoles {
  const renamed = <T extends { role: string }>(items: T[]): T[] =>
    items.map((item) => (item.role === from ? { ...item, role: to } : item));
  const list = <T extends { roles: string[]; bindings: Binding[] }>(item: T): T => ({
    ...item,
    roles: item.roles.map((name) => (name === from ? to : name)),
    bindings: renamed(item.bindings),
  });
  return {
    everySetlist: of.everySetlist.filter((item) => lists(item, from)).map(list),
    setlists: of.setlists.filter((item) => lists(item, from)).map(list),
    songs: of.songs.filter((song) => names(song, from)).map((song) => withAllBindings(song, renamed)),
    gearLists: of.gearLists
      .filter((item) => item.roles.some(({ role }) => role === from))
      .map((item) => ({ ...item, roles: renamed(item.roles) })),
  };
}

const binds = (bindings: readonly Binding[], role: string): boolean => bindings.some((one) => one.role === role);
const lists = ({ roles, bindings }: { roles: string[]; bindings: Binding[] }, role: string): boolean =>
  roles.includes(role) || binds(bindings, role);
const names = (song: Song, role: string): boolean =>
  binds(song.bindings, role) || song.patches.some((patch) => binds(patch.bindings, role));
