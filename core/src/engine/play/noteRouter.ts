import type { CompiledPatch, CompiledRecording, PartExtras } from '../compile/compiled';
import { NotReady } from '../compile/carry';
import { REASON } from '../reasons';
import { Due, type EngineState } from '../state/engineState';
import { ENTERING, HoldState, NO_SLOT, TIMELINE, type NoteToHold } from '../state/heldNotes';
import { Blocked } from '../state/lanes';
import type { Arpeggiator } from './arpeggiator';
import type { BeatGrid } from './beatGrid';
import { NoteEnder } from './noteEnder';
import { Recordings } from './recordings';
import { WaitingNotes } from './waitingNotes';

const FOOT_VELOCITY = 100;
/** What is no recording sounds from one hit of a foot to the next. */
const HELD_BY_FOOT: CompiledRecording = {
  plays: 'whileHeld',
  startQuarters: 0,
  lengthMs: 0,
  rootKey: 60,
  followsKeys: false,
};

/** Where the notes of keys go: which layers play them, how, and what a note meets that cannot simply start. */
export class NoteRouter {
  /** How they end, and those that wait. */
  readonly ender: NoteEnder;
  readonly waiting: WaitingNotes;
  /** Plays the keys of arpeggiated layers, through this. */
  readonly arpeggiator: Arpeggiator;
  private readonly recordings: Recordings;
  private standInSerial = 0;
  /** The key that goes down, and the note that is being made of it: numbers that belong together travel together. */
  private readonly pressed = { slot: NO_SLOT, key: 0, velocity: 0, perNoteChannel: -1 };
  private readonly note: NoteToHold = { slot: NO_SLOT, layer: 0, lane: 0, key: 0, velocity: 0 };

  constructor(
    private readonly state: EngineState,
    beats: BeatGrid,
    arpeggiatorFor: (notes: NoteRouter) => Arpeggiator,
  ) {
    this.ender = new NoteEnder(state);
    this.waiting = new WaitingNotes(state, this.ender);
    this.recordings = new Recordings(state, beats, this.ender, this.waiting);
    this.arpeggiator = arpeggiatorFor(this);
  }

  /** A key goes down; `velocity` 1–127. @hotpath */
  press(inputChannel: number, incomingKey: number, velocity: number, keyShift: number, perNoteChannel: number): void {
    const { state } = this;
    const { holds, patch } = state;
    const slot = (inputChannel << 7) | incomingKey;
    if (holds.head[slot] >= 0) this.ender.release(slot, 64);
    const key = incomingKey + keyShift;
    if ((key & ~127) !== 0) return state.ignore(REASON['out-of-range']);
    if (patch === null) return state.ignore(REASON['no-patch']);
    const row = state.rows[inputChannel];
    if (row === null || row === undefined) return state.ignore(REASON[this.whySilent(patch, inputChannel, key)]);
    const { pressed } = this;
    pressed.slot = slot;
    pressed.key = key;
    pressed.velocity = velocity;
    pressed.perNoteChannel = perNoteChannel;
    const { targets } = row;
    const end = row.starts[key + 1];
    let played = 0;
    for (let t = row.starts[key]; t < end; t++) played += this.start(patch, targets[t], state.mutes, state.mutesAt);
    if (played === 0) state.ignore(REASON[this.whySilent(patch, inputChannel, key)]);
    else if (state.observer !== null) this.tellPlayed(slot);
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

  /** One layer of a patch gets the pressed key; 1 when its zone takes it. @hotpath */
  private start(patch: CompiledPatch, target: number, mutes: Uint8Array, mutesAt: number): 0 | 1 {
    const { pressed, state } = this;
    const { parts } = patch;
    if (!parts.takes(target, pressed.velocity) || mutes[mutesAt + target] === 1) return 0;
    const key = pressed.key + parts.shift(target, state.keyShift);
    const velocity = patch.curve[target][pressed.velocity];
    if (parts.hasExtras(target)) this.startExtras(patch, target, key, velocity);
    else this.startOne(patch, target, key, velocity, null);
    return 1;
  }

  /** A note of a layer that plays chords, fades across its zone, is arpeggiated or a recording. @hotpath */
  private startExtras(patch: CompiledPatch, target: number, key: number, velocity: number): void {
    const extras = patch.extras[target]!;
    const { chord, keyFade } = extras;
    const faded = keyFade === null ? velocity : Math.max(1, Math.round((velocity * keyFade[this.pressed.key]) / 127));
    this.startOne(patch, target, key, faded, extras);
    for (let i = 0; i < chord.length; i++) this.startOne(patch, target, key + chord[i], faded, extras);
  }

  /** @hotpath */
  private startOne(
    patch: CompiledPatch,
    target: number,
    key: number,
    velocity: number,
    extras: PartExtras | null,
  ): void {
    const { state, pressed, note } = this;
    if ((key & ~127) !== 0) return state.ignore(REASON['out-of-range']);
    const { parts } = patch;
    note.slot = pressed.slot;
    note.layer = parts.index(target);
    note.lane = parts.lane(target);
    note.key = key;
    note.velocity = velocity;
    if (pressed.perNoteChannel >= 0 && patch.layers[target].lanes === 16) note.lane += pressed.perNoteChannel;
    const blockedBy = state.lanes.blockedBy[note.lane];
    if (extras !== null && (blockedBy & Blocked.deferred) === 0) {
      const { recording } = patch.layers[target];
      if (recording !== null) return this.recordings.start(note, recording);
      if (extras.arpeggio !== null) return this.holdForArpeggio(extras.arpeggio);
    }
    if (blockedBy !== 0) this.startBlocked(patch, target, blockedBy);
    else this.sound();
  }

  private holdForArpeggio(arpeggio: NonNullable<PartExtras['arpeggio']>): void {
    const { state, note } = this;
    const hold = state.holds.take(note, HoldState.arpeggiated);
    if (hold < 0) return state.ignore(REASON['too-many-notes']);
    state.holds.pressedAtMs[hold] = state.nowMs;
    state.holdsOf[note.layer]++;
    this.arpeggiator.start(note.layer, arpeggio);
  }

  /** The note sounds. @hotpath */
  private sound(): void {
    const { state, note } = this;
    const { holds } = state;
    if (holds.isFull || !state.lanes.noteOn(note.lane, note.key, note.velocity))
      return state.ignore(REASON['too-many-notes']);
    holds.take(note, HoldState.sounding);
    state.holdsOf[note.layer]++;
  }

  /** The note cannot simply start in its lane. */
  private startBlocked(patch: CompiledPatch, target: number, blockedBy: number): void {
    const { state } = this;
    const { notReady, name } = patch.layers[target];
    if ((blockedBy & Blocked.away) !== 0) return state.ignore(REASON['output-away']);
    if ((blockedBy & Blocked.deferred) !== 0 && this.standIn()) return;
    if ((blockedBy & Blocked.notReady) === 0) return this.sound();
    if (notReady === NotReady.silent) return state.ignore(REASON['not-ready']);
    if (notReady !== NotReady.atOnce) return this.waiting.waitForSound(this.note);
    state.warn('not-ready', name);
    this.sound();
  }

  /**
   * The layers of the patch before play the pressed key until the deferred layer is ready; whether any covers it. Where
   * none does, the note stands as it was.
   */
  private standIn(): boolean {
    const { state, pressed } = this;
    const patch = state.standInPatch;
    const row = patch === null ? null : state.show!.rows[patch.keymap][pressed.slot >> 7];
    if (!patch || !row) return false;
    // Two deferred layers under one key are stood in for once.
    if (this.standInSerial === state.serial) return true;
    let played = 0;
    for (let t = row.starts[pressed.key]; t < row.starts[pressed.key + 1]; t++) {
      const target = row.targets[t];
      if (state.isStandIn[patch.layers[target].index] === 1)
        played += this.start(patch, target, patch.balances[0].mute, 0);
    }
    if (played > 0) this.standInSerial = state.serial;
    return played > 0;
  }

  /** A foot starts a key of a layer of the present patch, and stops it when it sounds. */
  trigger(part: number, key: number): void {
    const { state, note } = this;
    const layer = part < 0 ? undefined : state.patch?.layers[part];
    if (layer === undefined || layer.live !== null || layer.silent || state.mutes[state.mutesAt + part] === 1)
      return state.ignore(REASON['no-layer-here']);
    note.slot = NO_SLOT;
    note.layer = layer.index;
    note.lane = layer.lane;
    note.key = key;
    note.velocity = FOOT_VELOCITY;
    this.recordings.start(note, layer.recording ?? HELD_BY_FOOT);
  }

  /** A note that the arpeggiator plays: it ends by itself. @hotpath */
  soundFor(layer: number, lane: number, key: number, velocity: number, lengthMs: number): void {
    if (this.state.lanes.blockedBy[lane] === 0) this.soundFree(layer, lane, key, velocity, lengthMs);
  }

  /** A note that a patch sends as it is entered; it ends after its length, or at leaving. */
  startEntering(lane: number, key: number, velocity: number, lengthMs: number): void {
    if (!this.state.lanes.isAway(lane)) this.soundFree(ENTERING, lane, key, velocity, lengthMs);
  }

  /** A note of the timeline, which ends it itself. @returns the hold, −1: it does not sound. @hotpath */
  startTimeline(lane: number, key: number, velocity: number): number {
    const { state } = this;
    if (state.lanes.isAway(lane)) {
      state.ignore(REASON['output-away']);
      return -1;
    }
    if (state.holds.isFull || !state.lanes.noteOn(lane, key, velocity)) {
      state.ignore(REASON['too-many-notes']);
      return -1;
    }
    return this.holdFree(TIMELINE, lane, key, velocity);
  }

  /** A note that no key holds, for a time. */
  private soundFree(layer: number, lane: number, key: number, velocity: number, lengthMs: number): void {
    const { state } = this;
    const { holds } = state;
    if (holds.isFull || !state.lanes.noteOn(lane, key, velocity)) return;
    const hold = this.holdFree(layer, lane, key, velocity);
    if (layer >= 0) state.holdsOf[layer]++;
    if (lengthMs !== Infinity && !state.schedule.add(state.nowMs + lengthMs, Due.noteEnd, hold, holds.generation(hold)))
      this.ender.end(hold);
  }

  /** @hotpath */
  private holdFree(layer: number, lane: number, key: number, velocity: number): number {
    const { note } = this;
    note.slot = NO_SLOT;
    note.layer = layer;
    note.lane = lane;
    note.key = key;
    note.velocity = velocity;
    return this.state.holds.take(note, HoldState.sounding);
  }

  /** Ends everything that sounds or waits. */
  endAll(): void {
    this.ender.endAll();
    this.waiting.clear();
  }

  /** Polyphonic pressure follows its note. @hotpath */
  keyPressure(slot: number, status: number, value: number): void {
    const { holds, lanes } = this.state;
    for (let hold = holds.head[slot]; hold >= 0; hold = holds.next(hold)) {
      if (holds.state(hold) === HoldState.sounding && !lanes.isAway(holds.lane(hold)))
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
