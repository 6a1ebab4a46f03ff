import { createContext, useContext } from 'react';
import type { LayerId, Shelf, Song } from '@rackle/core/show';

/** A change of a layer, made of the song as it is, or as it is once one patch has the layer for its own. */
export interface LayerChange {
  song: Song;
  /** The patch that is looked at; null: none. */
  patchId: string | null;
  layerId: LayerId;
  label: string;
  apply: (song: Song, layerId: LayerId) => Song;
  mergeKey?: string;
  /** Part of the same step. */
  shelf?: Shelf;
}

/** Takes changes of layers; see `SharedLayers`. */
export const ChangeLayerContext = createContext<((change: LayerChange) => void) | null>(null);

/** @returns changes a layer, after a question where other patches play it too. @throws Error outside of `SharedLayers`. */
export function useChangeLayer(): (change: LayerChange) => void {
  const change = useContext(ChangeLayerContext);
  if (!change) throw new Error('there is nothing here that changes layers');
  return change;
}
