import { SilentSink, type Registry, type CompiledStep, type Engine } from '@rackle/core/engine';
import {
  BYTES_IN_MB,
  knownInstrument,
  type Effect,
  type GearList,
  type Instrument,
  type NoteValue,
  type Send,
  type SharedEffect,
} from '@rackle/core/show';
import { AHEAD_AFTER_MS, PlanFollower, type HeldByStep, type RecallPlace } from '@rackle/core/loading';
import { USUAL_BUDGET_MB, type HostEvent, type MemoryWishes, type Topics } from '../protocol';
import type { SoundOut, SoundTold, UnderHands } from './audio/soundOut';
import { eveningOrder } from './eveningOrder';
import type { After } from './timer';

const SLICE_MS = 1.5;
const REST_EVERY_MS = 500;
const NOTE_ON = 0x90;

/** Nobody hears less. */
const SAME_DELAY_MS = 2;
const RESUMES = 10;
const RESUMES_EVERY_MS = 100;

/** What the sound feed needs of the host. */
export interface SoundParts {
  nowMs: () => number;
  after: After;
  /** Does the next piece of work once whatever has arrived meanwhile is done. */
  nextSlice: (act: () => void) => void;
  start: (told: SoundTold) => Promise<SoundOut>;
  send: (event: HostEvent) => void;
  /** A layer's sound stands, or does not stand any more. */
  onReady: (destination: number, ready: boolean) => void;
  /** What sounds here is heard so much later than its message. */
  onDelay: (delayMs: number) => void;
  onChange: () => void;
}

interface Job {
  destination: number;
  step: CompiledStep;
  steps: Iterator<void>;
}

/**
 * The engine's sound: hands on what it wants done, and keeps ready what is near. Of the layers of a show only those of
 * the present song, the next one and the cursor's stand; they are made ahead of need, in slices that let messages
 * through, and the rest is let go of once it is silent. What does not stand yet the engine knows to be not ready.
 */
export class SoundFeed extends SilentSink {
  state: Topics['sound']['sound'] = 'off';
  /** The longest slice, in ms: for the figures. */
  longestSliceMs = 0;
  private sound: SoundOut | null = null;
  /** Destinations whose whole chain stands, and those that take notes but are still bare. */
  private readonly standing = new Set<number>();
  private readonly bare = new Set<number>();
  private readonly loading = new Set<number>();
  /** What is not near any more, until it is silent and nothing may play it again. */
  private readonly leaving = new Set<number>();
  private wanted = new Map<number, CompiledStep>();
  private jobs: Job[] = [];
  private isWorking = false;
  private isWatching = false;
  /** When what is near was last another. */
  private settledMs = 0;
  private instruments: readonly Instrument[] | null = null;
  private gear: GearList | null = null;
  private delayMs = 0;
  private benchLoops = false;
  private memory: MemoryWishes = { budgetMb: USUAL_BUDGET_MB, pins: [] };
  private readonly plan = new PlanFollower();

  constructor(
    private readonly registry: Registry,
    private readonly parts: SoundParts,
  ) {
    super();
  }

  /** Layers that are still to be made, or whose sound still loads. */
  get unfinished(): number {
    return this.jobs.length + this.loading.size;
  }

  /** What the present patch sounds like. */
  underHands({ step, show }: Engine): UnderHands {
    const sounds = (step?.patch.layers ?? []).flatMap(({ destination }) => {
      const entry = this.registry.destinations[destination];
      return entry.kind === 'layer' ? { instrumentId: entry.instrumentId, presetId: entry.presetId } : [];
    });
    return { instruments: show.instruments, sounds };
  }

  /** Opens the sound, once. What is played now stands when it is open. */
  async start(engine: Engine): Promise<void> {
    if (this.state === 'waits') return this.resume(RESUMES);
    if (this.state === 'starting' || this.state === 'on') return;
    this.state = 'starting';
    this.parts.onChange();
    try {
      this.sound = await this.parts.start({
        onLoaded: (destination, loaded) => this.setLoaded(destination, loaded),
        onTrouble: (text) => this.parts.send({ type: 'trouble', text }),
        onRunning: (isRunning) => this.setRunning(isRunning),
      });
      this.state = this.sound.isRunning ? 'on' : 'waits';
    } catch {
      this.state = 'failed';
      this.parts.send({
        type: 'trouble',
        text: 'This browser gives no sound output. Check the sound device and try again; MIDI goes on meanwhile.',
      });
    }
    this.parts.onChange();
    if (this.sound !== null) this.begin(this.sound, engine);
  }

  /** Somebody has clicked in the page; that this frame may sound now, its browser hears a moment later. */
  private resume(tries: number): void {
    if (this.state !== 'waits' || tries === 0) return;
    this.sound?.resume();
    this.parts.after(RESUMES_EVERY_MS, () => this.resume(tries - 1));
  }

  private setRunning(isRunning: boolean): void {
    if (this.state !== 'on' && this.state !== 'waits') return;
    this.state = isRunning ? 'on' : 'waits';
    if (this.sound !== null) this.measureDelay(this.sound);
    this.parts.onChange();
  }

  private begin(sound: SoundOut, engine: Engine): void {
    this.takeShow(engine, engine.show.gear);
    this.measureDelay(sound);
    this.follow(engine);
    sound.setBenchLoop(this.benchLoops);
    engine.retellWhole(this);
    this.settle(engine);
    // What is under the hands now is not put off.
    const present = new Set((engine.step?.patch.layers ?? []).map(({ destination }) => destination));
    while (this.jobs.some(({ destination }) => present.has(destination))) this.workOn(this.jobs[0], engine);
    // No patch before it goes on meanwhile: what stands in is heard rather than nothing.
    for (const destination of present) if (this.loading.has(destination)) this.parts.onReady(destination, true);
  }

  /** The show may be another one: its instruments, its outputs, and what had been made ready of it. */
  takeShow(engine: Engine, gear: GearList | null): void {
    const { sound } = this;
    if (sound === null) return;
    if (engine.show.instruments !== this.instruments) sound.know((this.instruments = engine.show.instruments));
    if (gear !== this.gear && gear !== null) sound.setOutputs(gear.sound);
    this.gear = gear;
  }

  /** What stands ahead of need, as an edit has made it. */
  retellAhead(engine: Engine): void {
    for (const destination of this.standing) {
      const step = this.wanted.get(destination);
      if (step && step !== engine.step) engine.retellLayer(this, destination, step);
    }
  }

  /** How much of this machine's memory sounds may take, and which of them stay in it. */
  setMemory(engine: Engine, { budgetMb, pins, held }: MemoryWishes & { held: HeldByStep | null }): void {
    this.memory = { budgetMb, pins };
    if (this.plan.take(held)) this.tellJump(engine);
    this.follow(engine);
  }

  /** What is let go of first goes by where the evening is. */
  private follow(engine: Engine): void {
    const { budgetMb, pins } = this.memory;
    this.sound?.follow({
      budgetBytes: budgetMb * BYTES_IN_MB,
      pins,
      present: () => this.underHands(engine).sounds,
      sounds: () => eveningOrder(engine),
      held: () => this.plan.held,
      at: () => engine.step && `${engine.step.entryId} ${engine.step.patch.patchId}`,
    });
  }

  /** After a recall, an edit or a move of the cursor: what is near stands soon, what is not goes once it is silent. */
  settle(engine: Engine): void {
    if (this.sound === null) return;
    const place = placeOf(engine);
    if (place !== null && this.plan.goTo(place)) this.tellJump(engine);
    this.wanted = wantedBy(engine);
    this.settledMs = this.parts.nowMs();
    const underWay = new Map(this.jobs.map((job) => [job.destination, job]));
    for (const destination of [...this.standing, ...underWay.keys()])
      if (!this.wanted.has(destination)) this.leaving.add(destination);
    // What is half made and is left may be played all the same.
    this.jobs = this.jobs.filter(
      ({ destination }) => this.leaving.has(destination) && engine.isStillPlayed(destination),
    );
    for (const [destination, step] of this.wanted) {
      this.leaving.delete(destination);
      if (!this.standing.has(destination))
        this.jobs.push(underWay.get(destination) ?? { destination, step, steps: this.build(destination, step) });
    }
    this.hurry(engine);
    this.watch(engine);
    this.work(engine);
  }

  /** The evening has gone another way than the plan: what is in memory here, for another one, once messages are through. */
  private tellJump(engine: Engine): void {
    const number = this.plan.jumps;
    this.parts.nextSlice(() => {
      const place = placeOf(engine);
      if (place === null || number !== this.plan.jumps) return;
      this.parts.send({ type: 'jumped', jump: { number, ...place, resident: this.sound!.resident() } });
    });
  }

  /** What is under the hands is loaded first. */
  private hurry(engine: Engine): void {
    if (this.loading.size === 0) return;
    for (const { destination } of engine.step?.patch.layers ?? [])
      if (this.loading.has(destination)) this.sound!.hurry(destination);
  }

  private build(destination: number, step: CompiledStep): Iterator<void> {
    const entry = this.registry.destinations[destination];
    const part = step.patch.layers.findIndex((layer) => layer.destination === destination);
    if (entry.kind !== 'layer' || part < 0) return [][Symbol.iterator]();
    const { instrumentId, presetId } = entry;
    const { layerId } = step.patch.layers[part];
    return this.sound!.build(destination, {
      layerId,
      instrumentId,
      presetId,
      effects: step.balance.effects[part],
    });
  }

  private work(engine: Engine): void {
    if (this.isWorking || this.jobs.length === 0) return;
    this.isWorking = true;
    this.parts.nextSlice(() => {
      this.isWorking = false;
      const startMs = this.parts.nowMs();
      while (this.jobs.length > 0 && this.parts.nowMs() - startMs < SLICE_MS) this.workOn(this.jobs[0], engine);
      this.longestSliceMs = Math.max(this.longestSliceMs, this.parts.nowMs() - startMs);
      this.work(engine);
    });
  }

  private workOn(job: Job, engine: Engine): void {
    const { destination } = job;
    const isDone = job.steps.next().done;
    if (job.step === engine.step) this.hurry(engine);
    if (!isDone) return void this.bare.add(destination);
    this.jobs.splice(this.jobs.indexOf(job), 1);
    this.bare.delete(destination);
    this.standing.add(destination);
    engine.retellLayer(this, destination, this.wanted.get(destination) ?? job.step);
    if (!this.loading.has(destination)) this.parts.onReady(destination, true);
  }

  private setLoaded(destination: number, loaded: boolean): void {
    if (loaded) this.loading.delete(destination);
    else this.loading.add(destination);
    if (this.standing.has(destination)) this.parts.onReady(destination, loaded);
  }

  /** Now and then what is silent is let go of, or at least ends what runs by itself. */
  private watch(engine: Engine): void {
    if (this.isWatching) return;
    this.isWatching = true;
    this.parts.after(REST_EVERY_MS, () => {
      this.isWatching = false;
      this.letGo(engine);
      this.sound?.rest();
      this.loadAhead();
      this.watch(engine);
    });
  }

  /** Nothing that is near has to wait for it. */
  private loadAhead(): void {
    if (this.unfinished === 0 && this.parts.nowMs() - this.settledMs >= AHEAD_AFTER_MS) this.sound?.loadAhead();
  }

  private letGo(engine: Engine): void {
    for (const destination of this.leaving) {
      if (engine.isStillPlayed(destination) || !this.sound!.drop(destination)) continue;
      this.leaving.delete(destination);
      this.jobs = this.jobs.filter((job) => job.destination !== destination);
      this.bare.delete(destination);
      this.loading.delete(destination);
      if (this.standing.delete(destination)) this.parts.onReady(destination, false);
    }
  }

  /** What the browser measures; it finds out with time, and another device has another. */
  private measureDelay(sound: SoundOut): number {
    const delayMs = sound.delayMs();
    if (Math.abs(delayMs - this.delayMs) >= SAME_DELAY_MS) this.parts.onDelay((this.delayMs = delayMs));
    return delayMs;
  }

  /** Built-in layers of the present patch, for their levels. */
  levels(engine: Engine, rackleMs: number): HostEvent | null {
    const { sound } = this;
    if (sound === null) return null;
    const systemMs = this.measureDelay(sound);
    const layers = engine.step?.patch.layers.filter((layer) => !layer.outboard) ?? [];
    return {
      type: 'levels',
      levels: {
        ...sound.levels(layers.map(({ destination }) => destination)),
        delay: { systemMs, rackleMs },
      },
    };
  }

  setBenchLoop(on: boolean): void {
    this.benchLoops = on;
    this.sound?.setBenchLoop(on);
  }

  testTone(output: string | null): void {
    this.sound?.testTone(output);
  }

  // What the engine wants done.

  /** @hotpath */
  override send(destination: number, status: number, data1: number, data2: number, _clock: Float64Array): void {
    const { sound } = this;
    if (sound === null) return;
    if ((status & 0xf0) === NOTE_ON) {
      // What nobody hears now must not sound later, all at once.
      if (this.state !== 'on') return;
      if (!this.standing.has(destination)) this.makeBare(destination);
    }
    sound.send(destination, status, data1, data2);
  }

  /** A note that does not wait for its layer's effects: they fade in later. */
  private makeBare(destination: number): void {
    if (this.bare.has(destination)) return;
    const job = this.jobs.find((candidate) => candidate.destination === destination);
    if (!job) return;
    job.steps.next();
    this.bare.add(destination);
  }

  override balance(destination: number, values: Float64Array, at: number, rampMs: number): void {
    this.sound?.balance(destination, values[at], values[at + 1], values[at + 2], values[at + 3], rampMs);
  }

  override effects(destination: number, effects: readonly Effect[], rampMs: number): void {
    if (this.standing.has(destination)) this.sound?.effects(destination, effects, rampMs);
  }

  override effectValue(destination: number, effectId: string, parameter: string, value: number): void {
    this.sound?.effectValue(destination, effectId, parameter, value);
  }

  override fade(destination: number, fadeMs: number): void {
    this.sound?.fade(destination, fadeMs);
  }

  override preset(destination: number, preset: number): void {
    const entry = this.registry.destinations[destination];
    if (entry.kind !== 'layer') return;
    const known = knownInstrument(entry.instrumentId, (id) => this.instruments?.find((one) => one.id === id));
    const presetId = known?.presets[preset]?.id;
    if (presetId === undefined) return;
    this.sound?.changePreset(destination, entry.instrumentId, presetId);
    this.sound?.hurry(destination);
  }

  override whole(which: number, value: number): void {
    this.sound?.whole(which, value);
  }

  override tempo(bpm: number): void {
    this.sound?.setTempo(bpm);
  }

  override sends(destination: number, sends: readonly Send[], rampMs: number): void {
    this.sound?.sends(destination, sends, rampMs);
  }

  override route(destination: number, output: string): void {
    this.sound?.route(destination, output);
  }

  override live(destination: number, input: string | null, mono: boolean, open: boolean): void {
    this.sound?.live(destination, input, mono, open);
  }

  override click(output: string, isAccent: boolean, levelDb: number, [atMs]: Float64Array): void {
    this.sound?.click(output, isAccent, levelDb, Math.max(0, atMs - this.parts.nowMs()));
  }

  override echo(note: NoteValue): void {
    this.sound?.setEchoNote(note);
  }

  override setlistEffects(shared: readonly SharedEffect[], whole: readonly Effect[]): void {
    this.sound?.setlistEffects(shared, whole);
  }
}

function placeOf({ step }: Engine): RecallPlace | null {
  return step && { entryId: step.entryId, patchId: step.patch.patchId };
}

/** Built-in layers that should stand, each with the step that needs it first; those under keys that are down first of all. */
function wantedBy(engine: Engine): Map<number, CompiledStep> {
  const wanted = new Map<number, CompiledStep>();
  const keys = engine.keysDown().map(({ key }) => key);
  for (const step of engine.near()) {
    const { layers, lowKey, highKey } = step.patch;
    const underHands = (i: number): boolean => keys.some((key) => key >= lowKey[i] && key <= highKey[i]);
    const order = layers.map((_, i) => i).sort((a, b) => Number(underHands(b)) - Number(underHands(a)));
    for (const i of order)
      if (!layers[i].outboard && !wanted.has(layers[i].destination)) wanted.set(layers[i].destination, step);
  }
  return wanted;
}
