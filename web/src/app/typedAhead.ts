const AT_MOST_MS = 5000;

/**
 * What is typed between a key that opens a field and the field itself: it belongs to the field, and to no shortcut on the
 * way.
 */
export class TypedAhead {
  private text = '';
  private onEscape: () => void = () => undefined;
  private put: ((text: string) => void) | null = null;
  private timer: ReturnType<typeof setTimeout> | undefined;

  constructor(private readonly from: Pick<Window, 'addEventListener' | 'removeEventListener'>) {}

  /**
   * A field is on its way. Should it never come, keys are what they were after a moment.
   * @param onEscape it is not wanted any more
   */
  begin(onEscape: () => void): void {
    this.end();
    this.onEscape = onEscape;
    this.from.addEventListener('keydown', this.hear, true);
    this.timer = setTimeout(() => this.end(), AT_MOST_MS);
  }

  /** The field stands, and takes what has been typed and what still comes before it has the focus. */
  into(put: (text: string) => void): void {
    this.put = put;
    if (this.text !== '') put(this.text);
  }

  /** The field has the focus, or there will be none. */
  end(): void {
    clearTimeout(this.timer);
    this.from.removeEventListener('keydown', this.hear, true);
    this.text = '';
    this.put = null;
  }

  private readonly hear = (event: KeyboardEvent): void => {
    if (event.ctrlKey || event.metaKey || event.altKey) return;
    event.preventDefault();
    event.stopImmediatePropagation();
    if (event.key === 'Escape') {
      this.end();
      return this.onEscape();
    }
    if (event.key === 'Backspace') this.text = this.text.slice(0, -1);
    else if (event.key.length === 1) this.text += event.key;
    this.put?.(this.text);
  };
}

/** Keys typed between Ctrl+K and the palette’s opening: they are its. */
export const paletteAhead = new TypedAhead(window);
