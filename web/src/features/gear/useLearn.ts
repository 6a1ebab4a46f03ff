import { useEffect, useRef } from 'react';
import { useDoor, useEdit, useGear } from '../../state/hooks';
import { withLearned, withoutLastSource } from './gearEdits';

/** Takes up what learn finds while the page is open, and ends learn when it is left. */
export function useLearn(): (roles: readonly string[]) => void {
  const door = useDoor();
  const edit = useEdit();
  const gear = useGear();
  const present = useRef({ gear, edit });
  useEffect(() => { present.current = { gear, edit }; });
  useEffect(() => {
    const stop = door.listen((event) => {
      const { gear: list, edit: change } = present.current;
      if (!list) return;
      if (event.type === 'learned') change({ label: `learn ${event.role}`, gearLists: [withLearned(list, event.role, event.learned)] });
      if (event.type === 'unlearned') change({ label: `forget ${event.role}`, gearLists: [withoutLastSource(list, event.role)] });
    });
    return () => {
      stop();
      door.post({ type: 'learn', roles: [] });
    };
  }, [door]);
  return (roles) => door.post({ type: 'learn', roles: [...roles] });
}
