const MOST = 256;

/** Events of a track that were put off, by their time; those of one time in the order in which they came. */
export class LateEvents {
  private readonly events = new Int32Array(MOST);
  private readonly times = new Float64Array(MOST);
  private count = 0;

  /** When the first of them is due; `Infinity`: there is none. @hotpath */
  get nextMs(): number {
    return this.count > 0 ? this.times[0] : Infinity;
  }

  get isFull(): boolean {
    return this.count === MOST;
  }

  /** @hotpath */
  add(event: number, atMs: number): void {
    let place = this.count++;
    for (; place > 0 && this.times[place - 1] > atMs; place--) {
      this.events[place] = this.events[place - 1];
      this.times[place] = this.times[place - 1];
    }
    this.events[place] = event;
    this.times[place] = atMs;
  }

  /** Takes the first of them out. @hotpath */
  take(): number {
    const event = this.events[0];
    this.events.copyWithin(0, 1, this.count);
    this.times.copyWithin(0, 1, this.count--);
    return event;
  }

  clear(): void {
    this.count = 0;
  }
}
