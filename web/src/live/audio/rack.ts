import * as Tone from 'tone';
import type { SoundDevice } from '@rackle/core';
import type { Levels } from '../door';
import { LayerSound } from './layerSound';
import { Outputs } from './outputs';
import type { Recipe } from './recipe';
import { RECIPES } from './recipes';
import type { SoundOut } from './soundOut';
import type { Desk } from './strip';

const CLIP = 0.985;
const ECHO_QUARTERS = 0.75;
const MASTER = 0.9;
const RAMP_S = 0.012;

/**
 * The sound of the built-in instruments: layers → outputs (each with a limiter), one reverb and one tempo delay as sends, which return
 * to the first output. Made inside a gesture of the player's, as browsers ask.
 * @throws Error when the browser gives no sound output.
 */
export async function startRack(): Promise<SoundOut> {
  // The browser's own context: voices are made of its nodes, effects and the desk of Tone's.
  const context = new AudioContext({ latencyHint: 'interactive' });
  Tone.setContext(new Tone.Context({ context, lookAhead: 0, updateInterval: 0.05 }));
  if (context.state !== 'running') await context.resume();
  return new Rack(context);
}

const recipeOf = (instrumentId: string, presetId: string): Recipe => RECIPES[presetId] ?? RECIPES[Object.keys(RECIPES).find((id) => id.startsWith(instrumentId)) ?? 'causeway/late-boat'];

class Rack implements SoundOut {
  private readonly layers: (LayerSound | undefined)[] = [];
  private readonly routes: string[] = [];
  private readonly outputs: Outputs;
  private readonly desk: Desk;
  private readonly echo: Tone.FeedbackDelay;
  /** Levels of everything by output name, and of the returns. */
  private readonly masters = new Map<string, GainNode>();
  private masterGain = MASTER;
  private readonly roomReturn: GainNode;
  private readonly echoReturn: GainNode;

  constructor(private readonly context: AudioContext) {
    this.outputs = new Outputs(context);
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
    this.desk = { context, master: context.createGain(), room: roomIn, echo: echoIn, noise: whiteNoise(context), waves: new WeakMap() };
    this.leadAll();
  }

  /** A bus for the layers of one output, whose gain is the level of the whole. */
  private master(name: string): GainNode {
    const known = this.masters.get(name);
    if (known) return known;
    const gain = this.context.createGain();
    gain.gain.value = this.masterGain;
    gain.connect(this.outputs.input(name));
    this.masters.set(name, gain);
    return gain;
  }

  /** After the outputs have changed: everything goes where its name leads now. */
  private leadAll(): void {
    const old = [...this.masters.values()];
    this.masters.clear();
    this.layers.forEach((layer, destination) => layer?.route(this.master(this.routes[destination] ?? '')));
    const main = this.master('');
    for (const back of [this.roomReturn, this.echoReturn]) {
      back.disconnect();
      back.connect(main);
    }
    for (const gain of old) gain.disconnect();
  }

  prepare(destination: number, instrumentId: string, presetId: string, name: string): void {
    if (this.layers[destination]) return;
    const layer = new LayerSound(recipeOf(instrumentId, presetId), this.desk, name);
    layer.route(this.master(this.routes[destination] ?? ''));
    this.layers[destination] = layer;
  }

  changePreset(destination: number, instrumentId: string, presetId: string): void {
    this.layers[destination]?.change(recipeOf(instrumentId, presetId));
  }

  route(destination: number, output: string): void {
    if (this.routes[destination] === output) return;
    this.routes[destination] = output;
    this.layers[destination]?.route(this.master(output));
  }

  send(destination: number, status: number, data1: number, data2: number): void {
    const layer = this.layers[destination];
    if (!layer) return;
    const channel = status & 15;
    switch (status & 0xf0) {
      case 0x90: return layer.noteOn(channel, data1, data2);
      case 0x80: return layer.noteOff(channel, data1);
      case 0xb0: return layer.controller(channel, data1, data2);
      case 0xe0: return layer.bend(channel, (data2 << 7) | data1);
      case 0xd0: return layer.pressure(data1);
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
      for (const master of this.masters.values()) master.gain.setTargetAtTime(this.masterGain, now, RAMP_S);
    } else if (which === 1) this.roomReturn.gain.setTargetAtTime(gain, now, RAMP_S);
    else if (which === 2) this.echoReturn.gain.setTargetAtTime(gain, now, RAMP_S);
    else if (which === 3) this.echo.feedback.rampTo(Math.min(0.95, Math.max(0, value / 100)), 0.05);
  }

  /** The delay is a dotted eighth of the tempo. */
  setTempo(bpm: number): void {
    this.echo.delayTime.rampTo(Math.min(3.9, (60 / bpm) * ECHO_QUARTERS), 0.1);
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
      layers: destinations.flatMap((destination) => {
        const layer = this.layers[destination];
        return layer ? [{ layer: layer.name, peakDb: toDb(layer.peak()) }] : [];
      }),
    };
  }

  delayMs(): number {
    return (this.context.baseLatency + (this.context.outputLatency || 0)) * 1000;
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
