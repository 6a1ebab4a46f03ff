import type { Buses } from '../../web/src/host/audio/strip';
import { Waves } from '../../web/src/host/audio/waves';

export const RATE = 44_100;

/** Where strips lead to in a context of its own. */
function busesOn(context: OfflineAudioContext): Buses {
  const noise = context.createBuffer(1, RATE, RATE);
  const samples = noise.getChannelData(0);
  for (let i = 0, seed = 1; i < samples.length; i++) {
    seed = (seed * 1_664_525 + 1_013_904_223) >>> 0;
    samples[i] = seed / 2 ** 31 - 1;
  }
  const nowhere = context.createGain();
  return {
    context,
    after: (delayMs, act) => {
      const id = setTimeout(act, delayMs);
      return () => clearTimeout(id);
    },
    master: context.destination,
    room: nowhere,
    echo: nowhere,
    noise,
    waves: new Waves(context),
    shared: () => null,
  };
}

/** Does things at their times (s) while a context renders. */
export async function rendered(seconds: number, build: (buses: Buses) => [number, () => void][]): Promise<AudioBuffer> {
  const context = new OfflineAudioContext(2, RATE * seconds, RATE);
  await context.audioWorklet.addModule((globalThis as unknown as { workletAddress: string }).workletAddress);
  for (const [atS, act] of build(busesOn(context)))
    void context.suspend(atS).then(() => {
      act();
      return context.resume();
    });
  return context.startRendering();
}

/** The left and right samples added. */
export async function render(seconds: number, build: (buses: Buses) => [number, () => void][]): Promise<Float32Array> {
  const buffer = await rendered(seconds, build);
  const [left, right] = [buffer.getChannelData(0), buffer.getChannelData(1)];
  return left.map((sample, i) => (sample + right[i]) / 2);
}
