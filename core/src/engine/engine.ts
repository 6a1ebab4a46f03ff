import { assertNever } from '../result';
import type { EntryMessage, PlainAction } from '../show';
import { Actions } from './controls/actions';
import { addressFor } from './recall/addresses';
import { Arpeggiator } from './play/arpeggiator';
import { BeatGrid } from './play/beatGrid';
import type { Registry } from './state/registry';
import { type CompileNote, type CompiledShow, type CompiledStep } from './compile/compiled';
import { ShowCompiler } from './compile/showCompiler';
import { ControlMap } from './controls/controlMap';
import { ControllerRouter } from './play/controllerRouter';
import { Devices } from './play/devices';
import { EchoTeller } from './recall/echoTeller';
import type { EngineInput, LastPlace, MovedByHand } from './input';
import { LiveSound } from './play/liveSound';
import { MessageRouter } from './play/messageRouter';
import { NoteRouter } from './play/noteRouter';
import { PlayedShow } from './playedShow';
import { Transport } from './transport';
import { IGNORED_REASONS, REASON, type IgnoredReason } from './reasons';
import { Readiness } from './recall/readiness';
import { Recaller } from './recall/recaller';
import { recallRecord, type EngineObserver, type RecallCause } from './records';
import { retellLayer, retellWhole } from './retell';
import { Due, EngineState } from './state/engineState';
import type { EngineSink } from './sink';
import { firstWalked, walk } from './recall/steps';
import { Overrides } from './controls/overrides';
import {
  balanceIn,
  carriedIn,
  controlsIn,
  counterReferencesIn,
  isPedalDownIn,
  keysDownIn,
  movedParametersIn,
  notReadyIn,
  soundingIn,
  stepsNear,
  waitingIn,
  type BalanceView,
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
  private readonly state: EngineState;
  private readonly notes: NoteRouter;
  private readonly recaller: Recaller;
  private readonly controls: ControlMap;
  private readonly transport: Transport;
  private readonly values: Overrides;
  private readonly echo: EchoTeller;
  private readonly liveSound: LiveSound;
  private readonly actions: Actions;
  private readonly devices: Devices;
  private readonly router: MessageRouter;
  private readonly readiness: Readiness;
  /** The show that inputs have brought, and what makes tables of it. */
  private readonly played = new PlayedShow();
  private readonly compiler: ShowCompiler;
  private place: LastPlace | null = null;
  private playedSetlist: string | null = null;

  /** @param registry the one that the compiler of its shows writes in. */
  constructor(registry: Registry, sink: EngineSink) {
    const state = new EngineState(registry, sink);
    const transport = new Transport(state, (position, cause) => this.actions.recallAt(position, cause));
    const beats = new BeatGrid(transport);
    const notes = new NoteRouter(state, beats, (through) => new Arpeggiator(state, through, transport, beats));
    const controllers = new ControllerRouter(state);
    const values = new Overrides(state);
    const echo = new EchoTeller(state);
    const liveSound = new LiveSound(state);
    const recaller = new Recaller(state, notes, controllers, values, liveSound);
    const actions = new Actions({ state, recaller, notes, controllers, values, transport, beats, echo });
    const controls = new ControlMap(state, actions, values, (entry, first) => {
      const left = recaller.whereLeft.of(entry);
      return left >= 0 ? left : first;
    });
    const devices = new Devices(state, notes, controllers, controls, recaller, () => this.played.gear);
    this.compiler = new ShowCompiler(registry);
    this.readiness = new Readiness(state, recaller);
    this.state = state;
    this.transport = transport;
    this.notes = notes;
    this.values = values;
    this.echo = echo;
    this.liveSound = liveSound;
    this.recaller = recaller;
    this.actions = actions;
    this.controls = controls;
    this.devices = devices;
    this.router = new MessageRouter(state, devices, notes, controllers, controls, transport);
  }

  /** Watches everything that the engine does; costs nothing while it is null. */
  set observer(observer: EngineObserver | null) {
    this.state.observer = observer;
  }

  /**
   * Puts a compiled show in: at first its first step is recalled; later notes that sound are not disturbed.
   * @param startAt position that is recalled instead of the first step, after a restart in the middle of a set.
   */
  load(show: CompiledShow, atMs: number, startAt = firstWalked(show)): void {
    this.advance(atMs);
    this.state.grow(show);
    this.values.grow(this.state.registry.layerKeyCount);
    this.values.effects.grow(this.state.registry.effectTargets.length);
    this.notes.arpeggiator.grow(this.state.registry.layers.length);
    this.controls.load(show.controls);
    this.readiness.grow();
    const old = this.state.show;
    const first = old === null;
    this.devices.settlePorts(false);
    const edited = this.recaller.replace(show);
    if (old?.sharedEffects !== show.sharedEffects || old.wholeEffects !== show.wholeEffects)
      this.state.lanes.setlistEffects(
        this.values.effects.movedShared(show.sharedEffects),
        this.values.effects.movedWhole(show.wholeEffects),
      );
    this.transport.replace();
    this.actions.cursor = Math.min(this.actions.cursor, show.steps.length - 1);
    if (this.state.step === null && (first || show.steps.length > 0))
      this.actions.recallAt(show.steps[startAt] ? startAt : firstWalked(show), 'start');
    else if (edited) this.tellEdit();
    this.echo.tell();
    this.devices.settlePorts(true);
  }

  /**
   * Whatever can happen, as a value: what it does is what the engine's own methods do. `receive` is the fast way for
   * port messages. Never throws for what is out of range; what leads nowhere is counted or warned of.
   */
  apply(input: EngineInput, atMs: number): void {
    const { registry } = this.state;
    switch (input.type) {
      case 'message':
        return this.receive(registry.findInput(input.device), input.status, input.data1, input.data2, atMs);
      case 'sysex':
        return this.receiveSysex(registry.findInput(input.device), input.length, atMs);
      case 'input':
        this.advance(atMs);
        return this.devices.inputDevice(input.device, input.here);
      case 'output':
        this.advance(atMs);
        return this.devices.outputDevice(input.device, input.here);
      case 'computerKey':
        return void this.computerKey(input.code, input.down, atMs);
      case 'perform':
        return this.perform(input.action, atMs);
      case 'recall':
        return this.recall(input.position, atMs);
      case 'cursor':
        this.advance(atMs);
        return this.actions.setCursor(input.position);
      case 'locate':
        return this.locate(input.tick, atMs);
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
        return this.readiness.soundOn(input.on);
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
    const { played, state } = this;
    const { setlist } = played;
    if (setlist === null) return;
    const other = this.playedSetlist !== null && this.playedSetlist !== setlist.id;
    this.playedSetlist = setlist.id;
    const show = this.compiler.compile(played, setlist, played.gear);
    const hands = this.place?.hands ?? null;
    const place = state.step === null ? this.placeIn(show, setlist.id) : -1;
    if (place >= 0) {
      this.load(show, atMs, place);
      if (hands !== null) this.takeUpHands(show, hands);
    } else this.load(show, atMs);
    if (other) this.perform('firstSong', atMs);
  }

  /** Where the set was left, with its counters' references; −1 when that is nowhere. */
  private placeIn(show: CompiledShow, setlistId: string): number {
    const { place } = this;
    this.place = null;
    if (place === null || place.setlistId !== setlistId) return -1;
    for (const { device, channel, program } of place.counters) {
      const port = this.state.registry.findInput(device);
      if (port >= 0) this.setCounterReference(port * 16 + channel, program);
    }
    return show.steps.findIndex(
      ({ entryId, patch, balance }) =>
        entryId === place.entryId && patch.patchId === place.patchId && balance.blendId === place.blendId,
    );
  }

  /** What hands had moved before a restart stands again. */
  private takeUpHands(show: CompiledShow, hands: MovedByHand): void {
    const { effects } = this.values;
    const anyPreset = this.values.takeUp(hands);
    this.state.lanes.setlistEffects(effects.movedShared(show.sharedEffects), effects.movedWhole(show.wholeEffects));
    this.recaller.handsTakenUp(anyPreset);
    this.takeUpParameters(hands.parameters);
    this.controls.takeUpLatched(hands.latched);
    if (hands.transpose !== 0) this.actions.setTranspose(hands.transpose);
  }

  /** What hands have moved, for a restart; null: everything stands as it is stored. */
  movedByHand(): MovedByHand | null {
    const { transpose } = this.state;
    const latched = this.controls.latchedKeys();
    const parameters = movedParametersIn(this.state);
    const kept = this.values.kept();
    if (kept === null && transpose === 0 && latched.length === 0 && parameters.length === 0) return null;
    const nothing = { layers: [], effects: [], whole: [], effectsOff: [] };
    return { ...(kept ?? nothing), parameters, transpose, latched };
  }

  private takeUpParameters(moved: MovedByHand['parameters']): void {
    const { registry, patch, lanes } = this.state;
    for (const { key, parameters } of moved)
      for (const layer of patch?.layers ?? []) {
        if (layer.layerKey !== registry.findLayerKey(key)) continue;
        for (let lane = layer.lane; lane < layer.lane + layer.lanes; lane++)
          for (const { controller, value } of parameters) lanes.bringTo(lane, controller, value);
      }
  }

  private countOf(instrumentId: string, count: number): void {
    const instrument = this.played.instrument(instrumentId);
    if (instrument?.kind !== 'outboard') return;
    this.setCount(this.state.registry.findOutputPort(instrument.port), instrument.channel - 1, count);
  }

  /** Tells a new listener everything that holds now. Not on the playing path. */
  retell(sink: EngineSink): void {
    this.retellWhole(sink);
    for (const { destination, outboard } of this.state.patch?.layers ?? [])
      if (!outboard) this.retellLayer(sink, destination);
  }

  /** The same of what is no layer's: the output's values, effects of the setlist, tempo and echo. */
  retellWhole(sink: EngineSink): void {
    const { clock } = this.state;
    retellWhole(this.state, this.values, sink);
    if (this.transport.tempoBpm > 0) sink.tempo(this.transport.tempoBpm, clock);
    if (this.echo.told !== null) sink.echo(this.echo.told, clock);
  }

  /** The same of one built-in layer. @param step where it is to sound; the present one, or one that it is readied for. */
  retellLayer(sink: EngineSink, destination: number, step = this.state.step): void {
    retellLayer(this.state, this.values, this.liveSound, sink, destination, step);
  }

  private tellEdit(): void {
    const { step, observer, nowMs } = this.state;
    if (step !== null && observer !== null) this.state.record(recallRecord(step, 'edit', true, nowMs));
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
    this.router.receive(port, status, data1, data2);
  }

  /** System exclusive has come in; it is dropped and counted. */
  receiveSysex(port: number, _length: number, atMs: number): void {
    this.advance(atMs);
    this.state.messagePort = port;
    this.state.messageStatus = 0xf0;
    this.state.messageData1 = 0;
    this.state.messageData2 = 0;
    this.state.ignore(REASON['system-exclusive']);
  }

  /**
   * Does everything that has fallen due at or before a time. Time never runs backwards: an earlier time is taken as the
   * present.
   * @returns when the next thing is due, `Infinity` when nothing is. @hotpath
   */
  advance(toMs: number): number {
    const { state } = this;
    const { schedule } = state;
    if (schedule.nextMs <= toMs || this.transport.playing) return this.advanceBusy(toMs);
    if (toMs > state.clock[0]) state.clock[0] = toMs;
    return schedule.nextMs;
  }

  private advanceBusy(toMs: number): number {
    const { state, transport } = this;
    const { schedule } = state;
    while (schedule.nextMs <= toMs || (transport.playing && transport.nextMs <= toMs)) this.runNext();
    if (toMs > state.clock[0]) state.clock[0] = toMs;
    return Math.min(schedule.nextMs, transport.playing ? transport.nextMs : Infinity);
  }

  private runNext(): void {
    const { state, transport } = this;
    const { schedule } = state;
    state.messagePort = -1;
    state.serial++;
    if (transport.playing && transport.nextMs < schedule.nextMs) {
      state.clock[0] = Math.max(state.clock[0], transport.nextMs);
      return transport.run();
    }
    state.clock[0] = Math.max(state.clock[0], schedule.nextMs);
    const kind = schedule.nextKind;
    const subject = schedule.nextSubject;
    const serial = schedule.nextSerial;
    schedule.drop();
    if (kind === Due.switched) this.recaller.switched(subject, serial);
    else if (kind === Due.waited) this.notes.waiting.waited(subject, serial);
    else if (kind === Due.noteEnd) this.notes.ender.noteEnd(subject, serial);
    else if (kind === Due.faded) this.recaller.faded(subject, serial);
    else if (kind === Due.sensing) this.devices.sensingDue(subject);
    else if (kind === Due.arpeggio) this.notes.arpeggiator.run(subject, serial);
  }

  /** Recalls a position of the setlist. Positions count patches and blends in running order, from 0. */
  recall(position: number, atMs: number, cause: RecallCause = 'page'): void {
    this.advance(atMs);
    this.state.messagePort = -1;
    this.state.serial++;
    this.actions.recallAt(position, cause);
  }

  /** Does what a role would do, from a page. */
  perform(action: PlainAction, atMs: number): void {
    this.advance(atMs);
    this.state.messagePort = -1;
    this.state.serial++;
    this.actions.act(action, 'page');
  }

  /** A key of the computer goes down or up; whether it plays a role. */
  computerKey(code: string, down: boolean, atMs: number): boolean {
    this.advance(atMs);
    this.state.messagePort = -1;
    this.state.serial++;
    return this.controls.takesComputerKey(code, down);
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
    const entry = this.state.registry.destinations[destination];
    if (entry?.kind === 'port' && channel >= 0 && channel < 16 && this.state.show !== null)
      this.recaller.outboard.selectNow(entry.lane + channel, addressFor(msb, lsb, program, also));
  }

  /** Says where an instrument that is stepped by counting stands: its place in the name list, from 0. */
  setCount(destination: number, channel: number, count: number): void {
    const entry = this.state.registry.destinations[destination];
    if (entry?.kind === 'port' && channel >= 0 && channel < 16)
      this.recaller.outboard.setCount(entry.lane + channel, count);
  }

  panic(atMs: number): void {
    this.advance(atMs);
    this.actions.panic();
  }

  /** An input is gone: its keys end, its pedals go up, its wheel is centred, its banks are forgotten. */
  inputGone(port: number, atMs: number): void {
    this.advance(atMs);
    this.devices.inputGone(port);
  }

  /** An input is back: nothing resumes until it is played. */
  inputBack(port: number, atMs: number): void {
    this.advance(atMs);
    this.devices.inputBack(port);
  }

  /** An output (a port destination of the registry) is gone. */
  outputGone(destination: number, atMs: number): void {
    this.advance(atMs);
    this.devices.outputGone(destination);
  }

  /** It is back: owed note-offs and pedals up, then addresses, then controllers. */
  outputBack(destination: number, atMs: number): void {
    this.advance(atMs);
    this.devices.outputBack(destination);
  }

  /** The host says whether a built-in layer's sound is loaded. */
  setReady(destination: number, ready: boolean, atMs: number): void {
    this.advance(atMs);
    this.readiness.set(destination, ready);
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
    this.transport.locate(tick);
  }

  // What pages and logs read. These may allocate; they change nothing.

  get nowMs(): number {
    return this.state.nowMs;
  }

  /** The show that it plays from. */
  get show(): PlayedShow {
    return this.played;
  }

  /** How far a keyboard's keys are shifted; null where it plays nothing, or doubles another. @hotpath */
  keyShiftOf(port: number): number | null {
    const input = this.state.show?.inputs[port];
    return input?.on === true && input.plays && input.doubleOf < 0 ? input.keyShift : null;
  }

  /** Steps whose sounds should stand, in the order in which they are needed. */
  near(): CompiledStep[] {
    return stepsNear(this.state, this.actions.cursor);
  }

  get step(): CompiledStep | null {
    return this.state.step;
  }

  get cursor(): number {
    return this.actions.cursor;
  }

  get isPlaying(): boolean {
    return this.transport.playing;
  }

  tickAt(atMs: number): number {
    return this.transport.tickAt(atMs);
  }

  /** Where next would lead, −1 at the end. */
  get nextPosition(): number {
    const { show, step } = this.state;
    return show === null ? -1 : walk(show, step?.position ?? -1, 1);
  }

  get transpose(): number {
    return this.state.transpose;
  }

  get isHolding(): boolean {
    return this.actions.holding;
  }

  /** Quarter notes a minute, as tapped, as followed, or the song's own; 0 before the first recall. */
  get tempoBpm(): number {
    return this.transport.tempoBpm;
  }

  /** What tonight's controls stand at and do now, in the order of the gear list. */
  controlStates(): ControlView[] {
    return controlsIn(this.state, this.controls, this.values);
  }

  /** Place of a layer's present preset in its instrument's list, by number within the present patch. */
  presetOf(part: number): number {
    const layer = this.state.patch?.layers[part];
    return layer === undefined ? -1 : this.values.presetOf(layer);
  }

  /** How often something was ignored, by reason. */
  ignoredCounts(): Record<IgnoredReason, number> {
    return Object.fromEntries(IGNORED_REASONS.map((reason, i) => [reason, this.state.ignored[i]])) as Record<
      IgnoredReason,
      number
    >;
  }

  /** Every note that sounds now, by hold. */
  sounding(): SoundingNote[] {
    return soundingIn(this.state);
  }

  /** Keys that are down, after the keyboard's shift; carried: only layers that have been left hold it. */
  keysDown(): { key: number; carried: boolean }[] {
    return keysDownIn(this.state);
  }

  /** Whether a pedal (64, 66, 67) is down anywhere. */
  isPedalDown(controller: 64 | 66 | 67): boolean {
    return isPedalDownIn(this.state, controller);
  }

  /** References of counting controllers, to be kept over a restart: `[input number * 16 + channel, program]`. */
  counterReferences(): [number, number][] {
    return counterReferencesIn(this.state);
  }

  /** The same by device, for a restart. */
  counters(): LastPlace['counters'] {
    return this.counterReferences().map(([at, program]) => ({
      device: this.state.registry.inputs[at >> 4],
      channel: at & 15,
      program,
    }));
  }

  setCounterReference(inputChannel: number, program: number): void {
    this.state.inputs.counterReference[inputChannel] = program;
  }

  /**
   * The balance of the present patch as it is now, with what hands have moved; of effects what differs from the layer's
   * own.
   */
  balanceNow(): BalanceView[] {
    return balanceIn(this.state, this.values);
  }

  /** Layers of the present patch whose sound is not ready: it loads, or its instrument is switching. */
  notReady(): NamedLayer[] {
    return notReadyIn(this.state);
  }

  /** Layers whose recording waits for the beat. */
  waitingForBeat(): NamedLayer[] {
    return waitingIn(this.state);
  }

  /** What could not be compiled and was left out. */
  get leftOut(): readonly CompileNote[] {
    return this.state.show?.notes ?? [];
  }

  /** Layers with notes of a patch that has been left, by name with their number of notes. */
  carried(): (NamedLayer & { notes: number })[] {
    return carriedIn(this.state);
  }
}
