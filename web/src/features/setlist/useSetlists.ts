import { useMemo } from 'react';
import { copiedSetlist, emptySetlistLike, type EntryId, type Setlist, type SetlistId } from '@rackle/core/show';
import { setlistChosen } from '../../show/showSlice';
import { useAct, useApp, useEdit, useGear, useSetlist } from '../../state/hooks';
import { newId } from '../../state/ids';

/** The day here, “2026-06-21”. */
const today = (): string => new Date().toLocaleDateString('en-CA');

/** Gigs without a day yet come first, then the next ones; of those that are over the last ones. */
function inOrder(setlists: readonly Setlist[], day: string): { coming: Setlist[]; past: Setlist[] } {
  const isPast = ({ date }: Setlist): boolean => date !== null && date < day;
  const by = (sign: number) => (a: Setlist, b: Setlist) =>
    sign * (a.date ?? '').localeCompare(b.date ?? '') || a.name.localeCompare(b.name);
  return {
    coming: setlists.filter((setlist) => !isPast(setlist)).sort(by(1)),
    past: setlists.filter(isPast).sort(by(-1)),
  };
}

/** All setlists, and what can be done with them. */
export function useSetlists() {
  const act = useAct();
  const edit = useEdit();
  const byId = useApp(({ show }) => show.working.setlists);
  const tonight = useSetlist();
  const gear = useGear();
  const day = today();
  const order = useMemo(() => inOrder(Object.values(byId), day), [byId, day]);
  const startWith = (label: string, setlist: Setlist): Setlist => {
    edit({ label, setlists: [setlist] });
    return setlist;
  };
  return {
    ...order,
    /** One after the other typed letter is one step of undo: `field` says of what. */
    change: (setlist: Setlist, label: string, fields: Partial<Setlist>, field?: string): void =>
      edit({
        label,
        setlists: [{ ...setlist, ...fields }],
        mergeKey: field && `setlist ${setlist.id} ${field}`,
      }),
    /** Makes it tonight’s. */
    choose: ({ id }: Setlist): void => void act(setlistChosen(id)),
    copy: (of: Setlist, name: string): Setlist =>
      startWith(
        `start a setlist as a copy of ${of.name}`,
        copiedSetlist(of, newId<SetlistId>('setlist'), name, () => newId<EntryId>('entry')),
      ),
    startEmpty: (name: string): Setlist =>
      startWith('start a setlist', {
        ...emptySetlistLike(tonight, newId<SetlistId>('setlist'), name),
        gearListId: gear?.id ?? null,
      }),
    /** Which would be tonight's without this one. */
    next: (without: Setlist): Setlist | null => Object.values(byId).find(({ id }) => id !== without.id) ?? null,
    remove: (setlist: Setlist): void =>
      edit({ label: `delete ${setlist.name}`, setlists: [{ id: setlist.id, deleted: true }] }),
  };
}
