import type { Action, Binding } from './model/control';
import { EverySetlist } from './model/everySetlist';
import type { Setlist } from './model/setlist';

/** Whether a role can do it in every setlist: nothing that belongs to a layer, or to the effects of one setlist. */
export const canBeInEvery = (action: Action): boolean => !('layerId' in action) && !('effectId' in action);

/** What the show says of every setlist, or (if it says nothing yet) that there is nothing. */
export const everySetlistOf = (bodies: { everySetlist: Readonly<Record<string, EverySetlist>> }): EverySetlist =>
  Object.values(bodies.everySetlist)[0] ?? NOTHING;

const NOTHING: EverySetlist = EverySetlist.parse({ id: 'every-setlist' });

/**
 * A setlist as it is played: what its roles do, and what they do in every setlist, where it does not say otherwise. The
 * lists are its own while it gets nothing added.
 */
export function playedSetlist(setlist: Setlist, { roles, bindings }: EverySetlist): Setlist {
  const own = new Set(setlist.bindings.map(({ role }) => role));
  const added = bindings.filter(({ role }) => !own.has(role));
  const names = new Set([...roles, ...added.map(({ role }) => role), ...setlist.roles]);
  if (added.length === 0 && names.size === setlist.roles.length) return setlist;
  return { ...setlist, roles: [...names], bindings: [...setlist.bindings, ...added] };
}

/** Gives a role something to do in every setlist. */
export const withEveryBinding = (every: EverySetlist, binding: Binding): EverySetlist => ({
  ...every,
  roles: withName(every.roles, binding.role),
  bindings: [...every.bindings, binding],
});

/** Moves what a role does in one setlist to every setlist, where it takes the place of what the role did. */
export function madeEvery(
  setlist: Setlist,
  every: EverySetlist,
  role: string,
): { setlist: Setlist; everySetlist: EverySetlist } {
  const { taken, left } = split(setlist.bindings, role);
  const others = split(every.bindings, role).left;
  return {
    setlist: { ...setlist, bindings: left },
    everySetlist: { ...every, roles: withName(every.roles, role), bindings: [...others, ...taken] },
  };
}

/** Moves what a role does in every setlist to one of them; in the others it does it no longer. */
export function madeOfOne(
  setlist: Setlist,
  every: EverySetlist,
  role: string,
): { setlist: Setlist; everySetlist: EverySetlist } {
  const { taken, left } = split(every.bindings, role);
  return {
    setlist: { ...setlist, roles: withName(setlist.roles, role), bindings: [...setlist.bindings, ...taken] },
    everySetlist: { ...every, roles: every.roles.filter((name) => name !== role), bindings: left },
  };
}

const split = (bindings: readonly Binding[], role: string): { taken: Binding[]; left: Binding[] } => ({
  taken: bindings.filter((one) => one.role === role),
  left: bindings.filter((one) => one.role !== role),
});
const withName = (names: string[], name: string): string[] => (names.includes(name) ? names : [...names, name]);
