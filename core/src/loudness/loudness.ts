// Loudness and true peak of rendered sound, after ITU-R BS.1770-4.

/** Both sides of a sound, as many samples each, and the rate in Hz. */
export interface Stereo {
  left: Float32Array;
  right: Float32Array;
  rate: number;
}

interface Biquad {
  b: readonly [number, number, number];
  a: readonly [number, number];
}

/** What is softer than anything, instead of minus infinity. */
const NOTHING = 1e-9;
const NOTHING_POWER = 1e-12;
const BLOCK_S = 0.4;
const HOP_S = 0.1;
/** Finer than any chord changes: the loudest block is not missed between two. */
const FINE_HOP_S = 0.01;
const ABSOLUTE_GATE = -70;
const RELATIVE_GATE = -10;

/** Decibels of an amplitude; 1 is full scale. */
export const dbOf = (value: number): number => 20 * Math.log10(Math.max(NOTHING, value));

/** The K weighting at any rate: a shelf for the head, a high pass. */
function weighting(rate: number): readonly Biquad[] {
  const shelf = (): Biquad => {
    const [K, Q, high] = [
      Math.tan((Math.PI * 1681.974_450_955_533) / rate),
      0.707_175_236_955_419_6,
      10 ** (3.999_843_853_973_347 / 20),
    ];
    const middle = high ** 0.499_666_774_154_541_6;
    const a0 = 1 + K / Q + K * K;
    return {
      b: [(high + (middle * K) / Q + K * K) / a0, (2 * (K * K - high)) / a0, (high - (middle * K) / Q + K * K) / a0],
      a: [(2 * (K * K - 1)) / a0, (1 - K / Q + K * K) / a0],
    };
  };
  const pass = (): Biquad => {
    const [K, Q] = [Math.tan((Math.PI * 38.135_470_876_024_44) / rate), 0.500_327_037_323_877_3];
    const a0 = 1 + K / Q + K * K;
    return { b: [1, -2, 1], a: [(2 * (K * K - 1)) / a0, (1 - K / Q + K * K) / a0] };
  };
  return [shelf(), pass()];
}

function filtered(samples: Float32Array, { b, a }: Biquad): Float32Array {
  const out = new Float32Array(samples.length);
  let [x1, x2, y1, y2] = [0, 0, 0, 0];
  for (let i = 0; i < samples.length; i++) {
    const x = samples[i];
    const y = b[0] * x + b[1] * x1 + b[2] * x2 - a[0] * y1 - a[1] * y2;
    [x2, x1, y2, y1] = [x1, x, y1, y];
    out[i] = y;
  }
  return out;
}

const loudnessOf = (power: number): number => -0.691 + 10 * Math.log10(Math.max(NOTHING_POWER, power));

/** Mean square of both sides, weighted, of every block of 400 ms; one block where there is less. */
function blockPowers({ left, right, rate }: Stereo, hopS: number): number[] {
  const sides = [left, right].map((side) => weighting(rate).reduce(filtered, side));
  // Sums from the beginning: a block is the difference of two.
  const sums = new Float64Array(left.length + 1);
  for (let i = 0; i < left.length; i++) sums[i + 1] = sums[i] + sides[0][i] ** 2 + sides[1][i] ** 2;
  const [length, hop] = [Math.round(BLOCK_S * rate), Math.max(1, Math.round(hopS * rate))];
  if (left.length < length) return [sums[left.length] / length];
  const powers: number[] = [];
  for (let from = 0; from + length <= left.length; from += hop)
    powers.push((sums[from + length] - sums[from]) / length);
  return powers;
}

const mean = (list: readonly number[]): number =>
  list.reduce((sum, power) => sum + power, 0) / Math.max(1, list.length);

/** Integrated loudness in LUFS: blocks of 400 ms every 100 ms, gated at −70 and at 10 below the rest. */
export function integratedLufs(sound: Stereo): number {
  const heard = blockPowers(sound, HOP_S).filter((power) => loudnessOf(power) > ABSOLUTE_GATE);
  const gate = loudnessOf(mean(heard)) + RELATIVE_GATE;
  return loudnessOf(mean(heard.filter((power) => loudnessOf(power) > gate)));
}

/** The highest momentary loudness in LUFS: of 400 ms, wherever they begin (EBU Tech 3341). */
export const momentaryLufs = (sound: Stereo): number =>
  loudnessOf(blockPowers(sound, FINE_HOP_S).reduce((most, power) => Math.max(most, power), 0));

const OVERSAMPLED = 4;
/** To each side of a sample: so far the band-limiting filter reaches. */
const REACH = 12;

/** What lies between samples, at each quarter of the way: a sinc under a Blackman window, of unity gain. */
const PHASES: readonly Float64Array[] = Array.from({ length: OVERSAMPLED }, (_, phase) => {
  const taps = Float64Array.from({ length: 2 * REACH }, (_tap, i) => {
    const x = i - REACH + 1 - phase / OVERSAMPLED;
    const at = Math.PI * (x / REACH);
    const window = Math.abs(x) >= REACH ? 0 : 0.42 + 0.5 * Math.cos(at) + 0.08 * Math.cos(2 * at);
    return window * (x === 0 ? 1 : Math.sin(Math.PI * x) / (Math.PI * x));
  });
  const sum = taps.reduce((total, tap) => total + tap, 0);
  return taps.map((tap) => tap / sum);
});

/** The highest peak of either side between the samples too, at four times the rate, in dBTP. */
export function truePeakDb({ left, right }: Stereo): number {
  return dbOf(Math.max(truePeak(left), truePeak(right)));
}

function truePeak(samples: Float32Array): number {
  let most = 0;
  for (const sample of samples) most = Math.max(most, Math.abs(sample));
  for (let i = 0; i < samples.length; i++) {
    for (let phase = 1; phase < OVERSAMPLED; phase++) {
      const taps = PHASES[phase];
      let sum = 0;
      for (let tap = 0; tap < taps.length; tap++) sum += taps[tap] * (samples[i + tap - REACH + 1] ?? 0);
      most = Math.max(most, Math.abs(sum));
    }
  }
  return most;
}
