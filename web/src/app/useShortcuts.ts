import { useRef } from 'react';
import { useHotkeys } from 'react-hotkeys-hook';
import type { PlainAction } from '@rackle/core/show';
import { redone, undone } from '../show/edits';
import { useAct, useApp, useHost } from '../state/hooks';
import { toggled } from '../state/uiSlice';
import { useFocusKeys } from './useFocusKeys';
import { usePaletteToggle } from './usePaletteToggle';

const DOUBLE_MS = 700;

/**
 * The shortcuts of every page. They do not act while text is being typed, or while the bench's keyboard has the keys.
 */
export function useShortcuts(): void {
  const act = useAct();
  const host = useHost();
  const togglePalette = usePaletteToggle();
  const { locked, letterKeys } = useApp(({ ui }) => ui);
  const playing = useApp(({ live }) => live.transport.playing);
  const escapedMs = useRef(-Infinity);
  const perform = (action: PlainAction): void => host.post({ type: 'perform', action });
  const belongsToFocus = useFocusKeys();
  const free = { enableOnFormTags: true, ignoreEventWhen: belongsToFocus };
  const letters = { ...free, enabled: letterKeys };
  useHotkeys(
    'space',
    (event) => {
      event.preventDefault();
      perform('nextStep');
    },
    free,
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
  useHotkeys('enter', () => perform('go'), free);
  useHotkeys('p', () => perform(playing ? 'stop' : 'play'), letters, [playing]);
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
      togglePalette();
    },
    { enableOnFormTags: true },
    [togglePalette],
  );
  useHotkeys('s', () => host.post({ type: 'startSound' }), letters);
  useHotkeys('l', () => void act(toggled('locked')), letters);
  useHotkeys('b', () => void act(toggled('benchOpen')), letters);
  useHotkeys('m', () => void act(toggled('monitorOpen')), letters);
  // Where the question mark is typed with Shift, and where it is not.
  useHotkeys('shift+?, ?', () => void act(toggled('keysOpen')), { ...free, useKey: true });
}
