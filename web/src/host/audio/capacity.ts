import type { After } from '../timer';
import { whiteNoise } from './noise';
import type { PresetSound } from './presets';
import type { Recipe } from './recipe';
import { Strip, type Buses } from './strip';
import { Waves } from './waves';

const VOICES = 24;
const SECONDS = 0.5;
const VELOCITY = 90;
const LOWEST_KEY = 36;
/** A machine that is asked for more than this of itself may drop out when something else wants it too. */
const SAFE_SHARE = 0.6;

const recipeWeight = ({ oscillators, noise, filter, kit }: Recipe): number =>
  kit
    ? Math.max(...kit.map(recipeWeight))
    : oscillators.reduce((sum, { fm }) => sum + (fm ? 2 : 1), 0) + (noise ? 2 : 0) + (filter ? 1 : 0);

const weights = new WeakMap<PresetSound, number>();

/** About what a note of a sound takes, beside others: so many sources and filters. */
export function weightOf(sound: PresetSound): number {
  const weight = weights.get(sound) ?? reckoned(sound);
  weights.set(sound, weight);
  return weight;
}

function reckoned(sound: PresetSound): number {
  if (sound.kind === 'recipe') return recipeWeight(sound.recipe);
  // Of all keys the one that sounds the most samples at once.
  const byKey = Array.from({ length: 128 }, (_, key) =>
    sound.preset.zones
      .filter((zone) => key >= zone.lowKey && key <= zone.highKey)
      .filter((zone) => VELOCITY >= zone.lowVelocity && VELOCITY <= zone.highVelocity)
      .reduce(
        (sum, { filterHz, sweep, waves }) => sum + 2 + (filterHz === null ? 0 : 1) + (sweep ? 1 : 0) + waves.length,
        0,
      ),
  );
  return Math.max(...byKey);
}

/** Where one strip leads that nobody hears: straight to the end, with no sends. */
const busesOn = (context: OfflineAudioContext, after: After): Buses => ({
  context,
  after,
  master: context.destination,
  room: context.createGain(),
  echo: context.createGain(),
  noise: whiteNoise(context),
  waves: new Waves(context),
  shared: () => null,
});

/** How many voices of a sound this machine can sound at once, measured by rendering some of them as fast as it goes. */
export async function measureVoices(sound: PresetSound, after: After, now: () => number): Promise<number> {
  const context = new OfflineAudioContext(2, Math.round(44_100 * SECONDS), 44_100);
  const strip = new Strip({ ...sound, effects: [] }, busesOn(context, after), 'measure', 120);
  strip.balance(-20, 0, 0, 0, 0);
  for (let i = 0; i < VOICES; i++) strip.noteOn(0, LOWEST_KEY + i * 2, VELOCITY);
  const started = now();
  await context.startRendering();
  const tookS = Math.max(0.001, (now() - started) / 1000);
  return Math.max(VOICES, Math.round((VOICES * SECONDS * SAFE_SHARE) / tookS));
}
