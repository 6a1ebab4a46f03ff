import {
  Effect,
  SHIPPED_BANK,
  soundName,
  type Instrument,
  type LayerSound,
  type OwnPreset,
  type Recording,
} from '@rackle/core/show';
import { estimatedParts, sharedOut, type LoadHeard, type SoundPart } from '@rackle/core/loading';
import { firstToGo, type LoadOrder, type SoundIds } from './loadOrder';
import { MATERIALS } from './materials';
import type { Material, MaterialEffect } from './materials/material';
import { materialPreset } from './materials/materialPreset';
import { shapeMaterial } from './materials/shapeMaterial';
import type { Recipe } from './recipe';
import { RECIPES } from './recipes';
import { asItIs, type BankAsked } from './sampled/bankAsked';
import { recordingAsPreset } from './sampled/recordingPreset';
import { SampleBuffers, bytesOf } from './sampled/sampleBuffers';
import type { SampledPreset } from './sampled/sampledPreset';
import { Turns } from './sampled/turns';
import { shapeRecipe } from './shapeRecipe';
import type { UnderHands } from './soundOut';

/** What a preset sounds like: made note by note, or sampled. */
export type PresetSound =
  | { kind: 'recipe'; recipe: Recipe; effects: readonly Effect[] }
  | { kind: 'sampled'; preset: SampledPreset; buffers: AudioBuffer[]; effects: readonly Effect[] };

/** Where banks and recordings are fetched and read. */
export interface SampleSources {
  /** A preset of a stored bank; null when it has none such. */
  bankPreset(hash: string, asked: BankAsked): Promise<SampledPreset | null>;
  /** The bytes of a stored file. */
  file(hash: string): Promise<ArrayBuffer>;
  /** Lets others have their turn. */
  pause(): Promise<void>;
  /** Hears how long what was loaded took, the wait for its turn apart. */
  onLoaded?(loads: readonly LoadHeard[]): void;
}

/** One that has to be loaded; its key is the same for the same sound. */
interface Loadable {
  key: string;
  /** Read by the worker, which does one thing after another. */
  isOfBank: boolean;
  /** By what its files say; asked only where something is loaded. */
  parts(): readonly SoundPart[];
  make(): Promise<Loaded | null>;
}

interface Loaded {
  sound: PresetSound;
  keys: readonly string[];
}

/** What has been loaded, and what it is made of, as the plan of the evening knows that. */
interface Ready extends Loaded {
  parts: readonly SoundPart[];
}

const NO_EFFECTS: readonly Effect[] = [];
const PLAIN = 'causeway/late-boat';
const MOST_BYTES = 1_500_000_000;
/** So many sounds that are not here are looked at for what the plan wants next. */
const LOOKS_AHEAD = 64;
/** Samples of the shipped bank are cut there, and ring on; those of large ones sooner. */
const SHIPPED_MOST_S = 5;
const LARGE_MOST_S = 4;
/** Of recordings, in Hz. */
const DECODED_RATE = 48_000;

/** Every preset that can sound here. What is recorded is loaded when it is asked for, and kept. */
export class Presets {
  private instruments = new Map<string, Instrument>();
  private readonly sampled = new Map<string, Promise<PresetSound | null>>();
  private readonly ready = new Map<string, Ready>();
  /** Loaded ahead and gone again, or not to be had: not tried a second time while the evening stands where it does. */
  private readonly notAhead = new Set<string>();
  private isAhead = false;
  /** There is nothing more to load ahead, or no room: not looked for again before something has changed. */
  private isAheadOver = false;
  private aheadAt: string | null = null;
  private readonly shaped = new WeakMap<OwnPreset, PresetSound>();
  private readonly buffers: SampleBuffers;
  private readonly turns = new Turns();
  /** Files that something was read of since the start. */
  private readonly read = new Set<string>();
  private order: LoadOrder = {
    budgetBytes: MOST_BYTES,
    pins: [],
    present: () => [],
    sounds: () => [],
    held: () => null,
    at: () => null,
  };

  constructor(private readonly sources: SampleSources) {
    this.buffers = new SampleBuffers(() => sources.pause());
  }

  know(instruments: readonly Instrument[]): void {
    this.instruments = new Map(instruments.map((instrument) => [instrument.id, instrument]));
    this.isAheadOver = false;
  }

  /** What will be asked for soon. What cannot be loaded is said once it is to sound. */
  makeReady({ instruments, sounds }: UnderHands): void {
    this.know(instruments);
    for (const { instrumentId, presetId } of sounds) {
      const found = this.find(instrumentId, presetId);
      if (found instanceof Promise) found.catch(() => undefined);
    }
  }

  /** What is needed from here on, and how much of it may be here. What is pinned is loaded. */
  follow(order: LoadOrder): void {
    this.order = order;
    this.lookAheadAnew();
    for (const { instrumentId, presetId } of order.pins) {
      const found = this.find(instrumentId, presetId);
      if (found instanceof Promise) found.catch(() => undefined);
    }
    this.fitIn();
  }

  /**
   * Loads the next of what the evening needs later, one at a time: what the plan has in memory by now, in the place of
   * what it does not; then what comes after that, as long as there is room for it, and nothing that would have to go again
   * for what comes before it. To be called now and then.
   */
  loadAhead(): void {
    if (this.isAhead) return;
    const at = this.order.at();
    if (at !== this.aheadAt) this.lookAheadAnew();
    this.aheadAt = at;
    if (this.isAheadOver) return;
    const next = this.nextAhead();
    this.isAheadOver = next === null;
    if (next === null) return;
    this.isAhead = true;
    this.notAhead.add(next.key);
    Promise.resolve(this.load(next))
      .catch(() => undefined)
      .finally(() => (this.isAhead = false));
  }

  private lookAheadAnew(): void {
    this.notAhead.clear();
    this.isAheadOver = false;
  }

  private nextAhead(): Loadable | null {
    const { budgetBytes, sounds, held } = this.order;
    const isHeld = heldBy(held());
    const here = this.partsHere();
    const bytesOf = (parts: readonly SoundPart[]): number =>
      parts.reduce((sum, part) => sum + (here.has(part.key) ? 0 : part.bytes), 0);
    // What the plan does not hold makes room.
    const stays = this.bytesHeld(isHeld);
    let next: Loadable | null = null;
    let looked = 0;
    for (const { instrumentId, presetId } of sounds()) {
      const known = this.soundOf(instrumentId, presetId);
      if (known === null || !('make' in known) || this.sampled.has(known.key) || this.notAhead.has(known.key)) continue;
      const parts = known.parts();
      if (isHeld(parts) && stays + bytesOf(parts) <= budgetBytes) return known;
      if (looked === 0 && this.loadedBytes + bytesOf(parts) <= budgetBytes) next = known;
      looked++;
      if (looked === LOOKS_AHEAD) break;
    }
    return next;
  }

  /** Memory of what is loaded and has to stay: by the plan, pinned, or played now. */
  private bytesHeld(isHeld: (parts: readonly SoundPart[]) => boolean): number {
    const keys = this.keysThatStay();
    const staying = [...this.ready].filter(([key, { parts }]) => keys.has(key) || isHeld(parts));
    return this.buffers.bytesOf(staying.flatMap(([, ready]) => ready.keys));
  }

  /** Memory that sampled presets take, in bytes. */
  get loadedBytes(): number {
    return this.buffers.bytes;
  }

  /** What people call a preset. */
  nameOf(instrumentId: string, presetId: string): string {
    return soundName({ instrumentId, presetId } as LayerSound, (id) => this.instruments.get(id)).preset;
  }

  /** Whether it stands on the bank that ships with Rackle. */
  isShipped(instrumentId: string): boolean {
    const kind = this.instruments.get(instrumentId)?.kind;
    return kind === undefined || kind === 'own';
  }

  /**
   * The sound of a preset: at once when it needs no loading, or has been loaded; else a promise. Null: there is none
   * such.
   */
  find(instrumentId: string, presetId: string): PresetSound | Promise<PresetSound | null> | null {
    const known = this.soundOf(instrumentId, presetId);
    return known !== null && 'make' in known ? this.load(known) : known;
  }

  /** It is needed now, before all others that still load. */
  hurry(instrumentId: string, presetId: string): void {
    const known = this.soundOf(instrumentId, presetId);
    if (known !== null && 'make' in known) this.turns.hurry(known.key);
  }

  private soundOf(instrumentId: string, presetId: string): PresetSound | Loadable | null {
    const known = this.unweighedOf(instrumentId, presetId);
    if (known === null || !('make' in known)) return known;
    const sound = { instrumentId, presetId } as Pick<LayerSound, 'instrumentId' | 'presetId'>;
    return { ...known, parts: () => estimatedParts(sound, (id) => this.instruments.get(id)) };
  }

  private unweighedOf(instrumentId: string, presetId: string): PresetSound | Omit<Loadable, 'parts'> | null {
    const instrument = this.instruments.get(instrumentId);
    if (!instrument) {
      const material = MATERIALS[presetId];
      return material ? this.ofMaterial(presetId, material, NO_EFFECTS) : madeSound(presetId);
    }
    switch (instrument.kind) {
      case 'outboard':
        return null;
      case 'own': {
        const own = instrument.presets.find((preset) => preset.id === presetId);
        if (!own) return null;
        const material = MATERIALS[own.from];
        return material
          ? this.ofMaterial(`own ${JSON.stringify(own)}`, shapeMaterial(material, own.shape), own.effects)
          : this.shapedSound(own);
      }
      case 'bank': {
        const { file } = instrument;
        const preset = instrument.presets.find((candidate) => candidate.id === presetId);
        if (!preset) return null;
        return {
          key: `${file} ${preset.bank} ${preset.program}`,
          isOfBank: true,
          make: () => this.loadPreset(file, preset),
        };
      }
      case 'recordings': {
        const recording = instrument.presets.find((candidate) => candidate.id === presetId);
        if (!recording) return null;
        return {
          key: `${recording.file} ${JSON.stringify(recording)}`,
          isOfBank: false,
          make: () => this.loadRecording(recording),
        };
      }
    }
  }

  /** What sounds in the place of one that still loads, or cannot be loaded: as like it as can be made. */
  standIn(instrumentId: string, presetId: string): PresetSound {
    const instrument = this.instruments.get(instrumentId);
    const own = instrument?.kind === 'own' ? instrument.presets.find(({ id }) => id === presetId) : undefined;
    return (own ? this.shapedSound(own) : madeSound(presetId)) ?? madeSound(PLAIN)!;
  }

  private shapedSound(own: OwnPreset): PresetSound {
    const known = this.shaped.get(own);
    if (known) return known;
    const recipe = shapeRecipe(RECIPES[own.from] ?? RECIPES[PLAIN], own.shape);
    const effects = [...ownEffects(recipe.effects), ...own.effects];
    const sound: PresetSound = { kind: 'recipe', recipe, effects };
    this.shaped.set(own, sound);
    return sound;
  }

  private ofMaterial(key: string, material: Material, effects: readonly Effect[]): Omit<Loadable, 'parts'> {
    return { key, isOfBank: true, make: () => this.loadMaterial(material, effects) };
  }

  private async loadMaterial(material: Material, effects: readonly Effect[]): Promise<Loaded | null> {
    const own = ownEffects(material.effects);
    const held = this.buffers.hold(SHIPPED_BANK.file);
    try {
      const parts: SampledPreset[] = [];
      for (const { bank = 0, program } of material.parts) {
        const part = await this.sources.bankPreset(SHIPPED_BANK.file, {
          ...partAsked({ bank, program }, material.isLarge ?? false),
          has: [...held.ids, ...parts.flatMap(({ samples }) => samples.map(({ id }) => id))],
        });
        if (part === null) return null;
        parts.push(part);
      }
      return await this.loaded(SHIPPED_BANK.file, materialPreset(material, parts), [...own, ...effects]);
    } finally {
      held.end();
    }
  }

  private async loadPreset(file: string, preset: { bank: number; program: number }): Promise<Loaded | null> {
    const found = await this.sources.bankPreset(file, asItIs(preset));
    return found && this.loaded(file, found, NO_EFFECTS);
  }

  private async loadRecording(recording: Recording): Promise<Loaded> {
    // No sound has to run for that, nor is there one before it is started.
    const context = new OfflineAudioContext(1, 1, DECODED_RATE);
    const decoded = await context.decodeAudioData(await this.sources.file(recording.file));
    const channels = Array.from({ length: Math.min(2, decoded.numberOfChannels) }, (_, i) => decoded.getChannelData(i));
    return this.loaded(recording.file, recordingAsPreset(recording, channels, decoded.sampleRate), NO_EFFECTS);
  }

  private async loaded(file: string, preset: SampledPreset, effects: readonly Effect[]): Promise<Loaded> {
    const { buffers, keys } = await this.buffers.take(file, preset.samples);
    return { sound: { kind: 'sampled', preset, buffers, effects }, keys };
  }

  private load(asked: Loadable): PresetSound | Promise<PresetSound | null> {
    const { key } = asked;
    const ready = this.ready.get(key);
    if (ready) return ready.sound;
    const known = this.sampled.get(key) ?? this.prepare(asked);
    this.sampled.set(key, known);
    return known;
  }

  /** Loads it, and tells how long that took where all that it is made of had to be. */
  private async timed({ key, make }: Loadable, parts: readonly SoundPart[]): Promise<Loaded | null> {
    const here = this.partsHere();
    const isCold = !this.read.has(fileOf(key));
    const startMs = performance.now();
    const loaded = await make();
    if (loaded === null) return null;
    const ms = performance.now() - startMs;
    this.read.add(fileOf(key));
    const { sound } = loaded;
    if (sound.kind === 'sampled' && parts.length > 0 && !parts.some((part) => here.has(part.key)))
      this.sources.onLoaded?.(sharedOut(parts, { bytes: bytesIn(sound.buffers), ms, isCold }));
    return loaded;
  }

  /** By the plan's keys: parts of what is loaded. */
  partsHere(): Set<string> {
    return new Set([...this.ready.values()].flatMap(({ parts }) => parts.map(({ key }) => key)));
  }

  private async prepare(asked: Loadable): Promise<PresetSound | null> {
    const { key, isOfBank } = asked;
    const parts = asked.parts();
    const make = (): Promise<Loaded | null> => this.timed(asked, parts);
    try {
      const loaded = await (isOfBank ? this.turns.take(key, make) : make());
      if (loaded === null) return null;
      this.ready.set(key, { ...loaded, parts });
      this.fitIn();
      return loaded.sound;
    } catch (cause) {
      this.sampled.delete(key);
      throw cause;
    }
  }

  /** Lets go of what is needed last, until the rest fits. What sounds keeps its samples by itself. */
  private fitIn(): void {
    const { budgetBytes, sounds, held } = this.order;
    if (this.loadedBytes <= budgetBytes) return;
    const isHeld = heldBy(held());
    const goes = firstToGo([...this.ready.keys()], this.keysOf(sounds()), this.keysThatStay(), (key) =>
      isHeld(this.ready.get(key)!.parts),
    );
    for (const key of goes) {
      if (this.ready.size <= 1 || this.loadedBytes <= budgetBytes) return;
      this.buffers.letGo(this.ready.get(key)!.keys);
      this.ready.delete(key);
      this.sampled.delete(key);
    }
  }

  private keysThatStay(): Set<string> {
    const { pins, present } = this.order;
    return new Set(this.keysOf([...pins, ...present()]));
  }

  /** Of sounds that are loaded, not made as they are played. */
  private keysOf(sounds: readonly SoundIds[]): string[] {
    return sounds.flatMap(({ instrumentId, presetId }) => {
      const known = this.soundOf(instrumentId, presetId);
      return known !== null && 'make' in known ? [known.key] : [];
    });
  }
}

/** Whether the plan holds all that something is made of; without a plan it holds nothing. */
const heldBy =
  (held: ReadonlySet<string> | null) =>
  (parts: readonly SoundPart[]): boolean =>
    held !== null && parts.length > 0 && parts.every(({ key }) => held.has(key));

/** Keys begin with the file that they are read from; what is Rackle's own with its preset, which is of the one bank. */
const fileOf = (key: string): string => /^[0-9a-f]{64}(?= )/.exec(key)?.[0] ?? SHIPPED_BANK.file;

const bytesIn = (buffers: readonly AudioBuffer[]): number =>
  [...new Set(buffers)].reduce((sum, buffer) => sum + bytesOf(buffer), 0);

/** How a part of a preset is asked for of the shipped bank. */
export const partAsked = (part: { bank: number; program: number }, isLarge: boolean): BankAsked => ({
  ...asItIs(part),
  mostS: isLarge ? LARGE_MOST_S : SHIPPED_MOST_S,
  everyOtherKey: isLarge,
  centred: true,
});

const madeSounds = new Map<string, PresetSound>();

function madeSound(presetId: string): PresetSound | null {
  const recipe = RECIPES[presetId];
  if (!recipe) return null;
  const known = madeSounds.get(presetId) ?? { kind: 'recipe', recipe, effects: ownEffects(recipe.effects) };
  madeSounds.set(presetId, known);
  return known;
}

const ownEffects = (effects: readonly MaterialEffect[] = []): Effect[] =>
  effects.map((effect, i) => Effect.parse({ id: `material-${i}`, ...effect }));
