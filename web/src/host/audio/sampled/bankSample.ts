import type { BasicSample } from 'spessasynth_core';
import type { BankAsked } from './bankAsked';
import { centre, centreLoop } from './centre';
import { doubled } from './doubled';
import { oggStart } from './oggStart';
import { ringOn, type Ringing } from './ringOn';

/** Samples of at most this rate are made faster, in Hz. */
const SLOW_RATE = 33_000;
/** Buffers of a browser have at least this rate (Chromium: 3,000 Hz); banks are read from 400 Hz on. */
const SLOWEST_RATE = 3000;
const USUAL_RATE = 44_100;
/** What is a little longer than what it would be cut to is left whole, in seconds. */
const WORTH_IT_S = 0.5;

/** A sample of a bank as it is played; frames are those of its data. */
export interface SampleAbout {
  frames: number;
  sampleRate: number;
  loop: { start: number; end: number };
  /** How many frames stand for one of the bank's. */
  times: number;
  /** Where it was cut. */
  ringing: Ringing | null;
}

/** How samples are wanted. */
type SampleHow = Pick<BankAsked, 'mostS' | 'centred'>;

const howKey = ({ mostS, centred }: SampleHow): string => `${mostS} ${centred}`;

/**
 * The samples of a bank. What was once unpacked is known from then on; its numbers are kept only until they are taken.
 */
export class BankSamples {
  private readonly known = new Map<BasicSample, Map<string, SampleAbout | null>>();
  private readonly unpacked = new Map<BasicSample, { data: Float32Array<ArrayBuffer>; how: string }>();

  /**
   * One that takes longer than it may is cut there and rings on.
   * @returns null where there is nothing that can be read
   */
  about(sample: BasicSample, how: SampleHow): SampleAbout | null {
    const known = this.known.get(sample)?.get(howKey(how));
    return known === undefined ? this.read(sample, how) : known;
  }

  /** Its numbers, which are the caller's to keep. */
  take(sample: BasicSample, how: SampleHow): Float32Array<ArrayBuffer> {
    if (this.unpacked.get(sample)?.how !== howKey(how)) this.read(sample, how);
    const data = this.unpacked.get(sample)?.data ?? new Float32Array(2);
    this.unpacked.delete(sample);
    return data;
  }

  /** What was unpacked and not taken is let go of. */
  letGo(): void {
    this.unpacked.clear();
  }

  private read(sample: BasicSample, how: SampleHow): SampleAbout | null {
    const read = bankSample(sample, how);
    if (read !== null) this.unpacked.set(sample, { data: read.data, how: howKey(how) });
    const about = read && { ...read.about, frames: read.data.length };
    const known = this.known.get(sample) ?? new Map<string, SampleAbout | null>();
    this.known.set(sample, known.set(howKey(how), about));
    return about;
  }
}

/** Slow samples come at twice their rate, or four times. Nothing that was unpacked is kept in the bank. */
function bankSample(
  sample: BasicSample,
  { mostS, centred }: SampleHow,
): { data: Float32Array<ArrayBuffer>; about: Omit<SampleAbout, 'frames'> } | null {
  const rate = sample.sampleRate >= 400 ? Math.min(192_000, sample.sampleRate) : USUAL_RATE;
  const frames = Math.round(mostS * rate);
  const unpacked = unpack(sample, frames + WORTH_IT_S * rate);
  if (unpacked === null) return null;
  if (centred) centre(unpacked, rate);
  const cut = unpacked.length >= frames + WORTH_IT_S * rate ? ringOn(unpacked, frames, rate) : null;
  const times = timesOf(rate);
  const loop = cut?.loop ?? { start: sample.loopStart, end: sample.loopEnd };
  if (centred) centreLoop(cut?.data ?? unpacked, loop, rate);
  return {
    data: faster(cut?.data ?? unpacked, times),
    about: {
      sampleRate: rate * times,
      loop: { start: loop.start * times, end: loop.end * times },
      times,
      ringing: cut?.ringing ?? null,
    },
  };
}

/** What would still be too slow for a browser is made eight times as fast. */
const timesOf = (rate: number): number =>
  rate > SLOW_RATE ? 1 : rate > SLOW_RATE / 2 ? 2 : rate * 4 >= SLOWEST_RATE ? 4 : 8;

const faster = (data: Float32Array<ArrayBuffer>, times: number): Float32Array<ArrayBuffer> =>
  times === 1 ? data : faster(doubled(data), times / 2);

function unpack(sample: BasicSample, frames: number): Float32Array<ArrayBuffer> | null {
  try {
    return whole(sample.isCompressed ? unpackStart(sample, frames) : new Float32Array(sample.getAudioData()));
  } catch {
    return null;
  }
}

/** What is packed stays in the bank as it was; what was unpacked does not. */
function unpackStart(sample: BasicSample, frames: number): Float32Array<ArrayBuffer> {
  const packed = sample.getRawData(true);
  try {
    sample.setCompressedData(Number.isFinite(frames) ? oggStart(packed, Math.ceil(frames)) : packed);
    return sample.getAudioData() as Float32Array<ArrayBuffer>;
  } finally {
    sample.setCompressedData(packed);
  }
}

const whole = (data: Float32Array<ArrayBuffer>): Float32Array<ArrayBuffer> | null => (data.length > 1 ? data : null);
