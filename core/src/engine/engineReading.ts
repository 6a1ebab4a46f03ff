import type { CompileNote, CompiledStep } from './compile/compiled';
import type { EngineParts } from './engineParts';
import type { LastPlace, MovedByHand } from './input';
import type { PlayedShow } from './playedShow';
import { IGNORED_REASONS, REASON, type IgnoredReason } from './reasons';
import { walk } from './recall/steps';
import { retellLayer, retellWhole } from './retell';
import type { EngineSink } from './sink';
import type { Call } from './timeline/calls';
import {
  balanceIn,
  carriedIn,
  controlsIn,
  isPedalDownIn,
  keysDownIn,
  isAnyNotReady,
  isStillPlayed,
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
 * What pages, logs and new listeners learn of the engine. All of it may allocate unless it says otherwise; none changes
 * anything.
 */
export class EngineReading {
  constructor(protected readonly parts: EngineParts) {}

  /** Tells a new listener everything that holds now. Not on the playing path. */
  retell(sink: EngineSink): void {
    this.retellWhole(sink);
    for (const { destination, outboard } of this.parts.state.patch?.layers ?? [])
      if (!outboard) this.retellLayer(sink, destination);
  }

  /** The same of what is no layer's: the output's values, effects of the setlist, tempo and echo. */
  retellWhole(sink: EngineSink): void {
    const { clock } = this.parts.state;
    retellWhole(this.parts.state, this.parts.values, sink);
    if (this.parts.transport.tempoBpm > 0) sink.tempo(this.parts.transport.tempoBpm, clock);
    if (this.parts.echo.told !== null) sink.echo(this.parts.echo.told, clock);
  }

  /** The same of one built-in layer. @param step where it is to sound; the present one, or one that it is readied for. */
  retellLayer(sink: EngineSink, destination: number, step = this.parts.state.step): void {
    retellLayer(this.parts.state, this.parts.values, this.parts.liveSound, sink, destination, step);
  }

  get nowMs(): number {
    return this.parts.state.nowMs;
  }

  /** The show that it plays from. */
  get show(): PlayedShow {
    return this.parts.played;
  }

  /** How far a keyboard's keys are shifted; null where it plays nothing, or doubles another. @hotpath */
  keyShiftOf(port: number): number | null {
    const input = this.parts.state.show?.inputs[port];
    return input?.on === true && input.plays && input.doubleOf < 0 ? input.keyShift : null;
  }

  /** The bank that programs of an input are of by now, as far as it listens to one. @returns null: there is no such input */
  bankOn(port: number, channel: number): { msb: number; lsb: number } | null {
    const { show, inputs } = this.parts.state;
    const input = show?.inputs[port];
    if (!input) return null;
    const at = port * 16 + channel;
    return { msb: input.usesMsb ? inputs.bankMsb[at] : 0, lsb: input.usesLsb ? inputs.bankLsb[at] : 0 };
  }

  /** Steps whose sounds should stand, in the order in which they are needed. */
  near(): CompiledStep[] {
    return stepsNear(this.parts.state, this.parts.actions.cursor);
  }

  /** Whether a layer that has been left may sound there again: it stands in for one that loads, or its keys are held. */
  isStillPlayed(destination: number): boolean {
    return isStillPlayed(this.parts.state, destination);
  }

  get step(): CompiledStep | null {
    return this.parts.state.step;
  }

  get cursor(): number {
    return this.parts.actions.cursor;
  }

  get isPlaying(): boolean {
    return this.parts.transport.playing;
  }

  tickAt(atMs: number): number {
    return this.parts.transport.tickAt(atMs);
  }

  /** Where next would lead, −1 at the end. */
  get nextPosition(): number {
    const { show, step } = this.parts.state;
    return show === null ? -1 : walk(show, step?.position ?? -1, 1);
  }

  get transpose(): number {
    return this.parts.state.transpose;
  }

  get isHolding(): boolean {
    return this.parts.actions.holding;
  }

  /** How many times the tempo of the song's map it goes at: 1 until something is tapped, or a clock is followed. */
  get tempoTrim(): number {
    return this.parts.transport.trim;
  }

  /** What the timeline has for the player to read; empty: nothing. */
  get text(): string {
    return this.parts.transport.player.text;
  }

  /** What leads the timeline: the port of the clock that is followed, how fast and how steadily it comes; null: itself. */
  leader(atMs: number): { port: string; bpm: number; jitterMs: number; isLost: boolean } | null {
    const { state, transport } = this.parts;
    if (state.show === null || state.show.clockInput < 0) return null;
    const { bpm, jitterMs } = transport.clock;
    return { port: state.portName(state.show.clockInput), bpm, jitterMs, isLost: transport.isLeaderLost(atMs) };
  }

  /** What another player's programs have recalled since the timeline was last started. */
  get calls(): readonly Call[] {
    return this.parts.transport.recalls.calls.list;
  }

  /** Whether recalls and presets of the timeline are passed over. */
  get holdsCues(): boolean {
    return this.parts.transport.player.holdsCues;
  }

  /** The stretch that is played over and over, or null. */
  get loop(): { fromTick: number; toTick: number } | null {
    return this.parts.transport.turns.loop;
  }

  /** Where the jump that is to come leads, −1: none is. */
  get jumpsTo(): number {
    return this.parts.transport.turns.jumpsTo;
  }

  /** Quarter notes a minute, as tapped, as followed, or the song's own; 0 before the first recall. */
  get tempoBpm(): number {
    return this.parts.transport.tempoBpm;
  }

  /** What tonight's controls stand at and do now, in the order of the gear list. */
  controlStates(): ControlView[] {
    return controlsIn(this.parts.state, this.parts.controls, this.parts.values, this.isHolding);
  }

  /** Place of a layer's present preset in its instrument's list, by number within the present patch. */
  presetOf(part: number): number {
    const layer = this.parts.state.patch?.layers[part];
    return layer === undefined ? -1 : this.parts.values.presetOf(layer);
  }

  /** How often something was ignored, by reason. */
  ignoredCounts(): Record<IgnoredReason, number> {
    return Object.fromEntries(IGNORED_REASONS.map((reason, i) => [reason, this.parts.state.ignored[i]])) as Record<
      IgnoredReason,
      number
    >;
  }

  /** The same of one reason. @hotpath */
  ignoredFor(reason: IgnoredReason): number {
    return this.parts.state.ignored[REASON[reason]];
  }

  /** Every note that sounds now, by hold. */
  sounding(): SoundingNote[] {
    return soundingIn(this.parts.state);
  }

  /** Keys that are down, after the keyboard's shift; carried: only layers that have been left hold it. */
  keysDown(): { key: number; carried: boolean }[] {
    return keysDownIn(this.parts.state);
  }

  /** Whether a pedal (64, 66, 67) is down anywhere. */
  isPedalDown(controller: 64 | 66 | 67): boolean {
    return isPedalDownIn(this.parts.state, controller);
  }

  /** References of counting controllers by device, for a restart. */
  counters(): LastPlace['counters'] {
    return this.parts.restart.counters();
  }

  /** What hands have moved, for a restart; null: everything stands as it is stored. */
  movedByHand(): MovedByHand | null {
    return this.parts.restart.movedByHand();
  }

  /**
   * The balance of the present patch as it is now, with what hands have moved; of effects what differs from the layer's
   * own.
   */
  balanceNow(): BalanceView[] {
    return balanceIn(this.parts.state, this.parts.values);
  }

  get isAnyNotReady(): boolean {
    return isAnyNotReady(this.parts.state);
  }

  /** Layers of the present patch whose sound is not ready: it loads, or its instrument is switching. */
  notReady(): NamedLayer[] {
    return notReadyIn(this.parts.state);
  }

  /** Layers whose recording waits for the beat. */
  waitingForBeat(): NamedLayer[] {
    return waitingIn(this.parts.state);
  }

  /** What could not be compiled and was left out. */
  get leftOut(): readonly CompileNote[] {
    return this.parts.state.show?.notes ?? [];
  }

  /** Layers with notes of a patch that has been left, by name with their number of notes. */
  carried(): (NamedLayer & { notes: number })[] {
    return carriedIn(this.parts.state);
  }
}
