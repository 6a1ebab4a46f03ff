import { useAct, useApp } from '../state/hooks';
import { closed, toggled } from '../state/uiSlice';
import { paletteAhead } from './typedAhead';

/** Opens or closes the palette. What is typed before its field stands is the field's. */
export function usePaletteToggle(): () => void {
  const act = useAct();
  const isOpen = useApp(({ ui }) => ui.paletteOpen);
  return () => {
    if (!isOpen) paletteAhead.begin(() => void act(closed('paletteOpen')));
    act(toggled('paletteOpen'));
  };
}
