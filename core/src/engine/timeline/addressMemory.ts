import { TrackKind, type Track } from '../../timeline';
import type { Address } from '../compile/compiled';
import { addressFor } from '../recall/addresses';
import type { EngineState } from '../state/engineState';

const UNKNOWN = -1;

/**
 * Where a track has put outboard gear: by address lane, where it stood before, and the last event of a stretch that puts
 * it anywhere.
 */
export class AddressMemory {
  private lanes: Int32Array = new Int32Array(0);
  /** What a lane stood at before the track first moved it; program −1: nobody knew. Written while nothing is played. */
  private before: { msb: number; lsb: number; program: number }[] = [];
  private touched: Uint8Array = new Uint8Array(0);
  private last: Int32Array = new Int32Array(0);

  constructor(private readonly state: EngineState) {}

  load({ addressLanes }: Track<Address>): void {
    this.lanes = addressLanes;
    this.before = Array.from(addressLanes, () => ({ msb: UNKNOWN, lsb: UNKNOWN, program: UNKNOWN }));
    this.touched = new Uint8Array(addressLanes.length);
    this.last = new Int32Array(addressLanes.length).fill(-1);
  }

  /** After an edit: what was moved stays known. */
  replace(track: Track<Address>): void {
    const { lanes, before, touched } = this;
    this.load(track);
    lanes.forEach((lane, i) => {
      const now = this.lanes.indexOf(lane);
      if (now < 0) return;
      this.before[now] = before[i];
      this.touched[now] = touched[i];
    });
  }

  /** The track is about to move a lane. @hotpath */
  note(addressLane: number): void {
    if (this.touched[addressLane] === 1) return;
    this.touched[addressLane] = 1;
    const { lanes } = this.state;
    const lane = this.lanes[addressLane];
    const before = this.before[addressLane];
    before.msb = lanes.msb[lane];
    before.lsb = lanes.lsb[lane];
    before.program = lanes.program[lane];
  }

  /** The recall of a place is about to move what its patch needs. @hotpath */
  noteRecalled(pairs: Int32Array | undefined): void {
    if (pairs !== undefined) for (let i = 0; i < pairs.length; i += 2) this.note(pairs[i]);
  }

  /** Finds the last event before an event that puts each lane anywhere. */
  fold({ kinds, a, recalled }: Track<Address>, end: number): void {
    this.last.fill(-1);
    for (let event = 0; event < end; event++) {
      if (kinds[event] === TrackKind.address) this.last[a[event]] = event;
      const pairs = kinds[event] === TrackKind.recall ? recalled[a[event]] : undefined;
      if (pairs !== undefined) for (let i = 0; i < pairs.length; i += 2) this.last[pairs[i]] = event;
    }
  }

  isLast(event: number, addressLane: number): boolean {
    return this.last[addressLane] === event;
  }

  /** Lanes that the track has moved, and moves only later again, go back to where they stood. */
  restoreUntouched(select: (lane: number, address: Address) => void): void {
    for (let i = 0; i < this.lanes.length; i++) {
      if (this.touched[i] === 0 || this.last[i] >= 0) continue;
      this.touched[i] = 0;
      const { msb, lsb, program } = this.before[i];
      if (program >= 0) select(this.lanes[i], addressFor(msb, lsb, program, []));
    }
  }
}
