import { useLocation } from 'react-router';
import { useAct, useApp } from '../state/hooks';
import { newVersionClosed } from '../state/uiSlice';
import { Button } from '../ui/Button';
import type { TakeVersion } from './newVersion';

/** A newer Rackle waits: offered, never taken by itself, and out of sight on stage. */
export function NewVersion({ onTake }: { onTake: TakeVersion }) {
  const act = useAct();
  const state = useApp(({ ui }) => ui.newVersion);
  const locked = useApp(({ ui }) => ui.locked);
  const { pathname } = useLocation();
  if (state === null || locked || pathname === '/stage') return null;
  return (
    <p role="status" className="no-print flex items-center gap-3 border-b border-ink bg-ground2 px-4 py-1.5">
      <b>A newer Rackle is here.</b>
      <span className="text-ink2">
        {state === 'putOff'
          ? 'Not now: a window is locked, plays or sounds. It can be taken as soon as all is quiet.'
          : 'Taking it loads all windows anew; the set stays in its patch.'}
      </span>
      <Button onClick={() => void onTake()}>Take it</Button>
      <Button look="plain" onClick={() => act(newVersionClosed())}>
        later
      </Button>
    </p>
  );
}
