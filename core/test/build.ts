import {
  SilentSink,
  type Registry,
  type Engine,
  type EngineInput,
  type EngineRecord,
  type StampedInput,
} from '../src/engine';
import {
  PLAYED_KINDS,
  newsBetween,
  BUILT_INS,
  bodiesOf,
  EFFECT_PARAMETERS,
  effectValue,
  type Effect,
  GearList,
  Setlist,
  SHOW_VERSION,
  Show,
  Song,
} from '../src/show';
import { startOf, Simulation } from '../src/simulate';

/** Shows for tests, written as tersely as a test wants to be read. */
export const outboardInstrument = (over: object = {}): object => ({
  kind: 'outboard',
  id: 'skerry',
  name: 'Skerry',
  port: 'Skerry',
  channel: 1,
  switchMs: 0,
  names: [
    { id: 'sk0', name: 'Low Water', msb: 0, lsb: 0, program: 5 },
    { id: 'sk1', name: 'Weed', msb: 0, lsb: 1, program: 7 },
    { id: 'sk2', name: 'Rope', program: 9 },
    {
      id: 'sk3',
      name: 'Muted',
      program: null,
      also: [
        { kind: 'note', key: 12 },
        { kind: 'controller', controller: 80, value: 3 },
      ],
    },
  ],
  ...over,
});

/** A layer on a built-in instrument, or (with a preset `sk…`) on the outboard one. */
export const layer = (id: string, over: Record<string, unknown> = {}): object => {
  const { preset, channel, ...rest } = over as { preset?: string; channel?: number };
  const sound =
    preset === undefined
      ? { instrumentId: 'causeway', presetId: BUILT_INS[0].presets[0].id }
      : { instrumentId: 'skerry', presetId: preset, channel: channel ?? null };
  return { id, name: id, tape: 'straw', sound, ...rest };
};

export const part = (layerId: string, over: Record<string, unknown> = {}): object => ({ layerId, ...over });

export const song = (id: string, over: Record<string, unknown>): Song => Song.parse({ id, name: id, ...over });

export const GEAR = {
  id: 'loft',
  name: 'Rehearsal loft',
  ports: [
    { direction: 'in', alias: 'Keys', device: 'Aster 73' },
    { direction: 'in', alias: 'Lower', device: 'Cobble 25' },
    { direction: 'in', alias: 'Feet', device: 'Treadle 6', plays: false },
    { direction: 'out', alias: 'Skerry', device: 'Skerry' },
  ],
};

export interface RigOptions {
  gear?: object;
  setlist?: object;
  instruments?: object[];
  everySetlist?: object[];
}

export interface Sent {
  to: string;
  status: number;
  data1: number;
  data2: number;
  atMs: number;
}

/** An engine with a show in it, and everything it has sent and recorded. */
export class TestRig extends SilentSink {
  readonly registry!: Registry;
  readonly engine: Engine;
  readonly simulation: Simulation;
  /** Everything that was fed, from the start. */
  readonly fed: StampedInput[] = [];
  readonly sent: Sent[] = [];
  readonly fades: { to: string; fadeMs: number; atMs: number }[] = [];
  readonly balances: { to: string; levelDb: number; pan: number; rampMs: number; atMs: number }[] = [];
  readonly records: EngineRecord[];
  /** Presets, values of the whole output, tempos, in words. */
  readonly told: string[] = [];
  show: Show;

  constructor(songs: Song[], options: RigOptions = {}) {
    super();
    this.show = Show.parse({
      format: 'rackle-show',
      version: SHOW_VERSION,
      songs,
      instruments: options.instruments ?? [outboardInstrument()],
      everySetlist: options.everySetlist ?? [],
      gearLists: [GearList.parse(options.gear ?? GEAR)],
      setlists: [
        Setlist.parse({
          id: 'night',
          name: 'Night',
          entries: songs.map((s) => ({ kind: 'song', id: `e-${s.id}`, songId: s.id })),
          ...options.setlist,
        }),
      ],
    });
    const { setlists, gearLists } = this.show;
    this.simulation = new Simulation(this.show, setlists[0], gearLists[0], {
      sink: (registry) => {
        Object.assign(this, { registry });
        return this;
      },
    });
    this.engine = this.simulation.engine;
    this.records = this.simulation.records;
  }

  feed(input: EngineInput, atMs: number): void {
    this.fed.push({ input, atMs });
    this.simulation.feed(input, atMs);
  }

  /** The show as it is now, whole. */
  load(atMs = 0): void {
    this.feed(startOf(this.show, this.show.setlists[0], this.show.gearLists[0]), atMs);
  }

  /** From the show as it was to another one, as edits do. */
  become(next: Show, atMs: number): void {
    const touched = PLAYED_KINDS.flatMap((kind) =>
      [...this.show[kind], ...next[kind]].map(({ id }) => ({ kind, id: id as string })),
    );
    const news = newsBetween(bodiesOf(this.show), bodiesOf(next), touched);
    this.show = next;
    this.feed({ type: 'changed', news, setlistId: next.setlists[0].id }, atMs);
  }

  /** Changes one song, as an edit does. */
  edit(id: string, change: (song: Song) => Song, atMs: number): void {
    this.become({ ...this.show, songs: this.show.songs.map((s) => (s.id === id ? change(s) : s)) }, atMs);
  }

  port(device: string): number {
    return this.registry.findInput(device);
  }

  on(key: number, atMs: number, velocity = 100, device = 'Aster 73', channel = 0): void {
    this.engine.receive(this.port(device), 0x90 | channel, key, velocity, atMs);
  }

  off(key: number, atMs: number, device = 'Aster 73', channel = 0): void {
    this.engine.receive(this.port(device), 0x80 | channel, key, 64, atMs);
  }

  cc(controller: number, value: number, atMs: number, device = 'Aster 73', channel = 0): void {
    this.engine.receive(this.port(device), 0xb0 | channel, controller, value, atMs);
  }

  wheel(value: number, atMs: number, device = 'Aster 73'): void {
    this.engine.receive(this.port(device), 0xe0, value & 127, value >> 7, atMs);
  }

  program(program: number, atMs: number, device = 'Treadle 6'): void {
    this.engine.receive(this.port(device), 0xc0, program, 0, atMs);
  }

  override send(destination: number, status: number, data1: number, data2: number, clock: Float64Array): void {
    const [atMs] = clock;
    this.sent.push({ to: this.nameOf(destination), status, data1, data2, atMs });
  }

  override sendSysex(destination: number, bytes: Uint8Array, clock: Float64Array): void {
    const [atMs] = clock;
    this.sent.push({ to: this.nameOf(destination), status: 0xf0, data1: bytes.length, data2: 0, atMs });
  }

  override balance(destination: number, values: Float64Array, at: number, rampMs: number, clock: Float64Array): void {
    this.balances.push({
      to: this.nameOf(destination),
      levelDb: values[at],
      pan: values[at + 1],
      rampMs,
      atMs: clock[0],
    });
  }

  override effects(destination: number, effects: readonly Effect[], rampMs: number): void {
    this.told.push(
      `${this.nameOf(destination)} effects ${effects.map((effect) => `${effect.kind}${effect.on ? '' : ' off'} ${EFFECT_PARAMETERS[effect.kind].map(({ name }) => effectValue(effect, name)).join(' ')}`).join(', ')} in ${rampMs}`,
    );
  }

  override effectValue(destination: number, effectId: string, parameter: string, value: number): void {
    this.told.push(
      `${destination < 0 ? 'setlist' : this.nameOf(destination)} ${effectId} ${parameter} ${Math.round(value * 100) / 100}`,
    );
  }

  override fade(destination: number, fadeMs: number, clock: Float64Array): void {
    this.fades.push({ to: this.nameOf(destination), fadeMs, atMs: clock[0] });
  }

  override preset(destination: number, preset: number): void {
    this.told.push(`${this.nameOf(destination)} preset ${preset}`);
  }

  override whole(which: number, value: number): void {
    this.told.push(`whole ${which} ${Math.round(value * 100) / 100}`);
  }

  override tempo(bpm: number): void {
    this.told.push(`tempo ${Math.round(bpm * 100) / 100}`);
  }

  /** Live sound, as it was told last. */
  readonly lives = new Map<number, { input: string | null; mono: boolean; open: boolean }>();

  override live(destination: number, input: string | null, mono: boolean, open: boolean): void {
    if (input === null) this.lives.delete(destination);
    else this.lives.set(destination, { input, mono, open });
  }

  /** The layer's name for built-in layers, the alias for ports. */
  private nameOf(destination: number): string {
    const entry = this.registry.destinations[destination];
    return entry.kind === 'port' ? entry.alias : this.registry.nameOf(destination).split(' / ').slice(2).join('/');
  }

  /** What has been sent since the last call, as `to status data1 data2` in words. */
  take(): string[] {
    return this.sent.splice(0).map(({ to, status, data1, data2 }) => {
      const kind = status & 0xf0;
      if (status === 0xf0) return `${to} sysex ${data1}`;
      const channel = (status & 15) === 0 ? '' : ` ch${(status & 15) + 1}`;
      const name = {
        0x80: 'off',
        0x90: 'on',
        0xa0: 'keypressure',
        0xb0: 'cc',
        0xc0: 'program',
        0xd0: 'pressure',
        0xe0: 'wheel',
      }[kind];
      const values =
        kind === 0x80 || kind === 0xc0 || kind === 0xd0
          ? `${data1}`
          : kind === 0xe0
            ? `${(data2 << 7) | data1}`
            : `${data1} ${data2}`;
      return `${to}${channel} ${name} ${values}`;
    });
  }

  reasons(): string[] {
    return this.records.flatMap((record) => (record.type === 'ignored' ? [record.reason] : []));
  }

  get here(): string {
    const step = this.engine.step;
    return step === null
      ? ''
      : [step.patch.song, step.patch.name, step.balance.name].filter((name) => name !== null).join('/');
  }
}
