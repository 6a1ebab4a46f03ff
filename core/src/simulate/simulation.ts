import {
  Registry,
  Engine,
  SilentSink,
  type EngineInput,
  type EngineRecord,
  type EngineSink,
  type StampedInput,
} from '../engine';
import type { GearList, Setlist, Show } from '../show';

/** A message that left the engine; system exclusive as status 0xf0 with its bytes. */
export interface SentMessage {
  /** Destination of the registry, and its name: a port's alias, or the track of a built-in layer. */
  destination: number;
  to: string;
  status: number;
  data1: number;
  data2: number;
  bytes?: Uint8Array;
  atMs: number;
}

/** What a simulation plays from. */
export type SimulatedShow = Pick<Show, 'songs' | 'instruments'> & Partial<Pick<Show, 'everySetlist'>>;

/** How a simulation listens. */
export interface SimulationOptions {
  /** Where the output goes, besides being collected. */
  sink?: (registry: Registry) => EngineSink;
  /** False: no records are kept, and the engine allocates nothing for them. */
  records?: boolean;
}

/**
 * The engine with a show in it and no stage: inputs are fed, and what it sent and did is collected. The same engine as
 * on stage; it starts at time 0, with the recall of the setlist's first step.
 */
export class Simulation {
  readonly registry = new Registry();
  readonly engine: Engine;
  readonly sent: SentMessage[] = [];
  readonly records: EngineRecord[] = [];

  /** @param gear null: no gear at all. */
  constructor(show: SimulatedShow, setlist: Setlist, gear: GearList | null, options: SimulationOptions = {}) {
    this.engine = new Engine(this.registry, options.sink?.(this.registry) ?? new Collector(this.registry, this.sent));
    if (options.records !== false) this.engine.observer = { record: (record) => void this.records.push(record) };
    this.feed(startOf(show, setlist, gear), 0);
  }

  /** Times never run backwards: an earlier one is taken as the present. */
  feed(input: EngineInput, atMs: number): void {
    this.engine.apply(input, atMs);
  }

  /** Feeds a whole run, in its order. */
  play(inputs: Iterable<StampedInput>): void {
    for (const { input, atMs } of inputs) this.feed(input, atMs);
  }

  /**
   * Does everything that falls due up to a time.
   * @returns when the next thing is due, `Infinity` when nothing is.
   */
  advance(toMs: number): number {
    return this.engine.advance(toMs);
  }

  /** What has been sent since the last call. */
  take(): SentMessage[] {
    return this.sent.splice(0);
  }
}

/** The input with which a show begins to be played. */
export const startOf = (show: SimulatedShow, setlist: Setlist, gear: GearList | null): EngineInput => ({
  type: 'show',
  show: {
    songs: show.songs,
    instruments: show.instruments,
    setlists: [gear === null ? setlist : { ...setlist, gearListId: gear.id }],
    gearLists: gear === null ? [] : [gear],
    everySetlist: show.everySetlist ?? [],
  },
  setlistId: setlist.id,
  place: null,
});

class Collector extends SilentSink {
  constructor(
    private readonly registry: Registry,
    private readonly sent: SentMessage[],
  ) {
    super();
  }

  override send(destination: number, status: number, data1: number, data2: number, [atMs]: Float64Array): void {
    this.sent.push({ destination, to: this.registry.nameOf(destination), status, data1, data2, atMs });
  }

  override sendSysex(destination: number, bytes: Uint8Array, [atMs]: Float64Array): void {
    const to = this.registry.nameOf(destination);
    this.sent.push({ destination, to, status: 0xf0, data1: bytes.length, data2: 0, bytes: bytes.slice(), atMs });
  }
}
