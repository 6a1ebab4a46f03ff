/** How a sample that was cut goes on: from here it falls, so many dB a second, both at the pitch it was recorded with. */
export interface Ringing {
  fromS: number;
  dbPerS: number;
}

/** A sample with a loop at its end, in frames. */
export interface RingingSample {
  data: Float32Array<ArrayBuffer>;
  loop: { start: number; end: number };
  ringing: Ringing;
}

const LOOP_S = 1.2;
const ACROSS_S = 0.4;
const MEASURED_S = 2;
const WINDOW_S = 0.1;
const STEEPEST_DB_PER_S = 60;
const NOTHING = 1e-9;

/**
 * A sample that dies away, cut after so many frames: its end goes round at one level, one pass over into the next, and
 * falls as it fell before the cut.
 * @param frames at least three seconds
 */
export function ringOn(sample: Float32Array, frames: number, sampleRate: number): RingingSample {
  const end = Math.min(frames, sample.length);
  const start = end - Math.round(LOOP_S * sampleRate);
  const across = Math.round(ACROSS_S * sampleRate);
  const dbPerS = measuredFall(sample.subarray(Math.max(0, end - Math.round(MEASURED_S * sampleRate)), end), sampleRate);
  const data = new Float32Array(sample.subarray(0, end));
  const grows = (dbPerS * Math.LN10) / 20 / sampleRate;
  for (let i = start; i < end; i++) data[i] *= Math.exp(grows * (i - start));
  for (let i = 0; i < across; i++) {
    const before = start - across + i;
    const angle = ((i + 0.5) / across) * (Math.PI / 2);
    data[end - across + i] =
      data[end - across + i] * Math.cos(angle) + sample[before] * Math.exp(grows * (before - start)) * Math.sin(angle);
  }
  return { data, loop: { start, end }, ringing: { fromS: start / sampleRate, dbPerS } };
}

/** How many dB a second it loses: the straight line through its levels. Nothing where it does not die away. */
function measuredFall(part: Float32Array, sampleRate: number): number {
  const window = Math.round(WINDOW_S * sampleRate);
  const levels: number[] = [];
  for (let at = 0; at + window <= part.length; at += window) {
    let sum = 0;
    for (let i = at; i < at + window; i++) sum += part[i] * part[i];
    levels.push(10 * Math.log10(sum / window + NOTHING));
  }
  const middle = (levels.length - 1) / 2;
  let [above, below] = [0, 0];
  levels.forEach((level, i) => {
    above += (i - middle) * level;
    below += (i - middle) ** 2;
  });
  const perWindow = below === 0 ? 0 : above / below;
  return Math.min(STEEPEST_DB_PER_S, Math.max(0, -perWindow / WINDOW_S));
}
