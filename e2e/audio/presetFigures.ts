// Runs in a page: what is measured of each built-in preset.
import { BUILT_INS } from '../../core/src/show';
import { weightOf } from '../../web/src/host/audio/capacity';
import { MATERIALS } from '../../web/src/host/audio/materials';
import { MATERIAL_TRIMS } from '../../web/src/host/audio/materials/trims';
import { Presets, partAsked, type PresetSound } from '../../web/src/host/audio/presets';
import { RECIPES } from '../../web/src/host/audio/recipes';
import { TRIMS } from '../../web/src/host/audio/recipes/trims';
import { MOST_TAMED_DB } from '../../web/src/host/audio/taming';
import { Strip } from '../../web/src/host/audio/strip';
import { pageSources } from './bank';
import { RATE, rendered } from './buses';
import { centroid, centsOff, dbOf, fallS, logMel, lufs, peakOf, unlike, widthDb, type Rendered } from './measures';

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

/** What is measured of it in the tests. */
export type PresetLevels = Pick<PresetFigures, 'id' | 'isKit' | 'loudness' | 'peakDb' | 'cents' | 'dcDb'>;

/** What a preset is given so that it is as loud as all others, in tune, and its peaks in bounds. */
export interface PresetTrim {
  id: string;
  isRecorded: boolean;
  gainDb: number;
  tuneCents: number;
  tamedDb: number;
}

const CHORD = [60, 64, 67, 72];
/** Keys of a kit that are there in each. */
const HITS = [36, 38, 42, 46, 49, 62];
/** Instruments whose low keys are to ring longer than their high ones. */
const DIE_AWAY = new Set(['causeway', 'parlour', 'slipway', 'bellrope']);
const EIGHT = [36, 48, 55, 60, 64, 67, 72, 76];

const presets = new Presets(pageSources());
/** Every built-in preset, those of whole instruments one after another. */
const IDS = BUILT_INS.flatMap((instrument) => instrument.presets.map(({ id }) => id as string));
const instrumentOf = (id: string): string => id.split('/')[0];

/** Its drums are on the keys of General MIDI. */
const isKit = (id: string): boolean =>
  MATERIALS[id] ? MATERIALS[id].parts[0].bank === 128 : RECIPES[id].kit !== undefined;
/** How many semitones higher it sounds than what is played. */
const transposeOf = (id: string): number => MATERIALS[id]?.parts[0].semitones ?? RECIPES[id]?.transpose ?? 0;

async function soundOf(id: string): Promise<PresetSound> {
  const found = await presets.find(instrumentOf(id), id);
  if (!found) throw new Error(`${id} has no sound`);
  return found;
}

async function played(
  id: string,
  keys: readonly number[],
  velocity: number,
  heldS: number,
  wholeS: number,
): Promise<Rendered> {
  const sound = await soundOf(id);
  const buffer = await rendered(wholeS, (buses) => {
    const strip = new Strip(sound, buses, id, 120);
    strip.balance(0, 0, 0, 0, 0);
    // Its own effects stand before it is played.
    Array.from(strip.complete([]));
    return [
      [0.01, () => keys.forEach((key) => strip.noteOn(0, key, velocity))],
      ...(heldS < wholeS ? [[heldS, () => keys.forEach((key) => strip.noteOff(0, key))] as [number, () => void]] : []),
    ];
  });
  return { left: buffer.getChannelData(0), right: buffer.getChannelData(1), rate: RATE };
}

/** What stands still in it: the mean under a Hann window. */
const dcOf = (samples: Float32Array): number =>
  Math.abs(samples.reduce((sum, sample, i) => sum + sample * (1 - Math.cos((2 * Math.PI * i) / samples.length)), 0)) /
  samples.length;
const range = (count: number): number[] => Array.from({ length: count }, (_, i) => i);
const hzOf = (key: number): number => 440 * 2 ** ((key - 69) / 12);

async function figuresOf(id: string): Promise<Omit<PresetFigures, 'nearest'> & { print: Float64Array[] }> {
  const chord = await played(id, CHORD, 90, 2, 3);
  const eight = await played(id, EIGHT, 127, 1, 1.5);
  const note = await played(id, [60], 90, 1.5, 2);
  const [soft, hard] = [await played(id, [60], 20, 1, 1), await played(id, [60], 127, 1, 1)];
  const falls = DIE_AWAY.has(instrumentOf(id));
  const [lowS, highS] = falls
    ? [fallS(await played(id, [36], 100, 20, 20)), fallS(await played(id, [96], 100, 20, 20))]
    : [Infinity, Infinity];
  const started = performance.now();
  await played(id, [60], 90, 0.9, 1);
  const noteMs = performance.now() - started;
  const steady = note.left.subarray(0.3 * RATE, 1.3 * RATE);
  return {
    id,
    isKit: isKit(id),
    loudness: lufs(chord),
    peakDb: dbOf(Math.max(peakOf(eight.left), peakOf(eight.right))),
    cents: centsOff(note.left, RATE, hzOf(60 + transposeOf(id)), 0.05),
    dcDb: dbOf(dcOf(steady)),
    width: widthDb(note),
    centroidRatio: centroid(hard.left, RATE, 0.02) / centroid(soft.left, RATE, 0.02),
    decayRatio: Number.isFinite(highS) ? lowS / highS : null,
    noteMs,
    print: logMel(isKit(id) ? await played(id, HITS, 100, 1.5, 2) : note),
  };
}

/** Of every preset, or of those whose ids begin so. */
async function presetFigures(prefix = ''): Promise<PresetFigures[]> {
  const found: Awaited<ReturnType<typeof figuresOf>>[] = [];
  for (const id of IDS) if (id.startsWith(prefix)) found.push(await figuresOf(id));
  return found.map(({ print, ...figures }) => {
    const siblings = found.filter(({ id }) => id !== figures.id && instrumentOf(id) === instrumentOf(figures.id));
    const nearest = siblings
      .map((other) => ({ id: other.id, db: unlike(print, other.print) }))
      .sort((a, b) => a.db - b.db)[0];
    return { ...figures, nearest };
  });
}

/** Of those whose ids begin so: only how loud each is, and how far off its pitch. */
async function levels(prefix = ''): Promise<PresetLevels[]> {
  const found: PresetLevels[] = [];
  for (const id of IDS.filter((one) => one.startsWith(prefix))) {
    const note = await played(id, [60], 90, 1.5, 2);
    const eight = await played(id, EIGHT, 127, 1, 1);
    found.push({
      id,
      isKit: isKit(id),
      peakDb: dbOf(Math.max(peakOf(eight.left), peakOf(eight.right))),
      loudness: lufs(await played(id, CHORD, 90, 2, 3)),
      cents: centsOff(note.left, RATE, hzOf(60 + transposeOf(id)), 0.05),
      dcDb: dbOf(dcOf(note.left.subarray(0.3 * RATE, 1.3 * RATE))),
    });
  }
  return found;
}

const MEANT_LUFS = -18;
/** What has a high attack is softer, as far as it is still as loud as the others. */
const SOFTEST_LUFS = -19.7;
/** Eight notes struck as hard as can be are to stay below. */
const HIGHEST_DB = -0.2;
/** What is farther from its pitch than that has none: gongs, spoons. */
const MOST_CENTS = 20;

/** What each melodic preset needs besides what its recipe or its material says. */
async function trims(prefix = ''): Promise<PresetTrim[]> {
  return (await levels(prefix))
    .filter((preset) => !preset.isKit)
    .map(({ id, loudness, cents, peakDb }) => {
      const [gainDb, tuneCents, tamedDb] = (MATERIALS[id] ? MATERIAL_TRIMS : TRIMS)[id] ?? [0, 0, 0];
      const by = Math.min(MEANT_LUFS - loudness, Math.max(SOFTEST_LUFS - loudness, HIGHEST_DB - peakDb));
      const above = Number.isFinite(by) ? peakDb + by - HIGHEST_DB : 0;
      return {
        id,
        isRecorded: MATERIALS[id] !== undefined,
        gainDb: Number.isFinite(by) ? gainDb + by : gainDb,
        tuneCents: Math.abs(cents) > MOST_CENTS ? 0 : tuneCents - cents,
        // Not to be taken back: the next run would find it without need of it.
        tamedDb: Math.min(MOST_TAMED_DB, tamedDb + Math.max(0, above)),
      };
    });
}

/** The presets that take most a note, the heaviest first. */
async function heaviest(count: number): Promise<string[]> {
  const weighed: { id: string; weight: number }[] = [];
  for (const id of IDS) weighed.push({ id, weight: weightOf(await soundOf(id)) });
  return weighed
    .sort((a, b) => b.weight - a.weight)
    .slice(0, count)
    .map(({ id }) => id);
}

const MANY = 64;
/** As many as one layer has at once. */
const OF_A_LAYER = 32;
const LOWEST = 30;

/** So many notes of a preset at once, held for a time, over as many layers as that takes. */
async function manyNotes(id: string, seconds: number): Promise<void> {
  const sound = await soundOf(id);
  await rendered(seconds, (buses) => {
    const strips = Array.from({ length: MANY / OF_A_LAYER }, () => new Strip(sound, buses, id, 120));
    for (const strip of strips) Array.from(strip.complete([]));
    return [
      [0.01, () => strips.forEach((strip) => range(OF_A_LAYER).forEach((i) => strip.noteOn(0, LOWEST + 2 * i, 90)))],
    ];
  });
}

/** Memory of these presets together, in MB; of nothing else that was loaded before. */
async function memoryMb(ids: readonly string[]): Promise<number> {
  const own = new Presets(pageSources());
  for (const id of ids) await own.find(instrumentOf(id), id);
  return own.loadedBytes / 1e6;
}

/**
 * What recorded presets are made of: samples of the shipped bank that the same presets share, each lot by its first one,
 * with its bytes in memory; and whose they are.
 */
async function weights(): Promise<{ lots: [key: string, bytes: number][]; presets: [id: string, lots: string[]][] }> {
  const sources = pageSources();
  const samples = new Map<string, { bytes: number; in: Set<string> }>();
  const known = new Map<string, string[]>();
  for (const id of IDS)
    for (const { bank = 0, program } of MATERIALS[id]?.parts ?? []) {
      const isLarge = MATERIALS[id].isLarge ?? false;
      const part = `${bank} ${program} ${isLarge}`;
      if (!known.has(part)) {
        const made = (await sources.bankPreset('', partAsked({ bank, program }, isLarge)))?.samples ?? [];
        for (const { id: sample, channels } of made)
          if (!samples.has(sample))
            samples.set(sample, { bytes: channels.reduce((sum, one) => sum + one.byteLength, 0), in: new Set() });
        known.set(
          part,
          made.map((sample) => sample.id),
        );
      }
      for (const sample of known.get(part)!) samples.get(sample)!.in.add(id);
    }
  const lots = new Map<string, { key: string; bytes: number; in: Set<string> }>();
  for (const [sample, { bytes, in: users }] of samples) {
    const whose = [...users].join();
    const lot = lots.get(whose) ?? { key: sample, bytes: 0, in: users };
    lots.set(whose, { ...lot, bytes: lot.bytes + bytes });
  }
  const all = [...lots.values()];
  return {
    lots: all.map(({ key, bytes }) => [key, bytes]),
    presets: IDS.filter((id) => MATERIALS[id]).map((id) => [
      id,
      all.filter((lot) => lot.in.has(id)).map(({ key }) => key),
    ]),
  };
}

Object.assign(globalThis, { presetFigures: { presetFigures, levels, trims, heaviest, manyNotes, memoryMb, weights } });
