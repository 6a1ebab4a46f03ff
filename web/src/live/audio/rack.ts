import * as Tone from 'tone';
import type { Levels } from '../door';
import { RECIPES } from './recipes';
import type { SoundOut } from './soundOut';
import { Strip, type Desk } from './strip';

const CLIP = 0.985;
const ECHO_QUARTERS = 0.75;

/**
 * The sound of the built-in instruments: strips → master → limiter → output, one reverb and one tempo delay as sends.
 * Made inside a gesture of the player's, as browsers ask.
 * @throws Error when the browser gives no sound output.
 */
export async function startRack(): Promise<SoundOut> {
  // The browser's own context: voices are made of its nodes, effects and the desk of Tone's.
  const context = new AudioContext({ latencyHint: 'interactive' });
  Tone.setContext(new Tone.Context({ context, lookAhead: 0, updateInterval: 0.05 }));
  if (context.state !== 'running') await context.resume();
  return new Rack(context);
}

class Rack implements SoundOut {
  private readonly strips: (Strip | undefined)[] = [];
  private readonly desk: Desk;
  private readonly echo: Tone.FeedbackDelay;
  private readonly meter: AnalyserNode;
  private readonly samples = new Float32Array(1024);

  constructor(context: AudioContext) {
    const limiter = new Tone.Limiter(-1).toDestination();
    const master = new Tone.Gain(0.9).connect(limiter);
    const reverb = new Tone.Reverb({ decay: 2.6, preDelay: 0.018, wet: 1 }).connect(master);
    this.echo = new Tone.FeedbackDelay({ delayTime: 0.4, feedback: 0.34, maxDelay: 4, wet: 1 }).connect(master);
    const roomIn = new Tone.Gain(1).connect(reverb);
    const echoIn = new Tone.Gain(1).connect(this.echo);
    this.meter = context.createAnalyser();
    this.meter.fftSize = 1024;
    Tone.connect(limiter, this.meter);
    const native = (gain: Tone.Gain): AudioNode => gain.input as unknown as AudioNode;
    this.desk = { context, master: native(master), room: native(roomIn), echo: native(echoIn), noise: whiteNoise(context), waves: new WeakMap() };
  }

  prepare(destination: number, instrumentId: string, presetId: string, name: string): void {
    this.strips[destination] ??= new Strip(RECIPES[presetId] ?? RECIPES[Object.keys(RECIPES).find((id) => id.startsWith(instrumentId)) ?? 'causeway/late-boat'], this.desk, name);
  }

  send(destination: number, status: number, data1: number, data2: number): void {
    const strip = this.strips[destination];
    if (!strip) return;
    const channel = status & 15;
    switch (status & 0xf0) {
      case 0x90: return strip.noteOn(channel, data1, data2);
      case 0x80: return strip.noteOff(channel, data1);
      case 0xb0: return strip.controller(channel, data1, data2);
      case 0xe0: return strip.bend(channel, (data2 << 7) | data1);
      case 0xd0: return strip.pressure(data1);
    }
  }

  balance(destination: number, levelDb: number, pan: number, room: number, echo: number, rampMs: number): void {
    this.strips[destination]?.balance(levelDb, pan, room, echo, rampMs);
  }

  fade(destination: number, fadeMs: number): void {
    this.strips[destination]?.fade(fadeMs);
  }

  /** The delay is a dotted eighth of the song's tempo. */
  setTempo(bpm: number): void {
    this.echo.delayTime.rampTo(Math.min(3.9, (60 / bpm) * ECHO_QUARTERS), 0.1);
  }

  levels(destinations: readonly number[]): Levels {
    const peak = this.outputPeak();
    return {
      output: { peakDb: toDb(peak), clipped: peak >= CLIP },
      layers: destinations.flatMap((destination) => {
        const strip = this.strips[destination];
        return strip ? [{ layer: strip.name, peakDb: toDb(strip.peak()) }] : [];
      }),
    };
  }

  outputPeak(): number {
    this.meter.getFloatTimeDomainData(this.samples);
    let peak = 0;
    for (const sample of this.samples) peak = Math.max(peak, Math.abs(sample));
    return peak;
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
