/** One after another, in the order in which they came, unless one is wanted sooner. */
export class Turns {
  private isTaken = false;
  private waiting: { key: string; go: () => void }[] = [];

  /** Does something when it is its turn. */
  async take<Result>(key: string, act: () => Promise<Result>): Promise<Result> {
    if (this.isTaken) await new Promise<void>((go) => this.waiting.push({ key, go }));
    this.isTaken = true;
    try {
      return await act();
    } finally {
      const next = this.waiting.shift();
      if (next) next.go();
      else this.isTaken = false;
    }
  }

  /** What is needed now goes before all that waits. */
  hurry(key: string): void {
    const at = this.waiting.findIndex((one) => one.key === key);
    if (at > 0) this.waiting.unshift(...this.waiting.splice(at, 1));
  }
}
