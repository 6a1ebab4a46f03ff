import { MAX_INPUT_CHANNELS } from './limits';

export const FREE = 0;
/** Its note-on has been sent. */
export const SOUNDING = 1;
/** Held back until its sound is ready. */
export const WAITING = 2;
/** Held back, and its key is up already. */
export const WAITING_RELEASED = 3;

/** Slot of notes that no key holds. */
export const NO_SLOT = -1;
/** Layer number of notes that a patch sends as it is entered. */
export const ENTERING = -2;

/**
 * The held-note table. A *hold* is one layer's note under one key; the holds of a key hang on its slot
 * (`(port * 16 + channel) * 128 + key`). Everything is allocated here, once.
 */
export class HeldNotes {
  /** First hold of a slot, −1 when its key is up. */
  readonly head = new Int32Array(MAX_INPUT_CHANNELS * 128).fill(-1);
  readonly next: Int32Array;
  readonly slot: Int32Array;
  readonly layer: Int32Array;
  readonly lane: Int32Array;
  readonly key: Uint8Array;
  readonly velocity: Uint8Array;
  readonly state: Uint8Array;
  /** Of the fade that took it, or 0. */
  readonly fadeSerial: Int32Array;
  /** Tells an event about an earlier hold in the same place from one about this. */
  readonly generation: Int32Array;
  readonly pressedAtMs: Float64Array;
  readonly heldForMs: Float64Array;
  /** The holds in use, densely, in no promised order. */
  readonly active: Int32Array;
  activeCount = 0;
  private readonly place: Int32Array;
  private readonly free: Int32Array;
  private freeCount: number;

  constructor(capacity: number) {
    this.next = new Int32Array(capacity).fill(-1);
    this.slot = new Int32Array(capacity).fill(NO_SLOT);
    this.layer = new Int32Array(capacity);
    this.lane = new Int32Array(capacity);
    this.key = new Uint8Array(capacity);
    this.velocity = new Uint8Array(capacity);
    this.state = new Uint8Array(capacity);
    this.fadeSerial = new Int32Array(capacity);
    this.generation = new Int32Array(capacity);
    this.pressedAtMs = new Float64Array(capacity);
    this.heldForMs = new Float64Array(capacity);
    this.active = new Int32Array(capacity);
    this.place = new Int32Array(capacity);
    this.free = Int32Array.from({ length: capacity }, (_, i) => capacity - 1 - i);
    this.freeCount = capacity;
  }

  /** A hold in use, hung on its slot; −1 when there is none left. @hotpath */
  take(slot: number, layer: number, lane: number, key: number, velocity: number, state: number): number {
    if (this.freeCount === 0) return -1;
    const hold = this.free[--this.freeCount];
    this.slot[hold] = slot;
    this.layer[hold] = layer;
    this.lane[hold] = lane;
    this.key[hold] = key;
    this.velocity[hold] = velocity;
    this.state[hold] = state;
    this.fadeSerial[hold] = 0;
    this.generation[hold] = (this.generation[hold] + 1) | 0;
    if (slot === NO_SLOT) this.next[hold] = -1;
    else {
      this.next[hold] = this.head[slot];
      this.head[slot] = hold;
    }
    this.place[hold] = this.activeCount;
    this.active[this.activeCount++] = hold;
    return hold;
  }

  /** Takes a hold off its slot: its key no longer concerns it. */
  unhang(hold: number): void {
    const slot = this.slot[hold];
    if (slot === NO_SLOT) return;
    if (this.head[slot] === hold) this.head[slot] = this.next[hold];
    else {
      let before = this.head[slot];
      while (this.next[before] !== hold) before = this.next[before];
      this.next[before] = this.next[hold];
    }
    this.slot[hold] = NO_SLOT;
    this.next[hold] = -1;
  }

  /** Gives a hold back; it must hang on no slot. @hotpath */
  drop(hold: number): void {
    this.state[hold] = FREE;
    const last = this.active[--this.activeCount];
    const place = this.place[hold];
    this.active[place] = last;
    this.place[last] = place;
    this.free[this.freeCount++] = hold;
  }
}
