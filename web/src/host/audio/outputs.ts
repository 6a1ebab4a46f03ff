import type { SoundDevice, SoundOutput } from '@rackle/core/show';
import type { After } from '../timer';
import { gainOf } from './decibels';
import { limiter } from './effects/dynamics';
import type { EffectCore } from './effects/effectCore';

const CLIP = 0.985;
const CEILING_DB = -1;
const TEST_HZ = 440;
const TEST_GAIN = 0.12;

const CLICK_HZ = 1320;
const ACCENT_HZ = 1980;
const CLICK_SECONDS = 0.04;
const CLICK_DECAY_SECONDS = 0.007;
const CLICK_ATTACK_SECONDS = 0.001;

/** A short tone that dies away: from nothing, so that it is no click of the wrong sort. */
function clickBuffer(context: BaseAudioContext, hz: number): AudioBuffer {
  const { sampleRate } = context;
  const buffer = context.createBuffer(1, Math.ceil(CLICK_SECONDS * sampleRate), sampleRate);
  const samples = buffer.getChannelData(0);
  for (let i = 0; i < samples.length; i++) {
    const at = i / sampleRate;
    const end = 1 - i / samples.length;
    const level = Math.min(1, at / CLICK_ATTACK_SECONDS) * Math.exp(-at / CLICK_DECAY_SECONDS) * end;
    samples[i] = level * Math.sin(2 * Math.PI * hz * at);
  }
  return buffer;
}

/** One named output: bus → limiter → its two channels of the device, with a meter. */
interface Bus {
  about: SoundOutput;
  input: GainNode;
  limiter: EffectCore;
  meter: AnalyserNode;
  splitter: ChannelSplitterNode;
  isHere: boolean;
}

/**
 * The outputs of the sound device. Each has a bus of its own with a limiter at its end; an output whose channels the
 * device does not
 * have sounds on the first two, so that nothing is silent, and is told as not here.
 */
export class Outputs {
  private buses: Bus[] = [];
  private readonly merger: ChannelMergerNode;
  private readonly channels: number;
  private tone: { oscillator: OscillatorNode; gain: GainNode } | null = null;
  /** A click, and an accented one, made when one is first asked for. */
  private clicks: AudioBuffer[] | null = null;
  private readonly samples = new Float32Array(1024);
  private device = '';

  constructor(
    private readonly context: AudioContext,
    private readonly after: After,
  ) {
    const { destination } = context;
    this.channels = Math.max(2, Math.min(32, destination.maxChannelCount));
    destination.channelCount = this.channels;
    destination.channelCountMode = 'explicit';
    destination.channelInterpretation = 'discrete';
    this.merger = context.createChannelMerger(this.channels);
    this.merger.connect(destination);
    this.set([{ name: 'Main', left: 1, right: 2, hidden: false }]);
  }

  /** Input of the output of a name, or of the first. */
  input(name: string): GainNode {
    return (this.buses.find((bus) => bus.about.name === name) ?? this.buses[0]).input;
  }

  get first(): GainNode {
    return this.buses[0].input;
  }

  /** @returns whether the outputs are others than before, so that layers have to be led anew. */
  use({ device, outputs }: SoundDevice): boolean {
    if (device !== this.device) void this.choose(device);
    const same =
      outputs.length === this.buses.length &&
      outputs.every((output, i) => JSON.stringify(output) === JSON.stringify(this.buses[i].about));
    if (!same) this.set(outputs);
    return !same;
  }

  private set(outputs: readonly SoundOutput[]): void {
    const old = this.buses;
    this.buses = outputs.map((about) => this.bus(about));
    // The old ones are let go once what they carry has moved over.
    this.after(50, () => {
      for (const bus of old) {
        bus.splitter.disconnect();
        bus.limiter.dispose();
      }
    });
  }

  private bus(about: SoundOutput): Bus {
    const input = this.context.createGain();
    const limiting = limiter(this.context, CEILING_DB);
    const meter = this.context.createAnalyser();
    meter.fftSize = 1024;
    const splitter = this.context.createChannelSplitter(2);
    input.connect(limiting.input);
    limiting.output.connect(splitter);
    limiting.output.connect(meter);
    const isHere = about.left <= this.channels && about.right <= this.channels;
    const [left, right] = isHere ? [about.left, about.right] : [1, 2];
    splitter.connect(this.merger, 0, left - 1);
    splitter.connect(this.merger, 1, right - 1);
    return { about, input, limiter: limiting, meter, splitter, isHere };
  }

  /** Another sound device, by the name under which the machine lists it; an unknown one leaves the present. */
  private async choose(name: string): Promise<void> {
    this.device = name;
    const context = this.context as AudioContext & { setSinkId?: (id: string) => Promise<void> };
    if (!context.setSinkId || !navigator.mediaDevices) return;
    const devices = await navigator.mediaDevices.enumerateDevices().catch(() => []);
    const found = devices.find((candidate) => candidate.kind === 'audiooutput' && candidate.label === name);
    await context.setSinkId(found?.deviceId ?? '').catch(() => undefined);
  }

  testTone(name: string | null): void {
    const { currentTime } = this.context;
    if (this.tone) {
      this.tone.gain.gain.setTargetAtTime(0, currentTime, 0.01);
      this.tone.oscillator.stop(currentTime + 0.1);
      this.tone = null;
    }
    if (name === null) return;
    const oscillator = this.context.createOscillator();
    oscillator.frequency.value = TEST_HZ;
    const gain = this.context.createGain();
    gain.gain.value = 0;
    gain.gain.setTargetAtTime(TEST_GAIN, currentTime, 0.02);
    oscillator.connect(gain).connect(this.input(name));
    oscillator.start();
    this.tone = { oscillator, gain };
  }

  click(name: string, isAccent: boolean, levelDb: number, afterMs: number): void {
    const { context } = this;
    this.clicks ??= [CLICK_HZ, ACCENT_HZ].map((hz) => clickBuffer(context, hz));
    const source = context.createBufferSource();
    source.buffer = this.clicks[isAccent ? 1 : 0];
    const gain = context.createGain();
    gain.gain.value = gainOf(levelDb);
    source.connect(gain).connect(this.input(name));
    source.onended = () => gain.disconnect();
    source.start(context.currentTime + afterMs / 1000);
  }

  levels(): { name: string; peak: number; clipped: boolean; isHere: boolean }[] {
    return this.buses.map((bus) => {
      const peak = this.peakOf(bus);
      return { name: bus.about.name, peak, clipped: peak >= CLIP, isHere: bus.isHere };
    });
  }

  peak(): number {
    return this.buses.reduce((most, bus) => Math.max(most, this.peakOf(bus)), 0);
  }

  private peakOf({ meter }: Bus): number {
    meter.getFloatTimeDomainData(this.samples);
    let peak = 0;
    for (const sample of this.samples) peak = Math.max(peak, Math.abs(sample));
    return peak;
  }
}
