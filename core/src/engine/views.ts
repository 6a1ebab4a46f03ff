import {
  SOUND_CONTROLLER_REST,
  effectChanges,
  type Action,
  type Effect,
  type EffectChange,
  type SoundParameter,
} from '../show';
import type { ControlMap } from './controls/controlMap';
import { BALANCE_STRIDE, type CompiledBinding, type CompiledStep } from './compile/compiled';
import { HoldState, NO_SLOT } from './state/heldNotes';
import { pedalOf } from './state/inputs';
import { Blocked } from './state/lanes';
import { VALUE_SLOTS } from './state/limits';
import type { EngineState } from './state/engineState';
import type { Overrides } from './controls/overrides';

// What pages and logs read of the engine's memory. These allocate, and change nothing.

const SOUND_CONTROLLERS = Array.from({ length: 10 }, (_, i) => 70 + i);

/** A note that sounds, and where it came from. */
export interface SoundingNote {
  to: string;
  channel: number;
  key: number;
  layer: string;
}

/** Every note that sounds now, by hold. */
export function soundingIn({ holds, lanes, registry }: EngineState): SoundingNote[] {
  return Array.from(holds.active.subarray(0, holds.activeCount))
    .filter((hold) => holds.state(hold) !== HoldState.arpeggiated)
    .map((hold) => {
      const lane = holds.lane(hold);
      return {
        to: registry.nameOf(lanes.destinationOf(lane)),
        channel: lanes.channelOf(lane) + 1,
        key: holds.key(hold),
        layer: holds.layer(hold) < 0 ? '' : registry.layers[holds.layer(hold)].name,
      };
    });
}

/** A layer by its id, with its name for people. */
export interface NamedLayer {
  layerId: string;
  layer: string;
}

/** Whether there is such a layer: asked with every message, so nothing is made for it. */
export function isAnyNotReady({ patch, lanes }: EngineState): boolean {
  if (patch === null) return false;
  for (const { lane } of patch.layers) if ((lanes.blockedBy[lane] & Blocked.notReady) !== 0) return true;
  return false;
}

/** Whether a layer that has been left may sound on a destination again. */
export function isStillPlayed(state: EngineState, destination: number): boolean {
  const { standInPatch, isStandIn, lingering, lingeringCount, layers, holdsOf } = state;
  const isThere = (index: number): boolean => layers[index]?.destination === destination;
  for (let i = 0; i < lingeringCount; i++) if (holdsOf[lingering[i]] > 0 && isThere(lingering[i])) return true;
  return standInPatch?.layers.some(({ index }) => isStandIn[index] === 1 && isThere(index)) ?? false;
}

/** Layers of the present patch whose sound is not ready; one that several inputs or channels play is one. */
export function notReadyIn({ patch, lanes }: EngineState): NamedLayer[] {
  const unready = (patch?.layers ?? []).filter(({ lane }) => (lanes.blockedBy[lane] & Blocked.notReady) !== 0);
  return [...new Map(unready.map(({ layerId, name }) => [layerId, name]))].map(([layerId, layer]) => ({
    layerId,
    layer,
  }));
}

const named = (registry: EngineState['registry'], layer: number): NamedLayer => ({
  layerId: registry.layers[layer].layerId,
  layer: registry.layers[layer].name,
});

/** Layers whose recording waits for the beat. */
export function waitingIn({ holds, registry }: EngineState): NamedLayer[] {
  const waiting = Array.from(holds.active.subarray(0, holds.activeCount)).filter(
    (hold) => holds.state(hold) === HoldState.waiting && holds.layer(hold) >= 0 && holds.slot(hold) === NO_SLOT,
  );
  return [...new Set(waiting.map((hold) => holds.layer(hold)))].map((layer) => named(registry, layer));
}

/** Keys that are down, after the keyboard’s shift. */
export function keysDownIn({ holds, show, isCurrent }: EngineState): { key: number; carried: boolean }[] {
  const keys = new Map<number, boolean>();
  for (let i = 0; i < holds.activeCount; i++) {
    const hold = holds.active[i];
    const slot = holds.slot(hold);
    if (slot < 0 || holds.layer(hold) < 0) continue;
    const key = (slot & 127) + (show?.inputs[slot >> 11]?.keyShift ?? 0);
    const carried = isCurrent[holds.layer(hold)] === 0;
    keys.set(key, (keys.get(key) ?? true) && carried);
  }
  return [...keys].map(([key, carried]) => ({ key, carried }));
}

/** Whether a pedal is down anywhere. */
export function isPedalDownIn({ inputs }: EngineState, controller: 64 | 66 | 67): boolean {
  const pedal = pedalOf(controller);
  for (let i = 0; i < inputs.downCount; i++) if (inputs.down[i] % 3 === pedal) return true;
  return false;
}

/** Layers with notes of a patch that has been left. */
export function carriedIn({
  lingering,
  lingeringCount,
  holdsOf,
  isCurrent,
  registry,
}: EngineState): (NamedLayer & { notes: number })[] {
  return Array.from(lingering.subarray(0, lingeringCount))
    .filter((layer) => holdsOf[layer] > 0 && isCurrent[layer] === 0)
    .map((layer) => ({ ...named(registry, layer), notes: holdsOf[layer] }));
}

/** Sound controllers of a lane that stand elsewhere than the patch itself has them. */
export function parametersNow({ patch, lanes }: EngineState, lane: number): SoundParameter[] {
  return SOUND_CONTROLLERS.flatMap((controller) => {
    const value = lanes.lastSent[lane * VALUE_SLOTS + controller];
    const at =
      patch?.parameters.findIndex((parameter) => parameter.lane === lane && parameter.controller === controller) ?? -1;
    const stored = at < 0 ? SOUND_CONTROLLER_REST : patch!.balances[0].parameters[at];
    return value < 0 || value === stored ? [] : [{ controller, value }];
  });
}

/** The same of all layers of the present patch, by layer key. */
export function movedParametersIn(state: EngineState): { key: string; parameters: SoundParameter[] }[] {
  const names = state.registry.layerKeyNames;
  return (state.patch?.layers ?? []).flatMap(({ layerKey, lane }) => {
    const parameters = parametersNow(state, lane);
    return parameters.length > 0 ? [{ key: names[layerKey], parameters }] : [];
  });
}

/**
 * The present step, the rest of its song from there on and then from the start, the cursor's song, and the song that
 * follows in running order.
 */
export function stepsNear({ show, step }: EngineState, cursor: number): CompiledStep[] {
  if (show === null || step === null) return [];
  const stepsOf = (entry: number, from = -Infinity): CompiledStep[] => {
    const about = show.entries[entry];
    if (about === undefined) return [];
    const all = show.steps.slice(about.first, about.end);
    return [...all.filter(({ position }) => position >= from), ...all.filter(({ position }) => position < from)];
  };
  const atCursor = show.steps[cursor];
  const next = show.entries.findIndex(
    ({ first, end }, entry) => entry > step.entry && show.steps.slice(first, end).some(({ walked }) => walked),
  );
  return [step, ...stepsOf(step.entry, step.position), ...(atCursor ? stepsOf(atCursor.entry) : []), ...stepsOf(next)];
}

/** A control counts as moving for this long after its last message. */
export const MOVING_MS = 900;

/** One control of tonight's gear, as pages show it. */
export interface ControlView {
  /** As `controlKey` makes it of the gear list; “role” and its name where no control plays it. */
  key: string;
  role: string;
  /** Where it stands after its curve, 0–1; null before its first move. */
  stands: number | null;
  /** Whether it has been moved within the last moment. */
  isMoving: boolean;
  /** What it does here, in words of the model; empty: nothing. */
  does: {
    action: Action;
    layer: string | null;
    effect: Effect['kind'] | null;
    value: number | null;
    share: number | null;
    /** Of a switch: whether what it turns over is on (muted, sounding, held); null: it turns nothing over. */
    on: boolean | null;
  }[];
}

/**
 * What tonight’s controls stand at and do now, in the order of the gear list; behind them roles that do something here
 * but have no control tonight.
 */
export function controlsIn(
  state: EngineState,
  controls: ControlMap,
  values: Overrides,
  isHolding: boolean,
): ControlView[] {
  const does = (bindings: readonly CompiledBinding[]): ControlView['does'] =>
    bindings.map((binding) => {
      const value = values.read(binding);
      const share = values.shareOf(binding);
      return {
        action: binding.action,
        layer: binding.part >= 0 ? (state.patch?.layers[binding.part].name ?? null) : null,
        effect: binding.effect?.kind ?? null,
        value: Number.isNaN(value) ? null : value,
        share: Number.isNaN(share) ? null : share,
        on: binding.action.kind === 'hold' ? isHolding : values.isOn(binding),
      };
    });
  const tonight = state.show?.controls.controls ?? [];
  const played = new Set(tonight.map(({ roleNumber }) => roleNumber));
  return [
    ...tonight.map(({ key, role }, at) => ({
      key,
      role,
      stands: controls.stoodAt(at),
      isMoving: controls.movedAgoMs(at) < MOVING_MS,
      does: does(controls.doesNow(at)),
    })),
    ...state.registry.roles.flatMap((role, roleNumber) => {
      const bindings = played.has(roleNumber) ? [] : controls.roleDoesNow(roleNumber);
      if (bindings.length === 0) return [];
      return [{ key: `role ${role}`, role, stands: null, isMoving: false, does: does(bindings) }];
    }),
  ];
}

/** A layer of the present patch as it is now, with what hands have moved; of effects what differs from its own. */
export interface BalanceView {
  layerId: string;
  levelDb: number;
  pan: number;
  room: number;
  echo: number;
  mute: boolean;
  /** The preset that hands have stepped it to, as its place in the instrument's list; null: its own. */
  steppedTo: number | null;
  effects: EffectChange[];
  parameters: SoundParameter[];
}

/** The balance of the present patch, with what hands have moved. */
export function balanceIn(state: EngineState, hands: Overrides): BalanceView[] {
  const { patch, values, valuesAt, mutes, mutesAt, step } = state;
  return (patch?.layers ?? []).map((layer, i) => {
    const { layerId, layerKey, effects, lane, presets } = layer;
    const preset = hands.presetOf(layer);
    const at = valuesAt + i * BALANCE_STRIDE;
    return {
      parameters: parametersNow(state, lane),
      effects: effectChanges(effects, hands.effects.lyingOver(layerKey, step!.balance.effects[i])),
      layerId,
      levelDb: values[at],
      pan: values[at + 1],
      room: values[at + 2],
      echo: values[at + 3],
      mute: mutes[mutesAt + i] === 1,
      steppedTo: preset === presets.own ? null : preset,
    };
  });
}

/** References of counting controllers: `[input number * 16 + channel, program]`. */
export const counterReferencesIn = ({ inputs }: EngineState): [number, number][] =>
  Array.from(inputs.counterReference, (program, i): [number, number] => [i, program]).filter(
    ([, program]) => program >= 0,
  );
