/** Two seconds of noise from a fixed seed. */
export function whiteNoise(context: BaseAudioContext): AudioBuffer {
  const buffer = context.createBuffer(1, context.sampleRate * 2, context.sampleRate);
  const samples = buffer.getChannelData(0);
  let seed = 22_222;
  for (let i = 0; i < samples.length; i++) {
    seed = (seed * 1_664_525 + 1_013_904_223) >>> 0;
    samples[i] = seed / 2 ** 31 - 1;
  }
  return buffer;
}
