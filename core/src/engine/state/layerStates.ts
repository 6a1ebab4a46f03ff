/** What the engine's `isCurrent` says of a layer; all but the first two only while a recall runs. */
export const Standing = {
  notCurrent: 0,
  current: 1,
  new: 2,
  /** It stood in for a deferred layer, and is now in the new patch itself. */
  stoodIn: 3,
  left: 4,
} as const;
export type Standing = (typeof Standing)[keyof typeof Standing];
