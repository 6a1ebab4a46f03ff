import type { ReactNode } from 'react';
import type { PlainAction } from '@rackle/core/show';
import { useApp, useHost } from '../../state/hooks';
import { useHeldPress } from '../../ui/useHeldPress';

/**
 * For fingers: the steps and the key, where there is a touch screen; the values of this patch on demand anywhere. While
 * the stage is locked each has to be held.
 */
export function StageTouch({ handsOpen, onHands }: { handsOpen: boolean; onHands: () => void }) {
  const transpose = useApp(({ live }) => live.hands.transpose);
  return (
    <span className="ml-auto flex shrink-0 flex-wrap justify-end gap-2 pb-2">
      <span className="hidden gap-2 any-pointer-coarse:flex">
        <Does action="previousStep">previous</Does>
        <Does action="nextStep">next</Does>
        <Does action="transposeDown" label="a semitone down">
          key −
        </Does>
        {transpose !== 0 && (
          <Does action="transposeOff" label="transposition off">
            key 0
          </Does>
        )}
        <Does action="transposeUp" label="a semitone up">
          key +
        </Does>
      </span>
      <button
        type="button"
        aria-expanded={handsOpen}
        onClick={onHands}
        className={`min-h-11 border border-ink px-3 font-bold any-pointer-coarse:min-h-16! ${handsOpen ? 'bg-ink text-ground' : ''}`}
      >
        faders
      </button>
    </span>
  );
}

function Does({ action, label, children }: { action: PlainAction; label?: string; children: ReactNode }) {
  const host = useHost();
  const locked = useApp(({ ui }) => ui.locked);
  const { isHolding, handlers } = useHeldPress(
    () => host.post({ type: 'perform', action }),
    () => locked,
  );
  return (
    <button
      type="button"
      aria-label={label}
      {...handlers}
      className={`min-h-16! min-w-16 touch-none select-none border border-ink px-3 text-lg font-bold ${isHolding ? 'bg-ink text-ground' : ''}`}
    >
      {children}
    </button>
  );
}
