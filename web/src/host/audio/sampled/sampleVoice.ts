import { gainOf } from '../decibels';
import { dieAway } from '../dieAway';
import { MIDDLE } from '../pan';
import type { SoundingVoice } from '../soundingVoice';
import { fallOf } from './falling';
import { modulated } from './modulations';
import type { EnvelopeTimes, SampleZone, Wave } from './sampledPreset';

const SHORTEST_S = 0.004;
const SILENT_DB = -100;
const MIDDLE_KEY = 60;
const OPEN_HZ = 20_000;
/** Envelopes fall by so much in their decay or release, in dB: sixteen bits, as players of banks have it. */
const RANGE_DB = 96;
/** How often an exponential falls by e while it falls by that. */
const FALLS = Math.log(gainOf(RANGE_DB));
/** A filter without resonance is 3 dB down where it cuts: its resonance counts from there. */
const CUT_DB = 3.01;
/** Points of a rise: one for each of so many seconds; never fewer or more than these. */
const POINT_EACH_S = 0.003;
const [FEWEST_POINTS, MOST_POINTS] = [4, 64];
const FADE_FALLS = 3;
/** Of 128 samples, about. */
const BLOCK_S = 0.003;
const SMALL_STEP_CENTS = 100;

interface Surroundings {
  context: BaseAudioContext;
  /** Where voices of a place leave, −1 (left) to 1. */
  outputAt: (pan: number) => AudioNode;
  bend: AudioNode;
  /** Factors of its attack and release. */
  shape: { attack: number; release: number };
}

/** How a modulation envelope rises, 0–1 of its time: convex, over 96 dB, as SoundFont 2.04 (8.2.2 and 9.5) has it. */
const convex = (share: number): number =>
  share <= 0 ? 0 : Math.max(0, 1 + (40 / RANGE_DB) * Math.log10(Math.min(1, share)));

/** Of a way of so many cents in a time; what takes less than a block is there at once either way. */
const isStepLarge = (cents: number, seconds: number): boolean =>
  seconds > BLOCK_S && (Math.abs(cents) / seconds) * BLOCK_S > SMALL_STEP_CENTS;

const gainAt = (db: number): number => (db <= SILENT_DB ? 0 : gainOf(db));
const atKey = (seconds: number, centsPerKey: number, key: number): number =>
  seconds * 2 ** ((centsPerKey * (MIDDLE_KEY - key)) / 1200);

/**
 * One sounding sample: made as it starts, gone when it has ended or died away.
 * sample → filter → envelope → waves on its level → its place; a second envelope and the waves move pitch and filter.
 */
export class SampleVoice implements SoundingVoice {
  released = false;
  private endsAtS = Infinity;
  private readonly source: AudioBufferSourceNode;
  private readonly amplitude: GainNode;
  private readonly filter: BiquadFilterNode | null;
  /** What the second envelope moves. */
  private readonly swept: readonly AudioParam[] = [];
  /** Whatever else runs and has to be stopped. */
  private readonly running: AudioScheduledSourceNode[] = [];

  private readonly key: number;
  /** As it stands for this note. */
  private readonly zone: SampleZone;
  /** Of the sample, at the pitch of the note. */
  private readonly rate: number;

  constructor(
    playedKey: number,
    playedVelocity: number,
    meant: SampleZone,
    buffer: AudioBuffer,
    private readonly around: Surroundings,
    private readonly onEnded: (voice: SampleVoice) => void,
  ) {
    const { context } = around;
    const now = context.currentTime;
    this.key = meant.fixedKey ?? playedKey;
    const velocity = meant.fixedVelocity ?? playedVelocity;
    const zone = modulated(meant, this.key, velocity);
    this.zone = zone;
    this.rate = 2 ** (((this.key - zone.rootKey) * zone.centsPerKey + zone.tuneCents) / 1200);
    this.source = context.createBufferSource();
    this.source.buffer = buffer;
    this.source.playbackRate.value = this.rate;
    if (zone.loop) {
      this.source.loop = true;
      this.source.loopStart = zone.loop.start / buffer.sampleRate;
      this.source.loopEnd = zone.loop.end / buffer.sampleRate;
    }
    around.bend.connect(this.source.detune);
    this.amplitude = context.createGain();
    // Half of what its filter resonates by is taken back, also where that is open.
    const levelDb = zone.levelDb + zone.gainDb - zone.resonanceDb / 2;
    this.shape((zone.pan === 0 ? MIDDLE : 1) * gainAt(levelDb), now);
    this.filter = this.makeFilter();
    if (this.filter) this.source.connect(this.filter).connect(this.amplitude);
    else this.source.connect(this.amplitude);
    if (zone.sweep) this.swept = this.startSweep(zone.sweep, now);
    this.startWaves(now).connect(around.outputAt(zone.pan));
    this.source.onended = () => this.finish();
    if (zone.loop || zone.end >= buffer.length) this.source.start(now, zone.start / buffer.sampleRate);
    else this.source.start(now, zone.start / buffer.sampleRate, (zone.end - zone.start) / buffer.sampleRate);
    if (this.endsAtS < Infinity) this.source.stop(this.endsAtS);
  }

  private makeFilter(): BiquadFilterNode | null {
    const { filterHz, resonanceDb, sweep, waves } = this.zone;
    if (filterHz === null && !sweep?.filterCents && waves.every(({ filterCents }) => filterCents === 0)) return null;
    const filter = this.around.context.createBiquadFilter();
    filter.type = 'lowpass';
    filter.frequency.value = filterHz ?? OPEN_HZ;
    filter.Q.value = resonanceDb - CUT_DB;
    const rate = this.isQuick() ? 'a-rate' : 'k-rate';
    filter.frequency.automationRate = rate;
    filter.detune.automationRate = rate;
    return filter;
  }

  /** Whether anything moves its filter so quickly that a step a block would be heard: it costs several times as much. */
  private isQuick(): boolean {
    const { sweep, waves } = this.zone;
    if (waves.some(({ filterCents, rateHz }) => isStepLarge(4 * filterCents, 1 / rateHz))) return true;
    if (sweep === null) return false;
    const { filterCents, attackS, sustain } = sweep;
    const falls = sustain < 1 && isStepLarge(filterCents, this.lengths(sweep).decayS);
    return falls || isStepLarge(filterCents, attackS);
  }

  private shape(peak: number, now: number): void {
    const { delayS, attackS, sustainDb } = this.zone.envelope;
    const { gain } = this.amplitude;
    const topS = delayS + Math.max(0.001, attackS * this.around.shape.attack);
    gain.setValueAtTime(0, now);
    gain.setValueAtTime(0, now + delayS);
    gain.linearRampToValueAtTime(peak, now + topS);
    if (peak <= 0) return;
    const points = fallOf({ ...this.lengths(this.zone.envelope), sustainDb }, this.zone.ringing, this.rate, topS);
    points.forEach(({ s, db }, i) => {
      if (i === 0 && db === 0) gain.setValueAtTime(peak, now + topS + s);
      else gain.exponentialRampToValueAtTime(peak * gainOf(db), now + topS + s);
    });
    const last = points.at(-1);
    if (!last || last.db > SILENT_DB) return;
    // Nothing of it is heard from there on, held or not.
    this.endsAtS = now + topS + last.s;
    gain.setValueAtTime(0, this.endsAtS);
  }

  private lengths({ holdS, decayS, holdCentsPerKey, decayCentsPerKey }: EnvelopeTimes): {
    holdS: number;
    decayS: number;
  } {
    return { holdS: atKey(holdS, holdCentsPerKey, this.key), decayS: atKey(decayS, decayCentsPerKey, this.key) };
  }

  /** Set on what it moves itself: a parameter with something connected is reckoned all the time. */
  private startSweep(sweep: NonNullable<SampleZone['sweep']>, now: number): AudioParam[] {
    const { holdS, decayS } = this.lengths(sweep);
    const from = now + sweep.delayS;
    const top = from + Math.max(0.001, sweep.attackS);
    const points = Math.min(MOST_POINTS, Math.max(FEWEST_POINTS, Math.ceil((top - from) / POINT_EACH_S)));
    const moves = (param: AudioParam, cents: number): AudioParam[] => {
      if (cents === 0) return [];
      // Point by point: a curve as a whole is put off by the browser when its time has begun meanwhile, and what is to
      // follow it then lies within it, which is an error.
      param.setValueAtTime(0, from);
      for (let i = 1; i <= points; i++)
        param.linearRampToValueAtTime(convex(i / points) * cents, from + ((top - from) * i) / points);
      if (sweep.sustain < 1) {
        param.setValueAtTime(cents, top + holdS);
        const endS = top + holdS + Math.max(0.001, decayS * (1 - sweep.sustain));
        param.linearRampToValueAtTime(sweep.sustain * cents, endS);
      }
      return [param];
    };
    return [
      ...moves(this.source.detune, sweep.pitchCents),
      ...(this.filter ? moves(this.filter.detune, sweep.filterCents) : []),
    ];
  }

  /** @returns where the voice leaves. */
  private startWaves(now: number): AudioNode {
    const { context } = this.around;
    const { waves } = this.zone;
    let out: AudioNode = this.amplitude;
    for (const wave of waves) {
      const node = this.startWave(wave, now);
      this.lead(node, wave.pitchCents, this.source.detune);
      if (this.filter) this.lead(node, wave.filterCents, this.filter.detune);
      if (wave.levelDb === 0) continue;
      const level = context.createGain();
      this.lead(node, Math.min(0.95, gainAt(Math.abs(wave.levelDb)) - 1) * Math.sign(wave.levelDb), level.gain);
      out.connect(level);
      out = level;
    }
    return out;
  }

  private startWave({ rateHz, delayS }: Wave, now: number): OscillatorNode {
    const node = this.around.context.createOscillator();
    node.type = 'triangle';
    node.frequency.value = rateHz;
    node.start(now + delayS);
    this.running.push(node);
    return node;
  }

  private lead(from: AudioNode, depth: number, to: AudioParam): void {
    if (depth === 0) return;
    const amount = this.around.context.createGain();
    amount.gain.value = depth;
    from.connect(amount).connect(to);
  }

  /** The key is up and no pedal holds it. */
  release(): void {
    if (this.released) return;
    this.released = true;
    if (this.zone.loop && this.zone.loopsWhileHeld) this.source.loop = false;
    const now = this.around.context.currentTime;
    for (const param of this.swept) {
      param.cancelAndHoldAtTime(now);
      param.setTargetAtTime(0, now, Math.max(SHORTEST_S, this.zone.sweep!.releaseS) / 4);
    }
    const releaseS = Math.max(SHORTEST_S, this.zone.envelope.releaseS * this.around.shape.release);
    this.end(now, releaseS / FALLS, releaseS);
  }

  /** Dies away over a time, without a click. */
  fade(seconds: number): void {
    const lengthS = Math.max(SHORTEST_S, seconds);
    this.end(this.around.context.currentTime, lengthS / FADE_FALLS, lengthS);
  }

  /** Falls by e in each `tauS`, and is over a little after `lengthS`. */
  private end(now: number, tauS: number, lengthS: number): void {
    if (now + lengthS >= this.endsAtS) return;
    this.endsAtS = dieAway(this.amplitude.gain, now, lengthS, tauS);
    this.source.stop(this.endsAtS);
  }

  private finish(): void {
    this.around.bend.disconnect(this.source.detune);
    this.amplitude.disconnect();
    for (const node of this.running) {
      node.stop();
      node.disconnect();
    }
    this.onEnded(this);
  }
}
