import { useRef, useState } from 'react';
import { useApp, useHost } from '../state/hooks';

const HOLD_MS = 300;

/** Ends every note. While the stage is locked a pointer has to hold it for 0.3 s; a key or a role acts at once. */
export function PanicButton({ large }: { large: boolean }) {
  const host = useHost();
  const locked = useApp(({ ui }) => ui.locked);
  const [holding, setHolding] = useState(false);
  const timer = useRef<ReturnType<typeof setTimeout> | null>(null);
  const panic = (): void => host.post({ type: 'perform', action: 'panic' });
  const release = (): void => {
    setHolding(false);
    if (timer.current !== null) clearTimeout(timer.current);
  };
  return (
    <button
      type="button"
      title={locked ? 'Hold to end every note' : 'End every note; twice resets all gear'}
      onPointerLeave={release}
      onPointerUp={release}
      onPointerDown={() => {
        if (!locked) return panic();
        setHolding(true);
        timer.current = setTimeout(() => {
          panic();
          release();
        }, HOLD_MS);
      }}
      onKeyDown={(event) => {
        if (event.key === 'Enter' || event.key === ' ') panic();
      }}
      className={`shrink-0 border border-ink px-3 font-bold touch-none select-none ${large ? 'min-h-16 min-w-24 text-lg' : 'min-h-11'} ${holding ? 'bg-ink text-ground' : 'hover:bg-ground2'}`}
    >
      Panic
    </button>
  );
}
