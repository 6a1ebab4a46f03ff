import { useEffect, useState } from 'react';
import { gearFromPorts, newSetlist, type GearListId, type SetlistId } from '@rackle/core/show';
import { Link } from 'react-router';
import { useAct, useEdit, usePortsHere } from '../../state/hooks';
import { toggled } from '../../state/uiSlice';
import { useLatest } from '../../ui/useLatest';
import { newId } from '../../state/ids';
import { Button } from '../../ui/Button';
import { ShowFile } from './ShowFile';

/** Nothing here yet: what to do first, with the buttons that do it. */
export function EmptyShow() {
  const edit = useEdit();
  const act = useAct();
  const [name, setName] = useState('');
  const ports = usePortsHere();
  const start = useLatest((): void => {
    if (ports === null) return;
    // What is plugged in (the bench at least) can be played at once.
    const gear = gearFromPorts(newId<GearListId>('gear'), 'What is here', ports);
    edit({
      label: 'start a setlist',
      setlists: [{ ...newSetlist(newId<SetlistId>('setlist'), name.trim() || 'New setlist'), gearListId: gear.id }],
      gearLists: [gear],
    });
  });
  // Asked for before the running side has said what is plugged in: it is made as soon as that is known.
  const [isWanted, setIsWanted] = useState(false);
  const isKnown = ports !== null;
  useEffect(() => {
    if (isWanted && isKnown) start();
  }, [isWanted, isKnown, start]);
  return (
    <div className="mx-auto max-w-2xl px-4 py-14">
      <h1 className="named text-5xl">No setlist yet</h1>
      <p className="mt-3 text-lg">
        Rackle takes you through the songs of an evening, patch by patch, with one foot, key or button. What you hold
        keeps sounding; nothing hangs or comes late.
      </p>
      <form
        className="mt-5 flex gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          setIsWanted(true);
        }}
      >
        <input
          aria-label="name of the setlist"
          value={name}
          maxLength={120}
          onChange={(event) => setName(event.target.value)}
          placeholder="name of the evening"
          className="named min-w-0 flex-1 border-b border-ink bg-transparent py-1 text-2xl focus:outline-none"
        />
        <Button look="filled" large type="submit">
          Start a setlist
        </Button>
      </form>
      <p className="mt-8 text-ink2">Or look around in a finished one first, or bring a show file that you have.</p>
      <div className="mt-2">
        <ShowFile demo />
      </div>
      <p className="mt-8 text-ink2">
        Nothing plugged in? <kbd className="mono border border-rule px-1">B</kbd> or{' '}
        <Button look="plain" onClick={() => act(toggled('benchOpen'))}>
          the bench
        </Button>{' '}
        has simulated keyboards and pedals to try everything with.{' '}
        <Link to="/guide/first-gig" className="underline decoration-dotted">
          A first gig in ten minutes
        </Link>
      </p>
    </div>
  );
}
