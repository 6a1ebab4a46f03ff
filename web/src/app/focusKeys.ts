/**
 * Where keys are whatever has the focus makes of them: the bench's keyboard, an open list, a sheet. The score
 * (`data-keys="score"`) has Enter, and takes what else it uses itself.
 */
const OWN = '[data-keys="own"], [role="listbox"], [role="menu"], [role="dialog"], [role="alertdialog"]';
const TEXT =
  'input:not([type="checkbox"], [type="radio"], [type="range"], [type="button"], [type="file"]), textarea, [contenteditable="true"]';
const SLIDERS = '[role="slider"], input[type="range"]';
const MOVED_BY_ARROWS = `${SLIDERS}, [role="combobox"], [role="spinbutton"], [role="radio"], [role="tab"], input[type="radio"], select, [data-cue]`;
const PRESSED =
  'button, a[href], summary, input[type="checkbox"], input[type="file"], [role="button"], [role="switch"], [role="combobox"], [role="tab"]';
const AFTER_CLICK_MS = 300;
const ARROWS = new Set(['ArrowLeft', 'ArrowRight', 'ArrowUp', 'ArrowDown', 'Home', 'End']);
const BY_PAGES = new Set(['PageUp', 'PageDown']);
/** Keys that press what has the focus. */
export const PRESSES: ReadonlySet<string> = new Set([' ', 'Enter']);

/** Whether something in which the element lies, or the element, could be scrolled up or down. */
function scrolls(element: Element | null): boolean {
  for (let at = element; at !== null && at !== document.body; at = at.parentElement) {
    if (at.scrollHeight <= at.clientHeight) continue;
    const { overflowY } = getComputedStyle(at);
    if (overflowY === 'auto' || overflowY === 'scroll') return true;
  }
  return false;
}

/**
 * Whether a key belongs to what has the focus, and not to the player. What a pointer gave the focus keeps what it is
 * moved by, but not the keys that press: a thing that was clicked a minute ago must not swallow the player's.
 *
 * @param clicked the focus was given by a pointer
 */
export function belongsToFocus(key: string, target: EventTarget | null, clicked: boolean): boolean {
  if (!(target instanceof Element)) return false;
  if (target.closest(OWN) !== null || target.matches(TEXT)) return true;
  if (ARROWS.has(key)) return target.closest(MOVED_BY_ARROWS) !== null;
  if (BY_PAGES.has(key)) return target.closest(SLIDERS) !== null || (!clicked && scrolls(target));
  if (key === 'Enter' && target.closest('[data-keys]') !== null) return true;
  if (!PRESSES.has(key) || clicked) return false;
  return target.closest(PRESSED) !== null || (key === ' ' && scrolls(target));
}

/**
 * Knows whether the present focus was given by a pointer, and takes the focus of a click away where keys are the
 * player's (`data-focus="player"`): the frame, the strip, the stage.
 */
export class ClickedFocus {
  private byPointer = false;
  private clicked: EventTarget | null = null;

  /** Whether this was focused by a pointer and still has that focus. */
  has(target: EventTarget | null): boolean {
    return target !== null && target === this.clicked;
  }

  /** @returns stops listening */
  listen(page: Window): () => void {
    let timer: ReturnType<typeof setTimeout> | undefined;
    const onPointer = (): void => {
      clearTimeout(timer);
      this.byPointer = true;
    };
    const onKey = (): void => void (this.byPointer = false);
    // A list that closes gives the focus back a moment after the click.
    const onUp = (): void => {
      clearTimeout(timer);
      timer = setTimeout(onKey, AFTER_CLICK_MS);
    };
    const onFocus = ({ target }: FocusEvent): void => void (this.clicked = this.byPointer ? target : null);
    const onMouse = (event: MouseEvent): void => {
      const { target } = event;
      if (!(target instanceof Element) || target.closest('[data-focus="player"]') === null) return;
      if (target.closest(`${TEXT}, ${SLIDERS}, select`) !== null) return;
      event.preventDefault();
      const { activeElement } = page.document;
      if (activeElement instanceof HTMLElement) activeElement.blur();
    };
    page.addEventListener('pointerdown', onPointer, true);
    page.addEventListener('pointerup', onUp, true);
    page.addEventListener('pointercancel', onUp, true);
    page.addEventListener('keydown', onKey, true);
    page.addEventListener('focusin', onFocus, true);
    page.addEventListener('mousedown', onMouse, true);
    return () => {
      page.removeEventListener('pointerdown', onPointer, true);
      page.removeEventListener('pointerup', onUp, true);
      page.removeEventListener('pointercancel', onUp, true);
      page.removeEventListener('keydown', onKey, true);
      page.removeEventListener('focusin', onFocus, true);
      page.removeEventListener('mousedown', onMouse, true);
    };
  }
}

const PLAYERS = new Set([' ', 'Enter', 'ArrowLeft', 'ArrowRight', 'PageUp', 'PageDown', 'Escape']);

/** Keys that were kept from what they were on their way to: roles may still have them, shortcuts of letters not. */
const strays = new WeakSet<Event>();

/** Whether a key was kept from what it was meant for, and is none of the player's. */
export const isStray = (event: Event): boolean => strays.has(event);

/**
 * A key that must not reach what it is on its way to. If it is one of the player's, or plays a role, it is that still;
 * any other does nothing.
 */
export function keepFromFocus(event: KeyboardEvent): void {
  event.preventDefault();
  event.stopImmediatePropagation();
  const { key, code, repeat, shiftKey } = event;
  const again = new KeyboardEvent('keydown', { key, code, repeat, shiftKey, bubbles: true, cancelable: true });
  if (!PLAYERS.has(key)) strays.add(again);
  document.body.dispatchEvent(again);
}
