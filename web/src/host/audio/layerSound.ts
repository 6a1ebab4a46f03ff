import { withEffectValue, type Effect, type Send } from '@rackle/core/show';
import type { PresetSound } from './presets';
import { Strip, type Buses } from './strip';

/**
 * What one layer sounds through: the strip of its present preset, and strips of presets that it was stepped away from,
 * until their
 * notes have ended. Everything but new notes reaches them all.
 */
export class LayerSound {
  private present: Strip;
  private readonly leaving: Strip[] = [];
  private main: AudioNode;
  private balanced: [number, number, number, number] | null = null;
  /** Null before the first: then not even those of the preset are made. */
  private layerEffects: readonly Effect[] | null = null;
  private sent: readonly Send[] = [];
  private fed: AudioNode | null = null;
  private readonly wheels = new Map<number, number>();
  /** Last value of each controller, for a strip that comes later. */
  private readonly controllers = new Map<number, number>();

  constructor(
    private sound: PresetSound,
    private readonly buses: Buses,
    /** Whose it is. */
    readonly layerId: string,
    private bpm: number,
  ) {
    this.main = buses.master;
    this.present = new Strip(sound, buses, layerId, bpm);
  }

  /** What new notes sound like. */
  get presetSound(): PresetSound {
    return this.sound;
  }

  change(sound: PresetSound): void {
    if (sound === this.sound) return;
    this.sound = sound;
    this.forgetSilent();
    this.leaving.push(this.present);
    this.present.feed(null);
    this.present = new Strip(sound, this.buses, this.layerId, this.bpm);
    this.present.route(this.main);
    this.present.effects(this.layerEffects ?? [], this.bpm, 0);
    if (this.balanced) this.present.balance(...this.balanced, 0);
    this.present.sends(this.sent, 0);
    this.present.feed(this.fed);
    for (const [controller, value] of this.controllers) this.present.controller(0, controller, value);
    for (const [channel, value] of this.wheels) this.present.bend(channel, value);
  }

  private forgetSilent(): void {
    for (let i = this.leaving.length - 1; i >= 0; i--) {
      if (this.leaving[i].isSounding || !this.leaving[i].restIfSilent()) continue;
      this.leaving[i].dispose();
      this.leaving.splice(i, 1);
    }
  }

  private get all(): Strip[] {
    return [this.present, ...this.leaving];
  }

  route(main: AudioNode): void {
    this.main = main;
    for (const strip of this.all) strip.route(main);
  }

  effects(effects: readonly Effect[], rampMs: number): void {
    if (effects === this.layerEffects) return;
    this.layerEffects = effects;
    for (const strip of this.all) strip.effects(effects, this.bpm, rampMs);
  }

  /** One parameter moved by hand, over what was told last. */
  effectValue(effectId: string, parameter: string, value: number): void {
    this.effects(
      (this.layerEffects ?? []).map((effect) =>
        effect.id === effectId ? withEffectValue(effect, parameter, value) : effect,
      ),
      0,
    );
  }

  /** What is still to be made before it sounds as it should, in small steps. */
  *complete(effects: readonly Effect[]): Generator<void> {
    const strip = this.present;
    yield* strip.complete(effects);
    if (strip === this.present) this.layerEffects ??= effects;
  }

  /** Ends what runs by itself where nothing sounds any more. @returns whether all of it is at rest. */
  restIfSilent(): boolean {
    this.forgetSilent();
    return this.all.every((strip) => strip.restIfSilent());
  }

  setTempo(bpm: number): void {
    this.bpm = bpm;
    for (const strip of this.all) strip.setTempo(bpm);
  }

  sends(sends: readonly Send[], rampMs: number): void {
    this.sent = sends;
    for (const strip of this.all) strip.sends(sends, rampMs);
  }

  /** The shared effects are others. */
  sendAnew(): void {
    for (const strip of this.all) {
      strip.dropSends();
      strip.sends(this.sent, 0);
    }
  }

  feed(from: AudioNode | null): void {
    this.fed = from;
    this.present.feed(from);
  }

  noteOn(channel: number, key: number, velocity: number): void {
    this.present.noteOn(channel, key, velocity);
  }

  /** The oldest note-on of the key ends: that of a preset left behind before that of the present one. */
  noteOff(channel: number, key: number): void {
    (this.leaving.find((strip) => strip.holds(channel, key)) ?? this.present).noteOff(channel, key);
  }

  controller(channel: number, controller: number, value: number): void {
    if (controller < 120) this.controllers.set(controller, value);
    else this.controllers.clear();
    this.present.controller(channel, controller, value);
    for (let i = 0; i < this.leaving.length; i++) this.leaving[i].controller(channel, controller, value);
  }

  bend(channel: number, value: number): void {
    this.wheels.set(channel, value);
    this.present.bend(channel, value);
    for (let i = 0; i < this.leaving.length; i++) this.leaving[i].bend(channel, value);
  }

  pressure(value: number): void {
    this.present.pressure(value);
    for (let i = 0; i < this.leaving.length; i++) this.leaving[i].pressure(value);
  }

  balance(levelDb: number, pan: number, room: number, echo: number, rampMs: number): void {
    this.balanced = [levelDb, pan, room, echo];
    for (const strip of this.all) strip.balance(levelDb, pan, room, echo, rampMs);
  }

  fade(fadeMs: number): void {
    for (const strip of this.all) strip.fade(fadeMs);
  }

  /** Voices whose keys are up end now, without their releases. */
  endReleased(): void {
    for (const strip of this.all) strip.endReleased();
  }

  get isSounding(): boolean {
    return this.all.some((strip) => strip.isSounding);
  }

  /** Lets go of everything; nothing may sound in it any more. */
  dispose(): void {
    for (const strip of this.all) strip.dispose();
  }

  peak(): number {
    return this.all.reduce((most, strip) => Math.max(most, strip.peak()), 0);
  }
}
