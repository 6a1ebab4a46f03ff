import type { Autosave } from '../show/autosave';
import { conflictFound, replaced } from '../show/showSlice';
import { useAct, useApp } from '../state/hooks';
import { Button } from '../ui/Button';
import { Sheet } from '../ui/Sheet';

const NOUNS = {
  songs: 'song',
  setlists: 'setlist',
  instruments: 'instrument',
  gearLists: 'gear list',
  libraryItems: 'library item',
  shelves: 'shelf',
} as const;

/** The same thing was changed in two places: both versions are there, and the player says which stays. */
export function Conflicts({ autosave }: { autosave: Autosave }) {
  const conflict = useApp(({ show }) => show.conflict);
  const ours = useApp(({ show }) => (show.conflict ? show.working[show.conflict.kind][show.conflict.id] : null));
  const act = useAct();
  if (!conflict) return null;
  const theirs = conflict.theirs.body as { name?: string } | null;
  const settle = (keepOurs: boolean): void => {
    if (!keepOurs) act(replaced({ kind: conflict.kind, id: conflict.id, body: conflict.theirs.body }));
    autosave.resolve(conflict, keepOurs);
    act(conflictFound(null));
  };
  return (
    <Sheet
      open
      title={`This ${NOUNS[conflict.kind]} was changed in another window too`}
      about="Nothing has been overwritten. Both versions are here; the one that you do not keep stays in its history."
      onClose={() => act(conflictFound(null))}
    >
      <p>
        <b>Here:</b> {ours?.name ?? 'deleted'}
      </p>
      <p>
        <b>There:</b> {theirs?.name ?? 'deleted'}
      </p>
      <div className="mt-4 flex gap-2">
        <Button look="filled" onClick={() => settle(true)}>
          Keep this window’s
        </Button>
        <Button onClick={() => settle(false)}>Take the other</Button>
      </div>
    </Sheet>
  );
}
