import type { CompiledRecording } from '../compile/compiled';
import { REASON } from '../reasons';
import { Due, type EngineState } from '../state/engineState';
import { HoldState, NO_SLOT, type NoteToHold } from '../state/heldNotes';
import type { BeatGrid } from './beatGrid';
import type { NoteEnder } from './noteEnder';
import type { WaitingNotes } from './waitingNotes';

/** How recordings, and whatever a foot starts, begin and end. */
export class Recordings {
  constructor(
    private readonly state: EngineState,
    private readonly beats: BeatGrid,
    private readonly ender: NoteEnder,
    private readonly waiting: WaitingNotes,
  ) {}

  /**
   * A recording starts, at once or with the beat. One-shots and loops go on without their key: a one-shot for its
   * length, a loop until it is struck again. Whatever a foot starts (no slot) goes on too, and the next hit stops it.
   */
  start(note: NoteToHold, recording: CompiledRecording): void {
    const { state } = this;
    const { holds, lanes } = state;
    const { plays } = recording;
    const waitMs = this.beats.untilMs(recording.startQuarters, state.nowMs);
    if (plays !== 'oneShot' && (note.slot === NO_SLOT || plays === 'loop')) {
      const running = this.findDetached(note.layer, note.key);
      if (running >= 0) return this.stopAt(running, waitMs);
    }
    if (lanes.blockedBy[note.lane] !== 0) return state.ignore(REASON['not-ready']);
    const lengthMs = plays === 'oneShot' ? lengthAt(recording, note.key) : 0;
    if (plays !== 'whileHeld') note.slot = NO_SLOT;
    if (waitMs > 0) return this.waiting.waitForBeat(note, waitMs, lengthMs);
    if (holds.isFull || !lanes.noteOn(note.lane, note.key, note.velocity))
      return state.ignore(REASON['too-many-notes']);
    const hold = holds.take(note, HoldState.sounding);
    state.holdsOf[note.layer]++;
    if (lengthMs > 0 && !state.schedule.add(state.nowMs + lengthMs, Due.noteEnd, hold, holds.generation(hold)))
      this.ender.end(hold);
  }

  private stopAt(hold: number, waitMs: number): void {
    const { holds, schedule, nowMs } = this.state;
    const isLater = waitMs > 0 && holds.state(hold) === HoldState.sounding;
    if (!isLater || !schedule.add(nowMs + waitMs, Due.noteEnd, hold, holds.generation(hold))) this.ender.end(hold);
  }

  /** A note of a layer that no key holds; −1: there is none. */
  private findDetached(layer: number, key: number): number {
    const { holds } = this.state;
    for (let i = 0; i < holds.activeCount; i++) {
      const hold = holds.active[i];
      if (holds.layer(hold) !== layer || holds.key(hold) !== key || holds.slot(hold) !== NO_SLOT) continue;
      const state = holds.state(hold);
      if (state === HoldState.sounding || state === HoldState.waiting) return hold;
    }
    return -1;
  }
}

/** How long a recording lasts when it is played from a key, in ms. */
const lengthAt = ({ lengthMs, followsKeys, rootKey }: CompiledRecording, key: number): number =>
  lengthMs * (followsKeys ? 2 ** ((rootKey - key) / 12) : 1);
