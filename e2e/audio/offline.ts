// Runs in a page: renders the built-in instruments without real time, so that every sample can be looked at.
import { RECIPES } from '../../web/src/live/audio/recipes';
import type { PresetSound } from '../../web/src/live/audio/presets';
import { Strip, type Desk } from '../../web/src/live/audio/strip';

const RATE = 44_100;

function deskOn(context: OfflineAudioContext): Desk {
  const noise = context.createBuffer(1, RATE, RATE);
  const samples = noise.getChannelData(0);
  for (let i = 0, seed = 1; i < samples.length; i++) {
    seed = (seed * 1_664_525 + 1_013_904_223) >>> 0;
    samples[i] = seed / 2 ** 31 - 1;
  }
  const nowhere = context.createGain();
  return { context, master: context.destination, room: nowhere, echo: nowhere, noise, waves: new WeakMap(), shared: () => null };
}

/** The sound of a built-in preset. */
const sound = (id: string): PresetSound => ({ kind: 'recipe', recipe: RECIPES[id], effects: [] });
const BPM = 120;

/** Does things at their times (s) while a context renders; the left and right samples added. */
async function render(seconds: number, build: (desk: Desk) => [number, () => void][]): Promise<Float32Array> {
  const context = new OfflineAudioContext(2, RATE * seconds, RATE);
  for (const [atS, act] of build(deskOn(context))) void context.suspend(atS).then(() => { act(); return context.resume(); });
  const buffer = await context.startRendering();
  const [left, right] = [buffer.getChannelData(0), buffer.getChannelData(1)];
  return left.map((sample, i) => (sample + right[i]) / 2);
}

const peakOf = (samples: Float32Array): number => samples.reduce((most, sample) => Math.max(most, Math.abs(sample)), 0);
/** The second difference: what a click has and a tone has little of. */
const roughness = (samples: Float32Array, fromS: number, toS: number): number => {
  let most = 0;
  for (let i = Math.floor(fromS * RATE) + 2; i < toS * RATE; i++) most = Math.max(most, Math.abs(samples[i] - 2 * samples[i - 1] + samples[i - 2]));
  return most;
};
/** The quietest stretch of 5 ms, as root mean square. */
const quietest = (samples: Float32Array, fromS: number, toS: number): number => {
  const length = Math.round(RATE * 0.005);
  let least = Infinity;
  for (let start = Math.floor(fromS * RATE); start + length < toS * RATE; start += length) {
    let sum = 0;
    for (let i = start; i < start + length; i++) sum += samples[i] ** 2;
    least = Math.min(least, Math.sqrt(sum / length));
  }
  return least;
};

/** For each preset: how loud a soft and a hard note are, what is left a while after it has been let go, and a print of its sound. */
async function presets(): Promise<{ id: string; soft: number; hard: number; after: number; print: string }[]> {
  const found = [];
  for (const id of Object.keys(RECIPES)) {
    const note = (velocity: number) => render(1.2, (desk) => {
      const strip = new Strip(sound(id), desk, id, BPM);
      // Two neighbours: kits have another hit on each key.
      return [[0.01, () => [60, 61].forEach((key) => strip.noteOn(0, key, velocity))], [0.9, () => [60, 61].forEach((key) => strip.noteOff(0, key))]];
    });
    const [soft, hard] = [await note(30), await note(110)];
    found.push({ id, soft: peakOf(soft), hard: peakOf(hard), after: peakOf(hard.subarray(RATE * 1.15)), print: [...hard.subarray(900, 1100), ...hard.subarray(9000, 9200)].map((sample) => sample.toFixed(3)).join(' ') });
  }
  return found;
}

/** A chord held in one patch, a recall, a chord in the next, the first let go: as the engine has the strips play it. */
async function recall(): Promise<{ peak: number; steadyRoughness: number; recallRoughness: number; quietestAcross: number; quietestBefore: number }> {
  const samples = await render(3, (desk) => {
    const old = new Strip(sound('drawbar-house/small-stop'), desk, 'old', BPM);
    const next = new Strip(sound('fogbank/low-cloud'), desk, 'next', BPM);
    old.balance(-6, 0, 0, 0, 0);
    return [
      [0.05, () => [60, 64, 67].forEach((key) => old.noteOn(0, key, 80))],
      [1, () => next.balance(-9, 20, 30, 0, 12)],
      [1.02, () => [55, 62].forEach((key) => next.noteOn(0, key, 80))],
      [1.6, () => [60, 64, 67].forEach((key) => old.noteOff(0, key))],
      // A blend of the second patch, and its fade.
      [2, () => next.balance(-20, -20, 0, 0, 300)],
      [2.4, () => next.fade(200)],
    ];
  });
  return {
    peak: peakOf(samples), steadyRoughness: roughness(samples, 0.4, 0.95), recallRoughness: roughness(samples, 0.98, 2.95),
    quietestBefore: quietest(samples, 0.4, 0.95), quietestAcross: quietest(samples, 0.95, 1.6),
  };
}

Object.assign(globalThis, { offline: { presets, recall } });
