import { withAllBindings } from './bindingEdits';
import type { Binding } from '../model/control';
import { changeBlendValue, changePatch } from './songEdits';
import type { Effect, EffectChange } from '../model/effect';
import { effectChanges, withEffectChanges } from '../model/effectParameters';
import type { BlendId, LayerId } from '../model/ids';
import type { Part, SoundParameter } from '../model/layer';
import { Blend, type Song } from '../model/song';

// What the song sheet does to blends. Pure; what is not touched keeps its identity.

type Balance = Mix & {
  layerId: LayerId;
  effects: EffectChange[];
  parameters: SoundParameter[];
};

/** A blend that holds a balance: what differs from the patch, and no more. */
export function withCapturedBlend(
  song: Song,
  patchId: string,
  id: BlendId,
  name: string,
  balance: readonly Balance[],
): Song {
  return changePatch(song, patchId, (patch) => {
    const parts = [...patch.parts, ...song.standing];
    const values = balance.flatMap(({ layerId, effects, parameters, ...now }) => {
      const stored = parts.find((part) => part.layerId === layerId);
      if (!stored) return [];
      const changed = Object.fromEntries(
        Object.entries(now).filter(
          ([field, value]) => JSON.stringify(stored[field as keyof typeof now]) !== JSON.stringify(value),
        ),
      );
      return Object.keys(changed).length + effects.length + parameters.length === 0
        ? []
        : [
            {
              layerId,
              ...changed,
              ...(effects.length > 0 ? { effects } : {}),
              ...(parameters.length > 0 ? { parameters } : {}),
            },
          ];
    });
    return { ...patch, blends: [...patch.blends, Blend.parse({ id, name, values })] };
  });
}

/** Gives a layer other effects; blends and roles forget those that are gone. */
export const withLayerEffects = (song: Song, layerId: string, effects: Effect[]): Song =>
  withoutGoneEffects(
    {
      ...song,
      layers: song.layers.map((layer) => (layer.id === layerId ? { ...layer, effects } : layer)),
      patches: song.patches.map((patch) =>
        patch.blends.some(({ values }) => values.some((value) => value.layerId === layerId && value.effects))
          ? {
              ...patch,
              blends: patch.blends.map((blend) => ({
                ...blend,
                values: blend.values.map((value) =>
                  value.layerId === layerId && value.effects
                    ? {
                        ...value,
                        effects: value.effects.filter((change) => effects.some(({ id }) => id === change.effectId)),
                      }
                    : value,
                ),
              })),
            }
          : patch,
      ),
    },
    layerId,
    effects,
  );

function withoutGoneEffects(song: Song, layerId: string, effects: readonly Effect[]): Song {
  const isGone = ({ action }: Binding): boolean =>
    'effectId' in action &&
    'layerId' in action &&
    action.layerId === layerId &&
    !effects.some(({ id }) => id === action.effectId);
  if (![song.bindings, ...song.patches.map(({ bindings }) => bindings)].some((bindings) => bindings.some(isGone)))
    return song;
  return withAllBindings(song, (bindings) => bindings.filter((binding) => !isGone(binding)));
}

/**
 * An edit of a layer's effects as they stand in a blend: switches and values become the blend's, everything else
 * (order, kinds, note
 * values, filter types) the layer's own.
 * @param edited the series as the blend shows it, after the edit.
 */
export function withBlendEffects(
  song: Song,
  patchId: string,
  blendId: string,
  layerId: LayerId,
  edited: readonly Effect[],
): Song {
  const layer = song.layers.find(({ id }) => id === layerId);
  if (!layer) return song;
  const change = song.patches
    .find(({ id }) => id === patchId)
    ?.blends.find(({ id }) => id === blendId)
    ?.values.find((value) => value.layerId === layerId);
  const shown = withEffectChanges(layer.effects, change?.effects);
  const own = edited.map((effect) => {
    const before = layer.effects.find(({ id }) => id === effect.id);
    // What the blend holds of it goes back to the layer's own; what is left is the layer's.
    return before ? withEffectChanges([effect], effectChanges([effect], [before]))[0] : effect;
  });
  const changes = effectChanges(own, edited);
  const sameSeries =
    shown.length === edited.length &&
    own.every((effect, i) => JSON.stringify(effect) === JSON.stringify(layer.effects[i]));
  return changeBlendValue(sameSeries ? song : withLayerEffects(song, layerId, own), patchId, blendId, layerId, {
    effects: changes.length > 0 ? changes : undefined,
  });
}

/** How a layer stands in the mix. */
export type Mix = Pick<Part, 'levelDb' | 'pan' | 'mute' | 'room' | 'echo' | 'sends'>;

/** How a layer stands in the mix: each value from the first of those over it that has one, else from the patch. */
export function mixOf(part: Part, ...over: (Partial<Mix> | undefined)[]): Mix {
  const first = <Name extends keyof Mix>(name: Name): Mix[Name] =>
    over.find((values) => values?.[name] !== undefined)?.[name] ?? part[name];
  return {
    levelDb: first('levelDb'),
    pan: first('pan'),
    mute: first('mute'),
    room: first('room'),
    echo: first('echo'),
    sends: first('sends'),
  };
}
