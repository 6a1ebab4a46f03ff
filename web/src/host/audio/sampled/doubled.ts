const TAPS = 32;

/** Weights of the samples around the place in the middle between two: a sinc under a Blackman window. */
const BETWEEN = Float64Array.from({ length: TAPS }, (_, i) => {
  const x = i - TAPS / 2 + 0.5;
  const share = (i + 0.5) / TAPS;
  const window = 0.42 - 0.5 * Math.cos(2 * Math.PI * share) + 0.08 * Math.cos(4 * Math.PI * share);
  return (Math.sin(Math.PI * x) / (Math.PI * x)) * window;
});

/**
 * The same samples at twice their rate. What plays them draws straight lines between two, which of slow ones is heard as
 * tones that are not in them.
 */
export function doubled(samples: Float32Array): Float32Array<ArrayBuffer> {
  const half = TAPS / 2;
  // What is before and after it is silence.
  const padded = new Float32Array(samples.length + TAPS);
  padded.set(samples, half - 1);
  const out = new Float32Array(samples.length * 2);
  for (let at = 0; at < samples.length; at++) {
    let sum = 0;
    for (let i = 0, last = TAPS - 1; i < half; i++, last--) sum += BETWEEN[i] * (padded[at + i] + padded[at + last]);
    out[2 * at] = samples[at];
    out[2 * at + 1] = sum;
  }
  return out;
}
