// Runs in a page: what is measured of each built-in preset.
import type { PresetSound } from '../../web/src/host/audio/presets';
import { RECIPES } from '../../web/src/host/audio/recipes';
import { TRIMS } from '../../web/src/host/audio/recipes/trims';
import { Strip } from '../../web/src/host/audio/strip';
import { RATE, rendered } from './buses';
import { centroid, centsOff, dbOf, fallS, logMel, lufs, unlike, widthDb, type Rendered } from './measures';

export interface PresetFigures {
  id: string;
  isKit: boolean;
  /** Of the reference chord at velocity 90, in LUFS. */
  loudness: number;
  /** Of eight notes at velocity 127, in dB of full scale. */
  peakDb: number;
  cents: number;
  dcDb: number;
  width: number;
  centroidRatio: number;
  /** C2 to C7; null: it does not die away. */
  decayRatio: number | null;
  nearest: { id: string; db: number };
  /** Of rendering a second of one note, in ms; wall time of an offline context that has the thread to itself. */
  noteMs: number;
}

const CHORD = [60, 64, 67, 72];
const EIGHT = [36, 48, 55, 60, 64, 67, 72, 76];
const sound = (id: string): PresetSound => ({ kind: 'recipe', recipe: RECIPES[id], effects: [] });

async function played(
  id: string,
  keys: readonly number[],
  velocity: number,
  heldS: number,
  wholeS: number,
): Promise<Rendered> {
  const buffer = await rendered(wholeS, (buses) => {
    const strip = new Strip(sound(id), buses, id, 120);
    strip.balance(0, 0, 0, 0, 0);
    return [
      [0.01, () => keys.forEach((key) => strip.noteOn(0, key, velocity))],
      ...(heldS < wholeS ? [[heldS, () => keys.forEach((key) => strip.noteOff(0, key))] as [number, () => void]] : []),
    ];
  });
  return { left: buffer.getChannelData(0), right: buffer.getChannelData(1), rate: RATE };
}

const peakOf = (samples: Float32Array): number => samples.reduce((most, sample) => Math.max(most, Math.abs(sample)), 0);
/** What stands still in it: the mean under a Hann window. */
const dcOf = (samples: Float32Array): number =>
  Math.abs(samples.reduce((sum, sample, i) => sum + sample * (1 - Math.cos((2 * Math.PI * i) / samples.length)), 0)) /
  samples.length;
const hzOf = (key: number): number => 440 * 2 ** ((key - 69) / 12);

async function figuresOf(id: string): Promise<Omit<PresetFigures, 'nearest'> & { print: Float64Array[] }> {
  const recipe = RECIPES[id];
  const chord = await played(id, CHORD, 90, 2, 3);
  const eight = await played(id, EIGHT, 127, 1, 1.5);
  const note = await played(id, [60], 90, 1.5, 2);
  const [soft, hard] = [await played(id, [60], 20, 1, 1), await played(id, [60], 127, 1, 1)];
  const [low, high] = [await played(id, [36], 100, 20, 20), await played(id, [96], 100, 20, 20)];
  const [lowS, highS] = [fallS(low), fallS(high)];
  const started = performance.now();
  await played(id, [60], 90, 0.9, 1);
  const noteMs = performance.now() - started;
  const steady = note.left.subarray(0.3 * RATE, 1.3 * RATE);
  return {
    id,
    isKit: recipe.kit !== undefined,
    loudness: lufs(chord),
    peakDb: dbOf(Math.max(peakOf(eight.left), peakOf(eight.right))),
    cents: centsOff(note.left, RATE, hzOf(60 + (recipe.transpose ?? 0)), 0.05),
    dcDb: dbOf(dcOf(steady)),
    width: widthDb(note),
    centroidRatio: centroid(hard.left, RATE, 0.02) / centroid(soft.left, RATE, 0.02),
    decayRatio: Number.isFinite(highS) ? lowS / highS : null,
    noteMs,
    print: logMel(note),
  };
}

/** Of every preset, or of those whose ids begin so. */
async function presetFigures(prefix = ''): Promise<PresetFigures[]> {
  const found: Awaited<ReturnType<typeof figuresOf>>[] = [];
  for (const id of Object.keys(RECIPES)) if (id.startsWith(prefix)) found.push(await figuresOf(id));
  const instrumentOf = (id: string): string => id.split('/')[0];
  return found.map(({ print, ...figures }) => {
    const siblings = found.filter(({ id }) => id !== figures.id && instrumentOf(id) === instrumentOf(figures.id));
    const nearest = siblings
      .map((other) => ({ id: other.id, db: unlike(print, other.print) }))
      .sort((a, b) => a.db - b.db)[0];
    return { ...figures, nearest };
  });
}

/** Only how loud each is, and how far off its pitch. */
async function levels(): Promise<
  { id: string; isKit: boolean; loudness: number; cents: number; dcDb: number; peakDb: number }[]
> {
  const found = [];
  for (const id of Object.keys(RECIPES)) {
    const { kit, transpose = 0 } = RECIPES[id];
    const note = await played(id, [60], 90, 1.5, 2);
    const eight = await played(id, EIGHT, 127, 1, 1);
    found.push({
      id,
      isKit: kit !== undefined,
      peakDb: dbOf(Math.max(peakOf(eight.left), peakOf(eight.right))),
      loudness: lufs(await played(id, CHORD, 90, 2, 3)),
      cents: centsOff(note.left, RATE, hzOf(60 + transpose), 0.05),
      dcDb: dbOf(dcOf(note.left.subarray(0.3 * RATE, 1.3 * RATE))),
    });
  }
  return found;
}

const MEANT_LUFS = -18;
/** Eight notes struck as hard as can be are not higher: what dies away at once is softer instead. */
const HIGHEST_DB = 2;
/** What is farther from its pitch than that has none: gongs, spoons. */
const MOST_CENTS = 20;

/** What each melodic preset needs besides what its recipe says. */
async function trims(): Promise<{ id: string; gainDb: number; tuneCents: number }[]> {
  return (await levels())
    .filter(({ isKit }) => !isKit)
    .map(({ id, loudness, cents, peakDb }) => {
      const [gainDb, tuneCents] = TRIMS[id] ?? [0, 0];
      return {
        id,
        gainDb: gainDb + Math.min(MEANT_LUFS - loudness, HIGHEST_DB - peakDb),
        tuneCents: Math.abs(cents) > MOST_CENTS ? 0 : tuneCents - cents,
      };
    });
}

Object.assign(globalThis, { presetFigures: { presetFigures, levels, trims } });
