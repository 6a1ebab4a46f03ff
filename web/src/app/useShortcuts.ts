import { useRef } from 'react';
import { useHotkeys } from 'react-hotkeys-hook';
import type { PlainAction } from '@rackle/core/show';
import { redone, undone } from '../show/edits';
import { useAct, useApp, useHost } from '../state/hooks';
import { closed, toggled } from '../state/uiSlice';
import { paletteAhead } from './typedAhead';

const DOUBLE_MS = 700;

/**
 * The shortcuts of every page. They do not act while text is being typed, or while the bench's keyboard has the keys.
 */
export function useShortcuts(): void {
  const act = useAct();
  const host = useHost();
  const { locked, paletteOpen } = useApp(({ ui }) => ui);
  const playing = useApp(({ live }) => live.transport.playing);
  const escapedMs = useRef(-Infinity);
  const perform = (action: PlainAction): void => host.post({ type: 'perform', action });
  const free = {
    ignoreEventWhen: (event: KeyboardEvent) =>
      event.target instanceof Element &&
      event.target.closest('[data-keys="own"], [role="listbox"], [role="menu"], [role="dialog"]') !== null,
  };
  // Space and Enter belong to a button or link that has the focus.
  const unfocused = {
    ignoreEventWhen: (event: KeyboardEvent) =>
      free.ignoreEventWhen(event) ||
      (event.target instanceof Element && event.target.closest('button, a, [role="button"]') !== null),
  };
  useHotkeys(
    'space',
    (event) => {
      event.preventDefault();
      perform('nextStep');
    },
    unfocused,
  );
  useHotkeys('right', () => perform('nextStep'), free);
  useHotkeys('left', () => perform('previousStep'), free);
  useHotkeys(
    'pagedown',
    (event) => {
      event.preventDefault();
      perform('nextSong');
    },
    free,
  );
  useHotkeys(
    'pageup',
    (event) => {
      event.preventDefault();
      perform('previousSong');
    },
    free,
  );
  useHotkeys('shift+right', () => perform('cursorNext'), free);
  useHotkeys('shift+left', () => perform('cursorPrevious'), free);
  useHotkeys('enter', () => perform('go'), unfocused);
  useHotkeys('p', () => perform(playing ? 'stop' : 'play'), free, [playing]);
  useHotkeys(
    'escape',
    (event) => {
      if (event.timeStamp - escapedMs.current < DOUBLE_MS) perform('panic');
      escapedMs.current = event.timeStamp;
    },
    free,
  );
  useHotkeys(
    'mod+z',
    (event) => {
      event.preventDefault();
      if (!locked) act(undone());
    },
    free,
    [locked],
  );
  useHotkeys(
    'mod+shift+z, mod+y',
    (event) => {
      event.preventDefault();
      if (!locked) act(redone());
    },
    free,
    [locked],
  );
  useHotkeys(
    'mod+k',
    (event) => {
      event.preventDefault();
      if (!paletteOpen) paletteAhead.begin(() => void act(closed('paletteOpen')));
      act(toggled('paletteOpen'));
    },
    { enableOnFormTags: true },
    [paletteOpen],
  );
  useHotkeys('s', () => host.post({ type: 'startSound' }), free);
  useHotkeys('l', () => void act(toggled('locked')), free);
  useHotkeys('b', () => void act(toggled('benchOpen')), free);
  useHotkeys('m', () => void act(toggled('monitorOpen')), free);
  useHotkeys('?', () => void act(toggled('keysOpen')), { ...free, useKey: true });
}
