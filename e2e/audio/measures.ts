// What is measured of rendered sound: pitch, spectra; loudness is core's. Pure: it runs anywhere.

import type { Stereo } from '@rackle/core/loudness';

export { dbOf, integratedLufs as lufs } from '@rackle/core/loudness';

export type Rendered = Stereo;

/** The highest sample. */
export const peakOf = (samples: Float32Array): number =>
  samples.reduce((most, sample) => Math.max(most, Math.abs(sample)), 0);

/** Magnitudes of a stretch under a Hann window; `size` a power of two, padded with silence. */
export function spectrum(samples: Float32Array, from: number, size: number): Float64Array {
  const re = new Float64Array(size);
  const im = new Float64Array(size);
  for (let i = 0; i < size; i++) re[i] = (samples[from + i] ?? 0) * (0.5 - 0.5 * Math.cos((2 * Math.PI * i) / size));
  transform(re, im);
  return Float64Array.from({ length: size / 2 }, (_, i) => Math.hypot(re[i], im[i]) / size);
}

/** In place: a fast Fourier transform of a power of two. */
function transform(re: Float64Array, im: Float64Array): void {
  const size = re.length;
  for (let i = 1, j = 0; i < size; i++) {
    let bit = size >> 1;
    for (; j & bit; bit >>= 1) j ^= bit;
    j ^= bit;
    if (i < j) {
      [re[i], re[j]] = [re[j], re[i]];
      [im[i], im[j]] = [im[j], im[i]];
    }
  }
  for (let length = 2; length <= size; length *= 2) {
    const angle = (-2 * Math.PI) / length;
    for (let i = 0; i < size; i += length)
      for (let k = 0; k < length / 2; k++) {
        const [cos, sin] = [Math.cos(angle * k), Math.sin(angle * k)];
        const [a, b] = [i + k, i + k + length / 2];
        const [x, y] = [re[b] * cos - im[b] * sin, re[b] * sin + im[b] * cos];
        [re[b], im[b]] = [re[a] - x, im[a] - y];
        [re[a], im[a]] = [re[a] + x, im[a] + y];
      }
  }
}

/** Mean frequency of the spectrum by its magnitudes, in Hz. */
export function centroid(samples: Float32Array, rate: number, fromS: number): number {
  const size = 16_384;
  const magnitudes = spectrum(samples, Math.round(fromS * rate), size);
  let [sum, weighted] = [0, 0];
  magnitudes.forEach((magnitude, i) => {
    sum += magnitude;
    weighted += (magnitude * i * rate) / size;
  });
  return weighted / Math.max(1e-12, sum);
}

/**
 * How far a note is from the pitch that it should have, in cents: by the partials near multiples of it, each weighted by
 * its power.
 */
export function centsOff(samples: Float32Array, rate: number, hz: number, fromS: number): number {
  const size = 65_536;
  const magnitudes = spectrum(samples, Math.round(fromS * rate), size);
  let [sum, weight] = [0, 0];
  for (let partial = 1; partial <= 4; partial++) {
    const low = Math.floor((hz * partial * 2 ** (-60 / 1200) * size) / rate);
    const high = Math.ceil((hz * partial * 2 ** (60 / 1200) * size) / rate);
    // The middle of all power there: two that beat against each other stand for what is between them.
    let [power, middle] = [0, 0];
    for (let i = low; i <= high; i++) {
      power += magnitudes[i] ** 2;
      middle += magnitudes[i] ** 2 * i;
    }
    if (power === 0) continue;
    sum += power * 1200 * Math.log2(((middle / power) * (rate / size)) / (hz * partial));
    weight += power;
  }
  return weight === 0 ? 0 : sum / weight;
}

/** How long it takes from its peak until it is 30 dB below, in seconds; `Infinity`: it is not before the end. */
export function fallS({ left, right, rate }: Rendered): number {
  const step = Math.round(rate * 0.02);
  const levels: number[] = [];
  for (let from = 0; from + step <= left.length; from += step) {
    let sum = 0;
    for (let i = from; i < from + step; i++) sum += left[i] ** 2 + right[i] ** 2;
    levels.push(10 * Math.log10(Math.max(1e-12, sum / step)));
  }
  const peak = Math.max(...levels);
  const top = levels.indexOf(peak);
  const end = levels.findLastIndex((level) => level > peak - 30);
  return end >= levels.length - 1 ? Infinity : (end - top) * 0.02;
}

const BANDS = 40;
const melOf = (hz: number): number => 2595 * Math.log10(1 + hz / 700);

/** Levels of 40 bands as wide as the ear hears them, in dB, for each stretch of 46 ms; all of one loudness. */
export function logMel({ left, right, rate }: Rendered, frames = 24): Float64Array[] {
  const size = 2048;
  const both = left.map((sample, i) => (sample + right[i]) / 2);
  const found = Array.from({ length: frames }, (_, frame) => {
    const magnitudes = spectrum(both, frame * size, size);
    const bands = new Float64Array(BANDS);
    magnitudes.forEach((magnitude, i) => {
      const band = Math.floor((melOf((i * rate) / size) / melOf(rate / 2)) * BANDS);
      bands[Math.min(BANDS - 1, band)] += magnitude ** 2;
    });
    return bands;
  });
  const whole = found.reduce((sum, bands) => sum + bands.reduce((inner, power) => inner + power, 0), 0) / frames;
  // What is more than 60 dB below the whole is not heard.
  return found.map((bands) => bands.map((power) => Math.max(-60, 10 * Math.log10(Math.max(1e-20, power / whole)))));
}

/** How unlike two sounds are, in dB: the mean distance of their bands, stretch by stretch. */
export function unlike(one: readonly Float64Array[], other: readonly Float64Array[]): number {
  let sum = 0;
  one.forEach((bands, frame) => bands.forEach((level, band) => (sum += Math.abs(level - other[frame][band]))));
  return sum / (one.length * BANDS);
}

/** How wide: the power of the difference of both sides beside that of their sum, in dB. */
export function widthDb({ left, right }: Rendered): number {
  let [middle, side] = [0, 0];
  left.forEach((sample, i) => {
    middle += (sample + right[i]) ** 2;
    side += (sample - right[i]) ** 2;
  });
  return 10 * Math.log10(Math.max(1e-12, side) / Math.max(1e-12, middle));
}
