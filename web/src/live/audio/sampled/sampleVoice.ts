import type { SoundingVoice } from '../soundingVoice';
import type { SampleZone } from './sampledPreset';

const SHORTEST_S = 0.004;
const SILENT_DB = -100;

interface Surroundings {
  context: BaseAudioContext;
  output: AudioNode;
  bend: AudioNode;
  /** Factors of its attack and release. */
  shape: { attack: number; release: number };
}

const gainOf = (db: number): number => (db <= SILENT_DB ? 0 : 10 ** (db / 20));

/** One sounding sample: made as it starts, gone when it has ended or died away. */
export class SampleVoice implements SoundingVoice {
  released = false;
  private endsAtS = Infinity;
  private readonly source: AudioBufferSourceNode;
  private readonly amplitude: GainNode;

  constructor(readonly key: number, velocity: number, readonly zone: SampleZone, buffer: AudioBuffer, private readonly around: Surroundings, private readonly onEnded: (voice: SampleVoice) => void) {
    const { context } = around;
    const now = context.currentTime;
    this.source = context.createBufferSource();
    this.source.buffer = buffer;
    this.source.playbackRate.value = 2 ** (((key - zone.rootKey) * zone.centsPerKey + zone.tuneCents) / 1200);
    if (zone.loop) {
      this.source.loop = true;
      this.source.loopStart = zone.loop.start / buffer.sampleRate;
      this.source.loopEnd = zone.loop.end / buffer.sampleRate;
    }
    around.bend.connect(this.source.detune);
    this.amplitude = context.createGain();
    // Twice 40 log10: a key struck half as hard sounds 12 dB softer, as SoundFont 2.04 (8.4.1) has it.
    const peak = gainOf(zone.levelDb) * (velocity / 127) ** 2;
    this.shape(peak, now);
    let into: AudioNode = this.amplitude;
    if (zone.filterHz !== null) {
      const filter = context.createBiquadFilter();
      filter.type = 'lowpass';
      filter.frequency.value = zone.filterHz;
      filter.Q.value = zone.resonanceDb;
      filter.connect(this.amplitude);
      into = filter;
    }
    this.source.connect(into);
    if (zone.pan !== 0) {
      const panner = context.createStereoPanner();
      panner.pan.value = zone.pan;
      this.amplitude.connect(panner).connect(around.output);
    } else this.amplitude.connect(around.output);
    this.source.onended = () => this.finish();
    this.source.start(now);
  }

  private shape(peak: number, now: number): void {
    const { delayS, attackS, holdS, decayS, sustainDb } = this.zone.envelope;
    const { gain } = this.amplitude;
    const from = now + delayS;
    const top = from + Math.max(0.001, attackS * this.around.shape.attack);
    gain.setValueAtTime(0, now);
    gain.setValueAtTime(0, from);
    gain.linearRampToValueAtTime(peak, top);
    if (sustainDb >= 0) return;
    gain.setValueAtTime(peak, top + holdS);
    gain.setTargetAtTime(peak * gainOf(sustainDb), top + holdS, Math.max(0.005, decayS / 5));
  }

  /** The key is up and no pedal holds it. */
  release(): void {
    if (this.released) return;
    this.released = true;
    if (this.zone.loop && this.zone.loopsWhileHeld) this.source.loop = false;
    this.fade(Math.max(SHORTEST_S, this.zone.envelope.releaseS * this.around.shape.release));
  }

  /** Dies away over a time, without a click. */
  fade(seconds: number): void {
    const { currentTime } = this.around.context;
    const lengthS = Math.max(SHORTEST_S, seconds);
    if (currentTime + lengthS >= this.endsAtS) return;
    const { gain } = this.amplitude;
    gain.cancelAndHoldAtTime(currentTime);
    gain.setTargetAtTime(0, currentTime, lengthS / 4);
    gain.linearRampToValueAtTime(0, currentTime + lengthS * 1.3);
    this.endsAtS = currentTime + lengthS * 1.3 + 0.01;
    this.source.stop(this.endsAtS);
  }

  private finish(): void {
    this.around.bend.disconnect(this.source.detune);
    this.amplitude.disconnect();
    this.onEnded(this);
  }
}
