import { MAX_WAIT_MS, MIN_LATE_NOTE_MS } from '../state/limits';
import type { Arpeggiator } from './arpeggiator';
import type { BeatGrid } from './beatGrid';
import {
  AT_ONCE,
  PART_HAS_EXTRAS,
  PART_INDEX,
  PART_LANE,
  PART_STRIDE,
  PART_ZONE,
  SILENT,
  ZONE_FOLLOWS,
  type CompiledArpeggio,
  type CompiledLayer,
  type CompiledPatch,
  type CompiledRecording,
} from '../compile/compiled';
import { ARPEGGIATED, ENTERING, FREE, NO_SLOT, SOUNDING, WAITING, WAITING_RELEASED } from '../state/heldNotes';
import { AWAY, DEFERRED, NOT_READY } from '../state/lanes';
import { REASON } from '../reasons';
import { DUE_NOTE_END, DUE_WAITED, type EngineState } from '../state/engineState';

const FOOT_VELOCITY = 100;
/** What is no recording sounds from one hit of a foot to the next. */
const HELD_BY_FOOT: CompiledRecording = {
  plays: 'whileHeld',
  startQuarters: 0,
  lengthMs: 0,
  rootKey: 60,
  followsKeys: false,
};

/** What happens to keys: routing, holding, ending, waiting. */
export class NoteRouter {
  /** Holds that wait, in the order in which they were pressed. */
  private readonly waiting = new Int32Array(4096);
  private waitingCount = 0;
  private standInSerial = 0;

  /** Plays the keys of arpeggiated layers, through this. */
  readonly arpeggiator: Arpeggiator;

  constructor(
    private readonly state: EngineState,
    private readonly beats: BeatGrid,
    arpeggiatorFor: (notes: NoteRouter) => Arpeggiator,
  ) {
    this.arpeggiator = arpeggiatorFor(this);
  }

  /** A key goes down; `velocity` 1–127. @hotpath */
  press(inputChannel: number, incomingKey: number, velocity: number, keyShift: number, perNoteChannel: number): void {
    const { state } = this;
    const { holds, patch } = state;
    const slot = (inputChannel << 7) | incomingKey;
    if (holds.head[slot] >= 0) this.release(slot, 64);
    const key = incomingKey + keyShift;
    if ((key & ~127) !== 0) return state.ignore(REASON['out-of-range']);
    if (patch === null) return state.ignore(REASON['no-patch']);
    const row = state.rows[inputChannel];
    if (row === null || row === undefined) return state.ignore(REASON[this.whySilent(patch, inputChannel, key)]);
    const { targets } = row;
    const end = row.starts[key + 1];
    let played = 0;
    for (let t = row.starts[key]; t < end; t++)
      played += this.start(patch, targets[t], slot, key, velocity, perNoteChannel, state.mutes, state.mutesAt);
    if (played === 0) state.ignore(REASON[this.whySilent(patch, inputChannel, key)]);
    else if (state.observer !== null) this.tellPlayed(slot);
  }

  /** Every key of an input channel goes up. */
  endKeys(inputChannel: number): void {
    for (let slot = inputChannel << 7; slot < (inputChannel + 1) << 7; slot++)
      if (this.state.holds.head[slot] >= 0) this.release(slot, 64);
  }

  /** Why no layer plays a key: there is one, but it is muted, or plays from elsewhere. */
  private whySilent(
    patch: CompiledPatch,
    inputChannel: number,
    key: number,
  ): 'layer-muted' | 'other-channel' | 'no-layer-here' {
    const { state } = this;
    let elsewhere = false;
    for (let i = 0; i < patch.layers.length; i++) {
      if (patch.layers[i].silent || key < patch.lowKey[i] || key > patch.highKey[i]) continue;
      if (state.hears[patch.layers[i].inputFilter][inputChannel] === 0) elsewhere = true;
      else if (state.mutes[state.mutesAt + i] === 1) return 'layer-muted';
    }
    return elsewhere ? 'other-channel' : 'no-layer-here';
  }

  /** One layer of a patch gets a note; 1 when its zone takes it. @hotpath */
  private start(
    patch: CompiledPatch,
    target: number,
    slot: number,
    key: number,
    velocity: number,
    perNoteChannel: number,
    mutes: Uint8Array,
    mutesAt: number,
  ): 0 | 1 {
    const { parts } = patch;
    const at = target * PART_STRIDE;
    const zone = parts[at + PART_ZONE];
    if (velocity < (zone & 127) || velocity > ((zone >> 8) & 127) || mutes[mutesAt + target] === 1) return 0;
    const { state } = this;
    let outKey = key + (zone >> 16);
    if (state.transpose !== 0 && (zone & ZONE_FOLLOWS) !== 0) outKey += state.transpose;
    if (parts[at + PART_HAS_EXTRAS] !== 0) {
      this.startExtras(patch, target, slot, key, outKey, velocity, perNoteChannel);
      return 1;
    }
    if ((outKey & ~127) !== 0) {
      state.ignore(REASON['out-of-range']);
      return 1;
    }
    let lane = parts[at + PART_LANE];
    if (perNoteChannel >= 0 && patch.layers[target].lanes === 16) lane += perNoteChannel;
    const outVelocity = patch.curve[target][velocity];
    if (state.lanes.blockedBy[lane] !== 0)
      this.startHindered(patch.layers[target], slot, key, velocity, outKey, outVelocity, lane, perNoteChannel);
    else this.sound(slot, parts[at + PART_INDEX], lane, outKey, outVelocity);
    return 1;
  }

  /** A note of a layer that plays chords, fades across its zone, or is arpeggiated. @hotpath */
  private startExtras(
    patch: CompiledPatch,
    target: number,
    slot: number,
    key: number,
    outKey: number,
    velocity: number,
    perNoteChannel: number,
  ): void {
    const { chord, keyFade } = patch.extras[target]!;
    let outVelocity = patch.curve[target][velocity];
    if (keyFade !== null) outVelocity = Math.max(1, Math.round((outVelocity * keyFade[key]) / 127));
    this.startOne(patch, target, slot, key, outKey, velocity, outVelocity, perNoteChannel);
    for (let i = 0; i < chord.length; i++)
      this.startOne(patch, target, slot, key, outKey + chord[i], velocity, outVelocity, perNoteChannel);
  }

  /** @hotpath */
  private startOne(
    patch: CompiledPatch,
    target: number,
    slot: number,
    key: number,
    outKey: number,
    velocity: number,
    outVelocity: number,
    perNoteChannel: number,
  ): void {
    const { state } = this;
    if ((outKey & ~127) !== 0) return state.ignore(REASON['out-of-range']);
    const layer = patch.layers[target];
    const lane = layer.lane + (perNoteChannel >= 0 && layer.lanes === 16 ? perNoteChannel : 0);
    const { arpeggio } = patch.extras[target]!;
    const deferred = state.lanes.blockedBy[lane] & DEFERRED;
    if (layer.recording !== null && deferred === 0)
      this.startRecording(layer, layer.recording, slot, lane, outKey, outVelocity);
    else if (arpeggio !== null && deferred === 0)
      this.holdForArpeggio(layer, arpeggio, slot, lane, outKey, outVelocity);
    else if (state.lanes.blockedBy[lane] !== 0)
      this.startHindered(layer, slot, key, velocity, outKey, outVelocity, lane, perNoteChannel);
    else this.sound(slot, layer.index, lane, outKey, outVelocity);
  }

  private holdForArpeggio(
    layer: CompiledLayer,
    arpeggio: CompiledArpeggio,
    slot: number,
    lane: number,
    key: number,
    velocity: number,
  ): void {
    const { state } = this;
    const hold = state.holds.take(slot, layer.index, lane, key, velocity, ARPEGGIATED);
    if (hold < 0) return state.ignore(REASON['too-many-notes']);
    state.holds.pressedAtMs[hold] = state.nowMs;
    state.holdsOf[layer.index]++;
    this.arpeggiator.start(layer.index, arpeggio);
  }

  /**
   * A recording starts, at once or with the beat. One-shots and loops go on without their key: a one-shot for its
   * length, a loop until
   * it is struck again. Whatever a foot starts (no slot) goes on too, and the next hit stops it.
   */
  private startRecording(
    layer: CompiledLayer,
    recording: CompiledRecording,
    slot: number,
    lane: number,
    key: number,
    velocity: number,
  ): void {
    const { state } = this;
    const { holds } = state;
    const isOneShot = recording.plays === 'oneShot';
    const waitMs = this.beats.untilMs(recording.startQuarters, state.nowMs);
    if (!isOneShot && (slot === NO_SLOT || recording.plays === 'loop')) {
      const running = this.findDetached(layer.index, key);
      if (running >= 0) return this.stopAt(running, waitMs);
    }
    if (state.lanes.blockedBy[lane] !== 0) return state.ignore(REASON['not-ready']);
    const lengthMs = isOneShot
      ? recording.lengthMs * (recording.followsKeys ? 2 ** ((recording.rootKey - key) / 12) : 1)
      : 0;
    const owner = recording.plays === 'whileHeld' ? slot : NO_SLOT;
    if (waitMs > 0) return this.waitForBeat(layer.index, owner, lane, key, velocity, waitMs, lengthMs);
    if (holds.isFull || !state.lanes.noteOn(lane, key, velocity)) return state.ignore(REASON['too-many-notes']);
    const hold = holds.take(owner, layer.index, lane, key, velocity, SOUNDING);
    state.holdsOf[layer.index]++;
    if (lengthMs > 0 && !state.schedule.add(state.nowMs + lengthMs, DUE_NOTE_END, hold, holds.generation(hold)))
      this.end(hold);
  }

  private waitForBeat(
    layer: number,
    slot: number,
    lane: number,
    key: number,
    velocity: number,
    waitMs: number,
    lengthMs: number,
  ): void {
    const { state } = this;
    const { holds } = state;
    if (this.waitingCount >= this.waiting.length) return state.ignore(REASON['too-many-notes']);
    const hold = holds.take(slot, layer, lane, key, velocity, WAITING);
    if (hold < 0) return state.ignore(REASON['too-many-notes']);
    state.holdsOf[layer]++;
    holds.pressedAtMs[hold] = state.nowMs;
    holds.heldForMs[hold] = lengthMs;
    this.waiting[this.waitingCount++] = hold;
    if (!state.schedule.add(state.nowMs + waitMs, DUE_WAITED, hold, holds.generation(hold))) this.startWaiting(lane);
  }

  private stopAt(hold: number, waitMs: number): void {
    const { state } = this;
    const isLater = waitMs > 0 && state.holds.state(hold) === SOUNDING;
    if (!isLater || !state.schedule.add(state.nowMs + waitMs, DUE_NOTE_END, hold, state.holds.generation(hold)))
      this.end(hold);
  }

  /** A note of a layer that no key holds. */
  private findDetached(layer: number, key: number): number {
    const { holds } = this.state;
    for (let i = 0; i < holds.activeCount; i++) {
      const hold = holds.active[i];
      if (
        holds.layer(hold) === layer &&
        holds.key(hold) === key &&
        holds.slot(hold) === NO_SLOT &&
        (holds.state(hold) === SOUNDING || holds.state(hold) === WAITING)
      )
        return hold;
    }
    return -1;
  }

  /** A foot starts a key of a layer of the present patch, and stops it when it sounds. */
  trigger(part: number, key: number): void {
    const { state } = this;
    const layer = part < 0 ? undefined : state.patch?.layers[part];
    if (layer === undefined || layer.live !== null) return state.ignore(REASON['no-layer-here']);
    if (layer.silent || state.mutes[state.mutesAt + part] === 1) return state.ignore(REASON['no-layer-here']);
    this.startRecording(layer, layer.recording ?? HELD_BY_FOOT, NO_SLOT, layer.lane, key, FOOT_VELOCITY);
  }

  /** Loops of a layer that is left end with it: no key holds them. */
  endDetached(layer: number): void {
    const { holds } = this.state;
    for (let i = holds.activeCount - 1; i >= 0; i--) {
      const hold = holds.active[i];
      if (holds.layer(hold) === layer && holds.slot(hold) === NO_SLOT && !holds.isKept(hold)) this.end(hold);
    }
  }

  /** A note that the arpeggiator plays: it ends by itself. @returns whether it could start. */
  soundFor(layer: number, lane: number, key: number, velocity: number, lengthMs: number): boolean {
    const { state } = this;
    if (state.lanes.blockedBy[lane] !== 0 || state.holds.isFull || !state.lanes.noteOn(lane, key, velocity))
      return false;
    const hold = state.holds.take(NO_SLOT, layer, lane, key, velocity, SOUNDING);
    state.holdsOf[layer]++;
    if (!state.schedule.add(state.nowMs + lengthMs, DUE_NOTE_END, hold, state.holds.generation(hold))) this.end(hold);
    return true;
  }

  /** @hotpath */
  private sound(slot: number, layer: number, lane: number, key: number, velocity: number): void {
    const { state } = this;
    const { holds } = state;
    if (holds.isFull || !state.lanes.noteOn(lane, key, velocity)) return state.ignore(REASON['too-many-notes']);
    holds.take(slot, layer, lane, key, velocity, SOUNDING);
    state.holdsOf[layer]++;
  }

  private startHindered(
    layer: CompiledLayer,
    slot: number,
    inKey: number,
    inVelocity: number,
    key: number,
    velocity: number,
    lane: number,
    perNoteChannel: number,
  ): void {
    const { state } = this;
    const blockedBy = state.lanes.blockedBy[lane];
    if ((blockedBy & AWAY) !== 0) return state.ignore(REASON['output-away']);
    if ((blockedBy & DEFERRED) !== 0 && this.standIn(slot, inKey, inVelocity, perNoteChannel)) return;
    if ((blockedBy & NOT_READY) === 0) return this.sound(slot, layer.index, lane, key, velocity);
    if (layer.notReady === SILENT) return state.ignore(REASON['not-ready']);
    if (layer.notReady === AT_ONCE) {
      state.warn('not-ready', layer.name);
      return this.sound(slot, layer.index, lane, key, velocity);
    }
    this.wait(slot, layer.index, lane, key, velocity);
  }

  /** The layers of the patch before play these keys until the deferred layer is ready; whether any covers this key. */
  private standIn(slot: number, key: number, velocity: number, perNoteChannel: number): boolean {
    const { state } = this;
    const patch = state.standInPatch;
    const row = patch === null ? null : state.show!.rows[patch.keymap][slot >> 7];
    if (!patch || !row) return false;
    // Two deferred layers under one key are stood in for once.
    if (this.standInSerial === state.serial) return true;
    let played = 0;
    for (let t = row.starts[key]; t < row.starts[key + 1]; t++) {
      const target = row.targets[t];
      if (state.isStandIn[patch.layers[target].index] === 1)
        played += this.start(patch, target, slot, key, velocity, perNoteChannel, patch.balances[0].mute, 0);
    }
    if (played > 0) this.standInSerial = state.serial;
    return played > 0;
  }

  private wait(slot: number, layer: number, lane: number, key: number, velocity: number): void {
    const { state } = this;
    const { holds } = state;
    if (this.waitingCount >= this.waiting.length) return state.ignore(REASON['too-many-notes']);
    const hold = holds.take(slot, layer, lane, key, velocity, WAITING);
    if (hold < 0) return state.ignore(REASON['too-many-notes']);
    if (layer >= 0) state.holdsOf[layer]++;
    holds.pressedAtMs[hold] = state.nowMs;
    this.waiting[this.waitingCount++] = hold;
    if (!state.schedule.add(state.nowMs + MAX_WAIT_MS, DUE_WAITED, hold, holds.generation(hold)))
      this.startWaiting(lane);
  }

  /** Starts all notes that wait on a lane, in order. */
  startWaiting(lane: number): void {
    const { holds } = this.state;
    let kept = 0;
    const count = this.waitingCount;
    for (let i = 0; i < count; i++) {
      const hold = this.waiting[i];
      if (holds.state(hold) !== WAITING && holds.state(hold) !== WAITING_RELEASED) continue;
      if (holds.lane(hold) === lane) this.soundWaiting(hold);
      else this.waiting[kept++] = hold;
    }
    this.waitingCount = kept;
  }

  /** A note has waited long enough: it and those before it on its lane start. */
  waited(hold: number, generation: number): void {
    const { holds } = this.state;
    if (
      holds.generation(hold) !== generation ||
      (holds.state(hold) !== WAITING && holds.state(hold) !== WAITING_RELEASED)
    )
      return;
    const lane = holds.lane(hold);
    let kept = 0;
    let done = false;
    for (let i = 0; i < this.waitingCount; i++) {
      const other = this.waiting[i];
      const waits = holds.state(other) === WAITING || holds.state(other) === WAITING_RELEASED;
      if (!waits) continue;
      if (!done && holds.lane(other) === lane) {
        done = other === hold;
        this.soundWaiting(other);
      } else this.waiting[kept++] = other;
    }
    this.waitingCount = kept;
  }

  private soundWaiting(hold: number): void {
    const { holds, lanes, schedule, nowMs } = this.state;
    const lane = holds.lane(hold);
    if (lanes.isAway(lane) || !lanes.noteOn(lane, holds.key(hold), holds.velocity(hold))) return this.discard(hold);
    const released = holds.state(hold) === WAITING_RELEASED;
    holds.setState(hold, SOUNDING);
    if (!released) {
      // A one-shot that waited for the beat.
      const lengthMs = holds.slot(hold) === NO_SLOT ? holds.heldForMs[hold] : 0;
      if (lengthMs > 0 && !schedule.add(nowMs + lengthMs, DUE_NOTE_END, hold, holds.generation(hold))) this.end(hold);
      return;
    }
    const lengthMs = Math.max(MIN_LATE_NOTE_MS, holds.heldForMs[hold]);
    if (!schedule.add(nowMs + lengthMs, DUE_NOTE_END, hold, holds.generation(hold))) this.finish(hold, 64);
  }

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
      else if (holds.state(hold) === ARPEGGIATED) this.discard(hold);
      else if (holds.state(hold) !== SOUNDING) {
        holds.setState(hold, WAITING_RELEASED);
        holds.heldForMs[hold] = state.clock[0] - holds.pressedAtMs[hold];
      }
      hold = next;
    }
  }

  /** Ends a sounding hold that hangs on no slot. @hotpath */
  private finish(hold: number, velocity: number): void {
    const { holds, lanes, holdsOf } = this.state;
    const layer = holds.layer(hold);
    if (layer >= 0) holdsOf[layer]--;
    const lane = holds.lane(hold);
    const key = holds.key(hold);
    holds.drop(hold);
    lanes.noteOff(lane, key, velocity);
  }

  /** Drops a hold that never sounded. */
  private discard(hold: number): void {
    const { holds, holdsOf } = this.state;
    if (holds.layer(hold) >= 0) holdsOf[holds.layer(hold)]--;
    holds.unhang(hold);
    holds.drop(hold);
  }

  /** Ends a hold, whatever its state and wherever it hangs. */
  end(hold: number): void {
    if (this.state.holds.state(hold) !== SOUNDING) return this.discard(hold);
    this.state.holds.unhang(hold);
    this.finish(hold, 64);
  }

  /** A note's given length is over. */
  noteEnd(hold: number, generation: number): void {
    if (this.state.holds.generation(hold) === generation && this.state.holds.state(hold) !== FREE) this.end(hold);
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
      if (holds.state(hold) === SOUNDING) holds.setFadeSerial(hold, fadeSerial);
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
      if (holds.layer(hold) >= 0 && holds.state(hold) === SOUNDING && !endsByItself) holds.setKept(hold, true);
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

  /** A note that a patch sends as it is entered; it ends after its length, or at leaving. */
  startEntering(lane: number, key: number, velocity: number, lengthMs: number): void {
    const { state } = this;
    if (state.lanes.isAway(lane) || state.holds.isFull || !state.lanes.noteOn(lane, key, velocity)) return;
    const hold = state.holds.take(NO_SLOT, ENTERING, lane, key, velocity, SOUNDING);
    if (
      lengthMs !== Infinity &&
      !state.schedule.add(state.nowMs + lengthMs, DUE_NOTE_END, hold, state.holds.generation(hold))
    )
      this.end(hold);
  }

  /** Ends the notes that the patch being left had sent as it was entered. */
  endEntering(): void {
    this.endLayer(ENTERING);
  }

  /** Ends everything that sounds or waits. */
  endAll(): void {
    const { holds } = this.state;
    while (holds.activeCount > 0) this.end(holds.active[holds.activeCount - 1]);
    this.waitingCount = 0;
  }

  /** Polyphonic pressure follows its note. @hotpath */
  keyPressure(slot: number, status: number, value: number): void {
    const { holds, lanes } = this.state;
    for (let hold = holds.head[slot]; hold >= 0; hold = holds.next(hold)) {
      if (holds.state(hold) === SOUNDING && !lanes.isAway(holds.lane(hold)))
        lanes.emit(holds.lane(hold), status, holds.key(hold), value);
    }
  }

  private tellPlayed(slot: number): void {
    const { holds, registry } = this.state;
    const layers: string[] = [];
    for (let hold = holds.head[slot]; hold >= 0; hold = holds.next(hold))
      if (holds.layer(hold) >= 0) layers.unshift(registry.layers[holds.layer(hold)].name);
    this.state.record({ type: 'played', atMs: this.state.nowMs, layers });
  }
}
