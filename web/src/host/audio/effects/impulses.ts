import type { Impulses } from './effectCore';

const STEP = 16_384;
const KEPT = 24;

/**
 * Impulse responses of plain rooms: noise that dies away, after a pause. Each length is made once, in steps of a
 * millisecond or so, and shared by all rooms of that length; of the ones made, the last are kept.
 */
export class RoomImpulses implements Impulses {
  private readonly made = new Map<string, AudioBuffer>();

  constructor(private readonly context: BaseAudioContext) {}

  known(seconds: number, preDelayS: number): AudioBuffer | null {
    return this.made.get(`${seconds} ${preDelayS}`) ?? null;
  }

  *make(seconds: number, preDelayS: number): Generator<void, AudioBuffer> {
    const key = `${seconds} ${preDelayS}`;
    const known = this.made.get(key);
    if (known) return known;
    const { sampleRate } = this.context;
    const length = Math.ceil((seconds + preDelayS) * sampleRate);
    const buffer = this.context.createBuffer(2, length, sampleRate);
    const start = Math.round(preDelayS * sampleRate);
    // Down to nothing at its end, whatever its length.
    const fall = Math.exp(-1 / ((Math.log(seconds + 1) / Math.log(200)) * sampleRate));
    for (let channel = 0; channel < 2; channel++) {
      const samples = buffer.getChannelData(channel);
      let seed = 22_222 + channel * 7919;
      let level = 1;
      for (let i = start; i < length; i++) {
        seed = (seed * 1_664_525 + 1_013_904_223) >>> 0;
        samples[i] = (seed / 2 ** 31 - 1) * level;
        level *= fall;
        if (i % STEP === 0) yield;
      }
    }
    this.made.set(key, buffer);
    if (this.made.size > KEPT) this.made.delete(this.made.keys().next().value!);
    return buffer;
  }
}
