import { useEffect } from 'react';
import { useAct, useApp, useHost, useGear } from '../state/hooks';
import { learnAsked } from '../state/uiSlice';

const TYPES_TEXT = new Set(['INPUT', 'TEXTAREA', 'SELECT']);
const ANSWERS_WITHIN_MS = 3000;
/** Keys by which learn itself is led: confirm, undo the last, leave one out, end. */
const LEARN_KEYS: Record<string, 'learnUndo' | 'learnSkip' | 'learnConfirm' | 'end'> = {
  Enter: 'learnConfirm',
  NumpadEnter: 'learnConfirm',
  Backspace: 'learnUndo',
  Tab: 'learnSkip',
  Escape: 'end',
};

/**
 * Keys of the computer that play a role, and those that learn waits for. They come before the page's shortcuts, but
 * never while text is
 * being typed. Keys that the bench's keyboard has are the bench's.
 */
export function useComputerKeys(): void {
  const host = useHost();
  const gear = useGear();
  const act = useAct();
  const waits = useApp(({ live }) => live.controls.learn !== null);
  const asked = useApp(({ ui }) => ui.learnAsked);
  const learning = waits || asked;
  useEffect(() => {
    if (!asked) return undefined;
    if (waits) return void act(learnAsked(false));
    const timer = setTimeout(() => act(learnAsked(false)), ANSWERS_WITHIN_MS);
    return () => clearTimeout(timer);
  }, [act, asked, waits]);
  useEffect(() => {
    const roles = new Set(
      gear?.roles.flatMap(({ source }) => (source.kind === 'computerKey' ? [source.code as string] : [])),
    );
    const free = (event: KeyboardEvent): boolean => {
      const { target } = event;
      return (
        !(target instanceof Element) ||
        (!(TYPES_TEXT.has(target.tagName) && (target as HTMLInputElement).type !== 'checkbox') &&
          target.closest('[data-keys="own"], [role="dialog"], [role="listbox"]') === null)
      );
    };
    const take = (event: KeyboardEvent): void => {
      event.preventDefault();
      event.stopImmediatePropagation();
    };
    const onDown = (event: KeyboardEvent): void => {
      if (event.ctrlKey || event.metaKey || event.altKey || !free(event)) return;
      if (learning) {
        take(event);
        const command = LEARN_KEYS[event.code];
        if (command === 'end') host.post({ type: 'learn', roles: [] });
        else if (command) host.post({ type: command });
        else if (!event.repeat) host.post({ type: 'computerKey', code: event.code, down: true });
      } else if (roles.has(event.code)) {
        take(event);
        if (!event.repeat) host.post({ type: 'computerKey', code: event.code, down: true });
      }
    };
    const onUp = (event: KeyboardEvent): void => {
      if (roles.has(event.code)) host.post({ type: 'computerKey', code: event.code, down: false });
    };
    window.addEventListener('keydown', onDown, true);
    window.addEventListener('keyup', onUp, true);
    return () => {
      window.removeEventListener('keydown', onDown, true);
      window.removeEventListener('keyup', onUp, true);
    };
  }, [host, gear, learning]);
}
