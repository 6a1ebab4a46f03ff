import { soundName, type Effect, type Instrument, type LayerSound, type Recording } from '@rackle/core/show';
import type { Recipe } from './recipe';
import { RECIPES } from './recipes';
import { bytesOf, type SampledPreset } from './sampled/sampledPreset';
import { shapeRecipe } from './shapeRecipe';

/** What a preset sounds like: made note by note, or sampled. */
export type PresetSound =
  | { kind: 'recipe'; recipe: Recipe; effects: readonly Effect[] }
  | { kind: 'sampled'; preset: SampledPreset; buffers: AudioBuffer[]; effects: readonly Effect[] };

/** Where banks and recordings are fetched and read. */
export interface SampleSources {
  /** A preset of a stored bank; null when it has none such. */
  bankPreset(hash: string, bank: number, program: number): Promise<SampledPreset | null>;
  /** The bytes of a stored file. */
  file(hash: string): Promise<ArrayBuffer>;
}

const NO_EFFECTS: readonly Effect[] = [];
const SHAPED_AS_IS = 'causeway/late-boat';
const MOST_BYTES = 1_500_000_000;

/** Every preset that can sound here. Those of banks and recordings are loaded when they are asked for, and kept. */
export class Presets {
  private instruments = new Map<string, Instrument>();
  private readonly sampled = new Map<string, Promise<PresetSound | null>>();
  private readonly ready = new Map<string, PresetSound>();
  private readonly bytes = new Map<string, number>();
  private readonly shaped = new WeakMap<object, PresetSound>();

  constructor(
    private readonly context: BaseAudioContext,
    private readonly sources: SampleSources,
  ) {}

  know(instruments: readonly Instrument[]): void {
    this.instruments = new Map(instruments.map((instrument) => [instrument.id, instrument]));
  }

  /** Memory that sampled presets take, in bytes. */
  get loadedBytes(): number {
    let sum = 0;
    for (const bytes of this.bytes.values()) sum += bytes;
    return sum;
  }

  /** What people call a preset. */
  nameOf(instrumentId: string, presetId: string): string {
    return soundName({ instrumentId, presetId } as LayerSound, (id) => this.instruments.get(id)).preset;
  }

  /**
   * The sound of a preset: at once when it needs no loading, or has been loaded; else a promise. Null: there is none
   * such.
   */
  find(instrumentId: string, presetId: string): PresetSound | Promise<PresetSound | null> | null {
    const instrument = this.instruments.get(instrumentId);
    if (!instrument) return recipeSound(RECIPES[presetId]);
    switch (instrument.kind) {
      case 'outboard':
        return null;
      case 'own': {
        const own = instrument.presets.find((preset) => preset.id === presetId);
        const base = own && (RECIPES[own.from] ?? RECIPES[SHAPED_AS_IS]);
        if (!own || !base) return null;
        const known = this.shaped.get(own) ?? {
          kind: 'recipe',
          recipe: shapeRecipe(base, own.shape),
          effects: own.effects,
        };
        this.shaped.set(own, known);
        return known;
      }
      case 'bank': {
        const preset = instrument.presets.find((candidate) => candidate.id === presetId);
        return preset
          ? this.load(`${instrument.file} ${preset.bank} ${preset.program}`, () =>
              this.sources.bankPreset(instrument.file, preset.bank, preset.program),
            )
          : null;
      }
      case 'recordings': {
        const recording = instrument.presets.find((candidate) => candidate.id === presetId);
        return recording
          ? this.load(`${recording.file} ${JSON.stringify(recording)}`, () => this.decode(recording))
          : null;
      }
    }
  }

  private load(key: string, make: () => Promise<SampledPreset | null>): PresetSound | Promise<PresetSound | null> {
    const ready = this.ready.get(key);
    if (ready) return ready;
    const known = this.sampled.get(key) ?? this.prepare(key, make);
    this.sampled.set(key, known);
    return known;
  }

  private async prepare(key: string, make: () => Promise<SampledPreset | null>): Promise<PresetSound | null> {
    try {
      const preset = await make();
      if (preset === null) return null;
      const sound: PresetSound = {
        kind: 'sampled',
        preset,
        buffers: preset.samples.map((sample) => this.bufferOf(sample)),
        effects: NO_EFFECTS,
      };
      this.bytes.set(key, bytesOf(preset));
      // The buffers hold the numbers now.
      for (const sample of preset.samples) sample.channels = [];
      this.ready.set(key, sound);
      this.forgetOldest();
      return sound;
    } catch (cause) {
      this.sampled.delete(key);
      throw cause;
    }
  }

  private forgetOldest(): void {
    for (const key of this.ready.keys()) {
      if (this.loadedBytes <= MOST_BYTES || this.ready.size <= 1) return;
      this.ready.delete(key);
      this.sampled.delete(key);
      this.bytes.delete(key);
    }
  }

  private bufferOf({ channels, sampleRate }: SampledPreset['samples'][number]): AudioBuffer {
    const buffer = this.context.createBuffer(
      channels.length,
      Math.max(1, channels[0].length),
      Math.min(192_000, Math.max(3000, sampleRate)),
    );
    channels.forEach((channel, i) => buffer.copyToChannel(channel, i));
    return buffer;
  }

  private async decode(recording: Recording): Promise<SampledPreset> {
    const decoded = await this.context.decodeAudioData(await this.sources.file(recording.file));
    return recordingAsPreset(
      recording,
      Array.from({ length: Math.min(2, decoded.numberOfChannels) }, (_, i) => decoded.getChannelData(i)),
      decoded.sampleRate,
    );
  }
}

const recipeSounds = new Map<Recipe, PresetSound>();

function recipeSound(recipe: Recipe | undefined): PresetSound | null {
  if (!recipe) return null;
  const known = recipeSounds.get(recipe) ?? { kind: 'recipe', recipe, effects: NO_EFFECTS };
  recipeSounds.set(recipe, known);
  return known;
}

const EDGE_FRAMES = 96;

/** A recording as a preset of one zone, trimmed, with its cut ends rounded off so that they do not click. */
export function recordingAsPreset(
  recording: Recording,
  channels: readonly Float32Array[],
  sampleRate: number,
): SampledPreset {
  const from = Math.min(channels[0].length - 1, Math.round(recording.startSeconds * sampleRate));
  const to = Math.max(
    from + 1,
    Math.min(channels[0].length, Math.round((recording.endSeconds ?? Infinity) * sampleRate) || channels[0].length),
  );
  const loops = recording.plays === 'loop';
  const trimmed = channels.map((channel) => {
    const part = new Float32Array(channel.subarray(from, to));
    const edge = Math.min(EDGE_FRAMES, part.length >> 2);
    if (from > 0) for (let i = 0; i < edge; i++) part[i] *= i / edge;
    if (!loops && to < channel.length) for (let i = 0; i < edge; i++) part[part.length - 1 - i] *= i / edge;
    return part;
  });
  return {
    samples: [{ channels: trimmed, sampleRate }],
    zones: [
      {
        lowKey: 0,
        highKey: 127,
        lowVelocity: 0,
        highVelocity: 127,
        sample: 0,
        start: 0,
        end: trimmed[0].length,
        rootKey: recording.rootKey,
        tuneCents: 0,
        centsPerKey: recording.followsKeys ? 100 : 0,
        loop: loops ? { start: 0, end: trimmed[0].length } : null,
        loopsWhileHeld: false,
        levelDb: recording.levelDb,
        pan: 0,
        envelope: {
          delayS: 0,
          attackS: 0.001,
          holdS: 0,
          decayS: 0,
          releaseS: 0.06,
          holdCentsPerKey: 0,
          decayCentsPerKey: 0,
          sustainDb: 0,
        },
        sweep: null,
        waves: [],
        filterHz: null,
        resonanceDb: 0,
        fixedKey: null,
        fixedVelocity: null,
        group: 0,
      },
    ],
  };
}
