const LOWEST_HZ = 12;

/** Takes out of samples what stands still in them, or nearly so: a high pass of the first order, in place. */
export function centre(samples: Float32Array, sampleRate: number): void {
  const keeps = Math.exp((-2 * Math.PI * LOWEST_HZ) / sampleRate);
  let [before, out] = [0, 0];
  for (let i = 0; i < samples.length; i++) {
    const now = samples[i];
    out = now - before + keeps * out;
    before = now;
    samples[i] = out;
  }
}

const ACROSS_S = 0.02;

/** The same for the part that goes round, which may stand off the middle by itself; what leads up to it goes along. */
export function centreLoop(samples: Float32Array, loop: { start: number; end: number }, sampleRate: number): void {
  const { start, end } = loop;
  if (start < 0 || end > samples.length || end - start < 2) return;
  let sum = 0;
  for (let i = start; i < end; i++) sum += samples[i];
  const mean = sum / (end - start);
  const across = Math.min(start, Math.round(ACROSS_S * sampleRate));
  for (let i = start - across; i < samples.length; i++)
    samples[i] -= i < start ? (mean * (i - start + across)) / across : mean;
}
