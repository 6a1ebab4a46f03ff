import { useApp, useHost } from '../state/hooks';
import { useHeldPress } from '../ui/useHeldPress';

/**
 * Ends every note. While the stage is locked a pointer has to hold it, and on stage a finger always; a key or a role
 * acts at once.
 */
export function PanicButton({ onStage }: { onStage: boolean }) {
  const host = useHost();
  const locked = useApp(({ ui }) => ui.locked);
  const { isHolding, handlers } = useHeldPress(
    () => host.post({ type: 'perform', action: 'panic' }),
    (pointer) => locked || (onStage && pointer === 'touch'),
  );
  return (
    <button
      type="button"
      title={locked ? 'Hold to end every note' : 'End every note; twice resets all gear'}
      {...handlers}
      className={`shrink-0 border border-ink px-3 font-bold touch-none select-none ${onStage ? 'min-h-16! min-w-24 text-lg' : 'min-h-11'} ${isHolding ? 'bg-ink text-ground' : 'hover:bg-ground2'}`}
    >
      Panic
    </button>
  );
}
