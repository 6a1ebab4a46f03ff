import { LEVEL } from '../../show';
import { CC_LEVEL, CC_PAN } from '../../midi/status';
import { BALANCE_STRIDE, type CompiledBinding, type CompiledControl, type CompiledLayer } from '../compile/compiled';
import { EffectOverrides } from './effectOverrides';
import { extended } from '../state/extended';
import { RECALL_RAMP_MS, VALUE_SLOTS } from '../state/limits';
import { REASON } from '../reasons';
import { levelController, panController } from '../recall/levels';
import type { EngineState } from '../state/engineState';
import type { MovedByHand } from '../input';
import { WHOLE_DEFAULTS, WHOLE_VALUES } from '../sink';

const SLOTS = ['levelDb', 'pan', 'room', 'echo'] as const;
const MOST_PARTS = 256;
/** A knob stands where the value is when it is this near, as a share of its travel: one step of seven bits. */
const MEETS = 1 / 127 + 1e-6;
const UNTOUCHED = -1;

/**
 * How a knob's move changes a value that may stand elsewhere; all are shares of the range, 0–1. NaN: it waits. @hotpath
 */
export function pickedUp(pickUp: CompiledControl['pickUp'], valueShare: number, last: number, now: number): number {
  if (pickUp === 'atOnce' || Number.isNaN(valueShare)) return now;
  const stoodThere = Math.abs(last - valueShare) <= MEETS;
  if (stoodThere || Math.abs(now - valueShare) <= MEETS) return now;
  if (Number.isNaN(last)) return NaN;
  if (pickUp === 'onMeeting') return (last - valueShare) * (now - valueShare) <= 0 ? now : NaN;
  // Drawn in: the rest of the way is shared out, so that both arrive at the end together.
  if (now > last) return valueShare + ((1 - valueShare) * (now - last)) / (1 - last);
  return now < last ? valueShare + (valueShare * (now - last)) / last : NaN;
}

/** What hands have moved: values, mutes, solos and presets of layers, and the values of the whole output. */
export class Overrides {
  /** By the layer key: values that a hand has moved, NaN where none has. */
  private values = new Float64Array(0);
  /** Whether a recall leaves them: by layer key, a bit a slot; mute, solo and preset stand behind the four values. */
  private stays = new Uint8Array(0);
  private mutes = new Int8Array(0);
  private solos = new Int8Array(0);
  private presets = new Int16Array(0);
  private isTouched = new Uint8Array(0);
  private touched = new Int32Array(0);
  private touchedCount = 0;
  private readonly presentValues = new Float64Array(MOST_PARTS * BALANCE_STRIDE);
  private readonly presentMutes = new Uint8Array(MOST_PARTS);
  readonly whole = Float64Array.from(WHOLE_DEFAULTS);
  readonly effectsOff = new Uint8Array(2);

  readonly effects: EffectOverrides;

  constructor(private readonly state: EngineState) {
    this.effects = new EffectOverrides(state);
  }

  /** Makes room for what a compile has added. Not on the playing path. */
  grow(layerKeys: number): void {
    const old = this.isTouched.length;
    if (layerKeys <= old) return;
    const size = Math.max(layerKeys, Math.ceil(old * 1.5), 64);
    this.values = extended(this.values, size * BALANCE_STRIDE, NaN);
    this.values.fill(NaN, old * BALANCE_STRIDE);
    this.stays = extended(this.stays, size);
    this.mutes = extended(this.mutes, size, UNTOUCHED);
    this.solos = extended(this.solos, size, UNTOUCHED);
    this.presets = extended(this.presets, size, UNTOUCHED);
    this.isTouched = extended(this.isTouched, size);
    this.touched = extended(this.touched, size);
  }

  /** The present value of what a binding moves, in its own unit; NaN when it has none here. @hotpath */
  read(binding: CompiledBinding): number {
    const { action, part, effect } = binding;
    const { state } = this;
    if (effect !== null) return this.effects.read(binding, effect);
    if (action.kind === 'wholeValue') return this.whole[WHOLE_VALUES.indexOf(action.value)];
    if (part < 0 || state.patch === null) return NaN;
    if (action.kind === 'layerValue')
      return state.values[state.valuesAt + part * BALANCE_STRIDE + SLOTS.indexOf(action.value)];
    if (action.kind !== 'layerController') return NaN;
    const sent = state.lanes.lastSent[state.patch.layers[part].lane * VALUE_SLOTS + action.controller];
    return sent < 0 ? NaN : sent;
  }

  /** A control's position (0–1, shaped) moves what a binding names, by the control's pick-up. @hotpath */
  move(control: CompiledControl, binding: CompiledBinding, last: number, now: number): void {
    const share = pickedUp(control.pickUp, this.shareOf(binding), last, now);
    if (Number.isNaN(share)) return this.state.ignore(REASON['control-waits']);
    this.write(control.role, binding, share);
  }

  /** A value stands at a share of its range from now on, wherever knobs are. */
  put(role: string, binding: CompiledBinding, share: number): void {
    this.write(role, binding, Math.min(1, Math.max(0, share)));
  }

  /** The level of a layer of the present patch, in dB. */
  setLevel(layerId: string, levelDb: number): void {
    const { state } = this;
    const part = state.patch?.layers.findIndex((layer) => layer.layerId === layerId) ?? -1;
    if (part < 0) return state.ignore(REASON['no-layer-here']);
    this.setLayer(part, 0, Math.min(LEVEL.high, Math.max(LEVEL.low, levelDb)), false);
    if (state.observer !== null)
      state.record({
        type: 'value',
        atMs: state.nowMs,
        role: 'a hand',
        of: `${state.patch!.layers[part].name} levelDb`,
        value: levelDb,
      });
  }

  /** An encoder moves a value by a share of its range. @hotpath */
  nudge(control: CompiledControl, binding: CompiledBinding, by: number): void {
    const share = this.shareOf(binding);
    this.write(control.role, binding, Math.min(1, Math.max(0, (Number.isNaN(share) ? 0.5 : share) + by)));
  }

  /** Where the present value stands in a binding's range, 0–1. */
  shareOf(binding: CompiledBinding): number {
    const value = this.read(binding);
    if (Number.isNaN(value) || binding.high === binding.low || !binding.isValue) return NaN;
    const share = binding.byRatio
      ? Math.log(value / binding.low) / Math.log(binding.high / binding.low)
      : (value - binding.low) / (binding.high - binding.low);
    return Math.min(1, Math.max(0, share));
  }

  private write(role: string, binding: CompiledBinding, share: number): void {
    const { state } = this;
    const { action, part, effect } = binding;
    const value = binding.byRatio
      ? binding.low * (binding.high / binding.low) ** share
      : binding.low + share * (binding.high - binding.low);
    if (effect !== null) this.effects.set(binding, effect, value);
    else if (action.kind === 'sharedEffectValue') return state.ignore(REASON['no-layer-here']);
    else if (action.kind === 'wholeValue') this.setWhole(WHOLE_VALUES.indexOf(action.value), value);
    else if (part < 0 || state.patch === null) return state.ignore(REASON['no-layer-here']);
    else if (action.kind === 'layerController')
      this.sendController(state.patch.layers[part], action.controller, Math.round(value));
    else if (action.kind === 'layerValue') this.setLayer(part, SLOTS.indexOf(action.value), value, binding.staysInHand);
    if (state.observer !== null)
      state.record({ type: 'value', atMs: state.nowMs, role, of: this.nameOf(binding), value });
  }

  private nameOf({ action, part }: CompiledBinding): string {
    const layer = part >= 0 ? (this.state.patch?.layers[part].name ?? '') : '';
    if ('effectId' in action) return `${layer} ${'parameter' in action ? action.parameter : 'effect'}`.trim();
    return action.kind === 'layerController'
      ? `${layer} controller ${action.controller}`
      : `${layer} ${'value' in action ? action.value : ''}`.trim();
  }

  private sendController(layer: CompiledLayer, controller: number, value: number): void {
    for (let lane = layer.lane; lane < layer.lane + layer.lanes; lane++)
      this.state.lanes.bringTo(lane, controller, Math.min(127, Math.max(0, value)));
  }

  private setWhole(which: number, value: number): void {
    this.whole[which] = value;
    this.tellWhole(which);
  }

  private tellWhole(which: number): void {
    this.state.lanes.whole(which, this.wholeNow(which));
  }

  /** A value of the whole output as it is heard: what is switched off is silent. */
  wholeNow(which: number): number {
    const off = (which === 1 && this.effectsOff[0] === 1) || (which === 2 && this.effectsOff[1] === 1);
    return off ? -60 : this.whole[which];
  }

  private setLayer(part: number, slot: number, value: number, stays: boolean): void {
    const { state } = this;
    const layer = state.patch!.layers[part];
    const at = layer.layerKey * BALANCE_STRIDE + slot;
    this.values[at] = value;
    this.touch(layer.layerKey, slot, stays);
    this.ownValues();
    state.values[part * BALANCE_STRIDE + slot] = value;
    if (!layer.outboard) state.lanes.balance(layer.destination, state.values, part * BALANCE_STRIDE, RECALL_RAMP_MS);
    else if (layer.silent || this.levelIsAnothers(part)) return;
    else if (slot === 0) state.lanes.bringTo(layer.lane, CC_LEVEL, levelController(value));
    else if (slot === 1) state.lanes.bringTo(layer.lane, CC_PAN, panController(value));
  }

  /** Whether another layer of the patch sends its level on the same channel: a channel has but one. @hotpath */
  private levelIsAnothers(part: number): boolean {
    const { layers } = this.state.patch!;
    for (let i = 0; i < layers.length; i++)
      if (i !== part && layers[i].sendsLevel && layers[i].lane === layers[part].lane) return true;
    return false;
  }

  private touch(layerKey: number, bit: number, stays: boolean): void {
    if (stays) this.stays[layerKey] |= 1 << bit;
    else this.stays[layerKey] &= ~(1 << bit);
    if (this.isTouched[layerKey] === 1) return;
    this.isTouched[layerKey] = 1;
    this.touched[this.touchedCount++] = layerKey;
  }

  /** From here on the present balance is a copy of our own, which hands may change. */
  private ownValues(): void {
    const { state } = this;
    if (state.values === this.presentValues) return;
    const count = Math.min(MOST_PARTS, state.patch!.layers.length) * BALANCE_STRIDE;
    for (let i = 0; i < count; i++) this.presentValues[i] = state.values[state.valuesAt + i];
    state.values = this.presentValues;
    state.valuesAt = 0;
  }

  /** Mute or solo of a layer the other way round. The recaller then settles what sounds. */
  toggle(binding: CompiledBinding): void {
    const { state } = this;
    const { action, part } = binding;
    if (action.kind !== 'layerSwitch' || state.step === null) return;
    if (part < 0) return state.ignore(REASON['no-layer-here']);
    const { layerKey, name } = state.patch!.layers[part];
    const { balance } = state.step;
    const isMute = action.what === 'mute';
    const hands = isMute ? this.mutes : this.solos;
    const now = hands[layerKey] === UNTOUCHED ? (isMute ? balance.ownMute : balance.solo)[part] : hands[layerKey];
    hands[layerKey] = now === 1 ? 0 : 1;
    this.touch(layerKey, isMute ? 4 : 5, binding.staysInHand);
    this.ownMutes();
    state.record({ type: 'switch', atMs: state.nowMs, of: `${name} ${action.what}`, on: now === 0 });
  }

  /** Whether what a switch turns over is on now; null: a binding that is no such switch, or nothing is there. */
  isOn(binding: CompiledBinding): boolean | null {
    const { state } = this;
    const { action, part, effect } = binding;
    if (action.kind === 'effectSwitch') return this.effectsOff[action.effect === 'room' ? 0 : 1] === 0;
    if (action.kind === 'layerSwitch') {
      if (part < 0 || state.step === null) return null;
      const { balance } = state.step;
      const { layerKey } = state.patch!.layers[part];
      const hands = (action.what === 'mute' ? this.mutes : this.solos)[layerKey];
      return (hands === UNTOUCHED ? (action.what === 'mute' ? balance.ownMute : balance.solo)[part] : hands) === 1;
    }
    if ((action.kind !== 'effectOnOff' && action.kind !== 'sharedEffectOnOff') || effect === null) return null;
    const now = this.effects.read(binding, effect);
    return Number.isNaN(now) ? null : now >= 0.5;
  }

  toggleEffect(effect: 'room' | 'echo'): void {
    const which = effect === 'room' ? 0 : 1;
    this.effectsOff[which] = this.effectsOff[which] === 1 ? 0 : 1;
    this.tellWhole(which + 1);
    this.state.record({ type: 'switch', atMs: this.state.nowMs, of: effect, on: this.effectsOff[which] === 0 });
  }

  /** The switch of one effect the other way round. */
  switchEffect(binding: CompiledBinding): void {
    const { state } = this;
    const { effect } = binding;
    const now = effect === null ? NaN : this.effects.read(binding, effect);
    if (effect === null || Number.isNaN(now)) return state.ignore(REASON['no-layer-here']);
    this.effects.set(binding, effect, now >= 0.5 ? 0 : 1);
    state.record({ type: 'switch', atMs: state.nowMs, of: this.nameOf(binding), on: now < 0.5 });
  }

  private ownMutes(): void {
    const { state } = this;
    const { balance } = state.step!;
    const { layers } = state.patch!;
    let anySolo = 0;
    for (let i = 0; i < layers.length; i++) anySolo |= this.soloOf(layers[i], balance.solo[i]);
    for (let i = 0; i < Math.min(MOST_PARTS, layers.length); i++) {
      const muted = this.mutes[layers[i].layerKey] === UNTOUCHED ? balance.ownMute[i] : this.mutes[layers[i].layerKey];
      this.presentMutes[i] = muted === 1 || (anySolo === 1 && this.soloOf(layers[i], balance.solo[i]) === 0) ? 1 : 0;
    }
    state.mutes = this.presentMutes;
    state.mutesAt = 0;
  }

  private soloOf(layer: CompiledLayer, stored: number): number {
    return this.solos[layer.layerKey] === UNTOUCHED ? stored : this.solos[layer.layerKey];
  }

  /** Moves a layer's preset along its instrument's list, which wraps. @returns whether there is another. */
  stepPreset(binding: CompiledBinding): CompiledLayer | null {
    const { state } = this;
    const { action, part } = binding;
    if (action.kind !== 'presetStep' || state.patch === null) return null;
    if (part < 0) {
      state.ignore(REASON['no-layer-here']);
      return null;
    }
    const layer = state.patch.layers[part];
    if (layer.presets.count < 2) return null;
    const next = (this.presetOf(layer) + action.by + layer.presets.count) % layer.presets.count;
    this.presets[layer.layerKey] = next;
    this.touch(layer.layerKey, 6, binding.staysInHand);
    state.record({ type: 'preset', atMs: state.nowMs, layer: layer.name, preset: next });
    return layer;
  }

  /** Place of the layer's present preset in its instrument's list: as a hand has stepped it, or its own. */
  presetOf(layer: CompiledLayer): number {
    const stepped = this.presets[layer.layerKey];
    return stepped >= 0 && stepped < layer.presets.count ? stepped : layer.presets.own;
  }

  get anyTouched(): boolean {
    return this.touchedCount > 0 || this.effects.anyTouched;
  }

  /**
   * A recall brings stored values back, all but those that stay as the hand left them. @returns whether any preset goes
   * back.
   */
  forgetStored(): boolean {
    this.effects.forgetStored();
    let kept = 0;
    let anyPreset = false;
    for (let i = 0; i < this.touchedCount; i++) {
      const layerKey = this.touched[i];
      const stays = this.stays[layerKey];
      for (let slot = 0; slot < BALANCE_STRIDE; slot++)
        if ((stays & (1 << slot)) === 0) this.values[layerKey * BALANCE_STRIDE + slot] = NaN;
      if ((stays & 16) === 0) this.mutes[layerKey] = UNTOUCHED;
      if ((stays & 32) === 0) this.solos[layerKey] = UNTOUCHED;
      if ((stays & 64) === 0) {
        anyPreset ||= this.presets[layerKey] !== UNTOUCHED;
        this.presets[layerKey] = UNTOUCHED;
      }
      if (stays !== 0) this.touched[kept++] = layerKey;
      else this.isTouched[layerKey] = 0;
    }
    this.touchedCount = kept;
    return anyPreset;
  }

  /** Lays what hands have moved over the balance that a recall or an edit has just put in place. */
  overlay(): void {
    const { state } = this;
    if (this.touchedCount === 0 || state.patch === null) return;
    const { layers } = state.patch;
    let switched = false;
    for (let part = 0; part < Math.min(MOST_PARTS, layers.length); part++) {
      const { layerKey } = layers[part];
      if (this.isTouched[layerKey] === 0) continue;
      for (let slot = 0; slot < BALANCE_STRIDE; slot++) {
        const value = this.values[layerKey * BALANCE_STRIDE + slot];
        if (Number.isNaN(value)) continue;
        this.ownValues();
        state.values[part * BALANCE_STRIDE + slot] = value;
      }
      switched ||= this.mutes[layerKey] !== UNTOUCHED || this.solos[layerKey] !== UNTOUCHED;
    }
    if (switched) this.ownMutes();
  }

  /** What stands otherwise than it is stored; null: nothing does. Not on the playing path. */
  kept(): Pick<MovedByHand, 'layers' | 'effects' | 'whole' | 'effectsOff'> | null {
    const isWholeMoved = this.whole.some((value, i) => value !== WHOLE_DEFAULTS[i]) || this.effectsOff.includes(1);
    if (!this.anyTouched && !isWholeMoved) return null;
    const names = this.state.registry.layerKeyNames;
    const layers = Array.from(this.touched.subarray(0, this.touchedCount), (layerKey) => {
      const at = layerKey * BALANCE_STRIDE;
      return {
        key: names[layerKey],
        values: Array.from(this.values.subarray(at, at + BALANCE_STRIDE), (value) =>
          Number.isNaN(value) ? null : value,
        ),
        mute: this.mutes[layerKey],
        solo: this.solos[layerKey],
        preset: this.presets[layerKey],
        stays: this.stays[layerKey],
      };
    });
    return { layers, effects: this.effects.kept(names), whole: [...this.whole], effectsOff: [...this.effectsOff] };
  }

  /**
   * Takes up what was kept before a restart; what is not there any more is passed over. The present balance is to be
   * brought about again afterwards. Not on the playing path.
   * @returns whether any preset had been stepped
   */
  takeUp({ layers, effects, whole, effectsOff }: MovedByHand): boolean {
    let anyPreset = false;
    for (const { key, values, mute, solo, preset, stays } of layers) {
      const layerKey = this.state.registry.findLayerKey(key);
      if (layerKey < 0) continue;
      for (let slot = 0; slot < BALANCE_STRIDE; slot++)
        this.values[layerKey * BALANCE_STRIDE + slot] = values[slot] ?? NaN;
      this.mutes[layerKey] = mute;
      this.solos[layerKey] = solo;
      this.presets[layerKey] = preset;
      anyPreset ||= preset >= 0;
      this.touch(layerKey, 0, false);
      this.stays[layerKey] = stays;
    }
    this.effects.takeUp(effects);
    whole.slice(0, this.whole.length).forEach((value, which) => (this.whole[which] = value));
    effectsOff.slice(0, this.effectsOff.length).forEach((off, which) => (this.effectsOff[which] = off === 1 ? 1 : 0));
    this.whole.forEach((_, which) => this.tellWhole(which));
    return anyPreset;
  }
}
