/** Notes that can be on their way at once; more are not handed over ahead. */
const MOST = 64;

/** Notes that have been handed over and go out later: whoever ends one before, ends it once more behind it. */
export class InFlight {
  /** Lane and key of each: `lane << 7 | key`. */
  private readonly keys = new Int32Array(MOST);
  private readonly stamps = new Float64Array(MOST);
  /** 1: what has begun it will end it at its time; 0: it is over, and ends as soon as nobody else holds its key. */
  private readonly owned = new Uint8Array(MOST);
  private count = 0;

  /** Whether there is no room for another. What has gone out by now leaves. @hotpath */
  isFull(nowMs: number): boolean {
    for (let i = this.count - 1; i >= 0; i--) if (this.stamps[i] < nowMs) this.drop(i);
    return this.count === MOST;
  }

  /** @hotpath */
  add(key: number, atMs: number): void {
    this.keys[this.count] = key;
    this.owned[this.count] = 1;
    this.stamps[this.count++] = atMs;
  }

  /** Whether a note of a key is on its way that is to sound. @hotpath */
  isComing(key: number, nowMs: number): boolean {
    const i = this.find(key, nowMs);
    return i >= 0 && this.owned[i] === 1;
  }

  /** What has begun it ends it before its time. */
  disown(key: number, nowMs: number): void {
    const i = this.find(key, nowMs);
    if (i >= 0) this.owned[i] = 0;
  }

  private find(key: number, nowMs: number): number {
    for (let i = 0; i < this.count; i++) if (this.keys[i] === key && this.stamps[i] >= nowMs) return i;
    return -1;
  }

  /** Takes out a note that has not gone out yet. @returns when it will; −1: there is none. @hotpath */
  take(key: number, nowMs: number): number {
    const i = this.find(key, nowMs);
    if (i < 0) return -1;
    const atMs = this.stamps[i];
    this.drop(i);
    return atMs;
  }

  private drop(i: number): void {
    this.count--;
    this.keys[i] = this.keys[this.count];
    this.stamps[i] = this.stamps[this.count];
    this.owned[i] = this.owned[this.count];
  }

  /** When the last of them goes out; `−Infinity`: none is on its way. */
  get lastMs(): number {
    let last = -Infinity;
    for (let i = 0; i < this.count; i++) last = Math.max(last, this.stamps[i]);
    return last;
  }
}
