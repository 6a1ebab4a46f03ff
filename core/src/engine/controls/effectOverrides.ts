import { effectValue, withEffectValue, type Effect, type SharedEffect } from '../../show';
import type { CompiledBinding, CompiledEffectTarget } from '../compile/compiled';
import { extended } from '../state/extended';
import type { MovedByHand } from '../input';
import type { EngineState } from '../state/engineState';

/** In the place of a layer key: an effect of the setlist. */
const SETLIST = -1;

/** What hands have moved of effects: parameters and switches of layers' effects, and of those of the setlist. */
export class EffectOverrides {
  /** By slot of the registry, NaN where no hand has moved it. */
  private values = new Float64Array(0);
  private stays = new Uint8Array(0);
  private touched = new Int32Array(0);
  private touchedCount = 0;

  constructor(private readonly state: EngineState) {}

  /** Makes room for what a compile has added. Not on the playing path. */
  grow(slots: number): void {
    const old = this.values.length;
    if (slots <= old) return;
    const size = Math.max(slots, Math.ceil(old * 1.5), 16);
    this.values = extended(this.values, size, NaN);
    this.values.fill(NaN, old);
    this.stays = extended(this.stays, size);
    this.touched = extended(this.touched, size);
  }

  /** The present value, NaN when the effect is not there. @hotpath */
  read({ part }: CompiledBinding, target: CompiledEffectTarget): number {
    const moved = this.values[target.slot];
    if (!Number.isNaN(moved) || target.layerKey < 0) return Number.isNaN(moved) ? target.stored : moved;
    const { step } = this.state;
    if (step === null || part < 0) return NaN;
    const effects = step.balance.effects[part];
    for (let i = 0; i < effects.length; i++)
      if (effects[i].id === target.effectId) return effectValue(effects[i], target.parameter);
    return NaN;
  }

  /** @hotpath */
  set({ part, staysInHand }: CompiledBinding, target: CompiledEffectTarget, value: number): void {
    const { slot, layerKey, effectId, parameter } = target;
    if (Number.isNaN(this.values[slot])) this.touched[this.touchedCount++] = slot;
    this.values[slot] = value;
    this.stays[slot] = staysInHand || layerKey < 0 ? 1 : 0;
    this.state.lanes.effectValue(
      layerKey < 0 ? -1 : this.state.patch!.layers[part].destination,
      effectId,
      parameter,
      value,
    );
  }

  get anyTouched(): boolean {
    return this.touchedCount > 0;
  }

  /** A recall brings stored values back, all but those that stay as the hand left them. */
  forgetStored(): void {
    let kept = 0;
    for (let i = 0; i < this.touchedCount; i++) {
      const slot = this.touched[i];
      if (this.stays[slot] === 1) this.touched[kept++] = slot;
      else this.values[slot] = NaN;
    }
    this.touchedCount = kept;
  }

  /** Lays what hands have moved over the effects that a recall or an edit has just put in place. */
  overlay(): void {
    const { lanes, patch, registry } = this.state;
    if (patch === null) return;
    for (let t = 0; t < this.touchedCount; t++) {
      const { layerKey, effectId, parameter } = registry.effectTargets[this.touched[t]];
      if (layerKey < 0) continue;
      for (let i = 0; i < patch.layers.length; i++) {
        const layer = patch.layers[i];
        if (layer.layerKey === layerKey && !layer.outboard)
          lanes.effectValue(layer.destination, effectId, parameter, this.values[this.touched[t]]);
      }
    }
  }

  /** The setlist's effects with what hands have moved of them; the same objects where none has. They allocate. */
  movedShared(shared: readonly SharedEffect[]): readonly SharedEffect[] {
    const moved = shared.map((series) => {
      const effects = this.lyingOver(SETLIST, series.effects);
      return effects === series.effects ? series : { ...series, effects: [...effects] };
    });
    return moved.some((series, i) => series !== shared[i]) ? moved : shared;
  }

  movedWhole(whole: readonly Effect[]): readonly Effect[] {
    return this.lyingOver(SETLIST, whole);
  }

  /** A layer's effects (by its layer key) with what hands have moved of them. It allocates. */
  lyingOver(layerKey: number, effects: readonly Effect[]): readonly Effect[] {
    const { registry } = this.state;
    const moved = Array.from(this.touched.subarray(0, this.touchedCount)).filter(
      (slot) => registry.effectTargets[slot].layerKey === layerKey,
    );
    if (!effects.some(({ id }) => moved.some((slot) => registry.effectTargets[slot].effectId === id))) return effects;
    return effects.map((effect) =>
      moved.reduce((current, slot) => {
        const { effectId, parameter } = registry.effectTargets[slot];
        return effectId === effect.id ? withEffectValue(current, parameter, this.values[slot]) : current;
      }, effect),
    );
  }

  /** What hands have moved, by the names of layer keys. Not on the playing path. */
  kept(names: readonly string[]): MovedByHand['effects'] {
    return Array.from(this.touched.subarray(0, this.touchedCount), (slot) => {
      const { layerKey, effectId, parameter } = this.state.registry.effectTargets[slot];
      const key = layerKey < 0 ? null : names[layerKey];
      return { key, effectId, parameter, value: this.values[slot], stays: this.stays[slot] === 1 };
    });
  }

  /** The same again, after a restart. Not on the playing path. */
  takeUp(effects: MovedByHand['effects']): void {
    const { registry } = this.state;
    for (const { key, effectId, parameter, value, stays } of effects) {
      const layerKey = key === null ? SETLIST : registry.findLayerKey(key);
      const slot = registry.effectTargets.findIndex(
        (target) => target.layerKey === layerKey && target.effectId === effectId && target.parameter === parameter,
      );
      if (slot < 0 || (key !== null && layerKey < 0)) continue;
      if (Number.isNaN(this.values[slot])) this.touched[this.touchedCount++] = slot;
      this.values[slot] = value;
      this.stays[slot] = stays ? 1 : 0;
    }
  }
}
