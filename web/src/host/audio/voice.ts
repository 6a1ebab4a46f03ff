import { gainOf } from './decibels';
import { dieAway } from './dieAway';
import type { OscillatorRecipe, Recipe } from './recipe';
import { MIDDLE } from './pan';
import type { Waves } from './waves';

const SILENCE = 0.0001;
const SHORTEST_S = 0.004;
/** How often a release or a fade falls by e in its length: 26 dB; then it is soon gone. */
const FALLS = 3;
/** What dies away by itself is over after so many of its decay times: nine time constants, 78 dB down. */
const GONE_AFTER = 3;

/** Share of a modulation that is there however softly a key is struck; recipes are meant for velocity 90. */
const SOFT_FM = 0.25;
const MEANT_FM = SOFT_FM + (1 - SOFT_FM) * (90 / 127) ** 1.2;

/** What a strip gives its voices: where they sound, and the cents by which wheel and vibrato move them. */
export interface VoiceSurroundings {
  context: BaseAudioContext;
  output: AudioNode;
  bend: AudioNode;
  noise: AudioBuffer;
  waves: Waves;
  /** Factors of its attack and release. */
  shape: { attack: number; release: number };
  /** Factor of all that dies away by itself. */
  decay: number;
}

/** One sounding note: made as it starts, gone when it has died away. */
export class Voice {
  released = false;
  endsAtS = Infinity;
  private readonly amplitude: GainNode;
  private readonly sources: AudioScheduledSourceNode[] = [];
  private readonly bent: AudioParam[] = [];
  private readonly releaseS: number;
  /** How far it is modulated beside what its recipe says: a hard key more. */
  private readonly fmDepth: number;
  /** Sources that have not ended yet. */
  private left = 0;

  constructor(
    readonly key: number,
    velocity: number,
    recipe: Recipe,
    private readonly around: VoiceSurroundings,
    private readonly onEnded: (voice: Voice) => void,
  ) {
    const { context } = around;
    const now = context.currentTime;
    const { filter, touch = 0.8 } = recipe;
    const { attackS, decayS, sustain, releaseS } = recipe.envelope;
    const envelope = { attackS: attackS * around.shape.attack, decayS: decayS * around.decay, sustain, releaseS };
    this.releaseS = envelope.releaseS;
    this.amplitude = context.createGain();
    const hz = 440 * 2 ** ((key + (recipe.transpose ?? 0) - 69) / 12);
    const strength = velocity / 127;
    const peak = MIDDLE * gainOf(recipe.gainDb) * (1 - touch + touch * strength ** 1.6);
    this.shape(this.amplitude.gain, peak, envelope, now);
    let into: AudioNode = this.amplitude;
    if (filter) {
      const node = context.createBiquadFilter();
      node.type = filter.type;
      node.Q.value = filter.q ?? 0.7;
      node.frequency.automationRate = 'k-rate';
      const cutoff = Math.min(
        18_000,
        Math.max(60, filter.hz * (hz / 261.6) ** (filter.keyTrack ?? 0) + (filter.velocityHz ?? 0) * strength),
      );
      // A parameter without a timeline is reckoned once, not for every sample.
      node.frequency.value = cutoff;
      if (filter.sweepHz) {
        node.frequency.setValueAtTime(Math.min(18_000, Math.max(60, cutoff + filter.sweepHz)), now);
        node.frequency.exponentialRampToValueAtTime(cutoff, now + (filter.sweepS ?? 0.2));
      }
      node.connect(this.amplitude);
      into = node;
    }
    this.fmDepth = (SOFT_FM + (1 - SOFT_FM) * strength ** 1.2) / MEANT_FM;
    for (const oscillator of recipe.oscillators) this.addOscillator(oscillator, hz, recipe, into, now);
    if (recipe.noise) this.addNoise(recipe.noise, into, now);
    this.amplitude.connect(around.output);
    if (envelope.sustain <= 0) this.endBy(now + envelope.attackS + envelope.decayS * 1.2);
    this.left = this.sources.length;
    for (const source of this.sources)
      source.onended = () => {
        if (--this.left === 0) this.finish();
      };
    if (this.left === 0) this.finish();
  }

  private shape(gain: AudioParam, peak: number, { attackS, decayS, sustain }: Recipe['envelope'], now: number): void {
    gain.setValueAtTime(SILENCE, now);
    gain.linearRampToValueAtTime(peak, now + Math.max(0.002, attackS));
    gain.setTargetAtTime(Math.max(SILENCE, peak * sustain), now + Math.max(0.002, attackS), Math.max(0.01, decayS / 4));
  }

  private addOscillator(recipe: OscillatorRecipe, noteHz: number, voice: Recipe, into: AudioNode, now: number): void {
    const { context, bend } = this.around;
    const oscillator = context.createOscillator();
    if (recipe.wave === 'sine') oscillator.setPeriodicWave(this.around.waves.next(null));
    else if (typeof recipe.wave === 'string') oscillator.type = recipe.wave;
    else oscillator.setPeriodicWave(this.around.waves.next(recipe.wave));
    const hz = noteHz * recipe.ratio;
    oscillator.frequency.value = hz;
    if (voice.drop) {
      oscillator.frequency.setValueAtTime(hz * voice.drop.from, now);
      oscillator.frequency.exponentialRampToValueAtTime(hz, now + voice.drop.s);
    }
    oscillator.detune.value = (recipe.detuneCents ?? 0) + (voice.tuneCents ?? 0);
    // Once in 128 frames (3 ms) is often enough for wheel and vibrato, and takes a fraction of the time.
    oscillator.detune.automationRate = 'k-rate';
    bend.connect(oscillator.detune);
    this.bent.push(oscillator.detune);
    const level = context.createGain();
    level.gain.value = recipe.gain;
    const decayS = recipe.decayS === undefined ? null : recipe.decayS * this.around.decay;
    if (decayS !== null) {
      level.gain.setValueAtTime(recipe.gain, now);
      level.gain.setTargetAtTime(0, now, decayS / 3);
    }
    oscillator.connect(level).connect(into);
    oscillator.start(now);
    if (decayS !== null) oscillator.stop(now + decayS * GONE_AFTER);
    this.sources.push(oscillator);
    if (recipe.fm) {
      const modulator = context.createOscillator();
      modulator.frequency.value = hz * recipe.fm.ratio;
      const depth = context.createGain();
      const full = hz * recipe.fm.ratio * recipe.fm.index * this.fmDepth;
      depth.gain.setValueAtTime(full, now);
      depth.gain.setTargetAtTime(full * recipe.fm.sustain, now, (recipe.fm.decayS * this.around.decay) / 3);
      modulator.connect(depth).connect(oscillator.frequency);
      modulator.start(now);
      this.sources.push(modulator);
    }
  }

  private addNoise(recipe: NonNullable<Recipe['noise']>, into: AudioNode, now: number): void {
    const { context, noise } = this.around;
    const source = context.createBufferSource();
    source.buffer = noise;
    source.loop = true;
    const band = context.createBiquadFilter();
    band.type = 'bandpass';
    band.frequency.value = recipe.hz;
    band.Q.value = recipe.q ?? 0.8;
    const level = context.createGain();
    level.gain.setValueAtTime(recipe.gain, now);
    level.gain.setTargetAtTime(recipe.gain * (recipe.sustain ?? 0), now, recipe.decayS / 3);
    source.connect(band).connect(level).connect(into);
    source.start(now, (this.key * 0.137) % 1);
    if (!recipe.sustain) source.stop(now + recipe.decayS * GONE_AFTER);
    this.sources.push(source);
  }

  /** The key is up and no pedal holds it. */
  release(): void {
    if (this.released) return;
    this.released = true;
    this.fade(Math.max(SHORTEST_S, this.releaseS * this.around.shape.release));
  }

  /** Dies away over a time, without a click. */
  fade(seconds: number): void {
    const { currentTime } = this.around.context;
    const { gain } = this.amplitude;
    const lengthS = Math.max(SHORTEST_S, seconds);
    if (currentTime + lengthS >= this.endsAtS) return;
    this.endBy(dieAway(gain, currentTime, lengthS, lengthS / FALLS));
  }

  private endBy(atS: number): void {
    if (atS >= this.endsAtS) return;
    this.endsAtS = atS;
    for (const source of this.sources) source.stop(atS);
  }

  private finish(): void {
    // Wheel and vibrato would hold on to it, note after note, all evening.
    for (const detune of this.bent) this.around.bend.disconnect(detune);
    this.amplitude.disconnect();
    this.onEnded(this);
  }
}
