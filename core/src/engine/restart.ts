import type { CompiledShow } from './compile/compiled';
import type { ControlMap } from './controls/controlMap';
import type { Actions } from './controls/actions';
import type { Overrides } from './controls/overrides';
import type { LastPlace, MovedByHand } from './input';
import type { Recaller } from './recall/recaller';
import type { EngineState } from './state/engineState';
import { counterReferencesIn, movedParametersIn } from './views';

/** What is kept over a restart of the host, and taken up again after it. */
export class Restart {
  constructor(
    private readonly state: EngineState,
    private readonly recaller: Recaller,
    private readonly values: Overrides,
    private readonly controls: ControlMap,
    private readonly actions: Actions,
  ) {}

  /** What hands have moved; null: everything stands as it is stored. */
  movedByHand(): MovedByHand | null {
    const { transpose } = this.state;
    const latched = this.controls.latchedKeys();
    const parameters = movedParametersIn(this.state);
    const kept = this.values.kept();
    if (kept === null && transpose === 0 && latched.length === 0 && parameters.length === 0) return null;
    const nothing = { layers: [], effects: [], whole: [], effectsOff: [] };
    return { ...(kept ?? nothing), parameters, transpose, latched };
  }

  /** References of counting controllers. */
  counters(): LastPlace['counters'] {
    return counterReferencesIn(this.state).map(([at, program]) => ({
      device: this.state.registry.inputs[at >> 4],
      channel: at & 15,
      program,
    }));
  }

  /** Position where the set was left, −1 when that is nowhere; counters count on from where they stood. */
  takeUpPlace(show: CompiledShow, place: LastPlace): number {
    for (const { device, channel, program } of place.counters) {
      const port = this.state.registry.findInput(device);
      if (port >= 0) this.state.inputs.counterReference[port * 16 + channel] = program;
    }
    return show.steps.findIndex(
      ({ entryId, patch, balance }) =>
        entryId === place.entryId && patch.patchId === place.patchId && balance.blendId === place.blendId,
    );
  }

  /** What hands had moved before a restart stands again. */
  takeUpHands(show: CompiledShow, hands: MovedByHand): void {
    const { effects } = this.values;
    const anyPreset = this.values.takeUp(hands);
    this.state.lanes.setlistEffects(effects.movedShared(show.sharedEffects), effects.movedWhole(show.wholeEffects));
    this.recaller.handsTakenUp(anyPreset);
    this.takeUpParameters(hands.parameters);
    this.controls.takeUpLatched(hands.latched);
    if (hands.transpose !== 0) this.actions.setTranspose(hands.transpose);
  }

  private takeUpParameters(moved: MovedByHand['parameters']): void {
    const { registry, patch, lanes } = this.state;
    for (const { key, parameters } of moved)
      for (const layer of patch?.layers ?? []) {
        if (layer.layerKey !== registry.findLayerKey(key)) continue;
        for (let lane = layer.lane; lane < layer.lane + layer.lanes; lane++)
          for (const { controller, value } of parameters) lanes.bringTo(lane, controller, value);
      }
  }
}
