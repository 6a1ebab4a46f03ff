import { NO_SLOT, ENTERING, HoldState } from '../state/heldNotes';
import type { EngineState } from '../state/engineState';

/** How notes end: by their keys, their length, a fade, what is left, all at once. */
export class NoteEnder {
  constructor(private readonly state: EngineState) {}

  /** A key comes up: every note that it started ends where it began. @hotpath */
  release(slot: number, velocity: number): void {
    const { state } = this;
    const { holds } = state;
    let hold = holds.head[slot];
    holds.head[slot] = -1;
    while (hold >= 0) {
      const next = holds.next(hold);
      holds.cutLoose(hold);
      if (holds.isPlain(hold)) this.finish(hold, velocity);
      else if (holds.state(hold) === HoldState.arpeggiated) this.discard(hold);
      else if (holds.state(hold) !== HoldState.sounding) {
        holds.setState(hold, HoldState.waitingReleased);
        holds.heldForMs[hold] = state.clock[0] - holds.pressedAtMs[hold];
      }
      hold = next;
    }
  }

  /** Ends a sounding hold that hangs on no slot. @hotpath */
  finish(hold: number, velocity: number): void {
    const { holds, lanes, holdsOf } = this.state;
    const layer = holds.layer(hold);
    if (layer >= 0) holdsOf[layer]--;
    const lane = holds.lane(hold);
    const key = holds.key(hold);
    holds.drop(hold);
    lanes.noteOff(lane, key, velocity);
  }

  /** Drops a hold that never sounded. */
  discard(hold: number): void {
    const { holds, holdsOf } = this.state;
    if (holds.layer(hold) >= 0) holdsOf[holds.layer(hold)]--;
    holds.unhang(hold);
    holds.drop(hold);
  }

  /** Ends a hold, whatever its state and wherever it hangs. */
  end(hold: number): void {
    if (this.state.holds.state(hold) !== HoldState.sounding) return this.discard(hold);
    this.state.holds.unhang(hold);
    this.finish(hold, 64);
  }

  /** A note's given length is over. */
  noteEnd(hold: number, generation: number): void {
    if (this.state.holds.generation(hold) === generation && this.state.holds.state(hold) !== HoldState.free)
      this.end(hold);
  }

  /** Ends all notes of a layer, or (with a fade's serial) those that the fade took. */
  endLayer(layer: number, fadeSerial = 0): void {
    const { holds } = this.state;
    for (let i = holds.activeCount - 1; i >= 0; i--) {
      const hold = holds.active[i];
      if (holds.layer(hold) === layer && (fadeSerial === 0 || holds.fadeSerial(hold) === fadeSerial)) this.end(hold);
    }
  }

  /** Marks the sounding notes of a layer as taken by a fade; those that still wait fall away. */
  takeIntoFade(layer: number, fadeSerial: number): void {
    const { holds } = this.state;
    for (let i = holds.activeCount - 1; i >= 0; i--) {
      const hold = holds.active[i];
      if (holds.layer(hold) !== layer || holds.fadeSerial(hold) !== 0) continue;
      if (holds.state(hold) === HoldState.sounding) holds.setFadeSerial(hold, fadeSerial);
      else this.discard(hold);
    }
  }

  /** Keeps what sounds now, whatever its keys do. */
  keep(): void {
    const { holds } = this.state;
    for (let i = 0; i < holds.activeCount; i++) {
      const hold = holds.active[i];
      // What the arpeggiator plays ends by itself.
      const endsByItself = holds.slot(hold) === NO_SLOT && !holds.isKept(hold);
      if (holds.layer(hold) >= 0 && holds.state(hold) === HoldState.sounding && !endsByItself)
        holds.setKept(hold, true);
    }
  }

  /** Lets go of what was kept: notes whose keys are up end. */
  letGo(): void {
    const { holds } = this.state;
    for (let i = holds.activeCount - 1; i >= 0; i--) {
      const hold = holds.active[i];
      if (!holds.isKept(hold)) continue;
      holds.setKept(hold, false);
      if (holds.slot(hold) === NO_SLOT) this.finish(hold, 64);
    }
  }

  /** Every key of an input channel goes up. */
  endKeys(inputChannel: number): void {
    for (let slot = inputChannel << 7; slot < (inputChannel + 1) << 7; slot++)
      if (this.state.holds.head[slot] >= 0) this.release(slot, 64);
  }

  /** Loops of a layer that is left end with it: no key holds them. */
  endDetached(layer: number): void {
    const { holds } = this.state;
    for (let i = holds.activeCount - 1; i >= 0; i--) {
      const hold = holds.active[i];
      if (holds.layer(hold) === layer && holds.slot(hold) === NO_SLOT && !holds.isKept(hold)) this.end(hold);
    }
  }

  /** Ends the notes that the patch being left had sent as it was entered. */
  endEntering(): void {
    this.endLayer(ENTERING);
  }

  /** Ends everything that sounds or waits. */
  endAll(): void {
    const { holds } = this.state;
    while (holds.activeCount > 0) this.end(holds.active[holds.activeCount - 1]);
  }
}
