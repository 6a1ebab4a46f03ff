const STRIDE = 8;
const PATCH = 0;
const PLAN = 1;
const PLAN_END = 2;
const VALUES = 3;
const MUTES = 4;
const ENTRY = 5;
const RAMP_MS = 6;
/** Flags in the low bits, the keymap above them. */
const FLAGS = 7;

const ENTERS_WITH_MESSAGES = 1;
const LEAVES_WITH_MESSAGES = 2;
const SETS_PARAMETERS = 4;
const SENDS = 8;
const LIVE_SOUND = 16;
const KEYMAP_SHIFT = 5;

/** Where a position finds what its recall reads, and what that recall has to do. */
export interface RecallRecord {
  /** Number of its patch. */
  readonly patch: number;
  /** First row of its layers' plans, and one past the last. */
  readonly plan: number;
  readonly planEnd: number;
  /** First number of its balance in `values`, and first flag of its mutes in `mutes`. */
  readonly values: number;
  readonly mutes: number;
  readonly rampMs: number;
  readonly keymap: number;
  readonly entersWithMessages: boolean;
  readonly leavesWithMessages: boolean;
  readonly setsParameters: boolean;
  /** Some layer sends to a shared effect. */
  readonly sends: boolean;
  /** Live sound feeds some layer. */
  readonly hasLiveSound: boolean;
}

/** By how much the numbers of a song's records grow where it stands in the set. */
export interface RecordOffsets {
  readonly patch: number;
  readonly plan: number;
  readonly values: number;
  readonly mutes: number;
}

/** A `RecallRecord` a position, eight numbers each, one behind the other. */
export class RecallRecords {
  private readonly cells: Int32Array;

  /** @param count of positions. */
  constructor(readonly count: number) {
    this.cells = new Int32Array(count * STRIDE);
  }

  set(position: number, record: RecallRecord): void {
    this.cells.set(
      [
        record.patch,
        record.plan,
        record.planEnd,
        record.values,
        record.mutes,
        0,
        record.rampMs,
        (record.entersWithMessages ? ENTERS_WITH_MESSAGES : 0) |
          (record.leavesWithMessages ? LEAVES_WITH_MESSAGES : 0) |
          (record.setsParameters ? SETS_PARAMETERS : 0) |
          (record.sends ? SENDS : 0) |
          (record.hasLiveSound ? LIVE_SOUND : 0) |
          (record.keymap << KEYMAP_SHIFT),
      ],
      position * STRIDE,
    );
  }

  /** Copies a song's records, from a position on, as those of an entry. */
  place(song: RecallRecords, position: number, entry: number, offsets: RecordOffsets): void {
    const { cells } = this;
    cells.set(song.cells, position * STRIDE);
    for (let at = position * STRIDE; at < (position + song.count) * STRIDE; at += STRIDE) {
      cells[at + PATCH] += offsets.patch;
      cells[at + PLAN] += offsets.plan;
      cells[at + PLAN_END] += offsets.plan;
      cells[at + VALUES] += offsets.values;
      cells[at + MUTES] += offsets.mutes;
      cells[at + ENTRY] = entry;
    }
  }

  /** @hotpath */
  patch(position: number): number {
    return this.cells[position * STRIDE + PATCH];
  }

  /** @hotpath */
  plan(position: number): number {
    return this.cells[position * STRIDE + PLAN];
  }

  /** @hotpath */
  planEnd(position: number): number {
    return this.cells[position * STRIDE + PLAN_END];
  }

  /** @hotpath */
  values(position: number): number {
    return this.cells[position * STRIDE + VALUES];
  }

  /** @hotpath */
  mutes(position: number): number {
    return this.cells[position * STRIDE + MUTES];
  }

  /** Number of the entry that the position belongs to. @hotpath */
  entry(position: number): number {
    return this.cells[position * STRIDE + ENTRY];
  }

  /** @hotpath */
  rampMs(position: number): number {
    return this.cells[position * STRIDE + RAMP_MS];
  }

  /** @hotpath */
  keymap(position: number): number {
    return this.cells[position * STRIDE + FLAGS] >> KEYMAP_SHIFT;
  }

  /** @hotpath */
  entersWithMessages(position: number): boolean {
    return (this.cells[position * STRIDE + FLAGS] & ENTERS_WITH_MESSAGES) !== 0;
  }

  /** @hotpath */
  leavesWithMessages(position: number): boolean {
    return (this.cells[position * STRIDE + FLAGS] & LEAVES_WITH_MESSAGES) !== 0;
  }

  /** @hotpath */
  setsParameters(position: number): boolean {
    return (this.cells[position * STRIDE + FLAGS] & SETS_PARAMETERS) !== 0;
  }

  /** @hotpath */
  sends(position: number): boolean {
    return (this.cells[position * STRIDE + FLAGS] & SENDS) !== 0;
  }

  /** @hotpath */
  hasLiveSound(position: number): boolean {
    return (this.cells[position * STRIDE + FLAGS] & LIVE_SOUND) !== 0;
  }
}
