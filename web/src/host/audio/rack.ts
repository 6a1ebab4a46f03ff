import { MASTER, faderGain } from './decibels';
import {
  withEffectValue,
  type Effect,
  type Instrument,
  type NoteValue,
  type Send,
  type SharedEffect,
  type SoundDevice,
} from '@rackle/core/show';
import type { Levels } from '../../protocol';
import type { After } from '../timer';
import { CC_ALL_SOUND_OFF } from './controllers';
import { measureVoices, weightOf } from './capacity';
import { EffectChain } from './effects/effectChain';
import { limitingDelay } from './effects/limiting';
import { loadWorklet } from './effects/worklet';
import { KnownParam } from './knownParam';
import { LayerSound } from './layerSound';
import { LiveInputs } from './liveInputs';
import { whiteNoise } from './noise';
import { Outputs } from './outputs';
import type { Presets, PresetSound } from './presets';
import type { LoadOrder } from './loadOrder';
import { missingWords } from './missingWords';
import { Returns } from './returns';
import type { LayerAbout, SoundOut, SoundTold } from './soundOut';
import type { Buses } from './strip';
import { Waves } from './waves';

const CLIP = 0.985;
const RAMP_S = 0.03;
const MEASURE_AFTER_MS = 1500;
const RUNS_WITHIN_MS = 1000;

/**
 * The sound of this machine: layers → effects on the whole → outputs (each with a limiter); room, tempo delay and the
 * player's own shared effects as sends, which return to the first output. Browsers let it run once the player has clicked
 * somewhere; until then it stands still. It opens the one audio context that there is.
 * @throws Error when the browser gives no sound output.
 */
export async function startRack(presets: Presets, told: SoundTold, after: After): Promise<SoundOut> {
  const context = new AudioContext({ latencyHint: 'interactive' });
  const running = context.resume().catch(() => undefined);
  try {
    await loadWorklet(context);
  } catch (cause) {
    void context.close();
    throw cause;
  }
  // Without a click it never comes to that.
  if (context.state !== 'running')
    await Promise.race([running, new Promise<void>((resolve) => after(RUNS_WITHIN_MS, resolve))]);
  return new Rack(context, presets, told, after);
}

interface Master {
  gain: GainNode;
  level: KnownParam;
  chain: EffectChain;
}

interface Asked {
  instrumentId: string;
  presetId: string;
  serial: number;
}

class Rack implements SoundOut {
  private readonly layers: (LayerSound | undefined)[] = [];
  /**
   * What each layer was last asked to sound like, so that a sound which loads slowly does not come after a later one.
   */
  private readonly asked: (Asked | undefined)[] = [];
  private readonly routes: string[] = [];
  private readonly outputs: Outputs;
  private readonly buses: Buses;
  private readonly returns: Returns;
  private readonly lives: LiveInputs;
  private readonly liveOpen: boolean[] = [];
  private bpm = 120;
  private voicesPossible: number | null = null;
  /** Weight of the sound that was measured, 0: it could not be; null: not yet, or just now. */
  private measuredWeight: number | null = null;
  private wholeEffects: readonly Effect[] = [];
  /** Levels of everything by output name. */
  private readonly masters = new Map<string, Master>();
  private masterGain = MASTER;
  private awake = false;
  private isShippedMissing = false;
  /** When the returns were cut last, in seconds of the context. */
  private cutAtS = -1;

  constructor(
    private readonly context: AudioContext,
    private readonly presets: Presets,
    private readonly told: SoundTold,
    after: After,
  ) {
    this.outputs = new Outputs(context, after);
    this.lives = new LiveInputs(context, after, (text) => told.onTrouble(text));
    this.returns = new Returns({ context, after });
    this.buses = {
      context,
      after,
      master: context.createGain(),
      room: this.returns.room,
      echo: this.returns.echo,
      noise: whiteNoise(context),
      waves: new Waves(context),
      shared: (name) => this.returns.input(name),
    };
    this.leadAll();
    context.onstatechange = () => {
      // Keys that went up while nothing ran are not heard any more.
      if (this.isRunning) for (const layer of this.layers) layer?.endReleased();
      told.onRunning(this.isRunning);
    };
    // Once what starting has to do is done; the better of two, since anything else may be running.
    after(MEASURE_AFTER_MS, () => void this.measure().catch(() => undefined));
  }

  private async measure(): Promise<void> {
    const sound = this.heaviest();
    let most = 0;
    for (let i = 0; i < 2; i++) {
      // Not while something sounds: it would have to share the machine.
      if (this.awake) break;
      most = Math.max(most, await measureVoices(sound, this.buses.after, () => performance.now()));
    }
    if (most > 0) this.voicesPossible = most;
    this.measuredWeight = most > 0 ? weightOf(sound) : 0;
  }

  /** Of the sounds in use the one that takes the most. */
  private heaviest(): PresetSound {
    return this.layers.reduce(
      (most, layer) => {
        const sound = layer?.presetSound ?? most;
        return weightOf(sound) > weightOf(most) ? sound : most;
      },
      this.presets.standIn('', ''),
    );
  }

  /** What came into use since it was measured takes more: it is measured again. */
  private measureAgain(): void {
    if (this.measuredWeight === null || weightOf(this.heaviest()) <= this.measuredWeight) return;
    this.measuredWeight = null;
    void this.measure().catch(() => undefined);
  }

  /** A bus for the layers of one output, whose gain is the level of the whole. */
  private master(name: string): GainNode {
    const known = this.masters.get(name);
    if (known) return known.gain;
    const gain = this.context.createGain();
    const level = new KnownParam(gain.gain, this.masterGain);
    const chain = new EffectChain(this.buses);
    if (this.awake) chain.wake();
    chain.set(this.wholeEffects, this.bpm);
    gain.connect(chain.input);
    chain.output.connect(this.outputs.input(name));
    this.masters.set(name, { gain, level, chain });
    return gain;
  }

  /** After the outputs have changed: everything goes where its name leads now. */
  private leadAll(): void {
    const old = [...this.masters.values()];
    this.masters.clear();
    this.layers.forEach((layer, destination) => layer?.route(this.master(this.routes[destination] ?? '')));
    this.returns.leadTo(this.master(''));
    for (const { gain, chain } of old) {
      gain.disconnect();
      chain.dispose();
    }
  }

  know(instruments: readonly Instrument[]): void {
    this.presets.know(instruments);
    this.layers.forEach((layer, destination) => {
      const asked = this.asked[destination];
      if (layer && asked) this.ask(destination, asked.instrumentId, asked.presetId);
    });
  }

  *build(destination: number, { layerId, instrumentId, presetId, effects }: LayerAbout): Generator<void> {
    this.layers[destination]?.dispose();
    const found = this.presets.find(instrumentId, presetId);
    const sound = found === null || found instanceof Promise ? this.presets.standIn(instrumentId, presetId) : found;
    const layer = new LayerSound(sound, this.buses, layerId, this.bpm);
    layer.route(this.master(this.routes[destination] ?? ''));
    this.layers[destination] = layer;
    this.asked[destination] = { instrumentId, presetId, serial: 0 };
    if (found instanceof Promise) this.ask(destination, instrumentId, presetId);
    yield;
    yield* layer.complete(effects);
  }

  drop(destination: number): boolean {
    const layer = this.layers[destination];
    if (!layer) return true;
    if (!layer.restIfSilent()) return false;
    layer.dispose();
    this.layers[destination] = undefined;
    this.asked[destination] = undefined;
    this.liveOpen[destination] = false;
    return true;
  }

  rest(): void {
    let quiet = true;
    for (const layer of this.layers) if (layer && !layer.restIfSilent()) quiet = false;
    this.returns.restIfSilent(quiet);
    if (!quiet) return;
    this.measureAgain();
    if (!this.awake) return;
    this.awake = false;
    for (const { chain } of this.masters.values()) chain.rest();
  }

  /** Something begins to sound. */
  private wake(): void {
    this.returns.wake();
    if (this.awake) return;
    this.awake = true;
    for (const { chain } of this.masters.values()) chain.wake();
  }

  changePreset(destination: number, instrumentId: string, presetId: string): void {
    if (this.layers[destination]) this.ask(destination, instrumentId, presetId);
  }

  /** A layer gets another sound: at once, or when it is loaded. */
  private ask(destination: number, instrumentId: string, presetId: string): void {
    const layer = this.layers[destination]!;
    const serial = (this.asked[destination]?.serial ?? 0) + 1;
    this.asked[destination] = { instrumentId, presetId, serial };
    const found = this.presets.find(instrumentId, presetId);
    if (!(found instanceof Promise)) {
      if (found) layer.change(found);
      return;
    }
    this.told.onLoaded(destination, false);
    const isLast = (): boolean => this.layers[destination] === layer && this.asked[destination]?.serial === serial;
    found.then(
      (sound) => {
        if (!isLast()) return;
        if (sound) {
          layer.change(sound);
          this.isShippedMissing &&= !this.presets.isShipped(instrumentId);
        } else
          this.told.onTrouble(
            `${this.presets.nameOf(instrumentId, presetId)}: its bank does not have this preset any more.`,
          );
        this.told.onLoaded(destination, true);
      },
      (cause: unknown) => {
        if (!isLast()) return;
        layer.change(this.presets.standIn(instrumentId, presetId));
        this.tellMissing(instrumentId, presetId, cause instanceof Error ? cause.message : 'unknown trouble');
        this.told.onLoaded(destination, true);
      },
    );
  }

  /** What all built-in instruments stand on is said once, until it could be loaded. */
  private tellMissing(instrumentId: string, presetId: string, why: string): void {
    const isShipped = this.presets.isShipped(instrumentId);
    if (isShipped && this.isShippedMissing) return;
    this.isShippedMissing ||= isShipped;
    this.told.onTrouble(missingWords(isShipped ? null : this.presets.nameOf(instrumentId, presetId), why));
  }

  follow(order: LoadOrder): void {
    this.presets.follow(order);
  }

  loadAhead(): void {
    this.presets.loadAhead();
  }

  resident(): string[] {
    return [...this.presets.partsHere()];
  }

  hurry(destination: number): void {
    const asked = this.asked[destination];
    if (asked) this.presets.hurry(asked.instrumentId, asked.presetId);
  }

  route(destination: number, output: string): void {
    if (this.routes[destination] === output) return;
    this.routes[destination] = output;
    this.layers[destination]?.route(this.master(output));
  }

  effects(destination: number, effects: readonly Effect[], rampMs: number): void {
    this.layers[destination]?.effects(effects, rampMs);
  }

  effectValue(destination: number, effectId: string, parameter: string, value: number): void {
    if (destination >= 0) return this.layers[destination]?.effectValue(effectId, parameter, value);
    const moved = (effect: Effect): Effect =>
      effect.id === effectId ? withEffectValue(effect, parameter, value) : effect;
    this.returns.moved(moved);
    this.setWhole(this.wholeEffects.map(moved));
  }

  sends(destination: number, sends: readonly Send[], rampMs: number): void {
    this.layers[destination]?.sends(sends, rampMs);
  }

  live(destination: number, input: string | null, mono: boolean, open: boolean): void {
    const layer = this.layers[destination];
    if (!layer) return;
    if (input !== null && open && !this.liveOpen[destination]) this.lives.reopen(input);
    this.liveOpen[destination] = open;
    if (input !== null && open) this.wake();
    layer.feed(input === null || !open ? null : this.lives.node(input, mono));
  }

  setBenchLoop(on: boolean): void {
    this.lives.setBenchLoop(on);
  }

  setlistEffects(shared: readonly SharedEffect[], whole: readonly Effect[]): void {
    this.setWhole(whole);
    if (this.returns.set(shared, this.master(''))) for (const layer of this.layers) layer?.sendAnew();
  }

  private setWhole(whole: readonly Effect[]): void {
    this.wholeEffects = whole;
    for (const { chain } of this.masters.values()) chain.set(whole, this.bpm);
  }

  send(destination: number, status: number, data1: number, data2: number): void {
    const layer = this.layers[destination];
    if (!layer) return;
    const channel = status & 15;
    switch (status & 0xf0) {
      case 0x90:
        this.wake();
        return layer.noteOn(channel, data1, data2);
      case 0x80:
        return layer.noteOff(channel, data1);
      case 0xb0:
        if (data1 === CC_ALL_SOUND_OFF) this.cutReturns();
        return layer.controller(channel, data1, data2);
      case 0xe0:
        return layer.bend(channel, (data2 << 7) | data1);
      case 0xd0:
        return layer.pressure(data1);
    }
  }

  /** All sound off for a layer: a panic says it to each, and what all share is cut once. */
  private cutReturns(): void {
    const now = this.context.currentTime;
    if (now === this.cutAtS) return;
    this.cutAtS = now;
    this.returns.cut();
    for (const { chain } of this.masters.values()) chain.cut();
  }

  balance(destination: number, levelDb: number, pan: number, room: number, echo: number, rampMs: number): void {
    this.layers[destination]?.balance(levelDb, pan, room, echo, rampMs);
  }

  fade(destination: number, fadeMs: number): void {
    this.layers[destination]?.fade(fadeMs);
  }

  whole(which: number, value: number): void {
    const now = this.context.currentTime;
    const gain = faderGain(value);
    if (which === 0) {
      this.masterGain = MASTER * gain;
      for (const { level } of this.masters.values()) level.go(this.masterGain, RAMP_S, now);
    } else if (which === 1) this.returns.setRoomLevel(gain);
    else if (which === 2) this.returns.setEchoLevel(gain);
    else if (which === 3) this.returns.setEchoRepeats(value);
  }

  setTempo(bpm: number): void {
    this.bpm = bpm;
    this.returns.setTempo(bpm);
    for (const layer of this.layers) layer?.setTempo(bpm);
    for (const { chain } of this.masters.values()) chain.setTempo(bpm);
  }

  setEchoNote(note: NoteValue): void {
    this.returns.setEchoNote(note);
  }

  setOutputs(device: SoundDevice): void {
    if (this.outputs.use(device)) this.leadAll();
  }

  testTone(output: string | null): void {
    this.outputs.testTone(output);
  }

  click(output: string, isAccent: boolean, levelDb: number, afterMs: number): void {
    this.outputs.click(output, isAccent, levelDb, afterMs);
  }

  levels(destinations: readonly number[]): Omit<Levels, 'delay'> {
    const outputs = this.outputs.levels();
    const peak = outputs.reduce((most, output) => Math.max(most, output.peak), 0);
    return {
      output: { peakDb: toDb(peak), clipped: peak >= CLIP },
      outputs: outputs.map(({ name, peak: own, clipped, isHere }) => ({ name, peakDb: toDb(own), clipped, isHere })),
      voicesPossible: this.voicesPossible,
      loadedMb: Math.ceil(this.presets.loadedBytes / 100_000) / 10,
      layers: destinations.flatMap((destination) => {
        const layer = this.layers[destination];
        return layer ? [{ layerId: layer.layerId, peakDb: toDb(layer.peak()) }] : [];
      }),
    };
  }

  delayMs(): number {
    const { baseLatency, outputLatency, sampleRate } = this.context;
    return (baseLatency + (outputLatency || 0) + limitingDelay(sampleRate) / sampleRate) * 1000;
  }

  get isRunning(): boolean {
    return this.context.state === 'running';
  }

  resume(): void {
    void this.context.resume().catch(() => undefined);
  }

  /** The sound's own clock. */
  seconds(): number {
    return this.context.currentTime;
  }

  outputPeak(): number {
    return this.outputs.peak();
  }
}

const toDb = (peak: number): number => (peak < 0.000_01 ? -100 : Math.round(200 * Math.log10(peak)) / 10);
