import { useEffect, useRef, useState } from 'react';
import { withTakenOver, type Learned } from '@rackle/core/controls';
import { useAct, useHost, useEdit, useGear } from '../../state/hooks';
import { withoutLastSource } from '@rackle/core/show';
import { learnAsked } from '../../state/uiSlice';

/** Takes up what learn finds while the page is open, and ends learn when it is left. `last` is what it found last. */
export function useLearn(): {
  start: (roles: readonly string[]) => void;
  last: { role: string; learned: Learned } | null;
} {
  const [last, setLast] = useState<{ role: string; learned: Learned } | null>(null);
  const act = useAct();
  const host = useHost();
  const edit = useEdit();
  const gear = useGear();
  const present = useRef({ gear, edit });
  useEffect(() => {
    present.current = { gear, edit };
  });
  useEffect(() => {
    const stop = host.listen((event) => {
      const { gear: list, edit: change } = present.current;
      if (!list) return;
      if (event.type === 'learned') setLast({ role: event.role, learned: event.learned });
      if (event.type === 'unlearned') setLast(null);
      if (event.type === 'learned')
        change({
          label: `learn ${event.role}`,
          gearLists: [withTakenOver(list, event.role, event.from, event.learned)],
        });
      if (event.type === 'unlearned')
        change({ label: `forget ${event.role}`, gearLists: [withoutLastSource(list, event.role)] });
    });
    return () => {
      stop();
      host.post({ type: 'learn', roles: [] });
    };
  }, [host]);
  return {
    last,
    start: (roles) => {
      setLast(null);
      // Keys that come before the running side has answered are learn’s as well.
      act(learnAsked(true));
      host.post({ type: 'learn', roles: [...roles] });
    },
  };
}
