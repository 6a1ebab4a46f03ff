import { MAX_INPUT_CHANNELS } from './limits';

/** What a hold does; `free`: it is none. */
export const HoldState = {
  free: 0,
  /** Its note-on has been sent. */
  sounding: 1,
  /** Held back until its sound is ready. */
  waiting: 2,
  /** Held back, and its key is up already. */
  waitingReleased: 3,
  /** Held for the arpeggiator, which plays it in its turn. */
  arpeggiated: 4,
} as const;
export type HoldState = (typeof HoldState)[keyof typeof HoldState];

/** Slot of notes that no key holds. */
export const NO_SLOT = -1;
/** Layer number of notes that a patch sends as it is entered. */
export const ENTERING = -2;
/** Layer number of notes that the timeline plays. */
export const TIMELINE = -3;

/** A note that is about to be held; whoever makes notes keeps one of these and writes it anew for each. */
export interface NoteToHold {
  /** `NO_SLOT`: no key holds it. */
  slot: number;
  /** The layer's number in the engine, or `ENTERING`. */
  layer: number;
  lane: number;
  /** As it sounds, 0–127. */
  key: number;
  velocity: number;
}

// A hold is eight numbers that stand together, so that a note touches one line of memory.
const NEXT = 0;
const SLOT = 1;
const LAYER = 2;
const LANE = 3;
/** Key, velocity, state, and whether “hold” keeps it: eight bits each. */
const NOTE = 4;
const FADE = 5;
const PLACE = 6;
const GENERATION = 7;

/**
 * The held-note table. A *hold* is one layer's note under one key; the holds of a key hang on its slot
 * (`(port * 16 + channel) * 128 + key`). Everything is allocated here, once.
 */
export class HeldNotes {
  /** First hold of a slot, −1 when its key is up. */
  readonly head = new Int32Array(MAX_INPUT_CHANNELS * 128).fill(-1);
  readonly pressedAtMs: Float64Array;
  readonly heldForMs: Float64Array;
  /** The holds in use, densely, in no promised order. */
  readonly active: Int32Array;
  activeCount = 0;
  private readonly cells: Int32Array;
  private readonly free: Int32Array;
  private freeCount: number;

  constructor(capacity: number) {
    this.cells = new Int32Array(capacity * 8);
    this.pressedAtMs = new Float64Array(capacity);
    this.heldForMs = new Float64Array(capacity);
    this.active = new Int32Array(capacity);
    this.free = Int32Array.from({ length: capacity }, (_, i) => capacity - 1 - i);
    this.freeCount = capacity;
  }

  /** @hotpath */
  get isFull(): boolean {
    return this.freeCount === 0;
  }

  next(hold: number): number {
    return this.cells[(hold << 3) + NEXT];
  }

  slot(hold: number): number {
    return this.cells[(hold << 3) + SLOT];
  }

  layer(hold: number): number {
    return this.cells[(hold << 3) + LAYER];
  }

  lane(hold: number): number {
    return this.cells[(hold << 3) + LANE];
  }

  key(hold: number): number {
    return this.cells[(hold << 3) + NOTE] & 127;
  }

  velocity(hold: number): number {
    return (this.cells[(hold << 3) + NOTE] >> 8) & 127;
  }

  state(hold: number): HoldState {
    return ((this.cells[(hold << 3) + NOTE] >> 16) & 255) as HoldState;
  }

  /** Whether it sounds, and its key alone decides for how long. @hotpath */
  isPlain(hold: number): boolean {
    return this.cells[(hold << 3) + NOTE] >> 16 === HoldState.sounding;
  }

  /** Whether it goes on without its key, until “hold” is let go. */
  isKept(hold: number): boolean {
    return this.cells[(hold << 3) + NOTE] >> 24 !== 0;
  }

  setKept(hold: number, kept: boolean): void {
    const at = (hold << 3) + NOTE;
    this.cells[at] = (this.cells[at] & 0xff_ffff) | (kept ? 1 << 24 : 0);
  }

  setState(hold: number, state: HoldState): void {
    const at = (hold << 3) + NOTE;
    this.cells[at] = (this.cells[at] & 0xff00_ffff) | (state << 16);
  }

  /** Serial of the fade that took it, or 0. */
  fadeSerial(hold: number): number {
    return this.cells[(hold << 3) + FADE];
  }

  setFadeSerial(hold: number, serial: number): void {
    this.cells[(hold << 3) + FADE] = serial;
  }

  /** Tells an event about an earlier hold in the same place from one about this. */
  generation(hold: number): number {
    return this.cells[(hold << 3) + GENERATION];
  }

  /** A hold in use, hung on its slot; −1 when there is none left. @hotpath */
  take(note: NoteToHold, state: HoldState): number {
    if (this.freeCount === 0) return -1;
    const { slot } = note;
    const hold = this.free[--this.freeCount];
    const { cells } = this;
    const at = hold << 3;
    if (slot === NO_SLOT) cells[at + NEXT] = -1;
    else {
      cells[at + NEXT] = this.head[slot];
      this.head[slot] = hold;
    }
    cells[at + SLOT] = slot;
    cells[at + LAYER] = note.layer;
    cells[at + LANE] = note.lane;
    cells[at + NOTE] = note.key | (note.velocity << 8) | (state << 16);
    cells[at + FADE] = 0;
    cells[at + PLACE] = this.activeCount;
    cells[at + GENERATION]++;
    this.active[this.activeCount++] = hold;
    return hold;
  }

  /** Takes a hold off the key of which it is the first; the caller has moved the slot's head. @hotpath */
  cutLoose(hold: number): void {
    this.cells[(hold << 3) + SLOT] = NO_SLOT;
    this.cells[(hold << 3) + NEXT] = -1;
  }

  /** Takes a hold off its slot, wherever in its list it hangs: its key no longer concerns it. */
  unhang(hold: number): void {
    const { cells } = this;
    const slot = this.slot(hold);
    if (slot === NO_SLOT) return;
    if (this.head[slot] === hold) this.head[slot] = this.next(hold);
    else {
      let before = this.head[slot];
      while (this.next(before) !== hold) before = this.next(before);
      cells[(before << 3) + NEXT] = this.next(hold);
    }
    this.cutLoose(hold);
  }

  /** Gives a hold back; it must hang on no slot. @hotpath */
  drop(hold: number): void {
    const { cells } = this;
    cells[(hold << 3) + NOTE] = 0;
    const last = this.active[--this.activeCount];
    const place = cells[(hold << 3) + PLACE];
    this.active[place] = last;
    cells[(last << 3) + PLACE] = place;
    this.free[this.freeCount++] = hold;
  }
}
