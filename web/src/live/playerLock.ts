const LOCK = 'player';

/**
 * Of all windows of this browser one plays. The lock ends with the window, however that ends; a window that waits gets
 * it when the other one closes, or takes it over when the player asks.
 */
export class PlayerLock {
  private release: (() => void) | null = null;

  constructor(
    private readonly told: { onHeld: () => void; onElsewhere: () => void; onLost: () => void },
    private readonly locks: LockManager | undefined = navigator.locks,
  ) {}

  /** Takes it if it is free; else waits for it. */
  ask(): void {
    const { locks } = this;
    // A browser without locks has one window as far as we know.
    if (!locks) return this.told.onHeld();
    void locks
      .request(LOCK, { ifAvailable: true }, (lock) => {
        if (lock !== null) return this.hold();
        this.told.onElsewhere();
        this.wait();
        return undefined;
      })
      .catch(() => this.lost());
  }

  /** Takes it from the other window. */
  takeOver(): void {
    void this.locks?.request(LOCK, { steal: true }, () => this.hold()).catch(() => this.lost());
  }

  private wait(): void {
    void this.locks?.request(LOCK, () => (this.release === null ? this.hold() : undefined)).catch(() => this.lost());
  }

  private hold(): Promise<void> {
    this.told.onHeld();
    return new Promise((resolve) => {
      this.release = resolve;
    });
  }

  /** Another window has taken it over. */
  private lost(): void {
    this.release = null;
    this.told.onLost();
    this.told.onElsewhere();
    this.wait();
  }
}
