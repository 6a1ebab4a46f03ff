import { REASON } from '../reasons';
import { Due, type EngineState } from '../state/engineState';
import { HoldState, NO_SLOT, type NoteToHold } from '../state/heldNotes';
import { MAX_WAIT_MS, MIN_LATE_NOTE_MS } from '../state/limits';
import type { NoteEnder } from './noteEnder';

const MOST_WAITING = 4096;

/** Notes that wait, for their sound or for the beat. */
export class WaitingNotes {
  /** In the order in which they were pressed. */
  private readonly holds = new Int32Array(MOST_WAITING);
  private count = 0;

  constructor(
    private readonly state: EngineState,
    private readonly ender: NoteEnder,
  ) {}

  /** A note waits until its sound is ready, but not for ever. */
  waitForSound(note: NoteToHold): void {
    this.wait(note, MAX_WAIT_MS, 0);
  }

  /** A note waits for the beat; `lengthMs` of what ends by itself, else 0. */
  waitForBeat(note: NoteToHold, waitMs: number, lengthMs: number): void {
    this.wait(note, waitMs, lengthMs);
  }

  private wait(note: NoteToHold, waitMs: number, lengthMs: number): void {
    const { state } = this;
    const { holds } = state;
    const hold = this.count < MOST_WAITING ? holds.take(note, HoldState.waiting) : -1;
    if (hold < 0) return state.ignore(REASON['too-many-notes']);
    state.holdsOf[note.layer]++;
    holds.pressedAtMs[hold] = state.nowMs;
    holds.heldForMs[hold] = lengthMs;
    this.holds[this.count++] = hold;
    if (!state.schedule.add(state.nowMs + waitMs, Due.waited, hold, holds.generation(hold))) this.start(note.lane);
  }

  /** Starts all notes that wait on a lane, in order. */
  start(lane: number): void {
    const { holds } = this.state;
    let kept = 0;
    const count = this.count;
    for (let i = 0; i < count; i++) {
      const hold = this.holds[i];
      if (holds.state(hold) !== HoldState.waiting && holds.state(hold) !== HoldState.waitingReleased) continue;
      if (holds.lane(hold) === lane) this.sound(hold);
      else this.holds[kept++] = hold;
    }
    this.count = kept;
  }

  /** A note has waited long enough: it and those before it on its lane start. */
  waited(hold: number, generation: number): void {
    const { holds } = this.state;
    if (
      holds.generation(hold) !== generation ||
      (holds.state(hold) !== HoldState.waiting && holds.state(hold) !== HoldState.waitingReleased)
    )
      return;
    const lane = holds.lane(hold);
    let kept = 0;
    let done = false;
    for (let i = 0; i < this.count; i++) {
      const other = this.holds[i];
      const waits = holds.state(other) === HoldState.waiting || holds.state(other) === HoldState.waitingReleased;
      if (!waits) continue;
      if (!done && holds.lane(other) === lane) {
        done = other === hold;
        this.sound(other);
      } else this.holds[kept++] = other;
    }
    this.count = kept;
  }

  private sound(hold: number): void {
    const { holds, lanes, schedule, nowMs } = this.state;
    const lane = holds.lane(hold);
    if (lanes.isAway(lane) || !lanes.noteOn(lane, holds.key(hold), holds.velocity(hold)))
      return this.ender.discard(hold);
    const released = holds.state(hold) === HoldState.waitingReleased;
    holds.setState(hold, HoldState.sounding);
    if (!released) {
      // A one-shot that waited for the beat.
      const lengthMs = holds.slot(hold) === NO_SLOT ? holds.heldForMs[hold] : 0;
      if (lengthMs > 0 && !schedule.add(nowMs + lengthMs, Due.noteEnd, hold, holds.generation(hold)))
        this.ender.end(hold);
      return;
    }
    const lengthMs = Math.max(MIN_LATE_NOTE_MS, holds.heldForMs[hold]);
    if (!schedule.add(nowMs + lengthMs, Due.noteEnd, hold, holds.generation(hold))) this.ender.finish(hold, 64);
  }

  /** Nothing waits any more. */
  clear(): void {
    this.count = 0;
  }
}
