import { CONTROLLER, WHEEL } from '../midi/status';
import type { CompiledLayer, CompiledStep } from './compile/compiled';
import type { LiveSound } from './play/liveSound';
import { BALANCE_STRIDE } from './compile/compiled';
import { VALUE_SLOTS, WHEEL_SLOT } from './state/limits';
import type { EngineState } from './state/engineState';
import { WHOLE_VALUES, type EngineSink } from './sink';
import type { Overrides } from './controls/overrides';

/** What holds of the whole: effects of the setlist, values of the output. Tempo and echo are the engine's to add. */
export function retellWhole(state: EngineState, hands: Overrides, sink: EngineSink): void {
  const { show, clock } = state;
  if (show !== null)
    sink.setlistEffects(
      hands.effects.movedShared(show.sharedEffects),
      hands.effects.movedWhole(show.wholeEffects),
      clock,
    );
  WHOLE_VALUES.forEach((_name, which) => sink.whole(which, hands.wholeNow(which), clock));
}

/**
 * All that holds of one built-in layer, for a sound that is made only now.
 * @param step where it is to sound: the present one, or (for what is readied ahead) one that may be recalled.
 */
export function retellLayer(
  state: EngineState,
  hands: Overrides,
  live: LiveSound,
  sink: EngineSink,
  destination: number,
  step: CompiledStep | null,
): void {
  const layer = state.layerAt[destination];
  if (layer === undefined) return;
  const { clock } = state;
  const part = step?.patch.layers.findIndex((candidate) => candidate.destination === destination) ?? -1;
  const isPresent = part >= 0 && step === state.step;
  sink.route(destination, layer.output, clock);
  const effects = part < 0 ? layer.effects : step!.balance.effects[part];
  sink.effects(destination, isPresent ? hands.effects.lyingOver(layer.layerKey, effects) : effects, 0, clock);
  const preset = hands.presetOf(layer);
  if (preset !== layer.presets.own && preset >= 0) sink.preset(destination, preset, clock);
  if (part >= 0) {
    const { balance } = step!;
    if (isPresent) sink.balance(destination, state.values, state.valuesAt + part * BALANCE_STRIDE, 0, clock);
    else sink.balance(destination, balance.values, part * BALANCE_STRIDE, 0, clock);
    sink.sends(destination, balance.sends[part], 0, clock);
  }
  if (layer.live !== null && isPresent)
    sink.live(destination, layer.live.input, layer.live.mono, live.isOpen(destination), clock);
  retellControllers(state, sink, layer);
}

/** Controllers and wheel as they were last sent there. */
function retellControllers(
  { lanes, clock }: EngineState,
  sink: EngineSink,
  { destination, lane, lanes: count }: CompiledLayer,
): void {
  for (let channel = 0; channel < count; channel++) {
    const at = (lane + channel) * VALUE_SLOTS;
    for (let controller = 0; controller < 120; controller++) {
      const value = lanes.lastSent[at + controller];
      if (value >= 0) sink.send(destination, CONTROLLER | channel, controller, value, clock);
    }
    const wheel = lanes.lastSent[at + WHEEL_SLOT];
    if (wheel >= 0) sink.send(destination, WHEEL | channel, wheel & 127, wheel >> 7, clock);
  }
}
