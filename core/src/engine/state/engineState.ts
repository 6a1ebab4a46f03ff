import type { Registry } from './registry';
import type { CompiledLayer, CompiledPatch, CompiledShow, CompiledStep, KeyRow } from '../compile/compiled';
import { NO_PLANS, type LayerPlans } from '../compile/layerPlans';
import { extended } from './extended';
import { HeldNotes } from './heldNotes';
import { Inputs } from './inputs';
import { Lanes } from './lanes';
import { MAX_DUE, MAX_HELD } from './limits';
import { PortOffsets } from './portOffsets';
import { IGNORED_REASONS, type WarningCode } from '../reasons';
import type { EngineObserver, EngineRecord } from '../records';
import { Schedule } from './schedule';
import type { EngineSink } from '../sink';

/** What can fall due. */
export const Due = { switched: 1, waited: 2, noteEnd: 3, faded: 4, sensing: 5, arpeggio: 6 } as const;
export type Due = (typeof Due)[keyof typeof Due];

const LIVE_MAX = 256;

/** The engine's memory: all that its parts share. It decides nothing. */
export class EngineState {
  /** The present in ms, in an array so that it can be handed on without allocating. */
  readonly clock = new Float64Array(1);
  show: CompiledShow | null = null;
  step: CompiledStep | null = null;
  patch: CompiledPatch | null = null;
  /** The present patch's rows, by input port and channel. */
  rows: readonly (KeyRow | null)[] = [];
  /** By input filter, as tonight's gear has it. */
  hears: readonly Uint8Array[] = [];
  hearsPedals: readonly Uint8Array[] = [];
  /** Entry of the present step, −1 when its place in the set is gone. */
  entry = -1;
  /** The present patch's plan and balance, in the tables of the show that it came from. */
  plan: LayerPlans = NO_PLANS;
  planFrom = 0;
  planTo = 0;
  values: Float64Array = new Float64Array(0);
  valuesAt = 0;
  mutes: Uint8Array = new Uint8Array(0);
  mutesAt = 0;
  leavesWithMessages = false;
  /** Whether any layer of the present step sends to a shared effect, and whether live sound feeds any. */
  sends = false;
  hasLiveSound = false;
  /** Stage transposition in semitones, on top of each song's own. */
  transpose = 0;
  readonly lanes: Lanes;
  readonly offsets = new PortOffsets();
  readonly holds = new HeldNotes(MAX_HELD);
  readonly inputs = new Inputs();
  readonly schedule = new Schedule(MAX_DUE);
  readonly ignored = new Float64Array(IGNORED_REASONS.length);
  /** The message being handled, for records and for stamps. */
  messagePort = -1;
  messageStatus = 0;
  messageData1 = 0;
  messageData2 = 0;
  serial = 1;

  // By layer number:
  readonly layers: (CompiledLayer | null)[] = [];
  /** By destination, the built-in layer that sounds there. */
  readonly layerAt: (CompiledLayer | undefined)[] = [];
  isCurrent = new Uint8Array(0);
  isStandIn = new Uint8Array(0);
  isDeferred = new Uint8Array(0);
  isLingering = new Uint8Array(0);
  isMuted = new Uint8Array(0);
  holdsOf = new Uint16Array(0);
  /** Whether it holds a pedal down, by layer and pedal. */
  pedalOf = new Uint8Array(0);
  fadeSerial = new Int32Array(0);
  /** Whether it has been given a parameter number since it was entered. */
  parameterSeen = new Uint8Array(0);

  /** Layers that hear controllers: those of the present patch, then those standing in. */
  readonly live: (CompiledLayer | null)[] = new Array<CompiledLayer | null>(LIVE_MAX).fill(null);
  readonly liveMute = new Uint8Array(LIVE_MAX);
  liveCount = 0;
  /** Layers left behind that still sound, hold a pedal or stand bent. */
  lingering = new Int32Array(0);
  lingeringCount = 0;
  /** The patch whose layers stand in for deferred ones. */
  standInPatch: CompiledPatch | null = null;
  deferredCount = 0;
  private observerOrNull: EngineObserver | null = null;

  constructor(
    readonly registry: Registry,
    sink: EngineSink,
  ) {
    this.lanes = new Lanes(registry, sink, this.clock);
  }

  /** Whether outputs that always get clock pulses get them while the timeline stands: on stage, not in simulations. */
  pulsesWhileStanding = false;

  get nowMs(): number {
    return this.clock[0];
  }

  /** What goes out from here on goes out at a time. @returns the time before, to be gone back to. @hotpath */
  stampFrom(atMs: number): number {
    const before = this.clock[0];
    this.clock[0] = atMs;
    return before;
  }

  get observer(): EngineObserver | null {
    return this.observerOrNull;
  }

  set observer(observer: EngineObserver | null) {
    this.observerOrNull = observer;
    this.lanes.observer = observer;
  }

  /** Semitones by which layers that transpose are shifted now: by hand, and for tonight at this place in the set. @hotpath */
  get keyShift(): number {
    const { show, entry } = this;
    return show === null || entry < 0 ? this.transpose : this.transpose + show.entryShifts[entry];
  }

  /** Makes room for what a compile has added. Not on the playing path. */
  grow(show: CompiledShow): void {
    this.lanes.grow(Math.max(show.laneCount, this.registry.laneCount));
    const count = Math.max(show.layerCount, this.registry.layers.length);
    if (count > this.isCurrent.length) {
      const size = Math.max(count, Math.ceil(this.isCurrent.length * 1.5), 256);
      this.isCurrent = extended(this.isCurrent, size);
      this.isStandIn = extended(this.isStandIn, size);
      this.isDeferred = extended(this.isDeferred, size);
      this.isLingering = extended(this.isLingering, size);
      this.isMuted = extended(this.isMuted, size);
      this.holdsOf = extended(this.holdsOf, size);
      this.pedalOf = extended(this.pedalOf, size * 3);
      this.fadeSerial = extended(this.fadeSerial, size);
      this.parameterSeen = extended(this.parameterSeen, size);
      this.lingering = extended(this.lingering, size);
      while (this.layers.length < size) this.layers.push(null);
    }
    if (show.songs === this.show?.songs) return;
    const known = new Set(this.show?.songs);
    for (const song of show.songs) {
      if (known.has(song)) continue;
      known.add(song);
      for (const patch of song.patches)
        for (const layer of patch.layers) {
          this.layers[layer.index] = layer;
          if (!layer.outboard) this.layerAt[layer.destination] = layer;
        }
    }
  }

  /** Counts, and tells the observer, that the present message was not used. @hotpath */
  ignore(reason: number): void {
    this.ignored[reason]++;
    if (this.observerOrNull !== null) this.tellIgnored(reason);
  }

  private tellIgnored(reason: number): void {
    this.observerOrNull!.record({
      type: 'ignored',
      atMs: this.nowMs,
      reason: IGNORED_REASONS[reason],
      port: this.messagePort < 0 ? '' : this.portName(this.messagePort),
      status: this.messageStatus,
      data1: this.messageData1,
      data2: this.messageData2,
    });
  }

  warn(code: WarningCode, about: string): void {
    if (this.observerOrNull !== null) this.observerOrNull.record({ type: 'warning', atMs: this.nowMs, code, about });
  }

  record(record: EngineRecord): void {
    if (this.observerOrNull !== null) this.observerOrNull.record(record);
  }

  portName(port: number): string {
    return this.show?.inputs[port]?.alias ?? this.registry.inputs[port] ?? `input ${port}`;
  }
}
