import * as Tone from 'tone';
import {
  quartersOf,
  type Effect,
  type Instrument,
  type NoteValue,
  type Send,
  type SharedEffect,
  type SoundDevice,
} from '@rackle/core';
import type { Levels } from '../door';
import { measureVoices } from './capacity';
import { EffectChain } from './effects/effectChain';
import { LayerSound } from './layerSound';
import { LiveInputs } from './liveInputs';
import { Outputs } from './outputs';
import { Presets, type PresetSound, type SampleSources } from './presets';
import { RECIPES } from './recipes';
import type { SoundOut, SoundTold } from './soundOut';
import type { Desk } from './strip';

const CLIP = 0.985;
const MASTER = 0.9;
const RAMP_S = 0.012;
const LONGEST_ECHO_S = 3.9;
const MEASURE_AFTER_MS = 1500;

/**
 * The sound of this machine: layers → effects on the whole → outputs (each with a limiter); one reverb, one tempo delay
 * and the player's
 * own shared effects as sends, which return to the first output. Made inside a gesture of the player's, as browsers
 * ask.
 * @throws Error when the browser gives no sound output.
 */
export async function startRack(sources: SampleSources, told: SoundTold): Promise<SoundOut> {
  // The browser's own context: voices are made of its nodes, effects and the desk of Tone's.
  const context = new AudioContext({ latencyHint: 'interactive' });
  Tone.setContext(new Tone.Context({ context, lookAhead: 0, updateInterval: 0.05 }));
  if (context.state !== 'running') await context.resume();
  return new Rack(context, sources, told);
}

/** What sounds while nothing else can: a preset that is not there, one that still loads. */
const STAND_IN: PresetSound = { kind: 'recipe', recipe: RECIPES['causeway/late-boat'], effects: [] };

interface Master {
  gain: GainNode;
  chain: EffectChain;
}

interface Shared {
  about: SharedEffect;
  chain: EffectChain;
  back: GainNode;
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
  private readonly desk: Desk;
  private readonly echo: Tone.FeedbackDelay;
  private readonly presets: Presets;
  private readonly lives: LiveInputs;
  private readonly liveOpen: boolean[] = [];
  private bpm = 120;
  private voicesPossible: number | null = null;
  private echoQuarters = 0.75;
  private sharedEffects: Shared[] = [];
  private wholeEffects: readonly Effect[] = [];
  /** Levels of everything by output name, and of the returns. */
  private readonly masters = new Map<string, Master>();
  private masterGain = MASTER;
  private readonly roomReturn: GainNode;
  private readonly echoReturn: GainNode;

  constructor(
    private readonly context: AudioContext,
    sources: SampleSources,
    private readonly told: SoundTold,
  ) {
    this.outputs = new Outputs(context);
    this.presets = new Presets(context, sources);
    this.lives = new LiveInputs(context, (text) => told.onTrouble(text));
    this.roomReturn = context.createGain();
    this.echoReturn = context.createGain();
    const reverb = new Tone.Reverb({ decay: 2.6, preDelay: 0.018, wet: 1 });
    this.echo = new Tone.FeedbackDelay({ delayTime: 0.4, feedback: 0.34, maxDelay: 4, wet: 1 });
    const roomIn = context.createGain();
    const echoIn = context.createGain();
    Tone.connect(roomIn, reverb);
    Tone.connect(echoIn, this.echo);
    Tone.connect(reverb, this.roomReturn);
    Tone.connect(this.echo, this.echoReturn);
    this.desk = {
      context,
      master: context.createGain(),
      room: roomIn,
      echo: echoIn,
      noise: whiteNoise(context),
      waves: new WeakMap(),
      shared: (name) => this.sharedEffects.find(({ about }) => about.name === name)?.chain.input ?? null,
    };
    this.leadAll();
    const offline = (on: OfflineAudioContext): Desk => ({
      context: on,
      master: on.destination,
      room: on.createGain(),
      echo: on.createGain(),
      noise: whiteNoise(on),
      waves: new WeakMap(),
      shared: () => null,
    });
    // Once what starting has to do is done; the better of two, since anything else may be running.
    setTimeout(
      () =>
        void (async () => {
          for (let i = 0; i < 2; i++)
            this.voicesPossible = Math.max(
              this.voicesPossible ?? 0,
              await measureVoices(offline, () => performance.now()),
            );
        })().catch(() => undefined),
      MEASURE_AFTER_MS,
    );
  }

  /** A bus for the layers of one output, whose gain is the level of the whole. */
  private master(name: string): GainNode {
    const known = this.masters.get(name);
    if (known) return known.gain;
    const gain = this.context.createGain();
    gain.gain.value = this.masterGain;
    const chain = new EffectChain(this.context);
    chain.set(this.wholeEffects, this.bpm);
    gain.connect(chain.input);
    chain.output.connect(this.outputs.input(name));
    this.masters.set(name, { gain, chain });
    return gain;
  }

  /** After the outputs have changed: everything goes where its name leads now. */
  private leadAll(): void {
    const old = [...this.masters.values()];
    this.masters.clear();
    this.layers.forEach((layer, destination) => layer?.route(this.master(this.routes[destination] ?? '')));
    const main = this.master('');
    for (const back of [this.roomReturn, this.echoReturn, ...this.sharedEffects.map((shared) => shared.back)]) {
      back.disconnect();
      back.connect(main);
    }
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

  prepare(destination: number, instrumentId: string, presetId: string, name: string): boolean {
    if (this.layers[destination]) return false;
    const found = this.presets.find(instrumentId, presetId);
    const layer = new LayerSound(
      found === null || found instanceof Promise ? STAND_IN : found,
      this.desk,
      name,
      this.bpm,
    );
    layer.route(this.master(this.routes[destination] ?? ''));
    this.layers[destination] = layer;
    this.asked[destination] = { instrumentId, presetId, serial: 0 };
    if (found instanceof Promise) this.ask(destination, instrumentId, presetId);
    return true;
  }

  keepOnly(destinations: ReadonlySet<number>): void {
    this.layers.forEach((layer, destination) => {
      if (!layer || destinations.has(destination) || layer.isSounding) return;
      layer.dispose();
      this.layers[destination] = undefined;
      this.asked[destination] = undefined;
    });
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
    this.told.onReady(destination, false);
    const isLast = (): boolean => this.layers[destination] === layer && this.asked[destination]?.serial === serial;
    found.then(
      (sound) => {
        if (!isLast()) return;
        if (sound) layer.change(sound);
        else this.told.onTrouble(`${layer.name}: its bank does not have this preset any more.`);
        this.told.onReady(destination, true);
      },
      (cause: unknown) => {
        if (!isLast()) return;
        this.told.onTrouble(
          `${layer.name}: its sound cannot be loaded (${cause instanceof Error ? cause.message : 'unknown trouble'}). An electric piano stands in.`,
        );
        this.told.onReady(destination, true);
      },
    );
  }

  route(destination: number, output: string): void {
    if (this.routes[destination] === output) return;
    this.routes[destination] = output;
    this.layers[destination]?.route(this.master(output));
  }

  effects(destination: number, effects: readonly Effect[], rampMs: number): void {
    this.layers[destination]?.effects(effects, rampMs);
  }

  sends(destination: number, sends: readonly Send[], rampMs: number): void {
    this.layers[destination]?.sends(sends, rampMs);
  }

  live(destination: number, input: string | null, mono: boolean, open: boolean): void {
    const layer = this.layers[destination];
    if (!layer) return;
    if (input !== null && open && !this.liveOpen[destination]) this.lives.reopen(input);
    this.liveOpen[destination] = open;
    layer.feed(input === null || !open ? null : this.lives.node(input, mono));
  }

  setBenchLoop(on: boolean): void {
    this.lives.setBenchLoop(on);
  }

  setSharedEffects(shared: readonly SharedEffect[], whole: readonly Effect[]): void {
    this.wholeEffects = whole;
    for (const { chain } of this.masters.values()) chain.set(whole, this.bpm);
    const same =
      shared.length === this.sharedEffects.length &&
      shared.every(
        ({ id, name }, i) => id === this.sharedEffects[i].about.id && name === this.sharedEffects[i].about.name,
      );
    if (!same) this.makeShared(shared);
    shared.forEach((about, i) => {
      const { chain, back } = this.sharedEffects[i];
      this.sharedEffects[i].about = about;
      chain.set(about.effects, this.bpm);
      back.gain.setTargetAtTime(
        about.levelDb <= -60 ? 0 : 10 ** (about.levelDb / 20),
        this.context.currentTime,
        RAMP_S,
      );
    });
  }

  private makeShared(shared: readonly SharedEffect[]): void {
    const old = this.sharedEffects;
    this.sharedEffects = shared.map((about) => {
      const chain = new EffectChain(this.context);
      const back = this.context.createGain();
      chain.output.connect(back).connect(this.master(''));
      return { about, chain, back };
    });
    for (const layer of this.layers) layer?.sendAnew();
    for (const { chain, back } of old) {
      back.disconnect();
      chain.dispose();
    }
  }

  send(destination: number, status: number, data1: number, data2: number): void {
    const layer = this.layers[destination];
    if (!layer) return;
    const channel = status & 15;
    switch (status & 0xf0) {
      case 0x90:
        return layer.noteOn(channel, data1, data2);
      case 0x80:
        return layer.noteOff(channel, data1);
      case 0xb0:
        return layer.controller(channel, data1, data2);
      case 0xe0:
        return layer.bend(channel, (data2 << 7) | data1);
      case 0xd0:
        return layer.pressure(data1);
    }
  }

  balance(destination: number, levelDb: number, pan: number, room: number, echo: number, rampMs: number): void {
    this.layers[destination]?.balance(levelDb, pan, room, echo, rampMs);
  }

  fade(destination: number, fadeMs: number): void {
    this.layers[destination]?.fade(fadeMs);
  }

  whole(which: number, value: number): void {
    const now = this.context.currentTime;
    const gain = value <= -60 ? 0 : 10 ** (value / 20);
    if (which === 0) {
      this.masterGain = MASTER * gain;
      for (const master of this.masters.values()) master.gain.gain.setTargetAtTime(this.masterGain, now, RAMP_S);
    } else if (which === 1) this.roomReturn.gain.setTargetAtTime(gain, now, RAMP_S);
    else if (which === 2) this.echoReturn.gain.setTargetAtTime(gain, now, RAMP_S);
    else if (which === 3) this.echo.feedback.rampTo(Math.min(0.95, Math.max(0, value / 100)), 0.05);
  }

  setTempo(bpm: number): void {
    this.bpm = bpm;
    this.setEchoTime();
    for (const layer of this.layers) layer?.setTempo(bpm);
    for (const { chain } of this.masters.values()) chain.setTempo(bpm);
    for (const { chain } of this.sharedEffects) chain.setTempo(bpm);
  }

  setEchoNote(note: NoteValue): void {
    this.echoQuarters = quartersOf(note);
    this.setEchoTime();
  }

  private setEchoTime(): void {
    this.echo.delayTime.rampTo(Math.min(LONGEST_ECHO_S, (60 / this.bpm) * this.echoQuarters), 0.1);
  }

  setOutputs(device: SoundDevice): void {
    if (this.outputs.use(device)) this.leadAll();
  }

  testTone(output: string | null): void {
    this.outputs.testTone(output);
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
        return layer ? [{ layer: layer.name, peakDb: toDb(layer.peak()) }] : [];
      }),
    };
  }

  delayMs(): number {
    return (this.context.baseLatency + (this.context.outputLatency || 0)) * 1000;
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

/** Two seconds of noise from a fixed seed. */
function whiteNoise(context: BaseAudioContext): AudioBuffer {
  const buffer = context.createBuffer(1, context.sampleRate * 2, context.sampleRate);
  const samples = buffer.getChannelData(0);
  let seed = 22_222;
  for (let i = 0; i < samples.length; i++) {
    seed = (seed * 1_664_525 + 1_013_904_223) >>> 0;
    samples[i] = seed / 2 ** 31 - 1;
  }
  return buffer;
}
