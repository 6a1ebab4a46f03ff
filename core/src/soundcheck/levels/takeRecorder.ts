import { SilentSink, WHOLE_DEFAULTS, type Registry } from '../../engine';
import { NOTE_OFF, NOTE_ON } from '../../midi/status';
import type { Effect, GearList, Instrument, NoteValue, Place, Send, Setlist, SharedEffect } from '../../show';
import { Simulation, type SimulatedShow } from '../../simulate';
import type { Strike } from '../simulated/stimuli';
import type { LevelTake, TakeLayer, TakeMessage } from './take';

/** As long as a take is, in ms. */
const TAKE_MS = 2000;
/** After a recall, until every glide is over. */
const SETTLES_MS = 12_000;
const BETWEEN_MS = 1000;

type Sound = Pick<TakeLayer, 'instrumentId' | 'presetId' | 'content'>;
type Told = Omit<TakeLayer, keyof Sound>;

/** What a preset of the player's own is made of: another content sounds otherwise. */
function contentOf(instrument: Instrument | undefined, presetId: string): unknown {
  if (instrument === undefined || instrument.kind === 'outboard') return null;
  const preset = instrument.presets.find(({ id }) => id === presetId) ?? null;
  return instrument.kind === 'bank' ? { file: instrument.file, preset } : preset;
}

/** Hears what the engine tells of layers; notes are kept with their times. */
class Listener extends SilentSink {
  readonly layers = new Map<number, { -readonly [K in keyof Told]: Told[K] }>();
  /** While keys are struck: since when, in ms. */
  fromMs: number | null = null;
  bpm = 0;
  echoNote: NoteValue | null = null;
  readonly wholeNow = [...WHOLE_DEFAULTS];
  shared: readonly SharedEffect[] = [];
  wholeEffects: readonly Effect[] = [];

  private at(destination: number): { -readonly [K in keyof Told]: Told[K] } {
    const known = this.layers.get(destination);
    if (known !== undefined) return known;
    const made: Told = { balance: [0, 0, 0, 0], effects: [], sends: [], messages: [] };
    this.layers.set(destination, made);
    return made;
  }

  override send(destination: number, status: number, data1: number, data2: number, [atMs]: Float64Array): void {
    const message: TakeMessage = [this.fromMs === null ? 0 : Math.max(0, atMs - this.fromMs), status, data1, data2];
    if (this.fromMs !== null || !isNote(status)) this.at(destination).messages.push(message);
  }

  override balance(destination: number, values: Float64Array, at: number): void {
    this.at(destination).balance = [values[at], values[at + 1], values[at + 2], values[at + 3]];
  }

  override effects(destination: number, effects: readonly Effect[]): void {
    this.at(destination).effects = effects;
  }

  override sends(destination: number, sends: readonly Send[]): void {
    this.at(destination).sends = sends;
  }

  override tempo(bpm: number): void {
    this.bpm = bpm;
  }

  override echo(note: NoteValue): void {
    this.echoNote = note;
  }

  override whole(which: number, value: number): void {
    this.wholeNow[which] = value;
  }

  override setlistEffects(shared: readonly SharedEffect[], whole: readonly Effect[]): void {
    this.shared = shared;
    this.wholeEffects = whole;
  }
}

const isNote = (status: number): boolean => (status & 0xf0) === NOTE_ON || (status & 0xf0) === NOTE_OFF;

/**
 * The engine, at which keys are struck in one patch after another; what it tells built-in layers is kept, so that it can
 * be rendered.
 */
export class TakeRecorder {
  private readonly simulation: Simulation;
  private readonly notes = new Listener();
  private readonly stored: ReadonlyMap<string, Instrument>;
  private nowMs = 0;

  constructor(show: SimulatedShow, setlist: Setlist, gear: GearList) {
    this.simulation = new Simulation(show, setlist, gear, { records: false, sink: () => this.notes });
    this.stored = new Map(show.instruments.map((instrument) => [instrument.id as string, instrument]));
  }

  /** Recalls a place; takes that follow are of it, until the next one. */
  recall({ position }: Pick<Place, 'position'>): void {
    this.simulation.feed({ type: 'recall', position }, this.nowMs);
    this.go(SETTLES_MS);
  }

  /** Strikes keys together and holds them. @returns null where nothing of it sounds in this machine */
  take(strikes: readonly Strike[]): LevelTake | null {
    this.notes.layers.clear();
    this.notes.fromMs = this.nowMs;
    this.strike(strikes, NOTE_ON);
    this.go(TAKE_MS);
    this.notes.fromMs = null;
    const struck = new Map([...this.notes.layers].map(([destination, { messages }]) => [destination, messages]));
    const take = this.takeOf(struck);
    this.strike(strikes, NOTE_OFF);
    this.simulation.feed({ type: 'perform', action: 'panic' }, this.nowMs);
    this.go(BETWEEN_MS);
    return take;
  }

  private go(ms: number): void {
    this.nowMs += ms;
    this.simulation.advance(this.nowMs);
  }

  private strike(strikes: readonly Strike[], status: number): void {
    for (const { device, channel, key, velocity } of strikes)
      this.simulation.feed(
        { type: 'message', device, status: status | channel, data1: key, data2: velocity },
        this.nowMs,
      );
  }

  private takeOf(struck: ReadonlyMap<number, readonly TakeMessage[]>): LevelTake | null {
    const { engine, registry } = this.simulation;
    const now = new Listener();
    engine.retellWhole(now);
    const layers = (engine.step?.patch.layers ?? []).flatMap(({ destination }): TakeLayer[] => {
      const messages = struck.get(destination) ?? [];
      if (!messages.some(([, status, , velocity]) => (status & 0xf0) === NOTE_ON && velocity > 0)) return [];
      engine.retellLayer(now, destination);
      const sound = this.soundOf(registry, destination);
      const told = now.layers.get(destination);
      return sound === null || told === undefined
        ? []
        : [{ ...sound, ...told, messages: [...told.messages.map(atOnce), ...messages] }];
    });
    if (layers.length === 0) return null;
    return {
      seconds: TAKE_MS / 1000,
      bpm: now.bpm,
      echo: now.echoNote,
      whole: now.wholeNow,
      sharedEffects: now.shared,
      wholeEffects: now.wholeEffects,
      layers,
    };
  }

  private soundOf({ destinations }: Registry, destination: number): Sound | null {
    const entry = destinations[destination];
    if (entry.kind !== 'layer') return null;
    const { instrumentId, presetId } = entry;
    return { instrumentId, presetId, content: contentOf(this.stored.get(instrumentId), presetId) } as Sound;
  }
}

const atOnce = ([, ...message]: TakeMessage): TakeMessage => [0, ...message];
