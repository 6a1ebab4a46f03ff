import type { OutPort } from '../ports/port';
import type { After } from '../timer';

/** A simulated device that is sent to. */
export interface HeardDevice {
  readonly name: string;
  hear(status: number, data1: number, data2: number): void;
  hearSysex(bytes: Uint8Array): void;
}

/** The cable to a simulated device: what is stamped ahead arrives at its time, and all in the order of the stamps. */
export class OnTime implements OutPort {
  readonly origin = 'bench';
  /** By time. */
  private readonly waiting: { atMs: number; status: number; data1: number; data2: number }[] = [];

  constructor(
    private readonly device: HeardDevice,
    private readonly nowMs: () => number,
    private readonly after: After,
  ) {}

  get name(): string {
    return this.device.name;
  }

  send(status: number, data1: number, data2: number, atMs: number): void {
    const nowMs = this.nowMs();
    if (atMs <= nowMs) {
      this.arrive(atMs);
      return this.device.hear(status, data1, data2);
    }
    const place = this.waiting.findIndex((other) => other.atMs > atMs);
    this.waiting.splice(place < 0 ? this.waiting.length : place, 0, { atMs, status, data1, data2 });
    this.after(atMs - nowMs, () => this.arrive(this.nowMs()));
  }

  private arrive(untilMs: number): void {
    while (this.waiting.length > 0 && this.waiting[0].atMs <= untilMs) {
      const { status, data1, data2 } = this.waiting.shift()!;
      this.device.hear(status, data1, data2);
    }
  }

  sendSysex(bytes: Uint8Array): void {
    this.device.hearSysex(bytes);
  }
}
