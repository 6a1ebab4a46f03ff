import { assertNever } from '../result';
import type { EntryMessage, PlainAction } from '../show';
import type { CompiledShow } from './compile/compiled';
import { ShowCompiler } from './compile/showCompiler';
import { makeParts } from './engineParts';
import { EngineReading } from './engineReading';
import type { EngineInput, LastPlace } from './input';
import { REASON } from './reasons';
import { recallRecord, type EngineObserver, type RecallCause } from './records';
import { addressFor } from './recall/addresses';
import { firstWalked } from './recall/steps';
import type { EngineSink } from './sink';
import { Due } from './state/engineState';
import type { Registry } from './state/registry';

/**
 * The live engine. Messages with their times (in ms, from any start) go in; messages with their times leave through the
 * sink.
 *
 *     port → receive → role? ──→ action, recall
 *                    → program? → program map → recall
 *                    → note, controller → zones of the present patch → lanes → sink
 */
export class Engine extends EngineReading {
  private readonly compiler: ShowCompiler;
  private place: LastPlace | null = null;
  private playedSetlist: string | null = null;

  /** @param registry the one that the compiler of its shows writes in. */
  constructor(registry: Registry, sink: EngineSink) {
    super(makeParts(registry, sink));
    this.compiler = new ShowCompiler(registry);
  }

  /** From now on outputs that always get clock pulses get them while the timeline stands, too. */
  pulseWhileStanding(): void {
    this.parts.state.pulsesWhileStanding = true;
  }

  /** Watches everything that the engine does; costs nothing while it is null. */
  set observer(observer: EngineObserver | null) {
    this.parts.state.observer = observer;
  }

  /**
   * Puts a compiled show in: at first its first step is recalled; later notes that sound are not disturbed.
   * @param startAt position that is recalled instead of the first step, after a restart in the middle of a set.
   */
  load(show: CompiledShow, atMs: number, startAt = firstWalked(show)): void {
    this.advance(atMs);
    const { state, values, notes, controls, readiness, devices, recaller, transport, actions, echo } = this.parts;
    state.grow(show);
    values.grow(state.registry.layerKeyCount);
    values.effects.grow(state.registry.effectTargets.length);
    notes.arpeggiator.grow(state.registry.layers.length);
    controls.load(show.controls);
    readiness.grow();
    const old = state.show;
    const first = old === null;
    devices.settlePorts(false);
    const edited = recaller.replace(show);
    if (old?.sharedEffects !== show.sharedEffects || old.wholeEffects !== show.wholeEffects)
      state.lanes.setlistEffects(
        values.effects.movedShared(show.sharedEffects),
        values.effects.movedWhole(show.wholeEffects),
      );
    state.offsets.take(show.offsets);
    transport.replace();
    actions.cursor = Math.min(actions.cursor, show.steps.length - 1);
    if (state.step === null && (first || show.steps.length > 0))
      actions.recallAt(show.steps[startAt] ? startAt : firstWalked(show), 'start');
    else if (edited) this.tellEdit();
    echo.tell();
    devices.settlePorts(true);
  }

  /**
   * Whatever can happen, as a value: what it does is what the engine's own methods do. `receive` is the fast way for
   * port messages. Never throws for what is out of range; what leads nowhere is counted or warned of.
   */
  apply(input: EngineInput, atMs: number): void {
    const { registry } = this.parts.state;
    switch (input.type) {
      case 'message':
        return this.receive(registry.findInput(input.device), input.status, input.data1, input.data2, atMs);
      case 'sysex':
        return this.receiveSysex(registry.findInput(input.device), input.length, atMs);
      case 'input':
        this.advance(atMs);
        return this.parts.devices.inputDevice(input.device, input.here);
      case 'output':
        this.advance(atMs);
        return this.parts.devices.outputDevice(input.device, input.here);
      case 'computerKey':
        return void this.computerKey(input.code, input.down, atMs);
      case 'perform':
        return this.perform(input.action, atMs);
      case 'role':
        return this.playRole(input.role, input.share, atMs);
      case 'fader':
        this.advance(atMs);
        return this.parts.values.setLevel(input.layerId, input.levelDb);
      case 'recall':
        return this.recall(input.position, atMs);
      case 'cursor':
        this.advance(atMs);
        return this.parts.actions.setCursor(input.position);
      case 'locate':
        return this.locate(input.tick, atMs);
      case 'loop':
        this.advance(atMs);
        return this.parts.transport.setLoop(input.range);
      case 'jump':
        this.advance(atMs);
        return this.parts.transport.jump(input.toTick, input.at);
      case 'select':
        return this.select(
          registry.findOutputPort(input.port),
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
        this.advance(atMs);
        return this.parts.readiness.soundOn(input.on);
      case 'soundDelay':
        this.advance(atMs);
        return this.parts.state.offsets.soundIsLater(input.delayMs);
      case 'ready':
        return this.setReady(input.destination, input.ready, atMs);
      case 'show':
        this.place = input.place;
        this.parts.played.start(input.show, input.setlistId);
        return this.takeShow(atMs);
      case 'changed':
        this.parts.played.take(input.news);
        this.parts.played.choose(input.setlistId);
        return this.takeShow(atMs);
      case 'audition':
        this.parts.played.audition(input.audition);
        return this.takeShow(atMs);
      default:
        return assertNever(input);
    }
  }

  /** Plays from the show as it is now; another setlist begins at its first song. */
  private takeShow(atMs: number): void {
    const { played, state, restart } = this.parts;
    const { setlist } = played;
    if (setlist === null) return;
    const other = this.playedSetlist !== null && this.playedSetlist !== setlist.id;
    this.playedSetlist = setlist.id;
    const show = this.compiler.compile(played, setlist, played.gear);
    const { place } = this;
    this.place = null;
    const isHere = state.step === null && place !== null && place.setlistId === setlist.id;
    const position = isHere ? restart.takeUpPlace(show, place) : -1;
    if (position >= 0) {
      this.load(show, atMs, position);
      if (place?.hands) restart.takeUpHands(show, place.hands);
    } else this.load(show, atMs);
    if (other) this.perform('firstSong', atMs);
  }

  private countOf(instrumentId: string, count: number): void {
    const instrument = this.parts.played.instrument(instrumentId);
    if (instrument?.kind !== 'outboard') return;
    this.setCount(this.parts.state.registry.findOutputPort(instrument.port), instrument.channel - 1, count);
  }

  private tellEdit(): void {
    const { step, observer, nowMs } = this.parts.state;
    if (step !== null && observer !== null) this.parts.state.record(recallRecord(step, 'edit', true, nowMs));
  }

  /**
   * A MIDI message has come in. Channel messages and single-byte system messages; system exclusive goes to
   * `receiveSysex`.
   * @param port number of the input in the registry; @param status 0x80–0xff; @param data1 and data2 0–127, 0 where the
   * message has none.
   * @hotpath
   */
  receive(port: number, status: number, data1: number, data2: number, atMs: number): void {
    this.advance(atMs);
    this.parts.router.receive(port, status, data1, data2);
  }

  /** System exclusive has come in; it is dropped and counted. */
  receiveSysex(port: number, _length: number, atMs: number): void {
    this.advance(atMs);
    this.parts.state.messagePort = port;
    this.parts.state.messageStatus = 0xf0;
    this.parts.state.messageData1 = 0;
    this.parts.state.messageData2 = 0;
    this.parts.state.ignore(REASON['system-exclusive']);
  }

  /**
   * Does everything that has fallen due at or before a time. Time never runs backwards: an earlier time is taken as the
   * present.
   * @returns when the next thing is due, `Infinity` when nothing is. @hotpath
   */
  advance(toMs: number): number {
    const { state } = this.parts;
    const { schedule } = state;
    if (schedule.nextMs <= toMs || this.parts.transport.isRunning) return this.advanceBusy(toMs);
    if (toMs > state.clock[0]) state.clock[0] = toMs;
    return schedule.nextMs;
  }

  /**
   * Hands over to ports what a timeline has to send soon, each message with its time: a sink that can wait is not held
   * up by what holds up the caller. Without it everything goes at its moment, in the same order with the same times.
   * @returns when it is to be called again at the latest, unless something is due before, in ms. @hotpath
   */
  handAhead(nowMs: number): number {
    return this.parts.transport.handAhead(nowMs);
  }

  private advanceBusy(toMs: number): number {
    const { state, transport } = this.parts;
    const { schedule } = state;
    transport.skipTo(toMs);
    while (schedule.nextMs <= toMs || transport.nextMs <= toMs) this.runNext();
    if (toMs > state.clock[0]) state.clock[0] = toMs;
    return Math.min(schedule.nextMs, transport.nextMs);
  }

  private runNext(): void {
    const { state, transport } = this.parts;
    const { schedule } = state;
    state.messagePort = -1;
    state.serial++;
    if (transport.nextMs < schedule.nextMs) {
      state.clock[0] = Math.max(state.clock[0], transport.nextMs);
      return transport.run();
    }
    state.clock[0] = Math.max(state.clock[0], schedule.nextMs);
    const kind = schedule.nextKind;
    const subject = schedule.nextSubject;
    const serial = schedule.nextSerial;
    schedule.drop();
    if (kind === Due.switched) this.parts.recaller.switched(subject, serial);
    else if (kind === Due.waited) this.parts.notes.waiting.waited(subject, serial);
    else if (kind === Due.noteEnd) this.parts.notes.ender.noteEnd(subject, serial);
    else if (kind === Due.faded) this.parts.recaller.faded(subject, serial);
    else if (kind === Due.sensing) this.parts.devices.sensingDue(subject);
    else if (kind === Due.arpeggio) this.parts.notes.arpeggiator.run(subject, serial);
  }

  /** Recalls a position of the setlist. Positions count patches and blends in running order, from 0. */
  recall(position: number, atMs: number, cause: RecallCause = 'page'): void {
    this.advance(atMs);
    this.parts.state.messagePort = -1;
    this.parts.state.serial++;
    this.parts.actions.recallAt(position, cause);
  }

  /** Does what a role would do, from a page. */
  perform(action: PlainAction, atMs: number): void {
    this.advance(atMs);
    this.parts.state.messagePort = -1;
    this.parts.state.serial++;
    this.parts.actions.act(action, 'page');
  }

  /** A hand on a screen plays a role: its values stand at a share of their ranges, or (null) its presses are done. */
  playRole(role: string, share: number | null, atMs: number): void {
    this.advance(atMs);
    this.parts.state.messagePort = -1;
    this.parts.state.serial++;
    this.parts.controls.byHand(role, share);
  }

  /** A key of the computer goes down or up; whether it plays a role. */
  computerKey(code: string, down: boolean, atMs: number): boolean {
    this.advance(atMs);
    this.parts.state.messagePort = -1;
    this.parts.state.serial++;
    return this.parts.controls.takesComputerKey(code, down);
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
    const entry = this.parts.state.registry.destinations[destination];
    if (entry?.kind === 'port' && channel >= 0 && channel < 16 && this.parts.state.show !== null)
      this.parts.recaller.outboard.selectNow(entry.lane + channel, addressFor(msb, lsb, program, also));
  }

  /** Says where an instrument that is stepped by counting stands: its place in the name list, from 0. */
  setCount(destination: number, channel: number, count: number): void {
    const entry = this.parts.state.registry.destinations[destination];
    if (entry?.kind === 'port' && channel >= 0 && channel < 16)
      this.parts.recaller.outboard.setCount(entry.lane + channel, count);
  }

  panic(atMs: number): void {
    this.advance(atMs);
    this.parts.actions.panic();
  }

  /** An input is gone: its keys end, its pedals go up, its wheel is centred, its banks are forgotten. */
  inputGone(port: number, atMs: number): void {
    this.advance(atMs);
    this.parts.devices.inputGone(port);
  }

  /** An input is back: nothing resumes until it is played. */
  inputBack(port: number, atMs: number): void {
    this.advance(atMs);
    this.parts.devices.inputBack(port);
  }

  /** An output (a port destination of the registry) is gone. */
  outputGone(destination: number, atMs: number): void {
    this.advance(atMs);
    this.parts.devices.outputGone(destination);
  }

  /** It is back: owed note-offs and pedals up, then addresses, then controllers. */
  outputBack(destination: number, atMs: number): void {
    this.advance(atMs);
    this.parts.devices.outputBack(destination);
  }

  /** The host says whether a built-in layer's sound is loaded. */
  setReady(destination: number, ready: boolean, atMs: number): void {
    this.advance(atMs);
    this.parts.readiness.set(destination, ready);
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
    this.parts.transport.locate(tick);
  }
}
