import {
  ACTIVE_SENSING,
  CC_ALL_SOUND_OFF,
  CC_BANK_LSB,
  CC_BANK_MSB,
  CC_LOCAL,
  CC_RESET_CONTROLLERS,
  CLOCK,
  CONTINUE,
  CONTROLLER,
  KEY_PRESSURE,
  NOTE_OFF,
  NOTE_ON,
  PRESSURE,
  PROGRAM,
  SONG_POSITION,
  START,
  STOP,
  WHEEL,
} from '../midi/status';
import { assertNever } from '../result';
import {
  effectChanges,
  type EffectChange,
  type EntryMessage,
  type NoteValue,
  type PlainAction,
  type SoundParameter,
} from '../show';
import { addressFor } from './addresses';
import { Arpeggiator } from './arpeggiator';
import { BeatGrid } from './beatGrid';
import type { Book } from './book';
import {
  BALANCE_STRIDE,
  RECORD_ENTRY,
  RECORD_STRIDE,
  type CompileNote,
  type CompiledBinding,
  type CompiledInput,
  type CompiledShow,
  type CompiledStep,
} from './compile/compiled';
import { ShowCompiler } from './compile/showCompiler';
import { ControlDesk } from './controlDesk';
import { ControllerDesk } from './controllerDesk';
import { MAX_INPUTS, PRESSURE_SLOT, SECOND_PANIC_MS, SENSING_LOST_MS, WHEEL_SLOT } from './limits';
import type { EngineInput, LastPlace } from './input';
import { LiveSound } from './liveSound';
import { NoteDesk } from './noteDesk';
import { PlayedShow } from './playedShow';
import { Playhead } from './playhead';
import { IGNORED_REASONS, REASON, type IgnoredReason } from './reasons';
import { Recaller } from './recaller';
import type { EngineObserver, RecallCause } from './records';
import { retellLayer, retellWhole } from './retell';
import { DUE_ARPEGGIO, DUE_FADED, DUE_NOTE_END, DUE_SENSING, DUE_SWITCHED, DUE_WAITED, Rig } from './rig';
import type { EngineSink } from './sink';
import { firstWalked, ofBlend, ofPatch, ofSong, walk, walkSongs } from './steps';
import { Taps } from './taps';
import { ValueDesk } from './valueDesk';
import {
  carriedIn,
  controlsIn,
  isPedalDownIn,
  keysDownIn,
  notReadyIn,
  parametersNow,
  soundingIn,
  stepsNear,
  waitingIn,
  type ControlView,
  type NamedLayer,
  type SoundingNote,
} from './views';

/**
 * The live engine. Messages with their times (in ms, from any start) go in; messages with their times leave through the
 * sink.
 *
 *     port → receive → role? ──→ action, recall
 *                    → program? → program map → recall
 *                    → note, controller → zones of the present patch → lanes → sink
 */
export class Engine {
  private readonly rig: Rig;
  private readonly notes: NoteDesk;
  private readonly controllers: ControllerDesk;
  private readonly recaller: Recaller;
  private readonly controls: ControlDesk;
  private readonly playhead: Playhead;
  private readonly values: ValueDesk;
  private readonly arpeggiator: Arpeggiator;
  private readonly beats: BeatGrid;
  private readonly taps = new Taps();
  private holding = false;
  private readonly inputAway = new Uint8Array(MAX_INPUTS);
  /** When an input was last heard that sends active sensing; −1 where none does. */
  private readonly sensedMs = new Float64Array(MAX_INPUTS).fill(-1);
  private panicMs = -Infinity;
  private cursorPosition = -1;
  private readonly liveSound: LiveSound;
  /** The show that inputs have brought, and what makes tables of it. */
  private readonly played = new PlayedShow();
  private readonly compiler: ShowCompiler;
  private place: LastPlace | null = null;
  /** Input devices that are known to be away. */
  private readonly inputsAway = new Set<string>();
  /** Output devices that are here; null: nobody has said, and all are taken to be. */
  private outputsHere: Set<string> | null = null;
  private toldEcho: NoteValue | null = null;
  private playedSetlist: string | null = null;
  /** Whether built-in layers are ready only once they are said to be, and how many destinations that is true of. */
  private soundIsOn = false;
  private unreadyFrom = 0;

  /** @param book the one that the compiler of its shows writes in. */
  constructor(book: Book, sink: EngineSink) {
    this.rig = new Rig(book, sink);
    this.compiler = new ShowCompiler(book);
    this.liveSound = new LiveSound(this.rig);
    this.notes = new NoteDesk(this.rig);
    this.controllers = new ControllerDesk(this.rig);
    this.values = new ValueDesk(this.rig);
    this.recaller = new Recaller(this.rig, this.notes, this.controllers, this.values, this.liveSound);
    this.controls = new ControlDesk(this.rig, this, this.values);
    this.playhead = new Playhead(this.rig, (position, cause) => this.recallAt(position, cause));
    this.beats = new BeatGrid(this.playhead);
    this.arpeggiator = new Arpeggiator(this.rig, this.notes, this.playhead, this.beats);
    this.notes.arpeggiator = this.arpeggiator;
    this.notes.beats = this.beats;
    this.controls.whereLeft = (entry, first) => {
      const left = this.recaller.positionWhereLeft(entry);
      return left >= 0 ? left : first;
    };
  }

  /** Watches everything that the engine does; costs nothing while it is null. */
  set observer(observer: EngineObserver | null) {
    this.rig.observer = observer;
  }

  /**
   * Puts a compiled show in: at first its first step is recalled; later notes that sound are not disturbed.
   * @param startAt position that is recalled instead of the first step, after a restart in the middle of a set.
   */
  load(show: CompiledShow, atMs: number, startAt = firstWalked(show)): void {
    this.advance(atMs);
    this.rig.grow(show);
    this.values.grow(this.rig.book.faderCount);
    this.values.effects.grow(this.rig.book.effectTargets.length);
    this.arpeggiator.grow(this.rig.book.layers.length);
    this.controls.load(show.controls);
    if (this.soundIsOn) this.newOnesAreNotReady();
    const old = this.rig.show;
    const first = old === null;
    this.settlePorts(false);
    const edited = this.recaller.replace(show);
    if (old?.sharedEffects !== show.sharedEffects || old.wholeEffects !== show.wholeEffects)
      this.rig.lanes.setlistEffects(
        this.values.effects.movedShared(show.sharedEffects),
        this.values.effects.movedWhole(show.wholeEffects),
      );
    this.playhead.replace();
    this.cursorPosition = Math.min(this.cursorPosition, show.steps.length - 1);
    if (this.rig.step === null && (first || show.steps.length > 0))
      this.recallAt(show.steps[startAt] ? startAt : firstWalked(show), 'start');
    else if (edited) this.tellEdit();
    this.tellEcho();
    this.settlePorts(true);
  }

  private tellEcho(): void {
    const note = this.rig.show?.entryEchoes[this.rig.entry] ?? this.toldEcho;
    if (note === null || note === this.toldEcho) return;
    this.toldEcho = note;
    this.rig.lanes.echo(note);
  }

  /**
   * Whatever can happen, as a value: what it does is what the engine's own methods do. `receive` is the fast way for
   * port messages. Never throws for what is out of range; what leads nowhere is counted or warned of.
   */
  apply(input: EngineInput, atMs: number): void {
    const { book } = this.rig;
    switch (input.type) {
      case 'message':
        return this.receive(book.findInput(input.device), input.status, input.data1, input.data2, atMs);
      case 'sysex':
        return this.receiveSysex(book.findInput(input.device), input.length, atMs);
      case 'input':
        return this.inputDevice(input.device, input.here, atMs);
      case 'output':
        return this.outputDevice(input.device, input.here, atMs);
      case 'computerKey':
        return void this.computerKey(input.code, input.down, atMs);
      case 'perform':
        return this.perform(input.action, atMs);
      case 'recall':
        return this.recall(input.position, atMs);
      case 'cursor':
        this.advance(atMs);
        return this.setCursor(input.position);
      case 'locate':
        return this.locate(input.tick, atMs);
      case 'select':
        return this.select(
          book.findOutputPort(input.port),
          input.channel - 1,
          input.msb ?? -1,
          input.lsb ?? -1,
          input.program ?? -1,
          input.also,
          atMs,
        );
      case 'count':
        return this.countOf(input.instrumentId, input.count);
      case 'sound':
        return this.soundOn(input.on, atMs);
      case 'ready':
        return this.setReady(input.destination, input.ready, atMs);
      case 'show':
        this.place = input.place;
        this.played.start(input.show, input.setlistId);
        return this.takeShow(atMs);
      case 'changed':
        this.played.take(input.news);
        this.played.choose(input.setlistId);
        return this.takeShow(atMs);
      case 'audition':
        this.played.audition(input.audition);
        return this.takeShow(atMs);
      default:
        return assertNever(input);
    }
  }

  /** Plays from the show as it is now; another setlist begins at its first song. */
  private takeShow(atMs: number): void {
    const { played, rig } = this;
    const { setlist } = played;
    if (setlist === null) return;
    const other = this.playedSetlist !== null && this.playedSetlist !== setlist.id;
    this.playedSetlist = setlist.id;
    const show = this.compiler.compile(played, setlist, played.gear);
    const place = rig.step === null ? this.placeIn(show, setlist.id) : -1;
    if (place >= 0) this.load(show, atMs, place);
    else this.load(show, atMs);
    if (other) this.perform('firstSong', atMs);
  }

  /** Where the set was left, with its counters' references; −1 when that is nowhere. */
  private placeIn(show: CompiledShow, setlistId: string): number {
    const { place } = this;
    this.place = null;
    if (place === null || place.setlistId !== setlistId) return -1;
    for (const { device, channel, program } of place.counters) {
      const port = this.rig.book.findInput(device);
      if (port >= 0) this.setCounterReference(port * 16 + channel, program);
    }
    return show.steps.findIndex(
      ({ entryId, patch, balance }) =>
        entryId === place.entryId && patch.patchId === place.patchId && balance.blendId === place.blendId,
    );
  }

  private countOf(instrumentId: string, count: number): void {
    const instrument = this.played.instrument(instrumentId);
    if (instrument?.kind !== 'outboard') return;
    this.setCount(this.rig.book.findOutputPort(instrument.port), instrument.channel - 1, count);
  }

  private inputDevice(device: string, here: boolean, atMs: number): void {
    if (here) this.inputsAway.delete(device);
    else this.inputsAway.add(device);
    const port = this.rig.book.findInput(device);
    if (here) this.inputBack(port, atMs);
    else this.inputGone(port, atMs);
  }

  private outputDevice(device: string, here: boolean, atMs: number): void {
    this.advance(atMs);
    this.outputsHere ??= new Set();
    if (here) this.outputsHere.add(device);
    else this.outputsHere.delete(device);
    this.settlePorts(true);
  }

  /**
   * Ports of the gear list are here when their devices are; what was said before the gear list came counts too.
   * @param back also those that have come back: only once the show that they belong to is in place.
   */
  private settlePorts(back: boolean): void {
    const { book, nowMs } = this.rig;
    for (const device of this.inputsAway) this.inputGone(book.findInput(device), nowMs);
    const { outputsHere } = this;
    if (outputsHere === null) return;
    const devices = new Map(
      (this.played.gear?.ports ?? []).flatMap((port) =>
        port.direction === 'out' && port.on ? [[port.alias as string, port.device as string] as const] : [],
      ),
    );
    for (const destination of book.ports) {
      if (!outputsHere.has(devices.get(book.nameOf(destination)) ?? '')) this.outputGone(destination, nowMs);
      else if (back) this.outputBack(destination, nowMs);
    }
  }

  /** Tells a new listener everything that holds now. Not on the playing path. */
  retell(sink: EngineSink): void {
    this.retellWhole(sink);
    for (const { destination, outboard } of this.rig.patch?.layers ?? [])
      if (!outboard) this.retellLayer(sink, destination);
  }

  /** The same of what is no layer's: the output's values, effects of the setlist, tempo and echo. */
  retellWhole(sink: EngineSink): void {
    const { clock } = this.rig;
    retellWhole(this.rig, this.values, sink);
    if (this.playhead.tempoBpm > 0) sink.tempo(this.playhead.tempoBpm, clock);
    if (this.toldEcho !== null) sink.echo(this.toldEcho, clock);
  }

  /** The same of one built-in layer. @param step where it is to sound; the present one, or one that it is readied for. */
  retellLayer(sink: EngineSink, destination: number, step = this.rig.step): void {
    retellLayer(this.rig, this.values, this.liveSound, sink, destination, step);
  }

  private tellEdit(): void {
    const { step } = this.rig;
    if (step !== null && this.rig.observer !== null) {
      this.rig.record({
        type: 'recall',
        atMs: this.rig.nowMs,
        cause: 'edit',
        again: true,
        position: step.position,
        entryId: step.entryId,
        songId: step.patch.songId,
        patchId: step.patch.patchId,
        blendId: step.balance.blendId,
        song: step.patch.song,
        patch: step.patch.name,
        blend: step.balance.name,
      });
    }
  }

  /**
   * A MIDI message has come in. Channel messages and single-byte system messages; system exclusive goes to
   * `receiveSysex`.
   * @param port number of the input in the book; @param status 0x80–0xff; @param data1 and data2 0–127, 0 where the
   * message has none.
   * @hotpath
   */
  receive(port: number, status: number, data1: number, data2: number, atMs: number): void {
    const { rig } = this;
    this.advance(atMs);
    rig.serial++;
    if (rig.observer !== null) this.tellIn(port, status, data1, data2);
    if (status < 0x80 || status > 0xff || (data1 & ~127) !== 0 || (data2 & ~127) !== 0)
      return rig.ignore(REASON.malformed);
    if (port >= 0 && port < MAX_INPUTS && (status === ACTIVE_SENSING || this.sensedMs[port] >= 0)) this.sense(port);
    if (status >= 0xf0) return this.system(port, status, data1, data2);
    const { show } = rig;
    const input = show === null || port < 0 || port >= show.inputs.length ? null : show.inputs[port];
    const kind = status & 0xf0;
    const inputChannel = (port << 4) | (status & 15);
    if (kind === NOTE_OFF || (kind === NOTE_ON && data2 === 0))
      return this.keyUp(port, inputChannel, data1, kind === NOTE_OFF ? data2 : 64);
    if (input === null) return rig.ignore(REASON['unknown-port']);
    if (!input.on) return rig.ignore(REASON['port-off']);
    if (input.doubleOf >= 0 && this.inputAway[input.doubleOf] === 0) return rig.ignore(REASON['doubled-port']);
    if (input.listens[status & 15] === 0) return rig.ignore(REASON['channel-not-listened']);
    switch (kind) {
      case NOTE_ON:
        if (!this.controls.takesKey(inputChannel, data1, data2))
          this.notes.press(inputChannel, data1, data2, input.keyShift, input.perNote ? status & 15 : -1);
        return;
      case CONTROLLER:
        return this.controller(input, inputChannel, data1, data2);
      case PROGRAM:
        if (!this.controls.takesProgram(inputChannel, data1)) this.controls.program(input, inputChannel, data1);
        return;
      case WHEEL:
        return this.swing(input, inputChannel, WHEEL_SLOT, (data2 << 7) | data1);
      case PRESSURE:
        return this.swing(input, inputChannel, PRESSURE_SLOT, data1);
      case KEY_PRESSURE:
        if (this.controls.hasTakenKey((inputChannel << 7) | data1)) return rig.ignore(REASON['switch-pressure']);
        return this.notes.keyPressure((inputChannel << 7) | data1, KEY_PRESSURE, data2);
    }
  }

  /** Clock and song position of the port that is followed; all else of the system is counted. */
  private system(port: number, status: number, data1: number, data2: number): void {
    const { rig, playhead } = this;
    const isClock = status === SONG_POSITION || (status >= CLOCK && status <= STOP);
    if (!isClock) return rig.ignore(REASON.system);
    if (rig.show === null || rig.show.clockInput !== port)
      return rig.ignore(rig.show !== null && rig.show.clockInput >= 0 ? REASON['other-clock'] : REASON.clock);
    if (status === CLOCK) playhead.outsideClock();
    else if (status === SONG_POSITION) playhead.outsidePosition((data2 << 7) | data1);
    else if (status === START || status === CONTINUE) playhead.outsideStart(status === START);
    else if (status === STOP) playhead.outsideStop();
  }

  /** Once an input has sent active sensing, its silence is worth a warning; it never ends a note. */
  private sense(port: number): void {
    const { rig } = this;
    const armed = this.sensedMs[port] >= 0;
    this.sensedMs[port] = rig.nowMs;
    if (!armed) rig.schedule.add(rig.nowMs + SENSING_LOST_MS, DUE_SENSING, port, 0);
  }

  private sensingDue(port: number): void {
    const { rig } = this;
    const lostMs = this.sensedMs[port] + SENSING_LOST_MS;
    if (lostMs > rig.nowMs) return void rig.schedule.add(lostMs, DUE_SENSING, port, 0);
    this.sensedMs[port] = -1;
    if (this.inputAway[port] === 0) rig.warn('active-sensing-lost', rig.portName(port));
  }

  private swing(input: CompiledInput, inputChannel: number, slot: number, value: number): void {
    if (
      slot === WHEEL_SLOT
        ? this.controls.takesWheel(inputChannel, value)
        : this.controls.takesPressure(inputChannel, value)
    )
      return;
    // A pad that is a switch sends its pressure too, and that of zero after it has come up.
    if (
      slot === PRESSURE_SLOT &&
      ((value === 0 && !this.rig.inputs.isOffRest(inputChannel, slot)) || this.controls.hasTakenAll(inputChannel))
    )
      return this.rig.ignore(REASON['switch-pressure']);
    if (input.perNote) this.controllers.perNoteValue(inputChannel, slot, value);
    else this.controllers.value(inputChannel, slot, value);
  }

  /** A release goes where its press went, also from a port that is switched off by now. */
  private keyUp(port: number, inputChannel: number, key: number, velocity: number): void {
    if (port < 0 || port >= MAX_INPUTS) return this.rig.ignore(REASON['unknown-port']);
    if (this.rig.show !== null && this.controls.takesKey(inputChannel, key, 0)) return;
    const slot = (inputChannel << 7) | key;
    if (this.rig.holds.head[slot] < 0) return this.rig.ignore(REASON['stray-note-off']);
    this.notes.release(slot, velocity);
  }

  private controller(input: CompiledInput, inputChannel: number, controller: number, value: number): void {
    const { rig } = this;
    if (controller === CC_BANK_MSB || controller === CC_BANK_LSB) {
      (controller === CC_BANK_MSB ? rig.inputs.bankMsb : rig.inputs.bankLsb)[inputChannel] = value;
      return rig.ignore(REASON['bank-remembered']);
    }
    if (controller >= CC_ALL_SOUND_OFF) return this.mode(inputChannel, controller);
    const steered = input.reversed[controller] === 1 ? 127 - value : value;
    if (input.ignoredPedal[controller] === 1) return rig.ignore(REASON['pedal-ignored']);
    if (this.controls.takesController(inputChannel, controller, steered)) return;
    this.controllers.controller(inputChannel, controller, steered, input.perNote);
  }

  /** Channel mode messages are never passed on. */
  private mode(inputChannel: number, controller: number): void {
    if (controller === CC_RESET_CONTROLLERS) this.controllers.rest(inputChannel);
    else if (controller !== CC_LOCAL) {
      this.endKeys(inputChannel);
      if (controller === CC_ALL_SOUND_OFF)
        for (let pedal = 0; pedal < 3; pedal++) this.controllers.lift(inputChannel, pedal);
    }
    this.rig.ignore(REASON['mode-message']);
  }

  private endKeys(inputChannel: number): void {
    for (let slot = inputChannel << 7; slot < (inputChannel + 1) << 7; slot++)
      if (this.rig.holds.head[slot] >= 0) this.notes.release(slot, 64);
  }

  /** System exclusive has come in; it is dropped and counted. */
  receiveSysex(port: number, _length: number, atMs: number): void {
    this.advance(atMs);
    this.rig.messagePort = port;
    this.rig.messageStatus = 0xf0;
    this.rig.messageData1 = 0;
    this.rig.messageData2 = 0;
    this.rig.ignore(REASON['system-exclusive']);
  }

  /**
   * Does everything that has fallen due at or before a time. Time never runs backwards: an earlier time is taken as the
   * present.
   * @returns when the next thing is due, `Infinity` when nothing is. @hotpath
   */
  advance(toMs: number): number {
    const { rig } = this;
    const { schedule } = rig;
    if (schedule.nextMs <= toMs || this.playhead.playing) return this.advanceBusy(toMs);
    if (toMs > rig.clock[0]) rig.clock[0] = toMs;
    return schedule.nextMs;
  }

  private advanceBusy(toMs: number): number {
    const { rig, playhead } = this;
    const { schedule } = rig;
    while (schedule.nextMs <= toMs || (playhead.playing && playhead.nextMs <= toMs)) this.runNext();
    if (toMs > rig.clock[0]) rig.clock[0] = toMs;
    return Math.min(schedule.nextMs, playhead.playing ? playhead.nextMs : Infinity);
  }

  private runNext(): void {
    const { rig, playhead } = this;
    const { schedule } = rig;
    rig.messagePort = -1;
    rig.serial++;
    if (playhead.playing && playhead.nextMs < schedule.nextMs) {
      rig.clock[0] = Math.max(rig.clock[0], playhead.nextMs);
      return playhead.run();
    }
    rig.clock[0] = Math.max(rig.clock[0], schedule.nextMs);
    const kind = schedule.nextKind;
    const subject = schedule.nextSubject;
    const serial = schedule.nextSerial;
    schedule.drop();
    if (kind === DUE_SWITCHED) this.recaller.switched(subject, serial);
    else if (kind === DUE_WAITED) this.notes.waited(subject, serial);
    else if (kind === DUE_NOTE_END) this.notes.noteEnd(subject, serial);
    else if (kind === DUE_FADED) this.recaller.faded(subject, serial);
    else if (kind === DUE_SENSING) this.sensingDue(subject);
    else if (kind === DUE_ARPEGGIO) this.arpeggiator.run(subject, serial);
  }

  /** Recalls a position of the setlist. Positions count patches and blends in running order, from 0. */
  recall(position: number, atMs: number, cause: RecallCause = 'page'): void {
    this.advance(atMs);
    this.rig.messagePort = -1;
    this.rig.serial++;
    this.recallAt(position, cause);
  }

  recallAt(position: number, cause: RecallCause): void {
    const { rig } = this;
    const { show } = rig;
    if (show === null || !(position >= 0 && position < show.steps.length))
      return rig.warn('nothing-to-recall', String(position));
    const entryChanges = rig.entry !== show.records[position * RECORD_STRIDE + RECORD_ENTRY];
    const songChanges = rig.step !== null && entryChanges;
    this.recaller.recall(position, cause);
    this.cursorPosition = -1;
    if (songChanges) {
      this.playhead.songChanged();
      this.beats.forget();
    }
    if (entryChanges) {
      this.playhead.takeSongTempo();
      this.tellEcho();
    }
  }

  /** Does what a role would do, from a page. */
  perform(action: PlainAction, atMs: number): void {
    this.advance(atMs);
    this.rig.messagePort = -1;
    this.rig.serial++;
    this.act(action, 'page');
  }

  /** A key of the computer goes down or up; whether it plays a role. */
  computerKey(code: string, down: boolean, atMs: number): boolean {
    this.advance(atMs);
    this.rig.messagePort = -1;
    this.rig.serial++;
    return this.controls.takesComputerKey(code, down);
  }

  stepBy(direction: 1 | -1, cause: RecallCause): void {
    this.act(direction > 0 ? 'nextStep' : 'previousStep', cause);
  }

  /** Does what a role does here and now. */
  carryOut(binding: CompiledBinding, cause: RecallCause): void {
    const { rig } = this;
    const { action } = binding;
    switch (action.kind) {
      case 'patch':
        return this.goTo(ofPatch(rig.show, rig.entry, action.number), cause);
      case 'song':
        return this.goTo(ofSong(rig.show, action.number), cause);
      case 'blend':
        return this.goTo(ofBlend(rig.show, rig.step, action.number), cause);
      case 'layerSwitch':
        this.values.toggle(binding);
        return this.recaller.mutesMoved();
      case 'presetStep': {
        const layer = this.values.stepPreset(binding);
        return layer === null ? undefined : this.recaller.presetStepped(layer);
      }
      case 'trigger':
        return this.notes.trigger(binding.part, action.key);
      case 'effectSwitch':
        return this.values.toggleEffect(action.effect);
      case 'effectOnOff':
      case 'sharedEffectOnOff':
        return this.values.switchEffect(binding);
      case 'layerValue':
      case 'layerController':
      case 'wholeValue':
      case 'effectValue':
      case 'sharedEffectValue':
        return;
      default:
        return this.act(action.kind, cause);
    }
  }

  private goTo(position: number, cause: RecallCause): void {
    if (position >= 0) this.recallAt(position, cause);
    else this.rig.warn('nothing-to-recall', this.rig.step?.patch.name ?? '');
  }

  private act(action: PlainAction, cause: RecallCause): void {
    const { rig } = this;
    switch (action) {
      case 'panic':
        return this.panicNow();
      case 'play':
        return this.playhead.play();
      case 'stop':
        return this.playhead.stop();
      case 'toStart':
        return this.playhead.locate(0);
      case 'hold':
        return this.toggleHold();
      case 'tapTempo':
        return this.tap();
      case 'transposeUp':
        return this.setTranspose(rig.transpose + 1);
      case 'transposeDown':
        return this.setTranspose(rig.transpose - 1);
      case 'transposeOff':
        return this.setTranspose(0);
      case 'resend':
        return this.recaller.resend();
    }
    const { show } = rig;
    if (show === null) return;
    if (action === 'cursorNext' || action === 'cursorPrevious')
      return this.moveCursor(show, action === 'cursorNext' ? 1 : -1);
    const position = this.destinationOf(action, show);
    if (position < 0 && action === 'go') return rig.warn('no-cursor', '');
    if (position >= 0) this.recallAt(position, cause);
    else
      rig.warn(
        action === 'previousStep' || action === 'previousSong' ? 'at-first-step' : 'at-last-step',
        rig.step?.patch.name ?? '',
      );
  }

  private destinationOf(action: PlainAction, show: CompiledShow): number {
    const { step } = this.rig;
    if (action === 'go') return this.cursorPosition;
    if (action === 'firstSong' || step === null) return firstWalked(show);
    if (action === 'firstStep') return ofPatch(show, this.rig.entry, 1);
    if (action === 'nextStep') return walk(show, step.position, 1);
    if (action === 'previousStep') return walk(show, step.position, -1);
    return walkSongs(show, step, action === 'nextSong' ? 1 : -1);
  }

  private toggleHold(): void {
    this.holding = !this.holding;
    if (this.holding) this.notes.keep();
    else this.notes.letGo();
    this.rig.record({ type: 'switch', atMs: this.rig.nowMs, of: 'hold', on: this.holding });
  }

  private tap(): void {
    const bpm = this.taps.tap(this.rig.nowMs);
    if (bpm > 0) this.playhead.setTempo(bpm);
  }

  /** Stage transposition in semitones, −24 to 24: for notes that are struck from here on. */
  private setTranspose(semitones: number): void {
    const { rig } = this;
    rig.transpose = Math.max(-24, Math.min(24, semitones));
    rig.record({ type: 'transpose', atMs: rig.nowMs, semitones: rig.transpose });
  }

  /**
   * Selects an address on an outboard channel by hand, with what goes with it; a byte of −1 is not sent. What a recall
   * needs there, it selects again.
   */
  select(
    destination: number,
    channel: number,
    msb: number,
    lsb: number,
    program: number,
    also: readonly EntryMessage[],
    atMs: number,
  ): void {
    this.advance(atMs);
    const entry = this.rig.book.destinations[destination];
    if (entry?.kind === 'port' && channel >= 0 && channel < 16 && this.rig.show !== null)
      this.recaller.selectNow(entry.lane + channel, addressFor(msb, lsb, program, also));
  }

  /** Says where an instrument that is stepped by counting stands: its place in the name list, from 0. */
  setCount(destination: number, channel: number, count: number): void {
    const entry = this.rig.book.destinations[destination];
    if (entry?.kind === 'port' && channel >= 0 && channel < 16) this.recaller.setCount(entry.lane + channel, count);
  }

  /** Moves the cursor along the steps without a sound; `go` recalls where it stands. */
  private moveCursor(show: CompiledShow, direction: 1 | -1): void {
    const from = this.cursorPosition >= 0 ? this.cursorPosition : (this.rig.step?.position ?? -1);
    const to = walk(show, from, direction);
    if (to >= 0) this.setCursor(to);
    else
      this.rig.warn(direction > 0 ? 'at-last-step' : 'at-first-step', show.steps[Math.round(from)]?.patch.name ?? '');
  }

  /** Puts the cursor on a position, or (−1) takes it away. */
  setCursor(position: number): void {
    this.cursorPosition = position;
    this.rig.record({ type: 'cursor', atMs: this.rig.nowMs, position });
  }

  panic(atMs: number): void {
    this.advance(atMs);
    this.panicNow();
  }

  private panicNow(): void {
    const { rig } = this;
    const second = rig.nowMs - this.panicMs <= SECOND_PANIC_MS;
    this.panicMs = second ? -Infinity : rig.nowMs;
    this.notes.endAll();
    this.holding = false;
    const { inputs, lanes } = rig;
    for (let i = 0; i < inputs.downCount; i++) inputs.pedalSwallowed[inputs.down[i]] = 1;
    for (let layer = 0; layer < rig.isCurrent.length; layer++) this.controllers.dropPedals(layer);
    for (let lane = 0; lane < lanes.laneCount; lane++) lanes.centreWheel(lane);
    if (second) {
      for (let destination = 0; destination < rig.book.destinations.length; destination++) {
        if (lanes.away[destination] === 0 && lanes.isTouched(destination)) lanes.silence(destination);
      }
      this.recaller.greetAgain(-1);
    }
    rig.record({ type: 'panic', atMs: rig.nowMs, strength: second ? 2 : 1 });
  }

  /** An input is gone: its keys end, its pedals go up, its wheel is centred, its banks are forgotten. */
  inputGone(port: number, atMs: number): void {
    this.advance(atMs);
    const { rig } = this;
    if (port < 0 || port >= MAX_INPUTS || this.inputAway[port] === 1) return;
    this.inputAway[port] = 1;
    rig.messagePort = -1;
    this.controls.inputGone(port);
    for (let inputChannel = port * 16; inputChannel < port * 16 + 16; inputChannel++) {
      this.endKeys(inputChannel);
      for (let pedal = 0; pedal < 3; pedal++) this.controllers.lift(inputChannel, pedal);
      this.controllers.centre(inputChannel);
      rig.inputs.bankMsb[inputChannel] = 0;
      rig.inputs.bankLsb[inputChannel] = 0;
    }
    rig.warn('input-gone', rig.portName(port));
  }

  /** An input is back: nothing resumes until it is played. */
  inputBack(port: number, atMs: number): void {
    this.advance(atMs);
    if (port < 0 || port >= MAX_INPUTS || this.inputAway[port] === 0) return;
    this.inputAway[port] = 0;
    this.rig.warn('input-back', this.rig.portName(port));
  }

  /** An output (a port destination of the book) is gone. */
  outputGone(destination: number, atMs: number): void {
    this.advance(atMs);
    const entry = this.rig.book.destinations[destination];
    if (entry?.kind !== 'port' || this.rig.lanes.away[destination] === 1) return;
    this.rig.lanes.leave(destination);
    this.rig.warn('output-gone', entry.alias);
  }

  /** It is back: owed note-offs and pedals up, then addresses, then controllers. */
  outputBack(destination: number, atMs: number): void {
    this.advance(atMs);
    const entry = this.rig.book.destinations[destination];
    if (entry?.kind !== 'port' || this.rig.lanes.away[destination] === 0) return;
    this.rig.serial++;
    this.recaller.outputBack(destination);
    this.rig.warn('output-back', entry.alias);
  }

  /** The host says whether a built-in layer's sound is loaded. */
  setReady(destination: number, ready: boolean, atMs: number): void {
    this.advance(atMs);
    const entry = this.rig.book.destinations[destination];
    if (entry?.kind !== 'layer') return;
    for (let lane = entry.lane; lane < entry.lane + entry.lanes; lane++) {
      if (ready) this.recaller.ready(lane);
      else this.rig.lanes.setReadyAt(lane, Infinity);
    }
  }

  private soundOn(on: boolean, atMs: number): void {
    this.advance(atMs);
    this.soundIsOn = on;
    this.unreadyFrom = 0;
    if (on) this.newOnesAreNotReady();
    else this.rig.book.destinations.forEach((_, destination) => this.setReady(destination, true, atMs));
  }

  private newOnesAreNotReady(): void {
    const { destinations } = this.rig.book;
    for (; this.unreadyFrom < destinations.length; this.unreadyFrom++) {
      const entry = destinations[this.unreadyFrom];
      if (entry.kind !== 'layer') continue;
      for (let lane = entry.lane; lane < entry.lane + entry.lanes; lane++) this.rig.lanes.setReadyAt(lane, Infinity);
    }
  }

  play(atMs: number): void {
    this.perform('play', atMs);
  }

  stop(atMs: number): void {
    this.perform('stop', atMs);
  }

  /** Goes to a tick of the present song. */
  locate(tick: number, atMs: number): void {
    this.advance(atMs);
    this.playhead.locate(tick);
  }

  /** Notes the message, for what the observer will be told of it. */
  private tellIn(port: number, status: number, data1: number, data2: number): void {
    const { rig } = this;
    rig.messagePort = port;
    rig.messageStatus = status;
    rig.messageData1 = data1;
    rig.messageData2 = data2;
    rig.record({ type: 'in', atMs: rig.nowMs, port: rig.portName(port), status, data1, data2 });
  }

  // What pages and logs read. These may allocate; they change nothing.

  get nowMs(): number {
    return this.rig.nowMs;
  }

  /** The show that it plays from. */
  get show(): PlayedShow {
    return this.played;
  }

  /** How far a keyboard's keys are shifted; null where it plays nothing, or doubles another. @hotpath */
  keyShiftOf(port: number): number | null {
    const input = this.rig.show?.inputs[port];
    return input?.on === true && input.plays && input.doubleOf < 0 ? input.keyShift : null;
  }

  /** Steps whose sounds should stand, in the order in which they are needed. */
  near(): CompiledStep[] {
    return stepsNear(this.rig, this.cursorPosition);
  }

  get step(): CompiledStep | null {
    return this.rig.step;
  }

  get cursor(): number {
    return this.cursorPosition;
  }

  get isPlaying(): boolean {
    return this.playhead.playing;
  }

  tickAt(atMs: number): number {
    return this.playhead.tickAt(atMs);
  }

  /** Where next would lead, −1 at the end. */
  get nextPosition(): number {
    const { show, step } = this.rig;
    return show === null ? -1 : walk(show, step?.position ?? -1, 1);
  }

  get transpose(): number {
    return this.rig.transpose;
  }

  get isHolding(): boolean {
    return this.holding;
  }

  /** Quarter notes a minute, as tapped, as followed, or the song's own; 0 before the first recall. */
  get tempoBpm(): number {
    return this.playhead.tempoBpm;
  }

  /** What tonight's controls stand at and do now, in the order of the gear list. */
  controlStates(): ControlView[] {
    return controlsIn(this.rig, this.controls, this.values);
  }

  /** Place of a layer's present preset in its instrument's list, by number within the present patch. */
  presetOf(part: number): number {
    const layer = this.rig.patch?.layers[part];
    return layer === undefined ? -1 : this.values.presetOf(layer);
  }

  /** How often something was ignored, by reason. */
  ignoredCounts(): Record<IgnoredReason, number> {
    return Object.fromEntries(IGNORED_REASONS.map((reason, i) => [reason, this.rig.ignored[i]])) as Record<
      IgnoredReason,
      number
    >;
  }

  /** Every note that sounds now, by hold. */
  sounding(): SoundingNote[] {
    return soundingIn(this.rig);
  }

  /** Keys that are down, after the keyboard's shift; carried: only layers that have been left hold it. */
  keysDown(): { key: number; carried: boolean }[] {
    return keysDownIn(this.rig);
  }

  /** Whether a pedal (64, 66, 67) is down anywhere. */
  isPedalDown(controller: 64 | 66 | 67): boolean {
    return isPedalDownIn(this.rig, controller);
  }

  /** References of counting controllers, to be kept over a restart: `[input number * 16 + channel, program]`. */
  counterReferences(): [number, number][] {
    return Array.from(this.rig.inputs.counterReference, (program, i): [number, number] => [i, program]).filter(
      ([, program]) => program >= 0,
    );
  }

  /** The same by device, for a restart. */
  counters(): LastPlace['counters'] {
    return this.counterReferences().map(([at, program]) => ({
      device: this.rig.book.inputs[at >> 4],
      channel: at & 15,
      program,
    }));
  }

  setCounterReference(inputChannel: number, program: number): void {
    this.rig.inputs.counterReference[inputChannel] = program;
  }

  /**
   * The balance of the present patch as it is now, with what hands have moved; of effects what differs from the layer's
   * own.
   */
  balanceNow(): {
    layerId: string;
    levelDb: number;
    pan: number;
    room: number;
    echo: number;
    mute: boolean;
    effects: EffectChange[];
    parameters: SoundParameter[];
  }[] {
    const { patch, values, valuesAt, mutes, mutesAt, step } = this.rig;
    return (patch?.layers ?? []).map(({ layerId, fader, effects, lane }, i) => {
      const at = valuesAt + i * BALANCE_STRIDE;
      return {
        parameters: parametersNow(this.rig, lane),
        effects: effectChanges(effects, this.values.effects.lyingOver(fader, step!.balance.effects[i])),
        layerId,
        levelDb: values[at],
        pan: values[at + 1],
        room: values[at + 2],
        echo: values[at + 3],
        mute: mutes[mutesAt + i] === 1,
      };
    });
  }

  /** Layers of the present patch whose sound is not ready: it loads, or its instrument is switching. */
  notReady(): NamedLayer[] {
    return notReadyIn(this.rig);
  }

  /** Layers whose recording waits for the beat. */
  waitingForBeat(): NamedLayer[] {
    return waitingIn(this.rig);
  }

  /** What could not be compiled and was left out. */
  get leftOut(): readonly CompileNote[] {
    return this.rig.show?.notes ?? [];
  }

  /** Layers with notes of a patch that has been left, by name with their number of notes. */
  carried(): (NamedLayer & { notes: number })[] {
    return carriedIn(this.rig);
  }
}
