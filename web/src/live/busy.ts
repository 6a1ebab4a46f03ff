const LOCK = 'rackle busy';

/** Whether any window of this browser is locked, plays or sounds: then no newer version is put in the place of this one. */
export class Busy {
  private release: (() => void) | null = null;
  private isBusy = false;

  constructor(private readonly locks: LockManager | undefined = navigator.locks) {}

  set(isBusy: boolean): void {
    if (isBusy === this.isBusy) return;
    this.isBusy = isBusy;
    if (!isBusy) {
      this.release?.();
      this.release = null;
      return;
    }
    const held = (): Promise<void> | undefined => {
      // It may be over before it was granted.
      if (!this.isBusy || this.release !== null) return undefined;
      return new Promise((resolve) => (this.release = resolve));
    };
    void this.locks?.request(LOCK, { mode: 'shared' }, held).catch(() => undefined);
  }

  /** Does something while no window is busy. @returns false when one is: nothing was done */
  async whileIdle(work: () => Promise<void>): Promise<boolean> {
    if (this.isBusy) return false;
    if (!this.locks) return work().then(() => true);
    return this.locks.request(LOCK, { ifAvailable: true }, async (lock) => {
      if (lock === null) return false;
      await work();
      return true;
    });
  }
}
