import type { Layer, NameListEntry, Place } from '../../show';
import { NOTE_ON } from '../../midi/status';
import { Simulation, type SentMessage } from '../../simulate';
import { rowsIn } from '../sounding';
import type { Around, Tonight } from '../tonight';
import { GearState, type OpenNote } from './gearState';
import type { Pair } from './pairs';
import { numberPress, stepPress } from './presses';
import { promisedIn, strikesOf, type Promised } from './strikes';
import { LET_GO_MS, PLAYED_MS, PLAY_MS, RECALL_MS, type Done, type Hands, type HeldAt, type Stimulus } from './stimuli';

/** What was not as it had to be. */
export interface Failure {
  kind: 'stuck' | 'elsewhere' | 'cut' | 'silent' | 'late' | 'bent' | 'pedal' | 'program' | 'doubled' | 'broken';
  /** Layer, or port and channel. */
  about: string;
}

/** What was done in a case and what was sent, ms from its beginning. */
export interface CaseRoll {
  done: Done[];
  sent: SentMessage[];
}

/** So long after all is released nothing may sound. */
const SILENT_AFTER_MS = 10_000;
/** Later than this is heard. */
const LATE_MS = 10;
/** A switch that takes longer is not over when the new patch is played. */
const LONGEST_SWITCH_MS = 1500;
const BETWEEN_MS = 1000;

const UNREST = { 'note-open': 'stuck', bend: 'bent', pedal: 'pedal', 'note-off-twice': 'doubled' } as const;

/** A bank byte that is not sent for a preset may be any. */
const isAt = (address: NonNullable<ReturnType<GearState['addressAt']>>, entry: NameListEntry): boolean =>
  address.program === entry.program &&
  (entry.msb === null || entry.msb === (address.msb ?? 0)) &&
  (entry.lsb === null || entry.lsb === (address.lsb ?? 0));

/** The engine, at which one case after another is played. */
export class CaseRunner {
  private readonly gear = new GearState();
  private readonly around: Around;
  private nowMs = 0;
  private hands: (Hands & { pair: Pair }) | null = null;
  private readonly promised = new Map<number, Promised[]>();

  constructor(
    private readonly simulation: Simulation,
    private readonly tonight: Tonight,
    private readonly stops: readonly Place[],
  ) {
    this.around = tonight.around;
  }

  /** Plays a case. @param roll is told everything that was sent @returns null where it cannot be done */
  run(pair: Pair, stimulus: Stimulus, roll?: CaseRoll): Failure[] | null {
    const { simulation } = this;
    const { from, to } = pair;
    const startMs = this.nowMs;
    const done = stimulus.of(this.handsFor(pair))?.sort((a, b) => a.atMs - b.atMs);
    if (done === undefined) return null;
    roll?.done.push(...done);
    const failures: Failure[] = [];
    const played: SentMessage[] = [];
    const collect = (): void => {
      for (const message of simulation.take()) {
        this.gear.take(message);
        played.push(message);
        roll?.sent.push({ ...message, atMs: message.atMs - startMs });
      }
    };
    let at = 0;
    try {
      simulation.feed({ type: 'recall', position: from.position }, startMs);
      const goTo = (untilMs: number): void => {
        for (; at < done.length && done[at].atMs < untilMs; at++) {
          simulation.advance(startMs + done[at].atMs);
          simulation.feed(done[at].input, startMs + done[at].atMs);
        }
        simulation.advance(startMs + untilMs);
        collect();
      };
      goTo(RECALL_MS);
      const began = this.gear.sounding();
      goTo(LET_GO_MS);
      const held = this.gear.sounding();
      goTo(PLAYED_MS);
      const sounding = this.gear.sounding();
      const isThere = simulation.engine.step?.position === to.position;
      const after = this.promisedAt(to);
      const holding = this.promisedAt(from).filter((one) => stimulus.holds(this.heldAt(one)));
      const ready = after.filter((one) => this.isReadyIn(one));
      failures.push(...this.cutOf(holding, began, held));
      // On another patch it is another sound, and another preset.
      if (isThere) failures.push(...this.silentOf(ready, sounding), ...this.lateOf(after, played, startMs + PLAY_MS));
      else failures.push({ kind: 'elsewhere', about: to.patch.name });
      goTo(PLAYED_MS + 1);
      simulation.advance(startMs + PLAYED_MS + SILENT_AFTER_MS + this.longestFadeMs(from));
      collect();
      failures.push(...this.stuck([from, to]), ...(isThere ? this.programsOf(to) : []));
    } catch (cause) {
      failures.push({ kind: 'broken', about: cause instanceof Error ? cause.message : String(cause) });
      // Hands go up all the same, for what comes after.
      for (const { input } of done.slice(at)) if (input.type !== 'recall') simulation.feed(input, this.nowMs);
    }
    this.comeToRest();
    return failures;
  }

  /** The same for every way of a pair, which come one after the other. */
  private handsFor(pair: Pair): Hands {
    if (this.hands?.pair !== pair) this.hands = { pair, ...this.handsAt(pair) };
    return this.hands;
  }

  private handsAt(pair: Pair): Hands {
    const { from, to } = pair;
    return {
      before: strikesOf(this.promisedAt(from)),
      after: strikesOf(this.promisedAt(to)),
      outputs: this.around.outputs.map(({ device }) => device as string),
      from: from.position,
      to: to.position,
      step: stepPress(pair, this.stops, this.tonight),
      number: numberPress(pair, this.tonight),
    };
  }

  private heldAt({ strike, row }: Promised): HeldAt {
    const instrument = this.around.instruments.get(row.layer.sound.instrumentId);
    return { device: strike.device, port: instrument?.kind === 'outboard' ? instrument.port : null };
  }

  private promisedAt(place: Pair['from']): Promised[] {
    const key = place.position;
    const known = this.promised.get(key) ?? promisedIn(place, this.around);
    this.promised.set(key, known);
    return known;
  }

  /** Names of layers that sound; notes that a patch sends by itself have none. */
  private sounding(): string[] {
    return this.simulation.engine.sounding().flatMap(({ layer }) => (layer === '' ? [] : [layer]));
  }

  private isReadyIn({ row: { layer } }: Promised): boolean {
    const instrument = this.around.instruments.get(layer.sound.instrumentId);
    return layer.notReady !== 'silent' && (instrument?.kind !== 'outboard' || instrument.switchMs < LONGEST_SWITCH_MS);
  }

  /** Built-in layers sound with the key; outboard ones may be waiting for their gear. */
  private lateOf(after: readonly Promised[], sent: readonly SentMessage[], playedMs: number): Failure[] {
    const builtIn = after.filter(
      ({ row }) => this.around.instruments.get(row.layer.sound.instrumentId)?.kind !== 'outboard',
    );
    const began = sent.filter(
      ({ status, data2, atMs }) =>
        (status & 0xf0) === NOTE_ON && data2 > 0 && atMs >= playedMs && atMs <= playedMs + LATE_MS,
    );
    if (began.length >= builtIn.length) return [];
    return builtIn.length === 0 ? [] : [{ kind: 'late', about: builtIn[0].row.layer.name }];
  }

  /** What is not at rest, by the engine's own word and by what gear was sent. Notes that a patch holds itself may stand. */
  private stuck(places: readonly Pair['from'][]): Failure[] {
    const own = new Set(
      places.flatMap(({ patch }) =>
        [...patch.entering, ...patch.leaving].flatMap((message) =>
          message.kind === 'note' ? [`${message.port} ${message.channel} ${message.key}`] : [],
        ),
      ),
    );
    const failures: Failure[] = [...new Set(this.sounding())].map((about) => ({ kind: 'stuck', about }));
    for (const { kind, to, channel, key } of this.gear.unrest()) {
      if (kind === 'note-open' && (failures.length > 0 || own.has(`${to} ${channel + 1} ${key}`))) continue;
      failures.push({ kind: UNREST[kind], about: `${to}, channel ${channel + 1}` });
    }
    return failures;
  }

  /** Outboard layers of a patch stand on their presets. The first layer of a channel has it. */
  private programsOf({ song, patch }: Pair['to']): Failure[] {
    const seen = new Set<string>();
    return rowsIn(song, patch, this.around).flatMap(({ layer }): Failure[] => {
      const wanted = this.presetOf(layer);
      if (wanted === null || seen.has(`${wanted.port} ${wanted.channel}`)) return [];
      seen.add(`${wanted.port} ${wanted.channel}`);
      const address = this.gear.addressAt(wanted.port, wanted.channel);
      return address !== null && isAt(address, wanted.entry) ? [] : [{ kind: 'program', about: layer.name }];
    });
  }

  /** Where a layer's preset is called by a program, and which one; null: it is not. */
  private presetOf({ source, sound }: Layer): { port: string; channel: number; entry: NameListEntry } | null {
    const instrument = this.around.instruments.get(sound.instrumentId);
    if (instrument?.kind !== 'outboard' || instrument.counted !== null || source.kind === 'live') return null;
    const entry = instrument.names.find(({ id }) => id === sound.presetId);
    const isHere = this.around.outputs.some(({ alias }) => alias === instrument.port);
    if (!isHere || entry === undefined || entry.program === null) return null;
    return { port: instrument.port, channel: (sound.channel ?? instrument.channel) - 1, entry };
  }

  private longestFadeMs({ song }: Pair['from']): number {
    return Math.max(
      0,
      ...[...song.layers, ...this.around.setlist.layers].map(({ carry }) => (carry.kind === 'fade' ? carry.fadeMs : 0)),
    );
  }

  /** Nothing of a case is left for the next one. */
  private comeToRest(): void {
    const { simulation } = this;
    this.nowMs = Math.max(this.nowMs, simulation.engine.nowMs) + BETWEEN_MS;
    simulation.feed({ type: 'perform', action: 'panic' }, this.nowMs);
    simulation.advance(this.nowMs + BETWEEN_MS);
    this.nowMs += 2 * BETWEEN_MS;
    for (const message of simulation.take()) this.gear.take(message);
    this.gear.rest();
  }

  /** Layers whose notes were to go on over the recall, and did not. */
  private cutOf(before: readonly Promised[], began: readonly OpenNote[], held: readonly OpenNote[]): Failure[] {
    const ended = began.filter(
      (note) => !held.some(({ to, channel, key }) => to === note.to && channel === note.channel && key === note.key),
    );
    return before.flatMap(({ row: { layer }, sounds }): Failure[] =>
      layer.carry.kind === 'hold' && ended.some((note) => note.key === sounds && this.isOf(note, layer))
        ? [{ kind: 'cut', about: layer.name }]
        : [],
    );
  }

  private silentOf(after: readonly Promised[], sounding: readonly OpenNote[]): Failure[] {
    return after.flatMap(({ row: { layer }, sounds }): Failure[] =>
      sounding.some((note) => note.key === sounds && this.isOf(note, layer))
        ? []
        : [{ kind: 'silent', about: layer.name }],
    );
  }

  /** Whether a note went where a layer sounds. */
  private isOf({ to, channel }: OpenNote, { name, sound }: Layer): boolean {
    const instrument = this.around.instruments.get(sound.instrumentId);
    if (instrument?.kind !== 'outboard') return to.endsWith(` / ${name}`);
    return to === instrument.port && channel + 1 === (sound.channel ?? instrument.channel);
  }
}
