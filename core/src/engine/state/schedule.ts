/**
 * What falls due later: a binary heap by time, then by order of arrival, in arrays made beforehand.
 * Full is a `false`, never a throw.
 */
export class Schedule {
  size = 0;
  private readonly atMs: Float64Array;
  private readonly order: Float64Array;
  private readonly kinds: Uint8Array;
  private readonly subjects: Int32Array;
  private readonly serials: Int32Array;
  private nextOrder = 0;

  constructor(private readonly capacity: number) {
    this.atMs = new Float64Array(capacity + 1);
    this.order = new Float64Array(capacity + 1);
    this.kinds = new Uint8Array(capacity + 1);
    this.subjects = new Int32Array(capacity + 1);
    this.serials = new Int32Array(capacity + 1);
  }

  /** Time of the next thing due, `Infinity` when there is none. @hotpath */
  get nextMs(): number {
    return this.size === 0 ? Infinity : this.atMs[1];
  }

  get nextKind(): number {
    return this.kinds[1];
  }

  get nextSubject(): number {
    return this.subjects[1];
  }

  get nextSerial(): number {
    return this.serials[1];
  }

  /** @hotpath */
  add(atMs: number, kind: number, subject: number, serial: number): boolean {
    if (this.size >= this.capacity) return false;
    let at = ++this.size;
    const order = this.nextOrder++;
    while (at > 1 && this.atMs[at >> 1] > atMs) {
      this.move(at >> 1, at);
      at >>= 1;
    }
    this.atMs[at] = atMs;
    this.order[at] = order;
    this.kinds[at] = kind;
    this.subjects[at] = subject;
    this.serials[at] = serial;
    return true;
  }

  /** Takes the next thing off; read it first. @hotpath */
  drop(): void {
    const last = this.size--;
    if (last === 1) return;
    const atMs = this.atMs[last];
    const order = this.order[last];
    let at = 1;
    for (;;) {
      let child = at * 2;
      if (child >= last) break;
      if (child + 1 < last && this.before(child + 1, child)) child++;
      if (atMs < this.atMs[child] || (atMs === this.atMs[child] && order < this.order[child])) break;
      this.move(child, at);
      at = child;
    }
    this.move(last, at);
  }

  private before(a: number, b: number): boolean {
    return this.atMs[a] < this.atMs[b] || (this.atMs[a] === this.atMs[b] && this.order[a] < this.order[b]);
  }

  private move(from: number, to: number): void {
    this.atMs[to] = this.atMs[from];
    this.order[to] = this.order[from];
    this.kinds[to] = this.kinds[from];
    this.subjects[to] = this.subjects[from];
    this.serials[to] = this.serials[from];
  }
}
