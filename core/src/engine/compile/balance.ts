import {
  SOUND_CONTROLLER_REST,
  withEffectChanges,
  type Blend,
  type Part,
  type Patch,
  type SoundParameter,
} from '../../show';
import { RECALL_RAMP_MS } from '../state/limits';
import type { CompiledBalance, CompiledLayer } from './compiled';
import type { Placed } from './placed';
import type { SongSurroundings } from './surroundings';

/** Outboard layers that a blend lets play another entry of their name list. */
function articulationsOf(
  kept: readonly Placed[],
  layers: readonly CompiledLayer[],
  blend: Blend | null,
  around: SongSurroundings,
): CompiledBalance['articulations'] {
  if (!blend?.values.some((value) => value.articulation !== undefined)) return null;
  return kept.map(({ layer }, i) => {
    const articulation = blend.values.find((value) => value.layerId === layer.id)?.articulation;
    const instrument = around.instrument(layer.sound.instrumentId);
    if (articulation === undefined || !layers[i].outboard || instrument?.kind !== 'outboard') return null;
    const { addresses, own } = around.shared.presets(instrument, articulation);
    return addresses[own] ?? null;
  });
}

/** A sound controller of a layer, with the lanes that it goes to. */
export interface PlacedParameter {
  /** Place of its part in the patch. */
  at: number;
  lane: number;
  lanes: 1 | 16;
  controller: number;
}

/** The sound controllers that a patch or any of its blends sets, each once. */
export function parametersOf(
  kept: readonly Placed[],
  layers: readonly CompiledLayer[],
  patch: Patch,
): PlacedParameter[] {
  const taken = new Set<string>();
  return kept.flatMap(({ part, layer }, at) => {
    const { lane, lanes, silent } = layers[at];
    const set = [
      ...part.parameters,
      ...patch.blends.flatMap(({ values }) => values.find(({ layerId }) => layerId === layer.id)?.parameters ?? []),
    ].map(({ controller }) => controller);
    return silent
      ? []
      : [...new Set(set)]
          .filter((controller) => !taken.has(`${lane} ${controller}`))
          .map((controller) => {
            taken.add(`${lane} ${controller}`);
            return { at, lane, lanes, controller };
          });
  });
}

const parameterValue = (parameters: readonly SoundParameter[] | undefined, controller: number): number | undefined =>
  parameters?.find((parameter) => parameter.controller === controller)?.value;

/** Levels, mutes, sends and effects of a patch, with a blend’s changes over them. */
export function compileBalance(
  kept: readonly Placed[],
  layers: readonly CompiledLayer[],
  blend: Blend | null,
  parameters: readonly PlacedParameter[],
  around: SongSurroundings,
): CompiledBalance {
  const values = kept.map(({ part, layer }) => {
    const change = blend?.values.find((value) => value.layerId === layer.id);
    return {
      ...part,
      ...Object.fromEntries(Object.entries(change ?? {}).filter(([, value]) => value !== undefined)),
    } as Part;
  });
  const anySolo = values.some((value) => value.solo);
  return {
    blendId: blend?.id ?? null,
    name: blend?.name ?? null,
    isStep: blend?.isStep ?? true,
    rampMs: blend?.timeMs ?? RECALL_RAMP_MS,
    values: Float64Array.from(values.flatMap((value) => [value.levelDb, value.pan, value.room, value.echo])),
    mute: Uint8Array.from(values, (value) => (value.mute || (anySolo && !value.solo) ? 1 : 0)),
    ownMute: Uint8Array.from(values, (value) => (value.mute ? 1 : 0)),
    solo: Uint8Array.from(values, (value) => (value.solo ? 1 : 0)),
    parameters: Uint8Array.from(
      parameters,
      ({ at, controller }) =>
        parameterValue(values[at].parameters, controller) ??
        parameterValue(kept[at].part.parameters, controller) ??
        SOUND_CONTROLLER_REST,
    ),
    sends: values.map((value) => value.sends),
    sendsKey: values.some((value) => value.sends.length > 0) ? JSON.stringify(values.map((value) => value.sends)) : '',
    effects: layers.map(({ effects }, i) =>
      withEffectChanges(effects, blend?.values.find((value) => value.layerId === kept[i].layer.id)?.effects),
    ),
    articulations: articulationsOf(kept, layers, blend, around),
  };
}
