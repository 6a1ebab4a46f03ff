const GESTURE_MS = 1000;
const WRITE_EVERY_MS = 250;

/** A drag, or a row of quick steps: one edit that grows until it is over. At most one goes on. */
export class Gesture {
  /** The edit's id; null: none goes on. */
  id: string | null = null;
  private timer: ReturnType<typeof setTimeout> | undefined;
  private writtenAtMs = 0;

  constructor(
    /** A gesture is not over while a pointer is down. */
    private readonly pointerIsDown: () => boolean,
    private readonly nowMs: () => number,
    /** Nothing has been added for a while. */
    private readonly onOver: () => void,
  ) {}

  start(id: string): void {
    this.id = id;
    this.writtenAtMs = this.nowMs();
    this.wait();
  }

  /** It has grown. @returns whether it is time to write that down */
  goesOn(): boolean {
    this.wait();
    if (this.nowMs() - this.writtenAtMs < WRITE_EVERY_MS) return false;
    this.writtenAtMs = this.nowMs();
    return true;
  }

  /** @returns the id of the edit that was open; null: none was */
  end(): string | null {
    clearTimeout(this.timer);
    const { id } = this;
    this.id = null;
    return id;
  }

  private wait(): void {
    clearTimeout(this.timer);
    this.timer = setTimeout(() => {
      if (this.id === null) return;
      if (this.pointerIsDown()) this.wait();
      else this.onOver();
    }, GESTURE_MS);
  }
}
