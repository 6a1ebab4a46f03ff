import { useEffect, useRef, useState } from 'react';
import type { Learned } from '@rackle/core/controls';
import { useHost, useEdit, useGear } from '../../state/hooks';
import { withLearned, withoutLastSource } from '@rackle/core/show';

/** Takes up what learn finds while the page is open, and ends learn when it is left. `last` is what it found last. */
export function useLearn(): {
  start: (roles: readonly string[]) => void;
  last: { role: string; learned: Learned } | null;
} {
  const [last, setLast] = useState<{ role: string; learned: Learned } | null>(null);
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
        change({ label: `learn ${event.role}`, gearLists: [withLearned(list, event.role, event.learned)] });
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
      host.post({ type: 'learn', roles: [...roles] });
    },
  };
}
