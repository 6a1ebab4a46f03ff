/** What the engine's `isCurrent` says of a layer; all but the first two only while a recall runs. */
export const NOT_CURRENT = 0;
export const CURRENT = 1;
export const NEW = 2;
/** It stood in for a deferred layer, and is now in the new patch itself. */
export const STOOD_IN = 3;
export const LEFT = 4;
