import { WHEEL_CENTRE } from '../../midi/status';
import { TrackKind, type Track, type TrackTouch } from '../../timeline';
import type { Address } from '../compile/compiled';
import type { EngineState } from '../state/engineState';
import { pedalOf } from '../state/inputs';
import { PRESSURE_SLOT, VALUE_SLOTS, WHEEL_SLOT } from '../state/limits';

const EXPRESSION = 11;
const MODULATION = 1;
/** Where a slot rests that nobody has ever moved (recommended practice RP-015); −1: nobody can know. */
function restOf(slot: number): number {
  if (slot === PRESSURE_SLOT || slot === MODULATION || pedalOf(slot) >= 0) return 0;
  if (slot === WHEEL_SLOT) return WHEEL_CENTRE;
  return slot === EXPRESSION ? 127 : -1;
}

const none = (count: number) => new Int32Array(count).fill(-1);

/**
 * What a track has set: values by touch (a lane and slot), pedals that it holds down, parameters by number. And what of
 * it counts at a place: the last event of each, folded from the start.
 */
export class TouchMemory {
  private track!: Track<Address>;
  /** By touch: the value before the track first set it, −1 unknown; whether it has set it; whether it holds it down. */
  private before = new Int32Array(0);
  private touched = new Uint8Array(0);
  private held = new Uint8Array(0);
  /** By parameter: what the track last sent of it; −1: nothing. */
  private dataMsb = new Int32Array(0);
  private dataLsb = new Int32Array(0);
  /** The last event of each, as folded: by touch, by parameter; −1: none. */
  private lastTouch = new Int32Array(0);
  private lastMsb = new Int32Array(0);
  private lastLsb = new Int32Array(0);
  /** By lane and controller 98–101: the event that last selected there. */
  private readonly lastSelect = new Map<number, number>();

  constructor(private readonly state: EngineState) {}

  load(track: Track<Address>): void {
    this.track = track;
    const { touches, parameters } = track;
    this.before = none(touches.length);
    this.touched = new Uint8Array(touches.length);
    this.held = new Uint8Array(touches.length);
    this.dataMsb = none(parameters.length);
    this.dataLsb = none(parameters.length);
    this.makeFolds();
  }

  private makeFolds(): void {
    const { touches, parameters } = this.track;
    this.lastTouch = none(touches.length);
    this.lastMsb = none(parameters.length);
    this.lastLsb = none(parameters.length);
  }

  /** After an edit: what was set stays known; what is not set any more is let go of. */
  replace(track: Track<Address>): void {
    const { track: old, before, touched, held, dataMsb, dataLsb } = this;
    const keyOf = ({ lane, slot }: TrackTouch): number => lane * VALUE_SLOTS + slot;
    const known = new Map(track.touches.map((touch, i) => [keyOf(touch), i]));
    for (let i = 0; i < old.touches.length; i++) if (held[i] === 1 && !known.has(keyOf(old.touches[i]))) this.lift(i);
    this.load(track);
    old.touches.forEach((touch, i) => {
      const now = known.get(keyOf(touch));
      if (now === undefined) return;
      this.before[now] = before[i];
      this.touched[now] = touched[i];
      this.held[now] = held[i];
    });
    old.parameters.forEach((parameter, i) => {
      const now = track.parameters.findIndex(
        ({ lane, isRegistered, msb, lsb }) =>
          lane === parameter.lane &&
          isRegistered === parameter.isRegistered &&
          msb === parameter.msb &&
          lsb === parameter.lsb,
      );
      if (now < 0) return;
      this.dataMsb[now] = dataMsb[i];
      this.dataLsb[now] = dataLsb[i];
    });
  }

  private lastSent(lane: number, slot: number): number {
    return this.state.lanes.lastSent[lane * VALUE_SLOTS + slot];
  }

  /** Sets a value. A pedal is held like a key: it comes up when its last owner lets go. @hotpath */
  set(touch: number, value: number): void {
    const { lane, slot } = this.track.touches[touch];
    const { lanes } = this.state;
    if (this.touched[touch] === 0) {
      this.touched[touch] = 1;
      this.before[touch] = this.lastSent(lane, slot);
    }
    const pedal = pedalOf(slot);
    if (pedal < 0) return lanes.sendValue(lane, slot, value);
    if (value >= 64 && this.held[touch] === 0) {
      this.held[touch] = 1;
      lanes.pedalDown(lane, pedal, value);
    } else if (value >= 64) lanes.sendValue(lane, slot, value);
    else if (this.held[touch] === 1) {
      this.held[touch] = 0;
      lanes.pedalUp(lane, pedal, value);
    } else if (lanes.pedalOwners[lane * 3 + pedal] === 0) lanes.sendValue(lane, slot, value);
  }

  /** Lets the pedals go that the track holds down; or one. */
  lift(only = -1): void {
    for (let touch = only < 0 ? 0 : only; touch < (only < 0 ? this.held.length : only + 1); touch++) {
      if (this.held[touch] === 0) continue;
      this.held[touch] = 0;
      const { lane, slot } = this.track.touches[touch];
      this.state.lanes.pedalUp(lane, pedalOf(slot), 0);
    }
  }

  /** @hotpath */
  select(lane: number, controller: number, value: number): void {
    this.state.lanes.sendValue(lane, controller, value);
  }

  /** @hotpath */
  setData(parameter: number, controller: number, value: number): void {
    if (controller === 6) this.dataMsb[parameter] = value;
    else this.dataLsb[parameter] = value;
    this.state.lanes.sendValue(this.track.parameters[parameter].lane, controller, value);
  }

  /** Finds the last event of each thing before an event. @returns the last recall, −1: none. */
  fold(end: number): number {
    const { kinds, a, c } = this.track;
    this.lastSelect.clear();
    this.lastTouch.fill(-1);
    this.lastMsb.fill(-1);
    this.lastLsb.fill(-1);
    let lastRecall = -1;
    for (let event = 0; event < end; event++) {
      const kind = kinds[event];
      if (kind === TrackKind.value) this.lastTouch[a[event]] = event;
      else if (kind === TrackKind.select) {
        // Taken out first, so that they stand in the order in which they were last sent.
        this.lastSelect.delete(a[event] * 128 + c[event]);
        this.lastSelect.set(a[event] * 128 + c[event], event);
      } else if (kind === TrackKind.data) (c[event] === 6 ? this.lastMsb : this.lastLsb)[a[event]] = event;
      else if (kind === TrackKind.recall) lastRecall = event;
    }
    return lastRecall;
  }

  /** What the track has set, and sets only later again, goes back to what it was. */
  restoreUntouched(): void {
    const { touches } = this.track;
    for (let touch = 0; touch < touches.length; touch++) {
      if (this.touched[touch] === 0 || this.lastTouch[touch] >= 0) continue;
      this.touched[touch] = 0;
      const { lane, slot } = touches[touch];
      if (this.held[touch] === 1) this.lift(touch);
      else if (pedalOf(slot) < 0) {
        const value = this.before[touch] >= 0 ? this.before[touch] : restOf(slot);
        if (value >= 0) this.state.lanes.bringTo(lane, slot, value);
      }
    }
  }

  /**
   * The value that counts, where it is not there already.
   * @param unused only where the present patch plays nothing, and pedals
   */
  bring(event: number, touch: number, value: number, unused: boolean): void {
    if (this.lastTouch[touch] !== event) return;
    const { lane, slot } = this.track.touches[touch];
    if (unused && pedalOf(slot) < 0 && this.state.lanes.users[lane] > 0) return;
    const isBank = slot === 0 || slot === 32;
    const pedal = pedalOf(slot);
    const mustHold = pedal >= 0 && value >= 64 && this.held[touch] === 0;
    if (isBank || mustHold || this.lastSent(lane, slot) !== value) return this.set(touch, value);
    if (this.touched[touch] === 1) return;
    this.touched[touch] = 1;
    this.before[touch] = value;
  }

  /** A parameter whose data is another than was last sent: its number and all of its data, together. */
  bringData(event: number, parameter: number): void {
    const { b, parameters } = this.track;
    if (event !== Math.max(this.lastMsb[parameter], this.lastLsb[parameter])) return;
    const msb = this.lastMsb[parameter] < 0 ? -1 : b[this.lastMsb[parameter]];
    const lsb = this.lastLsb[parameter] < 0 ? -1 : b[this.lastLsb[parameter]];
    if (msb === this.dataMsb[parameter] && lsb === this.dataLsb[parameter]) return;
    const { lane, isRegistered, msb: high, lsb: low } = parameters[parameter];
    this.select(lane, isRegistered ? 101 : 99, high);
    this.select(lane, isRegistered ? 100 : 98, low);
    if (msb >= 0) this.setData(parameter, 6, msb);
    if (lsb >= 0) this.setData(parameter, 38, lsb);
  }

  /** Parameter numbers as they were last selected, so that data that follows goes where it belongs. */
  bringSelections(): void {
    const { a, b, c } = this.track;
    for (const event of this.lastSelect.values()) this.select(a[event], c[event], b[event]);
  }

  /** An output that was away has forgotten what the track had set there. */
  forget(firstLane: number): void {
    this.track.parameters.forEach(({ lane }, i) => {
      if (lane < firstLane || lane >= firstLane + 16) return;
      this.dataMsb[i] = -1;
      this.dataLsb[i] = -1;
    });
  }
}
