import type { Registry } from './state/registry';
import type { EngineInput, StampedInput } from './input';

const MESSAGES = 1 << 16;

/**
 * The last inputs of a run, stamped: a ring of fixed size, so that a night can be looked into and played again. Port
 * messages are written without allocating; when it is full the oldest are lost, and counted.
 */
export class InputLog {
  private readonly atMs: Float64Array;
  /** Port number, status and both data bytes in one; −1: the input stands in `others`. */
  private readonly packed: Float64Array;
  private readonly others: (EngineInput | null)[];
  private written = 0;

  /** @param registry names the devices of port numbers. */
  constructor(
    private readonly registry: Pick<Registry, 'inputs'>,
    readonly capacity = MESSAGES,
  ) {
    this.atMs = new Float64Array(capacity);
    this.packed = new Float64Array(capacity);
    this.others = new Array<EngineInput | null>(capacity).fill(null);
  }

  /** How many inputs are lost from the front. */
  get lost(): number {
    return Math.max(0, this.written - this.capacity);
  }

  get length(): number {
    return Math.min(this.written, this.capacity);
  }

  /** A port message, by the port's number in the registry. @hotpath */
  message(port: number, status: number, data1: number, data2: number, atMs: number): void {
    const at = this.written++ % this.capacity;
    this.atMs[at] = atMs;
    this.packed[at] = ((port * 256 + status) * 128 + data1) * 128 + data2;
    if (this.others[at] !== null) this.others[at] = null;
  }

  add(input: EngineInput, atMs: number): void {
    const at = this.written++ % this.capacity;
    this.atMs[at] = atMs;
    this.packed[at] = -1;
    this.others[at] = input;
  }

  /** Oldest first. */
  entries(): StampedInput[] {
    return Array.from({ length: this.length }, (_, i) => {
      const at = (this.lost + i) % this.capacity;
      return { atMs: this.atMs[at], input: this.others[at] ?? this.unpacked(this.packed[at]) };
    });
  }

  private unpacked(packed: number): EngineInput {
    const data2 = packed % 128;
    const data1 = Math.floor(packed / 128) % 128;
    const status = Math.floor(packed / (128 * 128)) % 256;
    const port = Math.floor(packed / (128 * 128 * 256));
    return { type: 'message', device: this.registry.inputs[port], status, data1, data2 };
  }
}
