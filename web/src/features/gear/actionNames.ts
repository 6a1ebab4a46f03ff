import type { ActionNames } from '@rackle/core/controls';
import type { Effect, Layer, Setlist } from '@rackle/core/show';

/** Names for the words of actions; of several effects of one kind each says which it is. */
export function namesIn(layers: readonly Layer[], setlistEffects: readonly Effect[]): ActionNames {
  const layerOf = (id: string): Layer | undefined => layers.find((layer) => layer.id === id);
  return {
    layer: (id) => layerOf(id)?.name ?? null,
    effect: (effectId, layerId) => {
      const effects = layerId === null ? setlistEffects : (layerOf(layerId)?.effects ?? []);
      const found = effects.find(({ id }) => id === effectId);
      const alike = effects.filter(({ kind }) => kind === found?.kind);
      return found ? `${found.kind}${alike.length > 1 ? ` ${alike.indexOf(found) + 1}` : ''}` : null;
    },
  };
}

/** Every effect that a setlist has of its own. */
export const effectsOfSetlist = ({
  sharedEffects,
  wholeEffects,
}: Pick<Setlist, 'sharedEffects' | 'wholeEffects'>): Effect[] => [
  ...sharedEffects.flatMap(({ effects }) => effects),
  ...wholeEffects,
];
